"""Self-watering rows: the water that stands in them, and their thirst in the hottest hour."""

from __future__ import annotations

import math

from euhydra.core.demand.crop_water import PlotThirst
from euhydra.core.garden.model import Wicking

PEAK_HOUR = 0.13  # of a day's thirst in its hottest hour, from memory
GUTTER_FULL = 0.8  # a gutter's section is rounder than a box, from memory


def peak_l_h(thirst: PlotThirst) -> float:
    """What a row drinks in the hottest hour of its hottest week, L/h."""
    return thirst.hottest_week_l * PEAK_HOUR


def free_water_l(row: Wicking) -> float:
    """Water that stands in the gutter, or in the feet of the buckets."""
    if row.kind == "gutter":
        return row.gutter_mm / 1000 * row.water_m * row.length_m * GUTTER_FULL * 1000
    return row.count * math.pi / 4 * row.diameter_m**2 * row.water_m * 1000
