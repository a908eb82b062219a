"""Even out a manifold: how far to shut the valve on each branch, the nearest to the source most."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace

from euhydra.core.garden.model import Garden, Line, Tower, Zone
from euhydra.core.hydraulics.emitters import head_for
from euhydra.core.hydraulics.network import Emitter, Loss, NetNode, Network
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
VALVE_BORE_MM, RISER_BORE_MM = 13.6, 4.0
OPEN_M = 1e-4  # a valve that is to lose less than this stands open
CUP_L = {"metric": 0.1, "us": 0.118294}  # a decilitre, half a cup
OPEN_KV = 1e3
HALVINGS, LEAST_L_H = 24, 1e-3
DRAWS_M = 1e-4  # head under which what is made to draw a flow draws it


@dataclass(frozen=True)
class Branch:
    """A plot's branch, or a tower's by its number: its flow with all open, its wish, its valve.

    ``way_m`` is the length of pipe from the source to the branch; ``cup_s`` the seconds in which
    one outlet fills a cup once all is even. Where a valve cannot be set so finely its
    setting is None. ``hole_mm`` is the plug's drilled hole that does it instead, 0 where the branch
    stands open, and ``holed_l_h`` what the branch gives with every branch so plugged.
    """

    key: str
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
    behind = _behind(garden, zone, entries)
    members = {p: [o for o in flow.outlets if o.plot in on] for p, on in behind.items()}
    outlets = {p: sum(o.each for o in mine if not o.open_end) for p, mine in members.items()}
    wants = {p: sum((shares or {}).get(x, 0.0) for x in on) or float(outlets[p]) or 1.0
             for p, on in behind.items()}
    ways = _ways(garden, zone)
    manifold = Manifold(flow, _with_valves(flow.network, {p: entries[p].id for p in behind}),
                        {p: frozenset(o.emitter for o in mine) for p, mine in members.items()})
    return manifold.branches(wants, {p: ways[entries[p].start] for p in behind}, outlets,
                             VALVE_BORE_MM, CUP_L[garden.units])


def _behind(garden: Garden, zone: Zone, entries: Mapping[str, Line]
            ) -> dict[str, tuple[str, ...]]:
    """The plots behind each branch off the header: one, or those whose hoses go on from it."""
    plot_at = {line.end: line.plot for line in garden.lines if line.zone == zone.id and line.plot}
    heads: dict[str, list[str]] = {}
    for p in zone.plots:
        head = p
        while (before := plot_at.get(entries[head].start)) is not None and before != head:
            head = before
        heads.setdefault(head, []).append(p)
    return {head: tuple(on) for head, on in heads.items()}


def towers_balanced(garden: Garden, tower: Tower, flow: ZoneFlow) -> tuple[Branch, ...]:
    """Settings of the valve in each tower's riser, so that all give as much; in their order.

    The most that all can get is found by halving: each made to draw so much, none may lack the
    head that its outlets ask for it; what it has over is for its valve.
    """
    at = {e.id: e for e in flow.network.emitters}
    towers = {str(i): (o, at[o.emitter]) for i, o in enumerate(
        (o for o in flow.outlets if o.plot == tower.id), start=1)}
    emitters = {key: e for key, (_, e) in towers.items()}
    low, high = 0.0, sum(o.flow_l_h for o, _ in towers.values()) / len(towers)
    for _ in range(HALVINGS if high > LEAST_L_H else 0):
        middle = (low + high) / 2
        low, high = (middle, high) if min(
            _to_spare(flow.network, emitters, middle).values()) >= 0 else (low, middle)
    lost = _to_spare(flow.network, emitters, low) if low > 0 else dict.fromkeys(towers, 0.0)
    network = _with_riser_valves(flow.network, emitters)
    evened = solve(_set(network, lost, lost, dict.fromkeys(lost, low))).flow_l_h
    return tuple(_branch(
        key, float(key), o.flow_l_h, low, evened[e.id], lost[key], o.each, 0.0, evened[e.id],
        CUP_L[garden.units], RISER_BORE_MM) for key, (o, e) in towers.items())


def _to_spare(network: Network, emitters: Mapping[str, Emitter], each_l_h: float
              ) -> dict[str, float]:
    """Head that each of some emitters has over what it asks for a flow, all made to draw that."""
    drawn = {e.id: replace(e, kind=replace(e.kind, law="power", k=each_l_h / e.count,
                                           opens_m=DRAWS_M)) for e in emitters.values()}
    made = replace(network, emitters=tuple(drawn.get(e.id, e) for e in network.emitters))
    heads, level = solve(made).head_m, {n.id: n.z_m for n in network.nodes}
    return {key: heads[e.node] - level[e.node] - head_for(e.kind, each_l_h / e.count)
            for key, e in emitters.items()}


@dataclass(frozen=True)
class Manifold:
    """Branches with a valve each: ``members`` are the emitters behind each, by its key."""

    flow: ZoneFlow
    network: Network
    members: Mapping[str, frozenset[str]]

    def branches(self, wants: Mapping[str, float], ways: Mapping[str, float],
                 outlets: Mapping[str, int], bore_mm: float, cup_l: float) -> tuple[Branch, ...]:
        """Each branch, its valve so far shut that all get what they want against each other."""
        before = self.gives(self.flow.solution.flow_l_h)
        lost, gives = self._settled(before, wants)
        wish = min(gives[p] / wants[p] for p in self.members)
        holes = {p: restrictor_mm(lost[p], gives[p]) if lost[p] > OPEN_M and gives[p] > 0 else 0.0
                 for p in self.members}
        holed = self.gives(solve(_at(self.network, {
            p: restrictor_kv(mm) if mm else OPEN_KV for p, mm in holes.items()})).flow_l_h)
        return tuple(sorted((_branch(
            p, ways[p], before[p], wish * wants[p], gives[p], lost[p], outlets[p], holes[p],
            holed[p], cup_l, bore_mm) for p in self.members), key=lambda b: b.way_m))

    def _settled(self, gives: dict[str, float], wants: Mapping[str, float]
                 ) -> tuple[dict[str, float], dict[str, float]]:
        """Head lost in each valve, and what each branch then gives, L/h."""
        lost, solution = dict.fromkeys(self.members, 0.0), solve(self.network)
        for _ in range(ROUNDS):
            least = min(gives[p] / wants[p] for p in self.members)
            if least <= 0 or all(gives[p] / wants[p] <= least * (1 + CLOSE)
                                 for p in self.members):
                break
            for p in self.members:
                target, over = least * wants[p], self._over_outlets(p, solution.head_m)
                need = over * (target / gives[p]) ** (1 / self._exponent(p))
                lost[p] = max(lost[p] * (target / gives[p]) ** 2 + (over - need), 0.0)
            ease = min(lost.values())
            lost = {p: v - ease for p, v in lost.items()}
            solution = solve(_set(self.network, lost, gives,
                                  {p: least * wants[p] for p in self.members}))
            gives = self.gives(solution.flow_l_h)
        return lost, gives

    def gives(self, flows: Mapping[str, float]) -> dict[str, float]:
        """What each branch gives, L/h."""
        return {p: sum(flows[e] for e in mine) for p, mine in self.members.items()}

    def _exponent(self, branch: str) -> float:
        """How its flow answers to head: an outlet's exponent, no less than a quarter."""
        kind = next(e.kind for e in self.flow.network.emitters if e.id in self.members[branch])
        return max(kind.x, 0.25) if _plain(kind) else 0.5

    def _over_outlets(self, branch: str, heads: Mapping[str, float]) -> float:
        """Mean head over its outlets."""
        level = {n.id: n.z_m for n in self.network.nodes}
        over = [heads[e.node] - level[e.node]
                for e in self.network.emitters if e.id in self.members[branch]]
        return max(sum(over) / len(over), 1e-3)


def _branch(key: str, way_m: float, before: float, wish: float, after: float, lost: float,
            outlets: int, hole_mm: float, holed: float, cup_l: float, bore_mm: float) -> Branch:
    k = k_of(lost, after, bore_mm) if lost > OPEN_M else 0.0
    each = after / outlets if outlets else 0.0
    return Branch(key, way_m, before, wish, after, lost, lever_deg(k) if k else 0.0,
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


def _with_riser_valves(network: Network, emitters: Mapping[str, Emitter]) -> Network:
    """The network with a valve before each of some emitters, open."""
    level = {n.id: n.z_m for n in network.nodes}
    moved = {e.id: key for key, e in emitters.items()}
    return replace(
        network,
        nodes=(*network.nodes, *(NetNode(f"valve-{key}-after", level[e.node])
                                 for key, e in emitters.items())),
        losses=(*network.losses, *(Loss(f"valve-{key}", e.node, f"valve-{key}-after", OPEN_KV)
                                   for key, e in emitters.items())),
        emitters=tuple(replace(e, node=f"valve-{moved[e.id]}-after") if e.id in moved else e
                       for e in network.emitters))


def _set(network: Network, lost: Mapping[str, float], gives: Mapping[str, float],
         targets: Mapping[str, float]) -> Network:
    """The valves so far shut that each loses its head at its target flow."""
    return _at(network, {p: kv_of(lost[p], targets[p]) if lost[p] > OPEN_M else OPEN_KV
                         for p in gives})


def _at(network: Network, kvs: Mapping[str, float]) -> Network:
    """The valves of these plots at these Kv."""
    kv = {f"valve-{p}": value for p, value in kvs.items()}
    return replace(network, losses=tuple(
        replace(x, kv=kv[x.id]) if x.id in kv else x for x in network.losses))


def _plain(kind: OutletKind) -> bool:
    """Whether it gives by its exponent alone."""
    return kind.law == "power" and kind.opens_m == 0


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
