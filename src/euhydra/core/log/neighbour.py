"""What a neighbour does on which day while one is away."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from dataclasses import dataclass

from euhydra.core.garden.base import day_of_year, month_day
from euhydra.core.log.coming import coming
from euhydra.core.log.deeds import DIP_EVERY_DAYS
from euhydra.core.log.entries import Entry
from euhydra.core.log.now import now
from euhydra.core.results.results import Results
from euhydra.core.schedule.calendar import Due
from euhydra.core.season.absence import Ask, asks, away

SOON_DAYS = 7


@dataclass(frozen=True)
class DayAway:
    """A day away: its number from 1, whom to water, which stores to dip, what falls due."""

    number: int
    date: dt.date
    water: tuple[Ask, ...]
    dips: tuple[str, ...]
    due: tuple[Due, ...]


def days_away(r: Results, entries: Sequence[Entry], first: dt.date, days: int,
              today: dt.date) -> tuple[DayAway, ...]:
    """Each of the days from the first on, also where there is nothing to do.

    Every plot is watered the evening before. Where that is soon the stores begin as they stand now.
    """
    begins = day_of_year(first.isoformat()[5:])
    stands = now(r, entries, min(first, today)).level if begins_soon(first, today) else None
    asked = asks(away(r.season_inputs, r.season, begins, days, stands))
    falls = coming(r, entries, first, within=days - 1)
    banks = [(n, bank.stores[0].id) for n, bank in enumerate(r.banks.banks) if r.garden.stores]
    return tuple(DayAway(
        n + 1, first + dt.timedelta(days=n), tuple(a for a in asked if a.falls_on(n + 1)),
        tuple(store for bank, store in banks if n % DIP_EVERY_DAYS == 0
              and not r.season.world.out[bank, (begins + n) % 365]),
        tuple(d for on, d in falls if on == n)) for n in range(days))


def begins_soon(first: dt.date, today: dt.date) -> bool:
    """Whether days away begin so soon, or began, that it is known what stands in the stores."""
    return (first - today).days <= SOON_DAYS


def under_way_or_next(day: int, days: int, today: dt.date) -> dt.date:
    """The first date of some days away from a day of the year (0 to 364) that are not over yet."""
    begins = (dt.date.fromisoformat(f"{year}-{month_day(day)}")
              for year in (today.year - 1, today.year, today.year + 1))
    return next(first for first in begins if first + dt.timedelta(days=days - 1) >= today)
