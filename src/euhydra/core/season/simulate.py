"""The run itself: one year after another, a day in four parts.

Each day: who fills a store by hand does so first; water is drawn from what stands there, by the
timer's minutes at the flow of that level; what the banks lack a well gives, then a tap through its
air gap; used water comes and crops drink half before noon and half after; then the day's rain
comes, fills to the brim what the draws have left, and spills. The loops are in
``kernel``.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from types import ModuleType
from typing import TYPE_CHECKING, cast

import numpy as np
from numpy.typing import NDArray

from euhydra.core.demand.crop_water import refills
from euhydra.core.demand.soil import Ground
from euhydra.core.season.state import Array, Season, World

if TYPE_CHECKING:
    from euhydra.core.season.kernel import Fixed, Now, Told

DRINKS = (0.0, 0.5, 0.5, 0.0)  # of a day's thirst, by part of the day
WHOLE_YEAR = np.arange(365)
START_SHARE = 0.5  # of the stores, a year before the first
BY_PLOT = ("given", "wasted", "drunk", "fed", "lacking", "depletion", "reservoir")
BY_YEAR = ("by_hand", "emptied", "leaked", "spilled", "well", "tap", "used")
BY_BANK = ("level", "beyond", "poured")
Days = NDArray[np.intp]


def run_season(world: World, start_share: float | None = None) -> Season:
    """All years of a garden, one after another.

    They begin with stores and soil as the last year leaves them; with a ``start_share`` given, with
    so much of each store and with moist roots.
    """
    years = world.inflow.shape[1]
    fixed = _fixed(world)
    now = _now(world, world.size * (START_SHARE if start_share is None else start_share),
               np.zeros(len(world.plots)), world.reservoir)
    first, rest = WHOLE_YEAR[:world.begins], WHOLE_YEAR[world.begins:]
    if start_share is None:
        _run(fixed, now, _blank(world, years), ((years - 1, rest), (0, first)))
    season, begun = _blank(world, years), now.level.copy()
    _run(fixed, now, season, ((0, rest), *((y, WHOLE_YEAR) for y in range(1, years)), (0, first)))
    season.start[:], season.end[:] = begun, now.level
    return season


def run_days(world: World, level: Array, depletion: Array, reservoir: Array,
             days: Days) -> Season:
    """Some days of each year only, begun with these levels (B, Y), depletion and free water (P, Y).

    What lies under the roots is moist. What the season holds of other days is empty.
    """
    years = level.shape[1]
    season, fixed = _blank(world, years), _fixed(world)
    for y in range(years):
        now = _now(world, level[:, y], depletion[:, y], reservoir[:, y])
        _run(fixed, now, season, ((y, days),))
    return season


@dataclass(frozen=True)
class Stretch:
    """Days that are run on end, and what is put right after the last of them.

    A bank's level, litres taken out of a bank, litres that a plot's roots get: by their numbers.
    """

    days: Days
    levels: Mapping[int, float] = field(default_factory=dict)
    taken: Mapping[int, float] = field(default_factory=dict)
    given: Mapping[int, float] = field(default_factory=dict)


def run_stretches(world: World, level: Array, depletion: Array, reservoir: Array,
                  stretches: Sequence[Stretch]) -> Season:
    """Days of each year, put right between stretches; begun as :func:`run_days` is.

    What the season holds of a day is as it was reckoned, before it was put right.
    """
    years = level.shape[1]
    season, fixed = _blank(world, years), _fixed(world)
    told, run_year = _told(season), _loops().run_year
    for y in range(years):
        now = _now(world, level[:, y], depletion[:, y], reservoir[:, y])
        for stretch in stretches:
            run_year(fixed, now, told, y, stretch.days.astype(np.int64))
            for bank, litres in stretch.levels.items():
                now.level[bank] = litres
            for bank, litres in stretch.taken.items():
                now.level[bank] = max(now.level[bank] - litres, 0.0)
            for plot, litres in stretch.given.items():
                now.depletion[plot] = max(now.depletion[plot] - litres, 0.0)
    return season


def warm() -> None:
    """Have the loops compiled, or read from the disk, before anyone waits for them."""
    none, day = np.zeros(1), np.zeros((1, 1, 365))
    run_season(World(
        plots=("",), names=("",), bank=np.zeros(1, dtype=np.intp), zone=np.zeros(1, dtype=np.intp),
        flow_l_h=np.zeros((1, 3)), works=none, minutes=np.zeros((1, 1, 365, 4)),
        runs=np.zeros((1, 1, 365, 4)), refilled=none,
        always_on=np.zeros(1, dtype=bool), reservoir=none, hold=day[0], full=none, ready=day,
        use=day, bare=day, rain=day, caught=day[0], grey=day, drained=day[0], size=none,
        inflow=day, over_to=(-1,), feeds=(), well_day=none, well_to=(), well_share=none[:0],
        tapped=np.zeros(1, dtype=bool), filled_at=none, leak=day,
        out=np.zeros((1, 365), dtype=bool),
        grows=np.zeros((1, 365), dtype=bool), stuck=np.zeros(1, dtype=bool)))
    still = Ground(day[0, 0], 0.0, day[0], day[0], day[0, 0])
    refills(day[0], day[0], np.zeros(365, dtype=bool), 1, still)


def _loops() -> ModuleType:
    """The compiled loops; what compiles them is slow to load, so that only a season does."""
    from euhydra.core.season import kernel

    return kernel


def _run(fixed: Fixed, now: Now, season: Season, turns: Iterable[tuple[int, Days]]) -> None:
    """Some days of some years, one after another, into a season."""
    told, run_year = _told(season), _loops().run_year
    for y, days in turns:
        run_year(fixed, now, told, y, days.astype(np.int64))


def _blank(world: World, years: int) -> Season:
    """A season of which no day has been run."""
    plots, banks = len(world.plots), len(world.size)
    daily = {name: _things_first(np.zeros((years, 365, plots))) for name in BY_PLOT}
    daily |= {name: np.zeros((years, 365)) for name in BY_YEAR}
    daily |= {name: _things_first(np.zeros((years, 365, banks))) for name in BY_BANK}
    season = Season(world=world, start=np.zeros(banks), end=np.zeros(banks), **daily)
    season.fed[:] = 1.0
    return season


def _told(season: Season) -> Told:
    told = _loops().Told
    return cast("Told", told(*(_days_first(getattr(season, name)) for name in told._fields)))


def _now(world: World, level: Array, depletion: Array, reservoir: Array) -> Now:
    banks, plots = len(world.size), len(world.plots)
    state = (np.array(x, dtype=float) for x in (
        level, depletion, np.zeros_like(depletion), reservoir))
    room = (np.zeros(n) for n in (banks, len(world.well_day), banks, banks, banks, plots, banks))
    return cast("Now", _loops().Now(*state, *room))


def _fixed(world: World) -> Fixed:
    """The world as plain arrays; flows are two straight lines through last, half and full."""
    low, half, full = (np.ascontiguousarray(world.flow_l_h[:, i], dtype=float) for i in range(3))
    return cast("Fixed", _loops().Fixed(
        bank=world.bank.astype(np.int64), zone=world.zone.astype(np.int64), low=low,
        rise=2 * (half - low), more=2 * (full - 2 * half + low), works=_floats(world.works),
        minutes=_floats(world.minutes.transpose(1, 2, 3, 0)),
        runs=_floats(world.runs.transpose(1, 2, 3, 0)), refilled=_floats(world.refilled),
        always_on=world.always_on.astype(np.bool_),
        reservoir=_floats(world.reservoir), hold=_floats(world.hold.T), full=_floats(world.full),
        ready=_floats(_days_first(world.ready)), grows=np.ascontiguousarray(world.grows.T),
        takes=_floats(_days_first(world.use + world.bare)),
        rain=_floats(_days_first(world.rain)), caught=_floats(world.caught.T),
        grey=_floats(_days_first(world.grey)), drained=_floats(world.drained),
        size=_floats(world.size), inflow=_floats(_days_first(world.inflow)),
        over_to=np.array(world.over_to, dtype=np.int64),
        feeds=np.array(world.feeds, dtype=np.int64).reshape(-1, 2),
        well_day=_floats(world.well_day),
        well_to=np.array(world.well_to, dtype=np.int64).reshape(-1, 2),
        well_share=_floats(world.well_share),
        tapped=world.tapped.astype(np.bool_), filled_at=_floats(world.filled_at),
        leak=_floats(_days_first(world.leak)),
        out=np.ascontiguousarray(world.out.T),
        drinks=np.array(DRINKS)))


def _days_first(daily: Array) -> Array:
    """What stands by thing, year and day, by year, day and thing; that by year and day as it is."""
    return np.moveaxis(daily, 0, -1) if daily.ndim == 3 else daily


def _things_first(daily: Array) -> Array:
    return np.moveaxis(daily, -1, 0)


def _floats(values: Array) -> Array:
    return np.ascontiguousarray(values, dtype=float)
