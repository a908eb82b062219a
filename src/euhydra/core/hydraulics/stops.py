"""Where nothing flows whatever the heads say: a crest over the water, a pump without suction."""

from __future__ import annotations

import heapq

from euhydra.core.hydraulics.network import Network, Solution
from euhydra.core.hydraulics.pumps import WATER_C, suction_left_m
from euhydra.core.hydraulics.zone_pipes import ZonePipes
from euhydra.core.library import Library

HAIR_M = 1e-6


def crests_m(network: Network) -> dict[str, float]:
    """The highest level on each node's lowest way from the source, by node.

    A node that no source reaches is not among them.
    """
    level = {node.id: node.z_m for node in network.nodes}
    near: dict[str, list[str]] = {node: [] for node in level}
    for join in network.joins:
        near[join.start].append(join.end)
        near[join.end].append(join.start)
    ahead = [(level[n.id], n.id) for n in network.nodes if n.fixed_head_m is not None]
    found: dict[str, float] = {}
    heapq.heapify(ahead)
    while ahead:
        crest, node = heapq.heappop(ahead)
        if node in found:
            continue
        found[node] = crest
        for other in near[node]:
            if other not in found:
                heapq.heappush(ahead, (max(crest, level[other]), other))
    return found


def over_the_water(network: Network, water_z_m: float) -> dict[str, float]:
    """Emitters to which gravity leads no water, with how far a crest on the way stands over it.

    Air comes in through the open outlets, so that no siphon carries water over a crest.
    """
    crests = crests_m(network)
    return {e.id: crests[e.node] - water_z_m for e in network.emitters
            if crests.get(e.node, water_z_m) > water_z_m + HAIR_M}


def lacks_suction_m(pipes: ZonePipes, library: Library, water_z_m: float, solution: Solution
                    ) -> float:
    """Head that a zone's pump lacks at its inlet to draw water; 0 where it has enough, or is none.

    It needs some of the air's push over vapour left (NPSH), and draws up no more than its table
    says.
    """
    lift = pipes.lift
    if lift is None:
        return 0.0
    kind = library.pumps[lift.kind]
    inlet_z = pipes.outlet_z_m + lift.over_outlet_m
    above, lost = inlet_z - water_z_m, water_z_m - solution.head_m[f"{lift.id}-inlet"]
    left = suction_left_m(pipes.altitude_m, WATER_C, above, lost)
    return max(kind.needs_m - left, above - max(kind.lifts_m, 0.0), 0.0)
