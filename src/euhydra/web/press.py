"""PDFs are set in a process of their own: one at a time, bounded, and ended when nobody waits.

``python -m euhydra.web.press`` reads a page from its input and writes the PDF to its output.
"""

from __future__ import annotations

import asyncio
import gc
import sys
from collections.abc import Awaitable, Callable
from contextlib import suppress
from pathlib import Path

from starlette.concurrency import run_in_threadpool

FONTS = Path(__file__).parent / "static" / "fonts"
LONGEST_S = 240.0
LOOK_S = 0.2  # how often it is asked whether somebody still waits
MOST_WAITING = 4
NO_LIBRARY = 3
INSTALL = ("A PDF needs Pango on the machine that Euhydra runs on: on Debian, “apt install "
           "libpango-1.0-0 libpangoft2-1.0-0 libharfbuzz-subset0”. Printing from the browser works "
           "without it.")


class NoPrinter(Exception):
    """No PDF can be made; the message says why and what to do."""


class Press:
    """The one press of an app."""

    def __init__(self, command: tuple[str, ...] = (sys.executable, "-m", __name__)) -> None:
        self.command = command
        self.waiting = 0
        self._one: asyncio.Lock | None = None

    async def pdf(self, page: Callable[[], str], left: Callable[[], Awaitable[bool]]) -> bytes:
        """A page as a PDF. Ends its work when ``left`` says that nobody waits any more.

        The page is written while what sets it makes ready, each on a core of its own.

        Raises :class:`NoPrinter` where letters cannot be set, it takes too long, or too many wait.
        """
        if self.waiting >= MOST_WAITING:
            raise NoPrinter("Other PDFs are being made. Ask again in a minute.")
        self._one = self._one or asyncio.Lock()
        self.waiting += 1
        try:
            async with self._one:
                return await self._set(page, left)
        finally:
            self.waiting -= 1

    async def _set(self, page: Callable[[], str], left: Callable[[], Awaitable[bool]]) -> bytes:
        worker = await asyncio.create_subprocess_exec(
            *self.command, stdin=asyncio.subprocess.PIPE, stdout=asyncio.subprocess.PIPE,
            stderr=asyncio.subprocess.DEVNULL)
        try:
            written = await run_in_threadpool(page)
        except BaseException:
            with suppress(ProcessLookupError):
                worker.kill()
            await worker.wait()
            raise
        done = asyncio.ensure_future(worker.communicate(written.encode()))
        try:
            async with asyncio.timeout(LONGEST_S):
                while not done.done():
                    await asyncio.wait([done], timeout=LOOK_S)
                    if not done.done() and await left():
                        raise NoPrinter("Nobody waits for this PDF any more.")
        except TimeoutError:
            raise NoPrinter(f"This PDF takes longer than {LONGEST_S:.0f} seconds. Print a station "
                            "from the browser instead.") from None
        finally:
            if worker.returncode is None:
                with suppress(ProcessLookupError):
                    worker.kill()
            made = (await asyncio.gather(done, return_exceptions=True))[0]
        if worker.returncode == NO_LIBRARY:
            raise NoPrinter(INSTALL)
        if worker.returncode or isinstance(made, BaseException):
            raise NoPrinter("The PDF could not be set. Print a station from the browser instead.")
        return made[0]


def main() -> int:
    """Set the page on the standard input."""
    gc.disable()  # it lives for one page, and a fifth of its work was looking for rubbish
    try:
        import weasyprint  # slow to load, and needs a library of the system's
    except OSError:
        return NO_LIBRARY
    fetcher = weasyprint.urls.URLFetcher(allowed_protocols=("file", "data"))
    page = sys.stdin.buffer.read().decode()
    made = weasyprint.HTML(string=page, base_url=FONTS.as_uri() + "/", url_fetcher=fetcher)
    sys.stdout.buffer.write(made.write_pdf())
    return 0


if __name__ == "__main__":
    sys.exit(main())
