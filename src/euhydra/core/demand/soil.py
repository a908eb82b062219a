"""What a plot's ground holds through the year: roots that grow, bare soil that dries, rain caught.

Litres of a whole plot; arrays by day of the year (365,), by year and day (years, 365).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from euhydra.core.demand import plants
from euhydra.core.garden.base import day_of_year
from euhydra.core.garden.model import AnyPlot, Bed, Holder, Planting, Pots, Tower, Tree, Wicking
from euhydra.core.library import Crop, Library, Soil

Array = NDArray[np.float64]
POT_FILL = 0.9  # a pot is not filled to its rim, from memory
FIRST_ROOT_M = 0.15  # FAO-56 chapter 8, recalled: 0.15 to 0.20 m for annuals
EVAPORATES_M = 0.10  # FAO-56 eq. 73, recalled: 0.10 to 0.15 m of bare soil dries by the air
READILY = 0.4  # of that water, within FAO-56 Table 19's range of REW for each soil, recalled
BARE_KC = 1.15  # ETo that wet bare soil gives off, FAO-56 chapter 7, recalled
CANOPY_MM = 0.5  # of a day's rain that leaves hold, from memory
# Likewise, from memory; of what mulch holds most spares the soil's own evaporation and is no loss.
MULCH_MM = {"none": 0.0, "straw": 0.2, "chips": 0.3, "plastic": 0.0}
PERENNIAL = ("berries", "fruit trees")  # groups whose roots stand all year


@dataclass(frozen=True)
class Ground:
    """What holds a plot's water.

    ``hold_l`` (365,) is what the day's root zone holds when full, or the top of bare soil;
    ``full_l`` that of full-grown roots and what lies under them; ``ready_l`` (years, 365) what of
    it is drawn without harm; ``bare_l`` (years, 365) what the air would take of wet bare soil;
    ``caught_l`` (365,) what leaves and mulch keep of a day's rain.
    """

    hold_l: Array
    full_l: float
    ready_l: Array
    bare_l: Array
    caught_l: Array


def unharmed_share(p: float, etc_mm: ArrayLike) -> Array:
    """Share of the available water that roots draw before they feel it, at an ETc in mm a day.

    FAO-56 Table 22's p, adjusted as its footnote says: p + 0.04 (5 − ETc), from 0.1 to 0.8.
    Recalled.
    """
    return np.clip(p + 0.04 * (5 - np.asarray(etc_mm, dtype=float)), 0.1, 0.8)


def root_store_l(plot: AnyPlot, planting: Planting, library: Library,
                 etc_mm: float = 5.0) -> tuple[float, float]:
    """Total and readily available water of a planting's full-grown roots, litres, at an ETc.

    In the ground: 1000 (θFC − θWP) Zr per m² (FAO-56 eq. 82, 83). In mix: volume × available
    share.
    """
    crop = library.crops[planting.crop]
    if isinstance(plot, (Bed, Tree)):
        total = per_m_l(plot, library) * crop.root_m * planting.share
    else:
        total = mix_l(plot) * library.soils[plot.soil].available * planting.share
    return total, total * float(unharmed_share(crop.p, etc_mm))


def per_m_l(plot: Bed | Tree, library: Library) -> float:
    """Available water of a plot's ground for each metre of root depth."""
    return 1000 * library.soils[plot.soil].available * plants.leaf_area_m2(plot, library)


def mix_l(plot: Pots | Tower | Wicking) -> float:
    """Litres of mix in all of a plot's pots, towers or buckets."""
    if isinstance(plot, Wicking):
        return plot.count * plot.bucket_l * POT_FILL
    one = np.pi / 4 * plot.diameter_m**2 * plot.height_m * 1000 * POT_FILL
    return float(plot.count * one)


def root_depth(crop: Crop, planted: str, *, grown: bool = False) -> Array:
    """Root depth in m by day of the year (365,), 0 out of season.

    From ``FIRST_ROOT_M`` at planting to its full at the start of mid-season, in a straight line
    (FAO-56 chapter 8, recalled). What stands for years, or is ``grown``, has it from the start.
    """
    since = (np.arange(365) - day_of_year(planted)) % 365
    if grown or crop.group in PERENNIAL or crop.thirst == "woody":
        depth = np.full(365, crop.root_m)
    else:
        depth = np.interp(since, [0.0, crop.days_ini + crop.days_dev],
                          [min(FIRST_ROOT_M, crop.root_m), crop.root_m])
    return np.where(since < crop.days, depth, 0.0)


def top_layer_mm(soil: Soil) -> tuple[float, float]:
    """What the air takes of wet bare soil, mm, and how much of it readily: TEW and REW.

    FAO-56 eq. 73, recalled: 1000 (θFC − θWP / 2) Ze.
    """
    total = 1000 * (soil.field_capacity - soil.wilting_point / 2) * EVAPORATES_M
    return total, READILY * total


def ground(plot: AnyPlot, library: Library, use_l: Array, air_mm: Array, mulch_stops: float
           ) -> Ground:
    """A plot's ground through all years.

    ``use_l`` (years, 365) is what its crops use, ``air_mm`` the ETo at that place and
    ``mulch_stops`` the share of evaporation that mulch stops.
    """
    area = plants.leaf_area_m2(plot, library)
    totals = [root_store_l(plot, p, library)[0] for p in plot.plantings]
    full = sum(totals)
    grows = [_grows(library.crops[p.crop], p.planted) for p in plot.plantings]
    planted = np.any(grows, axis=0)
    shares = [unharmed_share(library.crops[p.crop].p, use_l / area) for p in plot.plantings]
    p_day = sum((t * s for t, s in zip(totals, shares, strict=True)),
                np.zeros_like(use_l)) / max(full, 1e-9)
    if isinstance(plot, Holder):
        return Ground(np.full(365, full), full, full * p_day, np.zeros_like(use_l), np.zeros(365))
    tew, rew = (mm * area for mm in top_layer_mm(library.soils[plot.soil]))
    tew, rew = min(tew, full), min(rew, full)
    hold = np.zeros(365)
    for planting, here in zip(plot.plantings, grows, strict=True):
        crop = library.crops[planting.crop]
        depth = root_depth(crop, planting.planted, grown=isinstance(plot, Tree))
        one = per_m_l(plot, library) * planting.share
        hold += np.where(here, one * depth, one * min(EVAPORATES_M, crop.root_m))
    hold = np.where(planted, hold, tew)
    bare = np.where(planted, 0.0, BARE_KC * air_mm * area * (1 - mulch_stops))
    caught = (MULCH_MM[plot.mulch] + CANOPY_MM * planted) * area
    return Ground(hold, full, np.where(planted, hold * p_day, rew), bare, caught)


def _grows(crop: Crop, planted: str) -> NDArray[np.bool_]:
    return (np.arange(365) - day_of_year(planted)) % 365 < crop.days
