"""PDFs are set in a process of their own: one at a time, bounded, and ended when nobody waits."""

from __future__ import annotations

import asyncio
import json
import sys
from collections.abc import Awaitable, Callable
from contextlib import suppress
from dataclasses import asdict

from starlette.concurrency import run_in_threadpool

from euhydra.web.paper import Written

LONGEST_S = 240.0
LOOK_S = 0.2  # how often it is asked whether somebody still waits
MOST_WAITING = 4
TYPESETTER = (sys.executable, "-m", "euhydra.web.typeset")


class NoPrinter(Exception):
    """No PDF can be made; the message says why and what to do."""


class Press:
    """The one press of an app."""

    def __init__(self, command: tuple[str, ...] = TYPESETTER) -> None:
        self.command = command
        self.waiting = 0
        self._one: asyncio.Lock | None = None

    async def pdf(self, page: Callable[[], Written], left: Callable[[], Awaitable[bool]]) -> bytes:
        """What a page tells, as a PDF. Ends when ``left`` says that nobody waits any more.

        Raises :class:`NoPrinter` where it cannot be set, takes too long, or too many wait.
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

    async def _set(self, page: Callable[[], Written], left: Callable[[], Awaitable[bool]]) -> bytes:
        written = await run_in_threadpool(lambda: json.dumps(asdict(page())))
        worker = await asyncio.create_subprocess_exec(
            *self.command, stdin=asyncio.subprocess.PIPE, stdout=asyncio.subprocess.PIPE,
            stderr=asyncio.subprocess.DEVNULL)
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
        if worker.returncode or isinstance(made, BaseException):
            raise NoPrinter("The PDF could not be set. Print a station from the browser instead.")
        return made[0]
