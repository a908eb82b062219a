"""The one door to the reckoning: ``assess(garden, library)``, for the web, the CLI and tests."""

from __future__ import annotations

from euhydra.core.advice import StationReport
from euhydra.core.garden.model import Garden
from euhydra.core.library import Library
from euhydra.core.reckoning import Reckoning
from euhydra.core.stations import REPORTS

STATIONS = tuple(REPORTS)


class Assessment(Reckoning):
    """A garden's reckoning, and what each station says of it."""

    def __init__(self, garden: Garden, library: Library, like: Assessment | None = None) -> None:
        super().__init__(garden, library, like)
        self._reports: dict[str, StationReport] = {}

    def station(self, key: str) -> StationReport:
        """What a station says. Raises KeyError for a name that is none of ``STATIONS``."""
        if key not in self._reports:
            self._reports[key] = REPORTS[key](self)
        return self._reports[key]


def assess(garden: Garden, library: Library) -> Assessment:
    """All that can be worked out about a garden, each part when first asked for."""
    return Assessment(garden, library)
