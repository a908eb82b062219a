"""The one door to the reckoning: ``assess(garden, library)``, for the web, the CLI and tests."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterator
from functools import cached_property

from euhydra.core.advise.diagnosing.case import suspects_at
from euhydra.core.advise.diagnosing.found import Suspects
from euhydra.core.advise.helping.every_move import moves_of
from euhydra.core.advise.helping.moves import Move, offered
from euhydra.core.advise.helping.search import BUDGET, Helps, search, sieve_for
from euhydra.core.advise.helping.sieve import Sieve
from euhydra.core.advise.helping.wishes import Wish
from euhydra.core.garden.model import Garden
from euhydra.core.library import Library
from euhydra.core.log.entries import Entry
from euhydra.core.log.learning.lessons import Lesson, lessons
from euhydra.core.log.now import NO_FORECAST, Forecast, Now, now
from euhydra.core.results.results import Results
from euhydra.core.statements.findings import Later, StationReport
from euhydra.core.stations import REPORTS
from euhydra.core.weather.record import Record

STATIONS = REPORTS.keys()
# No changes to be helped by: a room free of frost is not to be had, fewer plants want less.
NO_CHANGES = ("indoors-", "fewer-")

MOST_CASES = 4  # of which what may be wrong is kept


class Assessment(Results):
    """A garden's results with its log, and what each station says of them."""

    def __init__(self, garden: Garden, library: Library, record: Record | None = None,
                 like: Assessment | None = None) -> None:
        super().__init__(garden, library, record, like)
        self.log: tuple[Entry, ...] = like.log if like is not None else ()
        self.today: dt.date | None = like.today if like is not None else None
        self.forecast: Forecast = like.forecast if like is not None else NO_FORECAST
        self._stands: Now | None = None
        self._lessons: tuple[Lesson, ...] | None = None
        self._reports: dict[str, StationReport] = {}
        self._helps: dict[Wish, Helps] = {}
        self._sieves: dict[Wish, Sieve] = {}  # of searches that were broken off
        self._suspects: dict[tuple[str, float, int], Suspects] = {}

    def station(self, key: str) -> StationReport:
        """What a station says. Raises KeyError for a name that is none of ``STATIONS``."""
        if key not in self._reports:
            self._reports[key] = REPORTS[key](self)
        return self._reports[key]

    def read_log(self, entries: tuple[Entry, ...], today: dt.date,
                 forecast: Forecast = NO_FORECAST) -> None:
        """Take the log as it stands on a day; what was said of an earlier one is forgotten.

        ``forecast`` is what was told of rain to come, mm by date.
        """
        if (entries, today, forecast) == (self.log, self.today, self.forecast):
            return
        self.log, self.today, self.forecast = entries, today, forecast
        self._stands = self._lessons = None
        self._reports.pop("keep", None)

    @property
    def stands(self) -> Now:
        """How it stands this morning by its log; on no day at all, on the first of the year."""
        if self._stands is None:
            self._stands = now(self, self.log, self.today or dt.date(2001, 1, 1), self.forecast)
        return self._stands

    def work(self, key: str) -> Iterator[float]:
        """Do the long work of a station, telling what share of it is done."""
        pending = self._pending(key)
        for i, remedies in enumerate(pending):
            yield i / len(pending)
            remedies.all()

    @cached_property
    def moves(self) -> tuple[Move, ...]:
        """All changes that the garden can be helped by, what stations offer among them.

        Of a large garden without those: each would be laid and solved before it is offered.
        """
        remedies = ((finding, remedy) for key in STATIONS if key != "keep" and not self.large
                    for finding in self.station(key).findings for remedy in finding.remedies)
        return moves_of(self, (
            offered(self.garden, f"{finding.rule}-{remedy.key}".replace(".", "-"), remedy.label,
                    remedy.edit) for finding, remedy in remedies
            if not remedy.key.startswith(NO_CHANGES)))

    def move(self, key: str) -> Move | None:
        """The change of that key, where the garden still can be helped by it."""
        return next((move for move in self.moves if move.key == key), None)

    def helps(self, wish: Wish) -> Helps | None:
        """What would help most to a wish, once it was looked for."""
        return self._helps.get(wish)

    def look_for(self, wish: Wish) -> Iterator[float]:
        """Look for what would help most, telling what share of it is done.

        Of a large garden half as many sets are weighed, in about a minute. A search that was
        broken off goes on from there; of those the last alone is kept.
        """
        if wish in self._helps:
            return
        sieve = self._sieves.get(wish) or sieve_for(self, self.moves, wish)
        self._sieves = {wish: sieve}
        for step in search(sieve, wish, BUDGET // 2 if self.large else BUDGET):
            if isinstance(step, Helps):
                self._helps[wish] = step
                self._sieves.clear()
            else:
                yield step

    def suspects(self, of: str, share: float, month: int) -> Suspects:
        """What may be wrong with a zone or a bank, each put into this garden. Raises KeyError.

        The last few are kept; a ``share`` of its source's water counts by the twentieth.
        """
        case = (of, round(share * 20) / 20, month)
        if case not in self._suspects:
            if len(self._suspects) >= MOST_CASES:
                self._suspects.pop(next(iter(tuple(self._suspects))), None)
            self._suspects[case] = suspects_at(self, *case)
        return self._suspects[case]

    @property
    def lessons(self) -> tuple[Lesson, ...] | None:
        """What the log teaches, once it was worked out."""
        return self._lessons

    def learn(self) -> Iterator[float]:
        """Work out what the log teaches: some hundred runs of its days."""
        if self._lessons is None:
            yield 0.05
            self._lessons = lessons(self, self.log, self.today or dt.date(2001, 1, 1))

    def let_go(self) -> None:
        """Forget what takes much room and can be reckoned again."""
        super().let_go()
        self._suspects.clear()

    def waits(self, key: str) -> bool:
        """Whether a station has long work before it."""
        return self.large and bool(self._pending(key))

    def _pending(self, key: str) -> list[Later]:
        """The remedies of a station that are still to be worked out."""
        return [f.remedies for f in self.station(key).findings
                if isinstance(f.remedies, Later) and f.remedies.pending]


def assess(garden: Garden, library: Library, record: Record | None = None) -> Assessment:
    """All that can be worked out about a garden, each part when first asked for.

    ``record`` is the daily weather that the garden's site names, if it names one.
    """
    return Assessment(garden, library, record)
