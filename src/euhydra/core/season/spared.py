"""What water that comes of itself spares: cans carried, minutes by hand, tap water paid for."""

from __future__ import annotations

import numpy as np

from euhydra.core.garden.model import Garden
from euhydra.core.garden.today import Today
from euhydra.core.schedule.by_hand import CAN_L, CAN_MIN, hose_l_h
from euhydra.core.schedule.schedule import Schedule
from euhydra.core.season.state import Season
from euhydra.core.weather.generator import MONTH_OF_DAY

PRICE_M3 = 2.5  # of tap water, made-up price book


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
        return hose_l_h(garden) * today.hose_min / 60
    return None


def litres_not_carried(season: Season) -> float:
    """Litres of a mean year that came to roots of themselves: not past them, not by hand."""
    laid = np.array([plot not in season.world.carried for plot in season.world.plots], dtype=bool)
    return season.a_year((season.given - season.wasted)[laid].sum(axis=0) - season.by_hand)


def minutes_after(season: Season, schedule: Schedule) -> float:
    """Minutes a day in season that go into filling stores and watering plots by hand."""
    days = int(season.world.grows.any(axis=0).sum())
    return minutes_a_year(season, schedule) / days if days else 0.0


def minutes_a_year(season: Season, schedule: Schedule) -> float:
    """Minutes of a mean year that go into filling stores, a can at a time, and into plots."""
    plots = sum(each.a_week_min(month) / 7 * int((each.days & (month == MONTH_OF_DAY)).sum())
                for each in schedule.by_hand.values() for month in range(12))
    stores = season.a_year(season.poured.sum(axis=0)) / CAN_L * CAN_MIN
    return stores + plots
