"""Float valves between two draws: how fast what plants drank comes back."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import TYPE_CHECKING

from euhydra.core.garden.model import Wicking
from euhydra.core.hydraulics import zone_flow
from euhydra.core.hydraulics.assemble import zone_network
from euhydra.core.hydraulics.solver import solve

if TYPE_CHECKING:
    from euhydra.core.assessment.reckoning import Reckoning


def refill_min(r: Reckoning, row: Wicking) -> float:
    """Minutes in which a row's last float valve, alone and wide open, lets in a day's thirst.

    With the last water of the source, in the hottest week. Infinite where nothing comes through; 0
    where nothing is drunk.
    """
    zone = next(z for z in r.garden.zones if row.id in z.plots)
    flow = r.flows[zone.id]["low"]
    if flow.stopped_m > 0:
        return math.inf
    network = zone_network(r.garden, r.library, zone, flow.water_z_m, r.drinks)
    runs = {run.id: run for run in r.garden.outlets if run.plot == row.id}
    own = [e for e in network.emitters if e.id.rsplit(":", 1)[0] in runs]
    last = min(own, key=lambda e: flow.solution.head_m[e.node])
    run = runs[last.id.rsplit(":", 1)[0]]
    alone = solve(replace(network, emitters=(
        replace(last, kind=r.library.outlets[run.kind], count=1),)))
    valves = sum(e.count for e in own)
    litres = r.thirsts[row.id].hottest_week_l / valves
    passes = alone.flow_l_h[last.id]
    if litres <= 0:
        return 0.0
    return 60 * litres / passes if passes > zone_flow.CURED_M else math.inf
