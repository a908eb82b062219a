"""When it is not the month's mean: after rain, in a heat wave, after planting, on slow soil."""

from __future__ import annotations

import math
from collections.abc import Mapping

import numpy as np

from euhydra.core.demand.demand import Demand
from euhydra.core.garden.model import Garden, Zone
from euhydra.core.hydraulics.flows import Flows
from euhydra.core.layout.wetted import Wetted
from euhydra.core.library import Library
from euhydra.core.schedule.schedule import Schedule
from euhydra.core.schedule.settings import Setting
from euhydra.core.schedule.timing import LEAST_DAYS, LEAST_NEED_L_DAY
from euhydra.core.weather.generator import MONTH_OF_DAY

LONGEST_HOLD_H = 168.0
DELAYS_H = (24, 48, 72)  # what a dial's delay can be set to, common practice


def hold_after_rain_h(demand: Demand, zone: Zone, rain_mm: float, month: int) -> float:
    """Hours that a zone may stay shut after so much rain falls on roots that want water.

    What of it the roots hold ÷ what their crop uses in an hour of the month; the plot that wants
    water first decides. 0 where leaves or a roof keep the rain off.
    """
    found = []
    for plot in zone.plots:
        thirst = demand.thirsts[plot]
        use = float(thirst.use_by_month[month])
        if use <= LEAST_NEED_L_DAY:
            continue
        catches = thirst.rain_l.any()
        held = min(rain_mm * thirst.area_m2, thirst.raw_l) if catches else 0.0
        found.append(24 * held / use)
    return min(min(found, default=0.0), LONGEST_HOLD_H)


def delay_h(hours: float) -> int:
    """The longest delay that a dial has within so many hours; 0 where none is so short."""
    return max((h for h in DELAYS_H if h <= hours + 1e-6), default=0)


def heat_wave(demand: Demand, zone: Zone, month: int) -> float:
    """How many times the month's mean need a zone has in the hottest tenth of its weeks.

    Only days on which the crop stands count; 1 where it stands for less than a week.
    """
    found = []
    for plot in zone.plots:
        thirst = demand.thirsts[plot]
        stands = (month == MONTH_OF_DAY) & (thirst.kc > 0)
        mean = float(thirst.net_l[:, stands].mean()) if stands.sum() >= LEAST_DAYS else 0.0
        if mean > LEAST_NEED_L_DAY:
            found.append(float(np.percentile(thirst.net_by_week[:, stands], 90)) / mean)
    return max(found, default=1.0)


def heat_wave_min(demand: Demand, zone: Zone, setting: Setting) -> float:
    """Minutes of a run in a heat wave, at the rhythm that is set."""
    return heat_wave(demand, zone, setting.month) * setting.minutes


def wetting_mm_h(garden: Garden, library: Library, flows: Flows, wetted: Mapping[str, Wetted],
                 zone: Zone) -> tuple[float, float]:
    """How fast the zone's water comes on the ground that it wets, and what that soil takes, mm/h.

    Of the plot where it exceeds that most; (0, inf) where no plot stands in the ground.
    """
    worst = (0.0, math.inf)
    flow = flows[zone.id]["half"]
    for plot in zone.plots:
        ground = wetted.get(plot)
        if ground is None or ground.ground.area < 1e-6:
            continue
        rate = flow.plot_flow_l_h(plot) * flows.read_share(zone) / ground.ground.area
        takes = library.soils[garden.plot(plot).soil].soaks_mm_h
        if rate / takes > worst[0] / worst[1]:
            worst = rate, takes
    return worst


def cycles(rate_mm_h: float, takes_mm_h: float) -> int:
    """Into how many parts a run is split, with pauses as long as the parts, so that it soaks in.

    Water that comes n times as fast as the soil takes it wants n parts, from memory.
    """
    return max(1, math.ceil(rate_mm_h / takes_mm_h - 1e-9))


def first_weeks_min(schedule: Schedule, zone: Zone, month: int) -> float:
    """Minutes a day in the first two weeks after planting: the day's need, every day."""
    return schedule.needs[zone.id][month].run_min(1.0)
