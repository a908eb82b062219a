"""The one door to the reckoning: ``assess(garden, library)``, for the web, the CLI and tests."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterator

from euhydra.core.advice import StationReport
from euhydra.core.garden.model import Garden
from euhydra.core.library import Library
from euhydra.core.log.entries import Entry
from euhydra.core.reckoning import Reckoning
from euhydra.core.stations import REPORTS, season
from euhydra.core.weather.record import Record

STATIONS = tuple(REPORTS)
IN_FULL = {"prove": season.in_full}
WORK = {"prove": season.work}


class Assessment(Reckoning):
    """A garden's reckoning, and what each station says of it."""

    def __init__(self, garden: Garden, library: Library, record: Record | None = None,
                 like: Assessment | None = None) -> None:
        super().__init__(garden, library, record, like)
        self._reports: dict[str, StationReport] = {}

    def station(self, key: str) -> StationReport:
        """What a station says. Raises KeyError for a name that is none of ``STATIONS``."""
        if key not in self._reports:
            self._reports[key] = REPORTS[key](self)
        return self._reports[key]

    def in_full(self, key: str) -> StationReport:
        """The same with what takes longer to work out, for whoever looks at the station itself."""
        full = f"{key} in full"
        if full not in self._reports:
            self._reports[full] = IN_FULL.get(key, REPORTS[key])(self)
        return self._reports[full]

    def read_log(self, entries: tuple[Entry, ...], today: dt.date) -> None:
        """Take the log as it stands on a day; what was said of an earlier one is forgotten."""
        if (entries, today) == (self.log, self.today):
            return
        self.log, self.today = entries, today
        for key in ("keep", "keep in full"):
            self._reports.pop(key, None)

    def work(self, key: str) -> Iterator[float]:
        """Do the long work of a station, telling what share of it is done."""
        yield from WORK[key](self) if key in WORK else ()

    def so_far(self, key: str) -> StationReport:
        """In full, unless that would keep a person waiting: then what can be said at once."""
        return self.station(key) if self.waits(key) else self.in_full(key)

    def waits(self, key: str) -> bool:
        """Whether a station has long work before it."""
        return key in WORK and self.takes_long


def assess(garden: Garden, library: Library, record: Record | None = None) -> Assessment:
    """All that can be worked out about a garden, each part when first asked for.

    ``record`` is the daily weather that the garden's site names, if it names one.
    """
    return Assessment(garden, library, record)
