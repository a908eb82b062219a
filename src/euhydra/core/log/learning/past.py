"""A log as a run of the garden and what was read in it: dips, soil and leaves, rain, cans."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from euhydra.core.garden.base import day_of_year
from euhydra.core.log.entries import Entry
from euhydra.core.log.levels import bank_l, watered_from
from euhydra.core.log.through import felt_by_day, logged_rain, watered_by_day
from euhydra.core.results.results import Results
from euhydra.core.season.simulate import Stretch

MOST_DAYS = 300  # back that readings are looked at: one season
APART_DAYS = 45  # between two dips that are held against each other


@dataclass(frozen=True)
class Dip:
    """A bank's level read at the end of a day of the year, litres; after how many days."""

    bank: int
    day: int
    litres: float
    since: tuple[int, ...]


@dataclass(frozen=True)
class Felt:
    """What was felt of a plot in the morning of a day of the year: dry, right or wet."""

    plot: int
    day: int
    word: str


@dataclass(frozen=True)
class Past:
    """The days of a log, and its readings. ``rain_mm`` (365,) by day of the year.

    ``first`` and ``last`` are the days of the first and the last reading.
    """

    first: dt.date
    last: dt.date
    rain_mm: NDArray[np.float64]
    dips: tuple[Dip, ...]
    felt: tuple[Felt, ...]
    stretches: tuple[Stretch, ...]
    start: int = field(default=0)

    @property
    def days(self) -> NDArray[np.intp]:
        """Its days of the year, in order."""
        return np.concatenate([s.days for s in self.stretches])


def past_of(r: Results, entries: Sequence[Entry], today: dt.date) -> Past | None:
    """The log of the last season as the water fit wants it; None without rain, dips or soil.

    Tanks that a person fills are left out: when they did is not logged.
    """
    since = today - dt.timedelta(days=MOST_DAYS)
    mine = [e for e in entries if since < e.day <= today]
    rain = logged_rain(mine, today, MOST_DAYS)
    if rain is None:
        return None
    felt = {back: told for back, told in felt_by_day(r, mine, today).items() if back < MOST_DAYS}
    dips = _dips(r, mine, today)
    if not felt and not dips:
        return None
    at = max([*(back + 1 for back in felt), *(back for back, _ in dips), *rain])
    fell = np.zeros(365)
    for back, mm in rain.items():
        fell[_day(today, back)] += mm
    watered, cans = watered_by_day(r, mine, today), _cans(r, mine, today)
    stretches, ends = [], sorted({*(b + 1 for b in watered if b < at), *(b for b, _ in dips), 0},
                                 reverse=True)
    begins = at
    for back in ends:
        if begins >= back:
            days = np.array([_day(today, b) for b in range(begins, back - 1, -1)], dtype=np.intp)
            stretches.append(Stretch(
                days, {bank: litres for (b, bank), litres in dips.items() if b == back},
                _sums(cans.get(back - 1, ())), _sums(watered.get(back - 1, ()))))
            begins = back - 1
    read = [e.day for e in mine if e.kind in ("dip", "soil", "leaf", "rain")]
    return Past(min(read), max(read), fell, _held_apart(dips, today),
                tuple(Felt(p, _day(today, back), word) for back, told in felt.items()
                      for p, word in told), tuple(stretches), _day(today, at + 1))


def _day(today: dt.date, back: int) -> int:
    return int(day_of_year((today - dt.timedelta(days=back)).isoformat()[5:]))


def _dips(r: Results, mine: Sequence[Entry], today: dt.date) -> dict[tuple[int, int], float]:
    """Litres by (days back, bank)."""
    stores = {store.id: (n, bank, store) for n, bank in enumerate(r.banks.banks)
              for store in bank.stores if bank.filled_at_l <= 0}
    found = {}
    for e in mine:
        if e.kind == "dip" and e.about in stores:
            n, bank, store = stores[e.about]
            if not r.season.world.out[n, _day(today, (today - e.day).days)]:
                found[(today - e.day).days, n] = bank_l(bank, store, e.value or 0.0)
    return found


def _held_apart(dips: dict[tuple[int, int], float], today: dt.date) -> tuple[Dip, ...]:
    """Each dip of a bank that one before it leads to."""
    found, last = [], dict[int, int]()
    for back, bank in sorted(dips, reverse=True):
        before = last.get(bank)
        if before is not None and before - back <= APART_DAYS:
            days = tuple(_day(today, b) for b in range(before - 1, back - 1, -1))
            found.append(Dip(bank, _day(today, back), dips[back, bank], days))
        last[bank] = back
    return tuple(found)


def _cans(r: Results, mine: Sequence[Entry], today: dt.date) -> dict[int, list[tuple[int, float]]]:
    """What was taken out of banks beside the timer: by days back, (bank, litres)."""
    sources = watered_from(r)
    found: dict[int, list[tuple[int, float]]] = {}
    for e in mine:
        bank = r.banks.of_store.get(sources.get(e.about, "")) if e.kind == "water" else None
        if bank is not None:
            found.setdefault((today - e.day).days, []).append((bank, e.value or 0.0))
    return found


def _sums(told: Sequence[tuple[int, float]]) -> dict[int, float]:
    """Litres by number, all of a morning together."""
    found: dict[int, float] = {}
    for number, litres in told:
        found[number] = found.get(number, 0.0) + litres
    return found
