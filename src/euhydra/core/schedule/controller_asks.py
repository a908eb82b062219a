"""What a weather-adjusting controller asks of each valve: plants, soil, sun, slope, outlet rate."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import combinations

from euhydra.core.demand.demand import Demand
from euhydra.core.garden.model import AnyPlot, Garden, Zone
from euhydra.core.hydraulics.flows import Flows
from euhydra.core.layout.zoning import thirst_group
from euhydra.core.library import Library
from euhydra.core.terrain import elevation, geometry

HALF_SHADE_H, FULL_SHADE_H = 2.0, 6.0  # shade about noon, from memory
KINDS = {"seedling": "seedlings", "leafy": "vegetables", "fruiting": "vegetables",
         "woody": "shrubs and trees"}


@dataclass(frozen=True)
class Asked:
    """The answers for one valve; ``rate_mm_h`` is over the leaf area, ``slope`` a share."""

    zone: str
    plants: str
    soil: str
    sun: str
    slope: float
    rate_mm_h: float


def asked(garden: Garden, library: Library, flows: Flows, demand: Demand, zone: Zone) -> Asked:
    """What to answer for a zone: as its thirstiest plot stands, at its flow with half the water."""
    plots = [garden.plot(p) for p in zone.plots]
    lead = max(plots, key=lambda p: float(demand.thirsts[p.id].net_l.sum()))
    area = sum(demand.thirsts[p.id].area_m2 for p in plots)
    potted = demand.thirsts[lead.id].potted
    return Asked(
        zone.id, "pots" if potted else KINDS.get(thirst_group(lead, library), "vegetables"),
        library.soils[lead.soil].name, _sun(lead), max(_slope(garden, p) for p in plots),
        flows.run_flow_l_h(zone) / area if area > 0 else 0.0)


def _sun(plot: AnyPlot) -> str:
    if plot.shade == "none" or plot.shade_h < HALF_SHADE_H:
        return "full sun"
    return "half shade" if plot.shade_h < FULL_SHADE_H else "shade"


def _slope(garden: Garden, plot: AnyPlot) -> float:
    """Fall over length between the corners where it is steepest; 0 without spot heights."""
    corners = [(x, y) for x, y, *_ in geometry.outline(plot).exterior.coords[:-1]]
    found = [0.0]
    for a, b in combinations(corners, 2):
        low, high = (elevation.level_m(garden.site, geometry.point(at)) for at in (a, b))
        apart = ((a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2) ** 0.5
        if low is not None and high is not None and apart > 0:
            found.append(abs(high - low) / apart)
    return max(found)
