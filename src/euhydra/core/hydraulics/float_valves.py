"""Float valves between two draws: how fast what plants drank comes back."""

from __future__ import annotations

import math
from dataclasses import replace

from euhydra.core.demand.demand import Demand
from euhydra.core.garden.model import Wicking
from euhydra.core.hydraulics import raised_stand
from euhydra.core.hydraulics.assemble import zone_network
from euhydra.core.hydraulics.flows import Flows
from euhydra.core.hydraulics.solver import solve


def refill_min(flows: Flows, demand: Demand, row: Wicking) -> float:
    """Minutes in which a row's last float valve, alone and wide open, lets in a day's thirst.

    With the last water of the source, in the hottest week. Infinite where nothing comes through; 0
    where nothing is drunk.
    """
    zone = next(z for z in flows.garden.zones if row.id in z.plots)
    levels = flows[zone.id]
    flow = levels["low"]
    if flow.stopped_m > 0:
        return math.inf
    network = zone_network(levels.pipes, levels.library, flow.water_z_m)
    runs = {run.id: run for run in levels.pipes.outlets if run.plot == row.id}
    own = [e for e in network.emitters if e.id.rsplit(":", 1)[0] in runs]
    last = min(own, key=lambda e: flow.solution.head_m[e.node])
    run = runs[last.id.rsplit(":", 1)[0]]
    alone = solve(replace(network, emitters=(
        replace(last, kind=levels.library.outlets[run.kind], count=1),)))
    valves = sum(e.count for e in own)
    litres = demand.thirsts[row.id].hottest_week_l / valves
    passes = alone.flow_l_h[last.id]
    if litres <= 0:
        return 0.0
    return 60 * litres / passes if passes > raised_stand.CURED_M else math.inf
