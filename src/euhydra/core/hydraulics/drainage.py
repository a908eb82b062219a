"""Water that is too much: the rain garden for an overflow, and the planner for wet ground."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from euhydra.core.garden.model import RainGarden, Store, WetArea
from euhydra.core.hydraulics.friction import head_loss
from euhydra.core.library import Library
from euhydra.core.storage import full_dip_m
from euhydra.core.storage.storm import link_l_h

SHOWER_MM, SHOWER_H = 25.0, 1.0  # the storm a rain garden is made for, from memory
DRY_WITHIN_H = 48.0  # mosquitoes take longer than that to hatch, common practice
SCOUR_M_S = 0.6  # faster water washes bare loam away, from memory
LEAST_FALL = 0.005  # 1 in 200 for a perforated drain, from memory
MANNING_CORRUGATED = 0.016  # handbook, recalled
DRAIN_BORES_MM = (80.0, 100.0, 150.0, 200.0)
GRAVEL_M = 0.10  # over the flat area, common practice
SUMP_DEPTH_M = 0.6  # below the gravel to the pump's start level, from memory
CYCLE_MIN = 6.0  # least time between two starts of a small pump, from memory
LEAST_PUMP_L_H = 1000.0  # the smallest sump pumps, from memory
RUN_SHARE = 0.5  # of the time that the pump runs while it empties the flood, from memory
PUMP_PIPE_MM = 32.0


def rain_garden_m2(litres: float, depth_m: float, soaks_mm_h: float) -> float:
    """Ground that takes a shower's overflow: volume ÷ (hollow + what soaks in meanwhile)."""
    return litres / (1000 * depth_m + soaks_mm_h * SHOWER_H)


def shower_l(area_m2: float) -> float:
    """Litres that a shower brings off so much roof (times runoff)."""
    return area_m2 * SHOWER_MM


def soaks_away_h(hollow: RainGarden, library: Library) -> float:
    """Hours until a full hollow is dry."""
    return 1000 * hollow.depth_m / library.soils[hollow.soil].soaks_mm_h


def outflow_m_s(store: Store) -> float:
    """Speed, at most, at the foot of an overflow pipe that falls to the ground: it runs full."""
    drop = store.stand_m + full_dip_m(store)
    litres_h = link_l_h(store.overflow_mm, drop, drop)
    return litres_h / 3.6e6 / (math.pi / 4 * (store.overflow_mm / 1000) ** 2)


@dataclass(frozen=True)
class WetPlan:
    """What to do with wet ground. Litres, L/h, metres; what does not apply is 0.

    ``way`` is "soaks" where the soil takes it in time, "drain" where there is fall, else "pump".
    """

    way: Literal["soaks", "drain", "pump"]
    stands_l: float
    soaks_h: float
    slope: float
    flow_l_h: float
    drain_mm: float
    gravel_m3: float
    sump_l: float
    lift_m: float
    friction_m: float

    @property
    def head_m(self) -> float:
        """What the pump has to give."""
        return self.lift_m + self.friction_m


def wet_plan(area: WetArea, library: Library) -> WetPlan:
    """The plan for one wet area: let it soak, lay a perforated drain, or a sump and a pump.

    The flood is to be gone in ``drain_days``. A drain of so much fall carries Q = 0.3117/n d^8/3
    √S (Manning, full, recalled); a sump holds Q·T/4 so that the pump starts no oftener than every
    T (common practice).
    """
    stands = area.length_m * area.width_m * area.flood_m * 1000
    soaks = 1000 * area.flood_m / library.soils[area.soil].soaks_mm_h
    slope = area.fall_m / area.outfall_m
    flow = stands / (24 * area.drain_days)
    if soaks <= 24 * area.drain_days and area.months < 1:
        return WetPlan("soaks", stands, soaks, slope, 0, 0, 0, 0, 0, 0)
    if slope >= LEAST_FALL:
        bore = next((mm for mm in DRAIN_BORES_MM if full_pipe_l_h(mm, slope) >= flow),
                    DRAIN_BORES_MM[-1])
        return WetPlan("drain", stands, soaks, slope, flow, bore, 0, 0, 0, 0)
    pumped = max(flow / RUN_SHARE, LEAST_PUMP_L_H)
    friction = float(head_loss(pumped, area.outfall_m, PUMP_PIPE_MM))
    return WetPlan("pump", stands, soaks, slope, pumped, 0,
                   area.length_m * area.width_m * GRAVEL_M, pumped * CYCLE_MIN / 60 / 4,
                   max(SUMP_DEPTH_M - area.fall_m, 0.0), friction)


def full_pipe_l_h(bore_mm: float, slope: float) -> float:
    """Flow of a corrugated drain running full by Manning."""
    d = bore_mm / 1000
    return 0.3117 / MANNING_CORRUGATED * math.pow(d, 8 / 3) * math.sqrt(slope) * 3.6e6
