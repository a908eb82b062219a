"""What a roof yields, day by day, and what is lost on the way to the store."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from euhydra.core.garden.model import Roof
from euhydra.core.library import RoofMaterial

Days = NDArray[np.float64]


@dataclass(frozen=True)
class RoofYield:
    """Litres by day, shape as the rain given. ``fell`` = lost + flushed + astray + caught."""

    fell_l: Days
    lost_l: Days
    flushed_l: Days
    astray_l: Days
    caught_l: Days


def roof_area_m2(roof: Roof) -> float:
    """Plan area: what the rain falls on, whatever the slope."""
    return roof.width_m * roof.depth_m


def roof_yield(rain_mm: Days, roof: Roof, material: RoofMaterial) -> RoofYield:
    """Litres that reach the store from one roof.

    1 mm on 1 m² is 1 L. Runoff is area × rain × runoff coefficient (rainwater manuals); each
    event (a run of wet days) gives up its first flush, the chamber having dripped empty on the
    dry day before; of the rest ``gutter_share`` reaches the store.
    """
    area = roof_area_m2(roof)
    fell = rain_mm * area
    ran_off = fell * material.runoff
    flushed = first_flush(ran_off, roof.first_flush_mm * area)
    reached = (ran_off - flushed) * roof.gutter_share
    return RoofYield(fell, fell - ran_off, flushed, ran_off - flushed - reached, reached)


def first_flush(ran_off_l: Days, chamber_l: float) -> Days:
    """The share of each day's runoff that fills the first-flush chamber.

    The chamber takes up to ``chamber_l`` in each run of wet days. Any shape; days run along the
    last axis, and years follow on from each other.
    """
    flat = ran_off_l.reshape(-1)
    total = np.cumsum(flat)
    dry_total = np.maximum.accumulate(np.where(flat == 0, total, 0.0))
    in_event = total - dry_total
    taken = np.minimum(in_event, chamber_l) - np.minimum(in_event - flat, chamber_l)
    return np.asarray(np.where(flat > 0, taken, 0.0).reshape(ran_off_l.shape))


def minutes_to_fill(volume_l: float, area_m2: float, runoff: float, rain_mm_h: float) -> float:
    """Minutes for rain at a steady rate to fill a store: Q = C·i·A. Infinite in no rain."""
    litres_h = runoff * rain_mm_h * area_m2
    return 60 * volume_l / litres_h if litres_h > 0 else float("inf")
