"""Long work: one piece at a time, bounded, told by steps, ended when nobody waits for it."""

from __future__ import annotations

import asyncio
import json
import time
from collections.abc import AsyncIterator, Iterator
from weakref import WeakKeyDictionary

from starlette.concurrency import run_in_threadpool

from euhydra.core.assessment.assess import Assessment
from euhydra.web.panes import Pane

LONGEST_S = 300.0  # of a processor's time
MOST_WAITING = 4
MOST_DRAWN = 12
TOO_MANY = "Other long work is under way. Ask again in a minute."
TOO_LONG = ("That would take longer than {most:.0f} seconds of work. Reckon fewer years, or make "
            "the garden smaller.")


class LongWork:
    """The one place of an app where long work is done."""

    def __init__(self, longest_s: float = LONGEST_S) -> None:
        self.longest_s = longest_s
        self.waiting = 0
        self._one: asyncio.Lock | None = None
        self._drawn: WeakKeyDictionary[Assessment, dict[str, list[Pane]]] = WeakKeyDictionary()

    def drawn(self, assessment: Assessment, look: str) -> list[Pane] | None:
        """What was drawn here of a reckoning, looked at one way; None when it is not."""
        return self._drawn.get(assessment, {}).get(look)

    def keep(self, assessment: Assessment, look: str, panes: list[Pane]) -> None:
        """Keep what was drawn for the pages that ask next; the oldest of many goes."""
        mine = self._drawn.setdefault(assessment, {})
        mine[look] = panes
        for old in list(mine)[:-MOST_DRAWN]:
            del mine[old]

    @property
    def full(self) -> bool:
        """Whether too many wait already."""
        return self.waiting >= MOST_WAITING

    async def lines(self, steps: Iterator[float]) -> AsyncIterator[str]:
        """A line of JSON for each step: the share done, that it waits its turn, or why it ended.

        Whoever stops reading ends it at its next step.
        """
        self._one = self._one or asyncio.Lock()
        self.waiting += 1
        try:
            if self._one.locked():
                yield _line(share=0, waits=True)
            async with self._one:
                spent = 0.0
                while True:
                    share, took = await run_in_threadpool(_step, steps)
                    spent += took
                    if share is None:
                        break
                    if spent > self.longest_s:
                        yield _line(said=TOO_LONG.format(most=self.longest_s))
                        return
                    yield _line(share=round(share, 3))
            yield _line(share=1)
        finally:
            self.waiting -= 1


def _step(steps: Iterator[float]) -> tuple[float | None, float]:
    """The next share done, None at the end, and the seconds of processor time it took."""
    began = time.thread_time()
    share = next(steps, None)
    return share, time.thread_time() - began


def _line(**said: object) -> str:
    return json.dumps(said) + "\n"
