"""Where a garden's water is worst off: its zones with the least head, and what took it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from euhydra.core.garden.model import Garden, Zone
from euhydra.core.hydraulics import zone_flow
from euhydra.core.hydraulics.network import Pipe
from euhydra.core.layout.heads import fitting_name
from euhydra.core.statements.figures import Amount, Term

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

GOOD_EVENNESS = 0.80
AIR_M, RUNS_L_H = 0.05, 0.01  # a pipe so high over the line that runs gathers air


def worst_zone(r: Results) -> Zone:
    """The zone whose worst outlet has the least head to spare at the last water."""
    return min(r.garden.zones, key=lambda z: r.flows[z.id]["low"].worst.head_m
               - r.flows[z.id]["low"].worst.least_head_m)


def short_zones(r: Results) -> list[Zone]:
    """The zones in which an outlet lacks head with the last water."""
    return [z for z in r.garden.zones if r.flows[z.id]["low"].short_m > 0]


def pushed_by(garden: Garden, zones: Sequence[Zone]) -> str:
    """What drives some zones' water, as a sentence begins with it."""
    if all(garden.on_mains(zone.source) for zone in zones):
        return "The tap"
    if all(garden.tap_of(zone.source) for zone in zones):
        wells = all(garden.well_of(zone.source) for zone in zones)
        return "The well’s pump" if wells else "Each tap"
    return "The pump" if any(garden.lift_on(zone.source) for zone in zones) else "Gravity"


def losses(r: Results, flow: zone_flow.ZoneFlow, emitter: str = "") -> list[Term]:
    """Head taken by each part of the way to an outlet, the worst when none is named.

    What adds head, a pump, stands with a plus.
    """
    names = part_names(r)
    taken: dict[str, float] = {}
    pipes = 0.0
    heads = flow.solution.head_m
    for join in zone_flow.way_to(flow, f"{emitter or flow.worst.emitter}-at"):
        lost = heads[join.start] - heads[join.end]
        if flow.solution.flow_l_h[join.id] < 0:
            lost = -lost
        if isinstance(join, Pipe) and not join.id.endswith("-suction"):
            pipes += lost
        else:
            name = names.get(join.id, "suction hose")
            taken[name] = taken.get(name, 0.0) + lost
    return [*(Term(name, Amount(-lost, "head", 3)) for name, lost in taken.items()),
            Term("pipes, tees and bends", Amount(-pipes, "head", 3))]


def flow_by_level(r: Results, zone: Zone) -> list[Term]:
    """A zone's flow as its barrels empty; nothing of it where a tap runs it."""
    if r.garden.tap_of(zone.source):
        return []
    levels = r.flows[zone.id]
    vessels = f"{r.garden.vessel_of(zone.source)}s"
    return [Term(f"{vessels} full", Amount(levels["full"].flow_l_h, "flow")),
            Term("nearly empty", Amount(levels["low"].flow_l_h, "flow"))]


def part_names(r: Results) -> dict[str, str]:
    """What each component of the way is called, by its id in the network."""
    names = {f.id: fitting_name(r.garden, r.library, f) for f in r.garden.fittings}
    return names | {x.id: x.name for x in r.garden.lifts} | {"tap": "the supply itself"}
