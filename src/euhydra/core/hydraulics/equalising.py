"""How barrels that are joined level each other."""

from __future__ import annotations

import math
from dataclasses import dataclass

from euhydra.core.garden.model import Garden
from euhydra.core.storage import base_area_m2
from euhydra.core.storage.storm import link_l_h

APART_M, LEVEL_M = 0.30, 0.01  # from so far apart to as good as level
SEEN_M = 0.05


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
