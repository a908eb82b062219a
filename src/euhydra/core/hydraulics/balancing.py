"""Even out a manifold: how far to shut the valve on each branch, the nearest to the source most."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace

from euhydra.core.garden.model import Garden, Zone
from euhydra.core.hydraulics.network import Loss, NetNode, Network
from euhydra.core.hydraulics.solver import solve
from euhydra.core.hydraulics.valves import (
    gate_open_eighths,
    k_of,
    kv_of,
    lever_deg,
    restrictor_kv,
    restrictor_mm,
)
from euhydra.core.hydraulics.zone_flow import ZoneFlow
from euhydra.core.library import Library, OutletKind

ROUNDS = 25
CLOSE = 0.002  # flows within two in a thousand are even
VALVE_BORE_MM = 13.6
OPEN_M = 1e-4  # a valve that is to lose less than this stands open
CUP_L = {"metric": 0.1, "us": 0.118294}  # a decilitre, half a cup
OPEN_KV = 1e3


@dataclass(frozen=True)
class Branch:
    """One plot's branch: its flow with all valves open, its wish, and its valve as it should be.

    ``way_m`` is the length of pipe from the source to the branch; ``cup_s`` the seconds in which
    one outlet fills a cup once all is even. Where a valve cannot be set so finely its
    setting is None. ``hole_mm`` is the plug's drilled hole that does it instead, 0 where the branch
    stands open, and ``holed_l_h`` what the branch gives with every branch so plugged.
    """

    plot: str
    way_m: float
    before_l_h: float
    wish_l_h: float
    after_l_h: float
    lost_m: float
    lever_deg: float | None
    open_eighths: float | None
    hole_mm: float
    holed_l_h: float
    cup_s: float

    @property
    def too_fine(self) -> bool:
        """Whether no hand valve can be set so."""
        return self.lever_deg is None and self.open_eighths is None


def balanced(garden: Garden, library: Library, zone: Zone, flow: ZoneFlow,
             shares: dict[str, float] | None = None) -> tuple[Branch, ...]:
    """Valve settings at which every plot of a zone gets its share, in order from the source.

    ``shares`` are the plots' wishes against each other; without them each outlet gets as much.
    The branch that is worst off stands open.
    """
    entries = {line.plot: line for line in reversed(garden.lines)
               if line.zone == zone.id and line.plot}
    outlets = {p: sum(o.each for o in flow.outlets if o.plot == p) for p in zone.plots}
    wants = {p: (shares or outlets).get(p, 0.0) or 1.0 for p in zone.plots}
    lost = dict.fromkeys(zone.plots, 0.0)
    gives = {p: flow.plot_flow_l_h(p) for p in zone.plots}
    before, solution = dict(gives), flow.solution
    network = _with_valves(flow.network, {p: entries[p].id for p in zone.plots})
    for _ in range(ROUNDS):
        least = min(gives[p] / wants[p] for p in zone.plots)
        if least <= 0 or all(gives[p] / wants[p] <= least * (1 + CLOSE) for p in zone.plots):
            break
        for p in zone.plots:
            target = least * wants[p]
            x = _exponent(flow, p)
            over = _over_outlets(flow, p, solution.head_m)
            need = over * (target / gives[p]) ** (1 / x)
            lost[p] = max(lost[p] * (target / gives[p]) ** 2 + (over - need), 0.0)
        ease = min(lost.values())
        lost = {p: v - ease for p, v in lost.items()}
        solution = solve(_set(network, lost, gives, {p: least * wants[p] for p in zone.plots}))
        gives = _gives(flow, solution.flow_l_h, zone)
    wish = min(gives[p] / wants[p] for p in zone.plots)
    holes = {p: restrictor_mm(lost[p], gives[p]) if lost[p] > OPEN_M and gives[p] > 0 else 0.0
             for p in zone.plots}
    holed = _gives(flow, solve(_at(network, {
        p: restrictor_kv(mm) if mm else OPEN_KV for p, mm in holes.items()})).flow_l_h, zone)
    ways = _ways(garden, zone)
    return tuple(sorted((_branch(
        p, ways[entries[p].start], before[p], wish * wants[p], gives[p], lost[p], outlets[p],
        holes[p], holed[p], CUP_L[garden.units]) for p in zone.plots), key=lambda b: b.way_m))


def _branch(plot: str, way_m: float, before: float, wish: float, after: float, lost: float,
            outlets: int, hole_mm: float, holed: float, cup_l: float) -> Branch:
    k = k_of(lost, after, VALVE_BORE_MM) if lost > OPEN_M else 0.0
    each = after / outlets if outlets else 0.0
    return Branch(plot, way_m, before, wish, after, lost, lever_deg(k) if k else 0.0,
                  gate_open_eighths(k) if k else 8.0, hole_mm, holed,
                  3600 * cup_l / each if each else math.inf)


def _with_valves(network: Network, lines: dict[str, str]) -> Network:
    """The network with a valve in front of each plot's branch, open."""
    pipes, losses, nodes = list(network.pipes), list(network.losses), list(network.nodes)
    level = {n.id: n.z_m for n in network.nodes}
    for plot, line in lines.items():
        i = next(i for i, pipe in enumerate(pipes) if pipe.id == f"{line}:0")
        at = f"valve-{plot}-after"
        nodes.append(NetNode(at, level[pipes[i].start]))
        losses.append(Loss(f"valve-{plot}", pipes[i].start, at, OPEN_KV))
        pipes[i] = replace(pipes[i], start=at)
    return replace(network, pipes=tuple(pipes), losses=tuple(losses), nodes=tuple(nodes))


def _set(network: Network, lost: dict[str, float], gives: dict[str, float],
         targets: dict[str, float]) -> Network:
    """The valves so far shut that each loses its head at its target flow."""
    return _at(network, {p: kv_of(lost[p], targets[p]) if lost[p] > OPEN_M else OPEN_KV
                         for p in gives})


def _at(network: Network, kvs: Mapping[str, float]) -> Network:
    """The valves of these plots at these Kv."""
    kv = {f"valve-{p}": value for p, value in kvs.items()}
    return replace(network, losses=tuple(
        replace(x, kv=kv[x.id]) if x.id in kv else x for x in network.losses))


def _gives(flow: ZoneFlow, flows: Mapping[str, float], zone: Zone) -> dict[str, float]:
    plots = {o.emitter: o.plot for o in flow.outlets}
    total = dict.fromkeys(zone.plots, 0.0)
    for emitter, plot in plots.items():
        total[plot] += flows[emitter]
    return total


def _plain(kind: OutletKind) -> bool:
    """Whether it gives by its exponent alone."""
    return kind.law == "power" and kind.opens_m == 0


def _exponent(flow: ZoneFlow, plot: str) -> float:
    """How a plot's flow answers to head: its first outlet's exponent, no less than a quarter."""
    mine = next(o.emitter for o in flow.outlets if o.plot == plot)
    kind = next(e for e in flow.network.emitters if e.id == mine)
    return max(kind.kind.x, 0.25) if _plain(kind.kind) else 0.5


def _over_outlets(flow: ZoneFlow, plot: str, heads: Mapping[str, float]) -> float:
    """Mean head over a plot's outlets."""
    mine = {o.emitter for o in flow.outlets if o.plot == plot}
    level = {n.id: n.z_m for n in flow.network.nodes}
    over = [heads[e.node] - level[e.node]
            for e in flow.network.emitters if e.id in mine]
    return max(sum(over) / len(over), 1e-3)


def _ways(garden: Garden, zone: Zone) -> dict[str, float]:
    """Length of pipe from the source to every joint of a zone."""
    lines = [line for line in garden.lines if line.zone == zone.id]
    ends = {line.end for line in lines}
    ways = {line.start: 0.0 for line in lines if line.start not in ends}
    for _ in lines:
        for line in lines:
            if line.start in ways:
                ways.setdefault(line.end, ways[line.start] + line.length_m)
    return ways
