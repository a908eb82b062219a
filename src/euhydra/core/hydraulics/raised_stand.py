"""The lowest stand under a store that cures a lack of head."""

from __future__ import annotations

import math
from collections.abc import Iterable

import numpy as np

from euhydra.core.garden.model import Garden, Line, Zone
from euhydra.core.hydraulics.surfaces import water_levels
from euhydra.core.hydraulics.zone_flow import solve_zone
from euhydra.core.hydraulics.zone_pipes import NOTHING, Drinks
from euhydra.core.library import Library

CURED_M = 1e-6


def stand_that_cures(garden: Garden, library: Library, zone: Zone, most_m: float,
                     drinks: Drinks = NOTHING, step_m: float = 0.05) -> float | None:
    """The lowest stand, in steps, at which the zone's last water still reaches every outlet.

    None when even ``most_m`` does not. More head never gives less flow, so halving finds it.
    """
    if garden.tap_of(zone.source):
        return None
    stand_m = garden.store_of(zone.source).stand_m
    steps = np.arange(np.ceil(stand_m / step_m + 1e-9), most_m / step_m + 1e-9)
    low, high = 0, len(steps)
    while low < high:
        middle = (low + high) // 2
        if _short_at_stand(garden, library, zone, float(steps[middle] * step_m),
                           drinks) <= CURED_M:
            high = middle
        else:
            low = middle + 1
    return None if low == len(steps) else round(float(steps[low] * step_m), 3)


def stand_that_cures_all(garden: Garden, library: Library, zones: Iterable[Zone], most_m: float,
                         drinks: Drinks = NOTHING) -> float | None:
    """The lowest stand at which every one of some zones of a store is cured; None if none does.

    A zone that is cured by what the others need is not searched for.
    """
    found: float | None = None
    for zone in zones:
        if found is not None and _short_at_stand(garden, library, zone, found, drinks) <= CURED_M:
            continue
        needed = stand_that_cures(garden, library, zone, most_m, drinks)
        if needed is None:
            return None
        found = max(found or 0.0, needed)
    return found


def _short_at_stand(garden: Garden, library: Library, zone: Zone, stand_m: float,
                    drinks: Drinks) -> float:
    higher = raised(garden, zone, stand_m)
    return solve_zone(higher, library, zone, water_levels(higher, zone.source)["low"],
                      drinks).short_m


def raised(garden: Garden, zone: Zone, stand_m: float) -> Garden:
    """The garden with a zone's store on another stand and its pipes as they lie.

    As the edit makes it, without laying every line anew: only where the zone's pipe leaves the
    store moves.
    """
    store = garden.store_of(zone.source)
    source = next(line.start for line in garden.lines if line.zone == zone.id)
    level = {n.id: n.z_m for n in garden.nodes}
    up = level[source] + stand_m - store.stand_m

    def length_m(line: Line) -> float:
        fell = level[line.end] - level[source]
        along = math.sqrt(max(line.length_m**2 - fell**2, 0.0))
        return round(math.hypot(along, level[line.end] - up), 4)

    return garden.model_copy(update={
        "stores": tuple(s.model_copy(update={"stand_m": stand_m}) if s.id == store.id else s
                        for s in garden.stores),
        "drains": tuple(d.model_copy(update={"stand_m": stand_m}) if d.id == store.id else d
                        for d in garden.drains),
        "nodes": tuple(n.model_copy(update={"z_m": round(up, 4)}) if n.id == source else n
                       for n in garden.nodes),
        "lines": tuple(x.model_copy(update={"length_m": length_m(x)}) if x.start == source else x
                       for x in garden.lines)})


