"""What a roof yields, day by day, and what is lost on the way to the stores."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray
from shapely.geometry import Polygon

from euhydra.core.garden.model import Downspout, Roof
from euhydra.core.library import Library

Days = NDArray[np.float64]
RAIN_HOURS = 6.0  # hours that a wet day's rain falls in, for a restrictor; from memory


@dataclass(frozen=True)
class RoofYield:
    """Litres by day, shape as the rain given. ``fell`` = lost + flushed + astray + caught.

    ``lost_l`` wets the roof and the gutter guard, ``flushed_l`` is the first flush, ``astray_l``
    goes down other pipes or past a restrictor; ``by_store`` is what reaches each store.
    """

    fell_l: Days
    lost_l: Days
    flushed_l: Days
    astray_l: Days
    by_store: Mapping[str, Days]

    @cached_property
    def caught_l(self) -> Days:
        """What reaches any store."""
        return sum(self.by_store.values(), np.zeros_like(self.fell_l))


def roof_area_m2(roof: Roof) -> float:
    """Plan area: what the rain falls on, whatever the slope."""
    if roof.outline:
        return float(Polygon([(p.x_m, p.y_m) for p in roof.outline]).area)
    return roof.width_m * roof.depth_m


def roof_box(roof: Roof) -> tuple[float, float, float, float]:
    """The roof's west, south, east and north edges in plan, m."""
    xs, ys = ([p.x_m for p in roof.outline], [p.y_m for p in roof.outline])
    if roof.outline:
        return min(xs), min(ys), max(xs), max(ys)
    x, y = roof.corner.x_m, roof.corner.y_m
    return x, y, x + roof.width_m, y + roof.depth_m


def roof_yield(rain_mm: Days, roof: Roof, library: Library) -> RoofYield:
    """Litres that reach each store from one roof.

    1 mm on 1 m² is 1 L. Runoff is area × rain × runoff coefficient × what the guard lets by
    (rainwater manuals); each event (a run of wet days) gives up its first flush; what is left
    parts among the downspouts by their shares.
    """
    area = roof_area_m2(roof)
    fell = rain_mm * area
    ran_off = fell * runoff_share(roof, library)
    flushed = first_flush(ran_off, roof.first_flush_mm * area, roof.flush_days)
    left = ran_off - flushed
    by_store: dict[str, Days] = {}
    for spout in roof.downspouts:
        if spout.to:
            led = restricted(left * spout.share, spout)
            by_store[spout.to] = by_store.get(spout.to, 0.0) + led
    astray = left - sum(by_store.values(), np.zeros_like(left))
    return RoofYield(fell, fell - ran_off, flushed, astray, by_store)


def runoff_share(roof: Roof, library: Library) -> float:
    """Of the rain on the roof, what comes into the gutter past its guard."""
    return library.roof_materials[roof.material].runoff * library.guards[roof.guard].passes


def restricted(litres: Days, spout: Downspout) -> Days:
    """What a restrictor lets by of each day's water; the rest goes on down the pipe.

    A day's rain is taken to fall in six hours (from memory): a daily record has no finer grain.
    """
    if spout.restrictor_l_h <= 0:
        return litres
    return np.minimum(litres, spout.restrictor_l_h * RAIN_HOURS)


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
