"""How long full stores last: the timer's own draw, no rain anywhere, nobody who fills in."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

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
    world = _typical_year(season)
    alone = replace(world, bank=np.where(world.stored, world.bank, -1),
                    well_day=np.zeros_like(world.well_day),
                    tapped=np.zeros_like(world.tapped), filled_at=np.zeros_like(world.filled_at))
    dry = replace(inputs.weather, rain_mm=np.zeros_like(inputs.weather.rain_mm))
    minutes, runs = (_by_part(season, x) for x in timer_runs(inputs, dry))
    return Lasts(month, _held(replace(without_rain(world), minutes=minutes, runs=runs), month),
                 _held(alone, month))


def _typical_year(season: Season) -> World:
    """The season's typical water year alone, by day of the calendar year, which goes round."""
    world = season.world
    ready, use, bare, rain, grey, inflow, drained = (
        season.in_year(daily, season.typical_year)[..., None, :] for daily in (
            world.ready, world.use, world.bare, world.rain, world.grey, world.inflow,
            world.drained))
    return replace(world, ready=ready, use=use, bare=bare, rain=rain, grey=grey, inflow=inflow,
                   drained=drained, minutes=_by_part(season, world.minutes),
                   runs=_by_part(season, world.runs))


def _by_part(season: Season, daily: Array) -> Array:
    """That year of what stands by zone, year, day and part of the day."""
    days_last = np.moveaxis(daily, -1, 0)
    one = season.in_year(days_last, season.typical_year)[..., None, :]
    return np.moveaxis(one, 0, -1)


def _held(world: World, month: int) -> int:
    """Days until a plot that a store feeds is first not given in full."""
    days = (DAYS_BEFORE_MONTH[month] + np.arange(A_YEAR)) % A_YEAR
    plots = np.zeros((len(world.plots), 1))
    season = run_days(world, world.size[:, None], plots, world.reservoir[:, None], days)
    stored = world.stored
    lacking = season.lacking[stored, 0][:, days] > SAME + SAME * season.asked[stored, 0][:, days]
    failed = lacking.any(axis=0)
    return int(np.argmax(failed)) if failed.any() else A_YEAR
