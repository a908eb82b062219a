"""Marking out: the heights to mark and drill, for this barrel on this stand."""

from __future__ import annotations

from dataclasses import dataclass

from euhydra.core.garden.model import Downspout, Garden, Roof, Store
from euhydra.core.storage import base_z_m, full_dip_m
from euhydra.core.terrain.elevation import level_m

OUTLET_MM = 25.0  # a spigot's hole, common practice
BELOW_MARK_M = 0.05  # the diverter's hole under the mark, common practice


@dataclass(frozen=True)
class Mark:
    """A height to mark: over the ground there, and over the vessel's base (None on a downspout).

    ``drill_mm`` is the hole's bore, 0 for a mark that is not drilled; ``times`` in how many places
    the store has it.
    """

    where: str
    what: str
    over_ground_m: float
    over_base_m: float | None
    drill_mm: float
    times: int = 1


def spouts_into(garden: Garden, store: Store) -> list[tuple[Roof, Downspout]]:
    """Downspouts led to a store, with their roofs."""
    return [(roof, spout) for roof in garden.roofs for spout in roof.downspouts
            if spout.to == store.id]


def roof_ground_m(garden: Garden, roof: Roof, store: Store) -> float:
    """Ground under a roof's eave: from the spot heights, else that of the store it fills."""
    level = level_m(garden.site, roof.corner)
    return store.ground_m if level is None else level


def marks(garden: Garden, store: Store) -> tuple[Mark, ...]:
    """Every mark for one store, from the downspout down to the lowest hole.

    The barrel's top is levelled across to the downspout and marked; the hole for the diverter is
    drilled 5 cm under the mark, in the middle of the downspout (common practice). Downspouts that
    merge into one pipe are not drilled.
    """
    base = base_z_m(store)
    top = base + store.height_m
    found: list[Mark] = []
    merged = store.merges and bool(spouts_into(garden, store))
    if merged:
        found.append(Mark(store.name, "inlet of the rain pipe",
                          store.stand_m + store.height_m - BELOW_MARK_M,
                          store.height_m - BELOW_MARK_M, store.merged_mm))
    for roof, spout in spouts_into(garden, store) if not merged else ():
        ground = roof_ground_m(garden, roof, store)
        where = f"{spout.name}, {roof.name}"
        found += [Mark(where, "level with the barrel's top", top - ground, None, 0.0),
                  Mark(where, "drill for the diverter", top - BELOW_MARK_M - ground,
                       None, spout.diverter_mm)]
        found.append(Mark(store.name, "inlet from the diverter",
                          store.stand_m + store.height_m - BELOW_MARK_M,
                          store.height_m - BELOW_MARK_M, spout.diverter_mm))
    holes = [("overflow", full_dip_m(store), store.overflow_mm, 1)]
    if store.hose_m > 0:
        holes.append(("upper outlet, for a hose", store.hose_m, OUTLET_MM, 1))
    holes.append(("lower outlet, for the lines", store.outlet_m, OUTLET_MM, 1))
    if store.count > 1 and store.linked == "link":
        holes.append(("link to the next", store.outlet_m, store.link_mm,
                      2 * (store.count - 1)))
    found += [Mark(store.name, what, store.stand_m + height, height, bore, times)
              for what, height, bore, times in holes]
    return tuple(found)


def over_gutter_m(garden: Garden, store: Store) -> float:
    """How far the barrel's top stands over the lowest eave that is to fill it; under 0 is well."""
    tops = [base_z_m(store) + store.height_m - (roof_ground_m(garden, roof, store) + roof.eave_m)
            for roof, _ in spouts_into(garden, store)]
    return max(tops, default=-1.0)
