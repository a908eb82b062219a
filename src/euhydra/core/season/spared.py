"""What water that comes of itself spares: cans carried, minutes by hand, tap water paid for."""

from __future__ import annotations

from euhydra.core.garden.model import Garden
from euhydra.core.garden.today import Today
from euhydra.core.season.state import Season

CAN_L = 10.0  # common practice
CAN_MIN = 2.5  # to fill a can, carry and pour it, from memory
PRICE_M3 = 2.5  # of tap water, made-up price book
HOSE_L_H = 900.0  # of a hose that nobody has measured: 10 L in 40 s, from memory


def minutes_before(today: Today) -> float:
    """Minutes by hand on a day of high summer, as it was done until now."""
    return {"can": today.cans * CAN_MIN * today.can_l / CAN_L, "hose": today.hose_min}.get(
        today.way, 0.0)


def litres_before(garden: Garden) -> float | None:
    """Litres given on such a day; of a hose by the garden's tap. None where a timer gave them."""
    today = garden.today
    if today.way == "can":
        return today.cans * today.can_l
    if today.way == "hose":
        tap = next(iter(garden.taps), None)
        l_h = 3600 * tap.bucket_l / tap.bucket_s if tap else HOSE_L_H
        return l_h * today.hose_min / 60
    return None


def litres_not_carried(season: Season) -> float:
    """Litres of a mean year that came to roots of themselves: not past them, not by hand."""
    return season.a_year((season.given - season.wasted).sum(axis=0) - season.by_hand)


def minutes_after(season: Season) -> float:
    """Minutes a day in season that go into filling stores by hand, a can at a time."""
    days = int(season.world.grows.any(axis=0).sum())
    return season.a_year(season.poured.sum(axis=0)) / CAN_L * CAN_MIN / days if days else 0.0
