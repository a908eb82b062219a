"""A storm: how fast each part can carry the water, which gives first, and how the barrels fill.

Capacities are in L/h. A gutter is a half-round of the width given; a downspout a round pipe.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from euhydra.core.garden.model import Downspout, Garden, Roof, Store
from euhydra.core.library import Library
from euhydra.core.storage import Banks, full_z_m
from euhydra.core.storage.vessel import GRAVITY
from euhydra.core.supply.gutter_capacity import conductor_l_h, gutter_l_h, parted, sharing
from euhydra.core.supply.runoff import runoff_share

DIVERTER_HEAD_M = 0.10  # water stands so far over the diverter's hole, from memory
OVERFLOW_HEAD_M = 0.05  # from an overflow's sill to the rim where none is typed, from memory
ORIFICE = 0.61
STRIPS = 64  # of an opening: within 0.1 %
LINK_LOSS = 1.5  # entry and exit, on the velocity head, handbook
LINK_FRICTION = 0.03  # Darcy factor of a short hose, from memory
LINK_HEAD_M = 0.10  # a link that needs more than this between neighbours falls behind, from memory


def opening_l_h(bore_mm: float, head_m: float) -> float:
    """What a round hole passes under a head over its middle: Q = Cd A √(2 g h)."""
    area = math.pi / 4 * (bore_mm / 1000) ** 2
    return ORIFICE * area * math.sqrt(2 * GRAVITY * max(head_m, 0.0)) * 3.6e6


def overflow_l_h(bore_mm: float, head_m: float) -> float:
    """What a round opening in a wall lets out, water standing so far over its lowest edge.

    Part full it is a circular weir (Greve 1932, recalled), full an orifice: each strip of it
    passes at the speed of the water over it, Q = Cd ∫ b(y) √(2 g (h − y)) dy.
    """
    bore = bore_mm / 1000
    if head_m <= 0 or bore <= 0:
        return 0.0
    top = math.acos(max(1 - 2 * head_m / bore, -1.0))  # the angle to where the water stands
    angle = top * (np.arange(STRIPS) + 0.5) / STRIPS
    y = bore / 2 * (1 - np.cos(angle))
    strips = 2 * (bore / 2 * np.sin(angle)) ** 2 * np.sqrt(2 * GRAVITY * (head_m - y))
    return float(ORIFICE * strips.sum() * top / STRIPS * 3.6e6)


def most_over_l_h(store: Store, bore_mm: float | None = None) -> float:
    """What a store's overflow lets out before the water runs over the rim, of this bore if any."""
    head = store.overflow_down_m or OVERFLOW_HEAD_M
    return overflow_l_h(store.overflow_mm if bore_mm is None else bore_mm, head)


def link_l_h(bore_mm: float, length_m: float, head_m: float) -> float:
    """What a short full hose passes between two levels, with the sign of the head."""
    area = math.pi / 4 * (bore_mm / 1000) ** 2
    loss = LINK_LOSS + LINK_FRICTION * length_m / (bore_mm / 1000)
    return math.copysign(area * math.sqrt(2 * GRAVITY * abs(head_m) / loss) * 3.6e6, head_m)


@dataclass(frozen=True)
class Limit:
    """One part of the way from the roof: what it carries, and the rain rate that fills it."""

    part: str
    name: str
    capacity_l_h: float
    gives_at_mm_h: float


@dataclass(frozen=True)
class Spill:
    """Where a bank overflows: the store that does, and the roof, times runoff, that feeds it.

    The roof counts what spills into the bank from those above; ``out`` tells that the water leaves
    the stores there.
    """

    store: Store
    area_m2: float
    out: bool


def spills(garden: Garden, library: Library, banks: Banks) -> tuple[Spill, ...]:
    """Each bank's overflow, in the order water runs: the lowest rim of its stores."""
    areas = [sum(area_into(garden.roofs, library, store) for store in bank.stores)
             for bank in banks.banks]
    for i, to in enumerate(banks.over_to):
        if to >= 0:
            areas[to] += areas[i]
    return tuple(Spill(min(bank.stores, key=full_z_m), areas[i], banks.over_to[i] < 0)
                 for i, bank in enumerate(banks.banks))


def limits(garden: Garden, library: Library, banks: Banks) -> tuple[Limit, ...]:
    """Every part on the way, from gutter to overflow, with the rain rate that fills it.

    The first in the order of rates is the one that gives first.
    """
    found = []
    for roofs in sharing(garden.roofs):
        runs_off = [_at_1_mm_h(roof, library) for roof in roofs]
        sides = max(1, sum(len(roof.downspouts) for roof in roofs))
        narrow = min(roof.gutter_mm for roof in roofs)
        found.append(_limit("gutter", roofs[0].name, gutter_l_h(narrow) * sides, sum(runs_off)))
        for roof, litres in zip(roofs, runs_off, strict=True):
            for spout in roof.downspouts:
                name = f"{roof.name}, {spout.name}"
                found.append(_limit("downspout", name, conductor_l_h(spout.bore_mm),
                                    litres * spout.share))
                if spout.to and spout.to not in garden.merging:
                    found.append(_limit("diverter", name, into_l_h(spout), litres * spout.share))
    for store in garden.stores:
        coming = area_into(garden.roofs, library, store)
        if coming > 0 and store.merges:
            found.append(_limit("merged pipe", store.name, merged_l_h(garden.roofs, store),
                                coming))
        if coming > 0 and store.count > 1:
            found.append(_limit("link", store.name,
                                link_l_h(store.link_mm, store.link_m, LINK_HEAD_M),
                                coming * (store.count - 1) / store.count))
    found += [_limit("overflow", spill.store.name,
                     most_over_l_h(spill.store), spill.area_m2)
              for spill in spills(garden, library, banks) if spill.area_m2 > 0]
    return tuple(sorted(found, key=lambda limit: limit.gives_at_mm_h))


def into_l_h(spout: Downspout) -> float:
    """What a downspout's diverter and restrictor let into the store."""
    through = opening_l_h(spout.diverter_mm, DIVERTER_HEAD_M)
    return min(through, spout.restrictor_l_h) if spout.restrictor_l_h > 0 else through


def merged_head_m(roofs: Sequence[Roof], store: Store) -> float:
    """How far the lowest eave that is led to a store stands over its top, both on one ground."""
    eaves = [roof.eave_m for roof in roofs if any(s.to == store.id for s in roof.downspouts)]
    return min(eaves, default=0.0) - store.stand_m - store.height_m


def merged_l_h(roofs: Sequence[Roof], store: Store) -> float:
    """What the one pipe that a store's downspouts merge into carries, full up to the eave."""
    return link_l_h(store.merged_mm, store.merged_m, max(merged_head_m(roofs, store), 0.0))


def _at_1_mm_h(roof: Roof, library: Library) -> float:
    """Litres an hour that run into a roof's gutter at 1 mm of rain an hour."""
    return roof.area_m2 * runoff_share(roof, library)


def area_into(roofs: Sequence[Roof], library: Library, store: Store) -> float:
    """Roof in m², times runoff, that is led to a store: litres an hour at 1 mm/h."""
    return sum(_at_1_mm_h(roof, library) * spout.share
               for roof in roofs for spout in roof.downspouts if spout.to == store.id)


def inflow_l_h(every: Sequence[Roof], library: Library, store: Store, rain_mm_h: float) -> float:
    """What comes into a store in steady rain, past every part of the way that is too small."""
    total = 0.0
    for roofs in sharing(every):
        reached = [np.array(min(_at_1_mm_h(roof, library) * rain_mm_h,
                                gutter_l_h(roof.gutter_mm) * max(1, len(roof.downspouts))))
                   for roof in roofs]
        parts = parted(roofs, reached, 1.0)
        for roof in roofs:
            for spout in roof.downspouts:
                if spout.to == store.id:
                    down = sum(float(part.down[roof.id, spout.id]) for part in parts)
                    total += down if store.merges else min(down, into_l_h(spout))
    return min(total, merged_l_h(every, store)) if store.merges else total


def _limit(part: str, name: str, capacity_l_h: float, litres_at_1_mm_h: float) -> Limit:
    gives = capacity_l_h / litres_at_1_mm_h if litres_at_1_mm_h > 0 else math.inf
    return Limit(part, name, capacity_l_h, gives)
