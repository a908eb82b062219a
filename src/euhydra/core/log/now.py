"""The garden as it stands on a day of this year, by its log, and how long that lasts without rain.

Stores are followed from their dips, as Keep follows them; roots are run through the last weeks with
the rain that was logged, and put right by what was felt of soil and leaves. What is not known comes
from every year that was reckoned with, so that what is told has a band.
"""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from euhydra.core.garden.base import day_of_year
from euhydra.core.log.entries import Entry
from euhydra.core.log.levels import followed
from euhydra.core.log.through import (
    A_YEAR,
    Through,
    as_banks,
    in_this_year,
    logged_rain,
    with_rain,
)
from euhydra.core.results.results import Results
from euhydra.core.season.inputs import in_week, without_rain
from euhydra.core.season.programme import first_weekday
from euhydra.core.season.simulate import run_days
from euhydra.core.season.state import SAME, Array

WARM_DAYS = 40  # that roots are run through before today
DIP_HOLDS_DAYS = 120  # a level that was followed for longer is no better than a middle year's
ALIKE_DAYS = 30  # whose rain tells which years began like this one
ALIKE_SHARE = 1 / 3  # of the years, the nearest by that rain
AHEAD_DAYS = 60
MOST_FORECAST_DAYS = 10
Forecast = Mapping[dt.date, float]  # mm of rain by date
NO_FORECAST: Forecast = {}


@dataclass(frozen=True, eq=False)
class Now:
    """How a garden stands this morning, in each of the years Y that were reckoned with.

    (B,): ``level`` in litres, ``dipped`` the days since the last dip, None where the level is a
    middle year's. (P, Y): ``depletion`` and ``reservoir``, litres. ``alike`` (Y,) are the years
    that began like this one; ``lasts`` (Y,) in how many days the stores first fail what is asked
    of them without rain, ``AHEAD_DAYS`` where they do not until then. (B, WARM_DAYS + 1):
    ``levels`` by days back. (B, Y, AHEAD_DAYS): ``ahead``, the levels at the end of the days to
    come without rain. ``drawn`` is whether anything asks the stores for water in that time.
    """

    day: int
    level: Array
    dipped: tuple[int | None, ...]
    depletion: Array
    reservoir: Array
    alike: NDArray[np.bool_]
    lasts: NDArray[np.int64]
    levels: Array
    ahead: Array
    drawn: bool

    @property
    def days_left(self) -> tuple[int, int, int] | None:
        """Days on which the water fails without rain: the tenth, the middle, the ninetieth.

        Of the years that began like this one; None where that is past ``AHEAD_DAYS``.
        """
        mine = np.sort(self.lasts[self.alike])
        if not len(mine) or np.median(mine) >= AHEAD_DAYS:
            return None
        low, middle, high = (int(mine[round((len(mine) - 1) * share)]) for share in (0.1, 0.5, 0.9))
        return low, middle, high


def now(r: Results, entries: Sequence[Entry], today: dt.date,
        forecast: Forecast = NO_FORECAST) -> Now:
    """The garden on a day, by its log up to then; what is forecast counts for how long it lasts."""
    past = sorted((e for e in entries if e.day <= today), key=lambda e: e.day)
    day = day_of_year(today.isoformat()[5:])
    levels, dipped = levels_of_late(r, past, today, WARM_DAYS)
    level = levels[:, 0]
    depletion, reservoir = _roots(r, levels, past, today, day)
    lasts, ahead, drawn = _lasting(r, level, depletion, reservoir, today,
                                   _by_day_ahead(forecast, today))
    return Now(day, level, dipped, depletion, reservoir, _alike(r, past, today, day), lasts,
               levels, ahead, drawn)


def levels_of_late(r: Results, past: Sequence[Entry], today: dt.date, back: int
                   ) -> tuple[Array, tuple[int | None, ...]]:
    """What stood in each bank, (B, back + 1) by days back: followed from its dips on, before them
    and where it is not dipped a middle year's; and how long ago the last dip was.
    """
    day = day_of_year(today.isoformat()[5:])
    levels = np.median(r.season.level, axis=1)[:, (day - np.arange(back + 1)) % A_YEAR]
    since: list[int | None] = []
    first = today - dt.timedelta(days=max(DIP_HOLDS_DAYS, back))
    for n, bank in enumerate(r.banks.banks):
        told = followed(r, bank, past, first, today)
        dipped = (today - told.first).days - told.dips[-1][0] if told else A_YEAR
        if told is None or dipped > DIP_HOLDS_DAYS or r.season.world.out[n, day]:
            since.append(None)
            continue
        known = told.level_l[::-1][:back + 1]
        levels[n, :len(known)] = known
        since.append(dipped)
    return levels, tuple(since)


def _roots(r: Results, levels: Array, past: Sequence[Entry], today: dt.date, day: int
           ) -> tuple[Array, Array]:
    """Depletion and own water this morning in every year, (P, Y): run through the last weeks."""
    start = (day - WARM_DAYS) % A_YEAR - 1
    state = r.season.depletion[:, :, start], r.season.reservoir[:, :, start]
    world = in_this_year(r, r.season.world, r.weather, logged_rain(past, today, WARM_DAYS), today)
    through = Through(world, *state)
    through.run(r, levels, past, today)
    return through.depletion, through.reservoir


def _alike(r: Results, past: Sequence[Entry], today: dt.date, day: int) -> NDArray[np.bool_]:
    """The years whose rain of the last month is nearest to the log's; all where it tells none."""
    logged = logged_rain(past, today, WARM_DAYS)
    if logged is None:
        return np.ones(r.season.years, dtype=bool)
    mine = sum(mm for back, mm in logged.items() if back < ALIKE_DAYS)
    days = (day - np.arange(ALIKE_DAYS)) % A_YEAR
    off = np.abs(r.weather.rain_mm[:, days].sum(axis=1) - mine)
    nearest = np.argsort(off, kind="stable")[:max(round(len(off) * ALIKE_SHARE), 1)]
    found = np.zeros(len(off), dtype=bool)
    found[nearest] = True
    return found


def _by_day_ahead(forecast: Forecast, today: dt.date) -> dict[int, float]:
    """Rain that is forecast by days from today on, which is 0."""
    return {ahead: mm for date, mm in forecast.items()
            if 0 <= (ahead := (date - today).days) < MOST_FORECAST_DAYS}


def _lasting(r: Results, level: Array, depletion: Array, reservoir: Array, today: dt.date,
             ahead: Mapping[int, float]) -> tuple[NDArray[np.int64], Array, bool]:
    """In how many days the stores first fail, in each year without its rain; 1 is today.

    ``ahead`` is the only rain there is, mm by days from today on. And what stands in them then, and
    whether they are asked for any.
    """
    day = day_of_year(today.isoformat()[5:])
    comes = {(day + days_on) % A_YEAR: mm for days_on, mm in ahead.items()}
    fell = np.zeros_like(r.weather.rain_mm)
    fell[:, list(comes)] = list(comes.values())
    world = with_rain(r, in_week(
        r.season_inputs, without_rain(r.season.world), replace(r.weather, rain_mm=fell),
        first_weekday(today)), comes)
    days = (day + np.arange(AHEAD_DAYS)) % A_YEAR
    levels = np.repeat(as_banks(world, level[:, None]), r.season.years, axis=1)
    ran = run_days(world, levels, depletion, reservoir, days)
    stored = world.stored
    lacks = ran.lacking[stored][:, :, days] > SAME + SAME * ran.asked[stored][:, :, days]
    failed = np.asarray(lacks.any(axis=0))
    return (np.where(failed.any(axis=-1), failed.argmax(axis=-1) + 1, AHEAD_DAYS),
            ran.level[:len(level)][:, :, days], bool(ran.asked[stored][:, :, days].sum() > SAME))
