"""What zones, timers and hands take from their sources a day, as they are set."""

from __future__ import annotations

from collections.abc import Collection
from typing import TYPE_CHECKING

from euhydra.core.garden.model import Zone

if TYPE_CHECKING:
    from euhydra.core.results.results import Results


def zone_l_day(r: Results, zone: Zone, month: int) -> float:
    """What a zone takes a day in a month (0 to 11): by its timer, or as its float valves drink."""
    if zone.id in r.flows.shut:
        return 0.0
    if not zone.timed:
        return sum(float(r.demand.thirsts[p].use_by_month[month]) for p in zone.plots)
    setting = r.schedule.setting_in(zone.id, month)
    if setting is None:
        return 0.0
    return r.flows.run_flow_l_h(zone) * setting.minutes / 60 * setting.runs_a_week / 7


def by_hand_l_day(r: Results, sources: Collection[str], month: int) -> float:
    """What cans and hoses take from sources a day."""
    return sum(each.a_day_l(month) for each in r.schedule.by_hand.values()
               if each.source in sources)


def taken_l_day(r: Results, sources: Collection[str], month: int) -> float:
    """What the timers, set as they are, and cans and hoses take from sources a day.

    ``sources`` are the ids of stores or taps.
    """
    return by_hand_l_day(r, sources, month) + sum(
        zone_l_day(r, zone, month) for zone in r.garden.zones if zone.source in sources)
