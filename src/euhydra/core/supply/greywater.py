"""Used water: what comes, whether a drum overflows on washing day, and the ground it takes."""

from __future__ import annotations

import math
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
PUMP_STARTS = 0.2  # of the drum: a float switch starts there and stops at the next, from memory
PUMP_STOPS = 0.05
NEARLY_EMPTY_L = 2.0
WIDEST_M = 20.0  # of a bed
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


def area_given_m2(drain: Drain) -> float:
    """Ground that the drain waters now."""
    if drain.school == "drum":
        return drain.drip_m2
    return sum(basin.length_m * basin.width_m for basin in drain.basins)


def basin_room_l(basin: Basin) -> float:
    """Water that the basin's mulch holds between its chips before it ponds."""
    return basin.length_m * basin.width_m * basin.depth_m * MULCH_VOID * 1000


def grounds(drain: Drain) -> tuple[Bed, ...]:
    """The ground that a drain waters, as beds for their thirst: its basins, or its drip's ground.

    Basins are full of wood chips.
    """
    def bed(key: str, name: str, length_m: float, width_m: float, crop: str, planted: str) -> Bed:
        return Bed(id=key, name=name, corner=Point(x_m=0, y_m=0), soil=drain.soil, mulch="chips",
                   length_m=length_m, width_m=width_m,
                   plantings=(Planting(id="p1", crop=crop, planted=planted),))

    if drain.school == "basins":
        return tuple(bed(b.id, b.name, b.length_m, b.width_m, b.crop, b.planted)
                     for b in drain.basins)
    side = max(math.sqrt(drain.drip_m2), drain.drip_m2 / WIDEST_M)
    return (bed("drip", f"{drain.name}: drip"[:80], side, drain.drip_m2 / side, drain.drip_crop,
                drain.drip_planted),)


def ground_key(drain: Drain, bed: Bed) -> str:
    """What a drain's ground goes by among plots."""
    return f"{drain.id}/{bed.id}"


def grey_by_day(garden: Garden, years: int) -> tuple[dict[str, NDArray[np.float64]],
                                                     NDArray[np.float64]]:
    """Litres of used water by day to each ground, and of all that comes, (years, 365) each.

    Basins share by their areas. A drum's ground gets what the drum does not spill; without a basin
    nothing is led anywhere. Years run on from a Monday, as a week's timer does.
    """
    weekday = (np.arange(years * 365) % 7).reshape(years, 365)
    found: dict[str, NDArray[np.float64]] = {}
    total = np.zeros((years, 365))
    for drain in garden.drains:
        beds = grounds(drain)
        area = sum(bed.length_m * bed.width_m for bed in beds)
        comes = np.array([n * drain.litres_a_use for n in drain.uses])
        kept = kept_by_weekday(drain)
        if beds:
            total += comes[weekday]
        for bed in beds:
            share = bed.length_m * bed.width_m / area
            found[ground_key(drain, bed)] = share * kept[weekday]
    return found, total


def kept_by_weekday(drain: Drain) -> NDArray[np.float64]:
    """Litres that reach the drain's ground from Monday to Sunday: all but what a drum spills."""
    return np.array([n * drain.litres_a_use
                     - (spilled_l(drain, n) if drain.school == "drum" else 0.0)
                     for n in drain.uses])


@lru_cache(maxsize=64)
def spilled_l(drain: Drain, uses: int) -> float:
    """What a drum spills on a day of so many uses."""
    return drum_day(drain.model_copy(update={"uses": (uses,) * 7})).spilled_l if uses else 0.0


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


def drum_day(drain: Drain) -> DrumDay:
    """The surge drum on the busiest day: uses one after another, each running out in minutes.

    A float pump runs at its rate from when the float is up until the drum is all but empty; a
    soaker drains by gravity, at its rate with the drum full and slower as the water falls.
    """
    uses, steps = max(drain.uses), int(48 * 60 / STEP_MIN)
    gap_h = min(USE_EVERY_H, (LAST_USE_H - FIRST_USE_H) / max(uses, 1))
    begins = [60 * (FIRST_USE_H + i * gap_h) for i in range(uses)]
    rate = drain.litres_a_use / drain.use_min
    levels, level, spilled, pumping, starts = np.empty(steps), 0.0, 0.0, False, 0
    for step in range(steps):
        minute = step * STEP_MIN
        level += sum(rate * max(0.0, min(STEP_MIN, b + drain.use_min - minute))
                     for b in begins if b <= minute < b + drain.use_min)
        if drain.empties_by == "pump":
            wanted = level > (PUMP_STOPS if pumping else PUMP_STARTS) * drain.drum_l
            starts += wanted and not pumping
            pumping = wanted
            out = drain.empties_l_h / 60 * STEP_MIN if pumping else 0.0
        else:
            out = drain.empties_l_h / 60 * STEP_MIN * min(level / drain.drum_l, 1.0)
        level -= min(level, out)
        over = max(level - drain.drum_l, 0.0)
        spilled, level = spilled + over, level - over
        levels[step] = level
    return DrumDay(levels, drain.litres_a_use * uses, spilled, level, _held_h(levels, drain),
                   starts)


def _held_h(levels: np.ndarray, drain: Drain) -> float:
    """Hours from the first water until all but the pump's own puddle is gone."""
    puddle = max(NEARLY_EMPTY_L, (PUMP_STARTS if drain.empties_by == "pump" else 0.02)
                 * drain.drum_l)
    wet = np.flatnonzero(levels > puddle)
    if not wet.size:
        return 0.0
    if wet[-1] == len(levels) - 1:
        return float("inf")
    return float((wet[-1] - wet[0] + 1) * STEP_MIN / 60)


def pump_that_copes_l_h(drain: Drain) -> float:
    """The least rate, in steps of 100 L/h, at which the drum neither spills nor holds past 24 h."""
    for rate in range(100, 6001, 100):
        day = drum_day(drain.model_copy(update={"empties_l_h": float(rate), "empties_by": "pump"}))
        if day.spilled_l <= 0 and day.held_h <= HELD_H:
            return float(rate)
    return 6000.0
