"""The garden as it stands on a day of this year, by its log, and how long that lasts without rain.

Stores are followed from their dips, as Keep follows them; roots are run through the last weeks with
the rain that was logged, and put right by what was felt of soil and leaves. What is not known comes
from every year that was reckoned with, so that what is told has a band.
"""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from euhydra.core.daily.year import Run, Year
from euhydra.core.demand.roots import stress
from euhydra.core.garden.base import day_of_year
from euhydra.core.log.entries import KINDS, Entry
from euhydra.core.log.levels import followed
from euhydra.core.results.results import Results
from euhydra.core.season.inputs import timer_runs, without_rain
from euhydra.core.season.simulate import run_days
from euhydra.core.season.state import SAME, THIRSTY, Array, World

WARM_DAYS = 40  # that roots are run through before today
DIP_HOLDS_DAYS = 120  # a level that was followed for longer is no better than a middle year's
FELT_HOLDS_DAYS = 10
ALIKE_DAYS = 30  # whose rain tells which years began like this one
ALIKE_SHARE = 1 / 3  # of the years, the nearest by that rain
AHEAD_DAYS = 60
A_YEAR = 365


@dataclass(frozen=True, eq=False)
class Now:
    """How a garden stands this morning, in each of the years Y that were reckoned with.

    (B,): ``level`` in litres, ``dipped`` the days since the last dip, None where the level is a
    middle year's. (P, Y): ``depletion`` and ``reservoir``, litres. ``alike`` (Y,) are the years
    that began like this one; ``lasts`` (Y,) in how many days the stores first fail what is asked
    of them without rain, ``AHEAD_DAYS`` where they do not until then.
    """

    day: int
    level: Array
    dipped: tuple[int | None, ...]
    depletion: Array
    reservoir: Array
    alike: NDArray[np.bool_]
    lasts: NDArray[np.int64]

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


def now(r: Results, entries: Sequence[Entry], today: dt.date) -> Now:
    """The garden on a day, by its log up to then."""
    past = sorted((e for e in entries if e.day <= today), key=lambda e: e.day)
    day = day_of_year(today.isoformat()[5:])
    level, dipped = _levels(r, past, today, day)
    world = _with_logged_rain(r, past, today, day)
    depletion, reservoir = _roots(r, world, level, past, today, day)
    return Now(day, level, dipped, depletion, reservoir, _alike(r, past, today, day),
               _lasting(r, level, depletion, reservoir, day))


def _levels(r: Results, past: Sequence[Entry], today: dt.date, day: int
            ) -> tuple[Array, tuple[int | None, ...]]:
    """What stands in each bank: followed from its last dip, else a middle year's."""
    middle = np.median(r.season.level[:, :, day], axis=1)
    level = np.array(middle, dtype=float)
    since: list[int | None] = []
    first = today - dt.timedelta(days=DIP_HOLDS_DAYS)
    for n, bank in enumerate(r.banks.banks):
        told = followed(r, bank, past, first, today)
        if told is None or r.season.world.out[n, day]:
            since.append(None)
            continue
        level[n] = told.level_l[-1]
        since.append((today - told.first).days - told.dips[-1][0])
    return level, tuple(since)


def _logged(past: Sequence[Entry], today: dt.date) -> dict[int, float] | None:
    """Rain by days before today, as it was logged; None where nobody logs it."""
    since = today - dt.timedelta(days=WARM_DAYS)
    fell = [e for e in past if e.kind == "rain" and e.day > since]
    if not fell:
        return None
    found: dict[int, float] = {}
    for e in fell:
        back = (today - e.day).days
        found[back] = found.get(back, 0.0) + (e.value or 0.0)
    return found


def _with_logged_rain(r: Results, past: Sequence[Entry], today: dt.date, day: int) -> World:
    """Every year's weather, on the last days with the rain of the log where that tells it.

    A log that has rain in it tells of dry days too, from its first entry on.
    """
    world, logged = r.season.world, _logged(past, today)
    if logged is None:
        return world
    water = r.weather.water_mm.sum()
    per_mm = world.rain.sum(axis=(1, 2)) / max(float(water), SAME)  # L on each plot for a mm
    rain = world.rain.copy()
    for back in range(max(logged) + 1):
        rain[:, :, (day - back) % A_YEAR] = (per_mm * logged.get(back, 0.0))[:, None]
    return replace(world, rain=rain)


def _roots(r: Results, world: World, level: Array, past: Sequence[Entry], today: dt.date, day: int
           ) -> tuple[Array, Array]:
    """Depletion and own water this morning, (P, Y): run for weeks, put right by what was felt."""
    season, years = r.season, r.season.years
    start = (day - WARM_DAYS) % A_YEAR
    depletion, reservoir = season.depletion[:, :, start - 1], season.reservoir[:, :, start - 1]
    levels = np.repeat(_as_banks(world, level[:, None]), years, axis=1)
    felt = _felt(r, past, today)
    at = WARM_DAYS
    for back in sorted({*felt, 0}, reverse=True):
        days = (day - at + np.arange(at - back)) % A_YEAR
        if len(days):
            ran = run_days(world, levels, depletion, reservoir, days)
            depletion, reservoir = ran.depletion[:, :, days[-1]], ran.reservoir[:, :, days[-1]]
        depletion = _put_right(world, depletion, felt.get(back, ()), (day - back) % A_YEAR)
        at = back
    return depletion, reservoir


def _as_banks(world: World, levels: Array) -> Array:
    """Levels of the garden's own banks, with none for those that stand for wells behind them."""
    found = np.zeros((len(world.size), levels.shape[1]))
    found[:len(levels)] = levels
    return found


def _felt(r: Results, past: Sequence[Entry], today: dt.date
          ) -> dict[int, list[tuple[int, str]]]:
    """What was felt of soil and leaves lately: by days back, (plot, "dry", "right" or "wet")."""
    found: dict[int, list[tuple[int, str]]] = {}
    plots = list(r.season.world.plots)
    for e in past:
        back = (today - e.day).days
        told = KINDS[e.kind].words.get(e.word, "") if e.kind in ("soil", "leaf") else ""
        if told and back <= FELT_HOLDS_DAYS and e.about in plots:
            found.setdefault(back, []).append((plots.index(e.about), told))
    return found


def _put_right(world: World, depletion: Array, felt: Sequence[tuple[int, str]], day: int) -> Array:
    """Roots within what was felt: dry lacks more than is easily had, wet nothing, right less."""
    found = np.array(depletion)
    for p, told in felt:
        ready = world.ready[p, :, day]
        found[p] = {"dry": np.maximum(found[p], ready), "wet": np.zeros_like(found[p]),
                    "right": np.minimum(found[p], ready)}[told]
    return found


def _alike(r: Results, past: Sequence[Entry], today: dt.date, day: int) -> NDArray[np.bool_]:
    """The years whose rain of the last month is nearest to the log's; all where it tells none."""
    logged = _logged(past, today)
    if logged is None:
        return np.ones(r.season.years, dtype=bool)
    mine = sum(mm for back, mm in logged.items() if back < ALIKE_DAYS)
    days = (day - np.arange(ALIKE_DAYS)) % A_YEAR
    off = np.abs(r.weather.rain_mm[:, days].sum(axis=1) - mine)
    nearest = np.argsort(off, kind="stable")[:max(round(len(off) * ALIKE_SHARE), 1)]
    found = np.zeros(len(off), dtype=bool)
    found[nearest] = True
    return found


def _lasting(r: Results, level: Array, depletion: Array, reservoir: Array, day: int
             ) -> NDArray[np.int64]:
    """In how many days the stores first fail, in each year without its rain; 1 is today."""
    dry = replace(r.season_inputs.weather, rain_mm=np.zeros_like(r.weather.rain_mm))
    minutes, runs = timer_runs(r.season_inputs, dry)
    world = replace(without_rain(r.season.world), minutes=minutes, runs=runs)
    days = (day + np.arange(AHEAD_DAYS)) % A_YEAR
    levels = np.repeat(_as_banks(world, level[:, None]), r.season.years, axis=1)
    ran = run_days(world, levels, depletion, reservoir, days)
    stored = world.stored
    lacks = ran.lacking[stored][:, :, days] > SAME + SAME * ran.asked[stored][:, :, days]
    failed = np.asarray(lacks.any(axis=0))
    return np.where(failed.any(axis=-1), failed.argmax(axis=-1) + 1, AHEAD_DAYS)


@dataclass(frozen=True, eq=False)
class ThisYear(Year):
    """A year of which one day is this morning: stores and roots as ``now`` has them, nothing run.

    What the day is to bring is not known in the morning: of it only the rain that was logged.
    """

    now: Now
    logged: Mapping[int, float] | None = None  # mm by days back

    def _with(self, daily: Array, today: Array | float) -> Array:
        found = np.array(daily, dtype=float)
        found[..., self.now.day] = today
        return found

    @cached_property
    def level(self) -> Array:
        """Litres in each bank; today's this morning."""
        return self._with(self.of(self.season.level), self.now.level)

    @cached_property
    def depletion(self) -> Array:
        """Litres that roots lack; today the middle of the years that began like this one."""
        return self._with(self.of(self.season.depletion),
                          np.median(self.now.depletion[:, self.now.alike], axis=1))

    @cached_property
    def reservoir(self) -> Array:
        """Litres in a row's own water, likewise."""
        return self._with(self.of(self.season.reservoir),
                          np.median(self.now.reservoir[:, self.now.alike], axis=1))

    @cached_property
    def thirsty(self) -> NDArray[np.bool_]:
        """Whether a crop would get too little of the day's thirst, by what its roots hold now."""
        world, day, found = self.season.world, self.now.day, self.of(self.season.thirsty).copy()
        ready = self.of(world.ready)[:, day]
        left = [stress(d, h, r) for d, h, r in zip(
            self.depletion[:, day], world.hold[:, day], ready, strict=True)]
        found[:, day] = (np.array(left) < THIRSTY) & ~(
            world.always_on & (self.reservoir[:, day] > SAME))
        return found

    @cached_property
    def rain_mm(self) -> Array:
        """Rain by day; up to today as it was logged, where it was."""
        found = self._with(self.of(self.results.weather.rain_mm), 0.0)
        for back in range(max(self.logged) + 1 if self.logged else 0):
            found[(self.now.day - back) % A_YEAR] = (self.logged or {}).get(back, 0.0)
        return found

    @property
    def rain_known(self) -> bool:
        """Whether the log tells of rain."""
        return self.logged is not None

    @cached_property
    def runs_by_day(self) -> dict[int, tuple[Run, ...]]:
        """The runs of each day but today's."""
        return {day: runs for day, runs in super().runs_by_day.items() if day != self.now.day}

    @cached_property
    def given(self) -> Array:
        """Litres that came to each plot; none yet today."""
        return self._with(self.of(self.season.given), 0.0)

    @cached_property
    def tap(self) -> Array:
        """Litres that taps gave; none yet today."""
        return self._with(self.of(self.season.tap), 0.0)

    @cached_property
    def well(self) -> Array:
        """Litres that wells gave; none yet today."""
        return self._with(self.of(self.season.well), 0.0)

    @cached_property
    def used(self) -> Array:
        """Litres of used water; none yet today."""
        return self._with(self.of(self.season.used), 0.0)

    @cached_property
    def over(self) -> Array:
        """Litres that ran over; none yet today."""
        return self._with(self.of(self.season.over), 0.0)


def this_year(r: Results, entries: Sequence[Entry], today: dt.date, which: int) -> ThisYear:
    """A year with this morning in it."""
    past = [e for e in entries if e.day <= today]
    return ThisYear(r, which, now(r, past, today), _logged(past, today))
