"""How long full stores last: the timer's own draw, no rain anywhere, nobody who fills in."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from euhydra.core.garden.base import DAYS_BEFORE_MONTH
from euhydra.core.season.inputs import SeasonInputs, timer_runs, without_rain
from euhydra.core.season.simulate import run_days
from euhydra.core.season.state import SAME, Array, Season, World
from euhydra.core.weather.generator import MONTH_OF_DAY

A_YEAR = 365


@dataclass(frozen=True)
class Lasts:
    """Days that full stores last from the first of a month (0 to 11); ``A_YEAR`` is a year or more.

    ``dry`` without rain anywhere, the beds included; ``rained`` with the rain of a typical year.
    """

    month: int
    dry: int
    rained: int


def lasts(inputs: SeasonInputs, season: Season) -> Lasts:
    """From the start of the month in which the timer opens for most, or thirst is largest."""
    asked = season.asked[season.world.stored].sum(axis=(0, 1))
    by_month = [asked[m == MONTH_OF_DAY].mean() for m in range(12)]
    month = int(np.argmax(by_month)) if max(by_month) > SAME else inputs.demand.peak_month
    world = one_year(season, season.typical_year)
    alone = replace(world, bank=np.where(world.stored, world.bank, -1),
                    well_day=np.zeros_like(world.well_day),
                    tapped=np.zeros_like(world.tapped), filled_at=np.zeros_like(world.filled_at))
    return Lasts(month, _held(dry_world(inputs, season, season.typical_year), month),
                 _held(alone, month))


def dry_after(dry: World, day: int, level: Array, depletion: Array, reservoir: Array) -> int:
    """Days from the evening of a day until the stores first fail the timer: 1 is the next day,
    ``A_YEAR`` a year or more.

    ``dry`` is the :func:`dry_world`; levels (B, 1), depletion and reservoir (P, 1) as they stand.
    """
    days = (day + 1 + np.arange(A_YEAR - 1)) % A_YEAR
    return min(_failed(dry, days, level, depletion, reservoir) + 1, A_YEAR)


def dry_world(inputs: SeasonInputs, season: Season, year: int) -> World:
    """A water year's world with no rain anywhere, its timer as it is then; with neither wells nor
    taps nor people who fill in.
    """
    dry = replace(inputs.weather, rain_mm=np.zeros_like(inputs.weather.rain_mm))
    minutes, runs = (_by_part(season, year, x) for x in timer_runs(inputs, dry))
    return replace(without_rain(one_year(season, year)), minutes=minutes, runs=runs)


def one_year(season: Season, year: int) -> World:
    """One water year of a season alone, by day of the calendar year, which goes round."""
    world = season.world
    ready, use, bare, rain, grey, inflow, drained = (
        season.in_year(daily, year)[..., None, :] for daily in (
            world.ready, world.use, world.bare, world.rain, world.grey, world.inflow,
            world.drained))
    return replace(world, ready=ready, use=use, bare=bare, rain=rain, grey=grey, inflow=inflow,
                   drained=drained, minutes=_by_part(season, year, world.minutes),
                   runs=_by_part(season, year, world.runs))


def _by_part(season: Season, year: int, daily: Array) -> Array:
    """A year of what stands by zone, year, day and part of the day."""
    days_last = np.moveaxis(daily, -1, 0)
    return np.moveaxis(season.in_year(days_last, year)[..., None, :], 0, -1)


def _held(world: World, month: int) -> int:
    """Days from the first of a month that full stores and moist roots last."""
    days = (DAYS_BEFORE_MONTH[month] + np.arange(A_YEAR)) % A_YEAR
    return _failed(world, days, world.size[:, None], np.zeros((len(world.plots), 1)),
                   world.reservoir[:, None])


def _failed(world: World, days: NDArray[np.intp], level: Array, depletion: Array,
            reservoir: Array) -> int:
    """Which of some days is the first on which a plot that a store feeds is not given in full."""
    season = run_days(world, level, depletion, reservoir, days)
    stored = world.stored
    lacking = season.lacking[stored, 0][:, days] > SAME + SAME * season.asked[stored, 0][:, days]
    failed = lacking.any(axis=0)
    return int(np.argmax(failed)) if failed.any() else A_YEAR
