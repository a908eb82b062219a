"""Used water: what comes, whether a drum overflows on washing day, and the ground it takes."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from euhydra.core.garden.model import Basin, Bed, Drain, Garden, Planting, Point
from euhydra.core.library import Library

GALLON_L = 3.785411784
# California Plumbing Code ch. 15, recalled: gallons a day a person by fixture.
CODE_GAL = {"laundry": 15.0, "bath": 25.0, "basin": 25.0}
MULCH_VOID = 0.4  # of wood chips, from memory
FIRST_USE_H = 8.0
LAST_USE_H = 20.0
USE_EVERY_H = 1.0  # washing-day loads follow on from each other, from memory
STEP_MIN = 1.0
FLOAT_RISES = 0.15  # of the drum, from where a float stops its pump to where it starts; from memory
NEARLY_EMPTY_L = 2.0
HELD_H = 24.0  # no storage past this, California Plumbing Code ch. 15, recalled


def week_l(drain: Drain) -> float:
    """Litres in a week of washing."""
    return drain.litres_a_use * sum(drain.uses)


def peak_day_l(drain: Drain) -> float:
    """Litres on the day with most uses."""
    return drain.litres_a_use * max(drain.uses)


def code_day_l(drain: Drain) -> float:
    """What the code reckons with: two people for the first bedroom and one for each more.

    California Plumbing Code ch. 15, recalled: 15 gal a day each for a laundry, 25 for bath and
    basin together.
    """
    return (drain.bedrooms + 1) * CODE_GAL[drain.fixture] * GALLON_L


def area_needed_m2(litres_day: float, soil: str, library: Library) -> float:
    """Ground that takes so much a day: daily flow over the soil's loading (same code, recalled)."""
    return litres_day / library.soils[soil].grey_mm_day


def basins_m2(drain: Drain) -> float:
    """Ground of the drain's basins."""
    return sum(basin.length_m * basin.width_m for basin in drain.basins)


def basin_room_l(basin: Basin) -> float:
    """Water that the basin's mulch holds between its chips before it ponds."""
    return basin.length_m * basin.width_m * basin.depth_m * MULCH_VOID * 1000


def grounds(drain: Drain) -> tuple[Bed, ...]:
    """The basins that a drain waters, full of wood chips, as beds for their thirst.

    None where it runs into a drum: what that feeds are plots of the garden.
    """
    if drain.school == "drum":
        return ()
    return tuple(Bed(id=b.id, name=b.name, corner=Point(x_m=0, y_m=0), soil=drain.soil,
                     mulch="chips", length_m=b.length_m, width_m=b.width_m,
                     plantings=(Planting(id="p1", crop=b.crop, planted=b.planted),))
                 for b in drain.basins)


def ground_key(drain: Drain, bed: Bed) -> str:
    """What a drain's ground goes by among plots."""
    return f"{drain.id}/{bed.id}"


def weekdays(years: int, begins: int | None = None) -> NDArray[np.intp]:
    """The day of the week from Monday of each day, (years, 365): they run on as a timer's do, or
    all ``begin`` on the same.
    """
    if begins is not None:
        return np.tile((np.arange(365) + begins) % 7, (years, 1))
    return (np.arange(years * 365) % 7).reshape(years, 365)


def to_basins(garden: Garden, years: int, begins: int | None = None
              ) -> tuple[dict[str, NDArray[np.float64]], NDArray[np.float64]]:
    """Litres of used water by day to each basin, and of all that comes to them, (years, 365) each.

    Basins share by their areas; without one nothing is led anywhere.
    """
    found: dict[str, NDArray[np.float64]] = {}
    total = np.zeros((years, 365))
    for drain in garden.drains:
        beds = grounds(drain)
        area = sum(bed.length_m * bed.width_m for bed in beds)
        comes = by_weekday(drain)[weekdays(years, begins)]
        if beds:
            total += comes
        for bed in beds:
            found[ground_key(drain, bed)] = bed.length_m * bed.width_m / area * comes
    return found, total


def by_weekday(drain: Drain) -> NDArray[np.float64]:
    """Litres that come from Monday to Sunday (7,)."""
    return np.array([n * drain.litres_a_use for n in drain.uses])


@dataclass(frozen=True)
class Leaves:
    """How fast a drum empties, L/h, with its usable water full, half and at its last.

    ``dead_l`` stays under its outlet, or under what its pump leaves. One that is ``pumped`` runs
    from its float's rising to its falling; else water leaves whenever there is any.
    """

    full_l_h: float
    half_l_h: float
    low_l_h: float
    dead_l: float
    pumped: bool

    def at_l_h(self, level_l: float, drum_l: float) -> float:
        """The rate at a level, on straight lines between those that are known."""
        share = (level_l - self.dead_l) / max(drum_l - self.dead_l, 1e-9)
        if share <= 0:
            return 0.0
        return float(np.interp(share, (0.0, 0.5, 1.0),
                               (self.low_l_h, self.half_l_h, self.full_l_h)))


def kept_by_weekday(drain: Drain, leaves: Leaves) -> NDArray[np.float64]:
    """Litres that lines get of a drum from Monday to Sunday: all but what it spills."""
    return np.array([n * drain.litres_a_use - spilled_l(drain, leaves, n) for n in drain.uses])


@lru_cache(maxsize=256)
def spilled_l(drain: Drain, leaves: Leaves, uses: int) -> float:
    """What a drum spills on a day of so many uses."""
    day = drain.model_copy(update={"uses": (uses,) * 7})
    return drum_day(day, leaves).spilled_l if uses else 0.0


@dataclass(frozen=True)
class DrumDay:
    """A drum through its busiest day, minute by minute from midnight over two days.

    ``held_h`` is from the first water in to the drum empty; infinite when it never empties.
    """

    level_l: np.ndarray
    came_l: float
    spilled_l: float
    left_l: float
    held_h: float
    starts: int


@lru_cache(maxsize=256)
def drum_day(drain: Drain, leaves: Leaves) -> DrumDay:
    """The surge drum on the busiest day: uses one after another, each running out in minutes.

    It begins with what never leaves it.
    """
    uses, steps = max(drain.uses), int(48 * 60 / STEP_MIN)
    gap_h = min(USE_EVERY_H, (LAST_USE_H - FIRST_USE_H) / max(uses, 1))
    begins = [60 * (FIRST_USE_H + i * gap_h) for i in range(uses)]
    rate, drum = drain.litres_a_use / drain.use_min, drain.drum_l
    dead = min(leaves.dead_l, drum)
    levels, level, spilled, pumping, starts = np.empty(steps), dead, 0.0, False, 0
    for step in range(steps):
        minute = step * STEP_MIN
        comes = sum(rate * max(0.0, min(STEP_MIN, b + drain.use_min - minute))
                    for b in begins if b <= minute < b + drain.use_min)
        left = 1.0  # of the step, with water leaving
        if leaves.pumped and not pumping:
            up = dead + FLOAT_RISES * drum
            pumping = level + comes >= up
            starts += pumping
            left = 1 - max(up - level, 0.0) / comes if pumping and comes > 0 else float(pumping)
            level += comes * (1 - left)
        leave = leaves.at_l_h(min(level + comes * left, drum), drum) / 60 * STEP_MIN * left
        level += comes * left - leave
        if level < dead + 1e-9 and left > 0:
            # Run dry part of the way through: what comes after that stays.
            dry = 1 - (level + leave - comes * left - dead) / max(leave - comes * left, 1e-9)
            level = dead + (comes * left * max(dry, 0.0) if pumping else 0.0)
            pumping = False
        over = max(level - drum, 0.0)
        spilled, level = spilled + over, level - over
        levels[step] = level
    return DrumDay(levels, drain.litres_a_use * uses, spilled, level,
                   _held_h(levels, dead + max(NEARLY_EMPTY_L, FLOAT_RISES * drum
                                              if leaves.pumped else 0.02 * drum)), starts)


def _held_h(levels: NDArray[np.float64], puddle_l: float) -> float:
    """Hours from the first water until all but a puddle is gone."""
    wet = np.flatnonzero(levels > puddle_l)
    if not wet.size:
        return 0.0
    if wet[-1] == len(levels) - 1:
        return float("inf")
    return float((wet[-1] - wet[0] + 1) * STEP_MIN / 60)


def rate_that_copes_l_h(drain: Drain, leaves: Leaves) -> float:
    """The least rate, in steps of 100 L/h, at which the drum neither spills nor holds past 24 h."""
    for rate in range(100, 6001, 100):
        day = drum_day(drain, Leaves(rate, rate, rate, leaves.dead_l, leaves.pumped))
        if day.spilled_l <= 0 and day.held_h <= HELD_H:
            return float(rate)
    return 6000.0
