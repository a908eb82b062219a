"""How barrels that are joined level each other, and how long a surge drum takes to empty."""

from __future__ import annotations

import math
from dataclasses import dataclass

from euhydra.core.garden.model import Drain, Garden
from euhydra.core.hydraulics.pump_duty import starts_an_hour
from euhydra.core.library import Library
from euhydra.core.storage import base_area_m2
from euhydra.core.storage.storm import link_l_h

APART_M, LEVEL_M = 0.30, 0.01  # from so far apart to as good as level
SEEN_M = 0.05
HOSE_WETS_M = 0.3  # a soaker wets so wide a strip: three in a 90 cm bed, common practice
FLOAT_SHARE = 0.5  # of the drum between a float's on and off, from memory
NEARLY = 0.02  # of the drum left: as good as empty


@dataclass(frozen=True)
class Levelling:
    """A joint between two barrels: its flow with levels 5 cm apart, and minutes to level 30 cm."""

    name: str
    kind: str
    bore_mm: float
    flow_l_h: float
    minutes: float


def levellings(garden: Garden) -> tuple[Levelling, ...]:
    """Every link and siphon, and the links between like barrels that stand in a row."""
    found = []
    for store in garden.stores:
        if store.count > 1:
            area = base_area_m2(store)
            found.append(_levelling(f"Within {store.name}", store.linked, store.link_mm,
                                    store.link_m, area, area))
    for joint in garden.joints:
        if joint.kind in ("link", "siphon"):
            a, b = (base_area_m2(garden.store_of(s)) * garden.store_of(s).count
                    for s in (joint.a, joint.b))
            found.append(_levelling(joint.name, joint.kind, joint.bore_mm, joint.length_m, a, b))
    return tuple(found)


def _levelling(name: str, kind: str, bore_mm: float, length_m: float, a_m2: float, b_m2: float
               ) -> Levelling:
    """The flow goes with the root of the difference, so that the time has a closed form.

    dh/dt = −C √h (1/A + 1/B), from h₀ to h₁: t = 2 (√h₀ − √h₁) / (C (1/A + 1/B)).
    """
    c = link_l_h(bore_mm, length_m, 1.0) / 1000  # m³/h at a metre
    hours = 2 * (math.sqrt(APART_M) - math.sqrt(LEVEL_M)) / (c * (1 / a_m2 + 1 / b_m2))
    return Levelling(name, kind, bore_mm, link_l_h(bore_mm, length_m, SEEN_M), 60 * hours)


@dataclass(frozen=True)
class DrumEmpties:
    """A full surge drum: hours to empty through its soaker by gravity, and by its pump.

    ``starts_h`` is how often an hour a float starts the pump on the busiest hour of a wash.
    """

    hose_m: float
    gravity_h: float
    pump_h: float
    starts_h: float


def drum_empties(drain: Drain, library: Library, pump_l_h: float) -> DrumEmpties:
    """Gravity against a pump on one drum.

    A porous hose gives in proportion to the head over it, which falls with the drum:
    V(t) = V₀ e^(−t/τ), τ = V₀ over its flow with the drum full.
    """
    soaker, tube = library.outlets["soaker"], library.tubes["soaker"]
    hose = drain.drip_m2 / HOSE_WETS_M
    high = (drain.drum_l / 1000 * 4 / math.pi / 0.35) ** (1 / 3)  # of a drum 0.59 as wide as high
    full = soaker.k * high**soaker.x * hose / tube.outlet_spacing_m
    inflow = drain.litres_a_use * 60 / drain.use_min
    return DrumEmpties(hose, drain.drum_l / full * math.log(1 / NEARLY),
                       drain.drum_l * (1 - NEARLY) / pump_l_h,
                       starts_an_hour(pump_l_h, inflow, FLOAT_SHARE * drain.drum_l))
