"""What minds the file while the app runs: the day's copy, and what goes for good after a month."""

from __future__ import annotations

import datetime as dt
import logging
import sqlite3
import threading
from types import TracebackType

from euhydra.store import backup, going, trouble
from euhydra.store.gardens import Gardens

EVERY_S = 3600.0


class Minder:
    """A thread that looks once an hour; as a context it runs for as long as that."""

    def __init__(self, gardens: Gardens) -> None:
        self.gardens = gardens
        self._ended = threading.Event()
        self._thread = threading.Thread(target=self._run, name="minder", daemon=True)

    def __enter__(self) -> None:
        self._thread.start()

    def __exit__(self, kind: type[BaseException] | None, error: BaseException | None,
                 where: TracebackType | None) -> None:
        self._ended.set()
        self._thread.join(timeout=5)

    def _run(self) -> None:
        while True:
            mind(self.gardens, dt.datetime.now(dt.UTC))
            if self._ended.wait(EVERY_S):
                return


def mind(gardens: Gardens, now: dt.datetime) -> None:
    """Make the day's copy where there is none, and let go what was deleted long enough ago."""
    if gardens.database.trouble:
        return
    try:
        backup.daily(gardens.database, gardens.library, now.date())
        going.purge(gardens.database, now)
    except (sqlite3.Error, OSError, trouble.BadCopy) as error:
        logging.getLogger("euhydra").warning("No copy was made today: %s", error)
