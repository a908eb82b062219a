"""What a roof yields, day by day, and what is lost on the way to the stores."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from euhydra.core.garden.model import Roof
from euhydra.core.library import Library
from euhydra.core.supply.gutter_capacity import parted

Days = NDArray[np.float64]
RAIN_HOURS = 6.0  # hours that a wet day's rain falls in, for a restrictor; from memory


@dataclass(frozen=True)
class RoofYield:
    """Litres by day, shape as the rain given.

    ``fell`` = lost + flushed + over + astray + winter + caught. ``lost_l`` wets the roof and the
    gutter guard, ``flushed_l`` is the first flush, ``over_l`` runs over the gutter's edge,
    ``astray_l`` goes down other pipes, ``winter_l`` runs by while the stores are in for the frost;
    ``by_store`` is what reaches each store.
    """

    fell_l: Days
    lost_l: Days
    flushed_l: Days
    over_l: Days
    astray_l: Days
    winter_l: Days
    by_store: Mapping[str, Days]

    @cached_property
    def caught_l(self) -> Days:
        """What reaches any store."""
        return sum(self.by_store.values(), np.zeros_like(self.fell_l))


def roof_box(roof: Roof) -> tuple[float, float, float, float]:
    """The roof's west, south, east and north edges in plan, m."""
    xs, ys = ([p.x_m for p in roof.outline], [p.y_m for p in roof.outline])
    if roof.outline:
        return min(xs), min(ys), max(xs), max(ys)
    x, y = roof.corner.x_m, roof.corner.y_m
    return x, y, x + roof.width_m, y + roof.depth_m


def roof_yields(rain_mm: Days, roofs: Sequence[Roof], library: Library) -> dict[str, RoofYield]:
    """Litres that reach each store from roofs that share a gutter, by roof id.

    1 mm on 1 m² is 1 L. Runoff is area × rain × runoff coefficient × what the guard lets by
    (rainwater manuals); each event (a run of wet days) gives up its first flush; what is left
    parts among the gutter's downspouts. A day's rain is taken to fall in six hours (from memory):
    a daily record has no finer grain.
    """
    falls = [rain_mm * roof.area_m2 for roof in roofs]
    ran = [fell * runoff_share(roof, library) for fell, roof in zip(falls, roofs, strict=True)]
    flushed = [first_flush(water, flush_l(roof), roof.flush_days)
               for water, roof in zip(ran, roofs, strict=True)]
    left = [water - flush for water, flush in zip(ran, flushed, strict=True)]
    leads = {(roof.id, spout.id): spout.to for roof in roofs for spout in roof.downspouts}
    found = {}
    for i, (roof, part) in enumerate(zip(roofs, parted(roofs, left, RAIN_HOURS), strict=True)):
        by_store: dict[str, Days] = {}
        for spout, litres in part.down.items():
            if leads[spout]:
                by_store[leads[spout]] = by_store.get(leads[spout], 0.0) + litres
        astray = left[i] - part.over_edge - sum(by_store.values(), np.zeros_like(left[i]))
        found[roof.id] = RoofYield(falls[i], falls[i] - ran[i], flushed[i], part.over_edge, astray,
                                   np.zeros_like(astray), by_store)
    return found


def wintered(told: RoofYield, out: Mapping[str, NDArray[np.bool_]]) -> RoofYield:
    """What a roof yields where stores are out of use on some days of the year (365,), by store.

    Their diverters are closed then, and their water runs by.
    """
    winter = np.zeros_like(told.winter_l)
    by_store = dict(told.by_store)
    for store in set(by_store) & set(out):
        winter = winter + by_store[store] * out[store]
        by_store[store] = by_store[store] * ~out[store]
    return replace(told, winter_l=winter, by_store=by_store)


def runoff_share(roof: Roof, library: Library) -> float:
    """Of the rain on the roof, what comes into the gutter past its guard: as read off, where it
    was, else by the table.
    """
    return roof.own_runoff or table_runoff(roof, library)


def table_runoff(roof: Roof, library: Library) -> float:
    """The same by its material and its guard."""
    return library.roof_materials[roof.material].runoff * library.guards[roof.guard].passes


def flush_l(roof: Roof) -> float:
    """Litres that a roof's first flush turns away: its depth over all of the roof."""
    return roof.first_flush_mm * roof.area_m2


def flush_chamber_l(roofs: Sequence[Roof], store: str) -> float:
    """A chamber for the first flush of all downspouts that are led to a store, by their shares."""
    return sum(flush_l(roof) * spout.share
               for roof in roofs for spout in roof.downspouts if spout.to == store)


def first_flush(ran_off_l: Days, chamber_l: float, dry_days: float = 1.0) -> Days:
    """The part of each day's runoff that fills the first-flush chamber.

    The chamber drips empty over ``dry_days`` days without rain, as the roof soils again: a shower
    after one dry day is owed 1/``dry_days`` of the flush. Any shape; days run along the last axis,
    and years follow on from each other.
    """
    room, taken = chamber_l, []
    for litres in ran_off_l.reshape(-1).tolist():
        if litres > 0:
            take = min(room, litres)
            room -= take
            taken.append(take)
        else:
            room = min(chamber_l, room + chamber_l / dry_days)
            taken.append(0.0)
    return np.array(taken).reshape(ran_off_l.shape)
