"""One zone's network with a fault put into it, and what its outlets then give.

Of rows on float valves what comes when a hand holds the float down: between two draws there is
nothing to be read.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from functools import cached_property

from scipy.sparse import coo_array
from scipy.sparse.csgraph import dijkstra

from euhydra.core.garden.model import Wicking, Zone
from euhydra.core.hydraulics import stops
from euhydra.core.hydraulics.friction import GRAVITY, kv_resistance, velocity
from euhydra.core.hydraulics.network import Emitter, Loss, Network, Pipe, Pump, Solution
from euhydra.core.hydraulics.solver import solve
from euhydra.core.library import OutletKind
from euhydra.core.results.results import Results
from euhydra.core.statements.figures import Phrase, quoted

MOST_BRANCHES = 10
LEAST_FLOW_L_H = 1e-3
LEAST_M = 1e-6  # of a way, so that what has no length still leads on
LEAK = "leak"
LEAST_LOSS_M = 0.02  # head that a constriction takes at least, where hardly any is there


@dataclass(frozen=True)
class Branch:
    """A stretch of pipe that can be told to a person: a plot's, or what leads to all of them."""

    id: str
    where: Phrase
    pipes: tuple[str, ...]
    size: str


@dataclass(frozen=True)
class Given:
    """What comes out of a zone that stands open, L/h: of one outlet by emitter, all, the leak.

    ``head_m`` is what is left at the last outlet, over its own level; ``start_m`` behind the head
    assembly.
    """

    each: Mapping[str, float]
    total_l_h: float
    leak_l_h: float
    head_m: float
    start_m: float


class Pipework:
    """A zone with a share of its source's usable water left, whole and with faults."""

    def __init__(self, r: Results, zone: Zone, share: float) -> None:
        self.r, self.zone = r, zone
        flow = r.flows.with_share(zone, share)
        self.scale = r.flows.read_share(zone)
        self.plot_of = {o.emitter: o.plot for o in flow.outlets}
        self.level_of = {n.id: n.z_m for n in flow.network.nodes}
        lacks = stops.over_the_water(flow.network, flow.water_z_m)
        pushed = r.garden.tap_of(zone.source) or r.garden.lift_on(zone.source)
        emitters = tuple(self._held(e) for e in flow.network.emitters
                         if pushed or e.id not in lacks)
        self.whole = replace(flow.network, emitters=() if pushed and flow.stopped_m else emitters)

    def _held(self, emitter: Emitter) -> Emitter:
        """A float valve that a hand holds down is an outlet as its table has it."""
        if not isinstance(self.r.garden.plot(self.plot_of[emitter.id]), Wicking):
            return emitter
        return replace(emitter, kind=self.r.library.outlets["float-valve"])

    @cached_property
    def order(self) -> tuple[Emitter, ...]:
        """Its outlets by how far water runs to them, an open end not among them."""
        return tuple(sorted((e for e in self.whole.emitters if e.kind.seeps != "end"),
                            key=lambda e: (self.way_m.get(e.node, 0.0), e.id)))

    @cached_property
    def way_m(self) -> dict[str, float]:
        """How far water runs to each node, m."""
        at = {n.id: i for i, n in enumerate(self.whole.nodes)}
        joins = self.whole.joins
        lengths = [max(j.length_m, LEAST_M) if isinstance(j, Pipe) else LEAST_M for j in joins]
        graph = coo_array((lengths, ([at[j.start] for j in joins], [at[j.end] for j in joins])),
                          shape=(len(at), len(at)))
        springs = [at[n.id] for n in self.whole.nodes if n.fixed_head_m is not None]
        ways = dijkstra(graph.tocsr(), directed=False, indices=springs, min_only=True)
        return dict(zip(at, ways.tolist(), strict=True))

    @cached_property
    def solved(self) -> Solution:
        """Heads and flows with nothing wrong."""
        return solve(self.whole)

    @cached_property
    def given(self) -> Given:
        """What it gives with nothing wrong."""
        return self._given(self.whole, self.solved)

    def gives(self, network: Network) -> Given:
        """What a network of it gives."""
        return self._given(network, solve(network))

    def _given(self, network: Network, solution: Solution) -> Given:
        each = {e.id: max(solution.flow_l_h[e.id], 0.0) / e.count * self.scale
                for e in network.emitters if e.id != LEAK}
        leak = max(solution.flow_l_h.get(LEAK, 0.0), 0.0) * self.scale
        total = sum(each[e.id] * e.count for e in network.emitters if e.id != LEAK)
        last = self.order[-1].node if self.order else ""
        return Given(each, total + leak, leak, *(
            max(solution.head_m.get(node, 0.0) - self.level_of.get(node, 0.0), 0.0)
            for node in (last, self.start)))

    @cached_property
    def start(self) -> str:
        """The node behind all that stands before its first pipe."""
        first = min((p for p in self.whole.pipes if not p.id.endswith("-suction")),
                    key=lambda p: self.way_m.get(p.start, 0.0), default=None)
        return first.start if first else ""

    @cached_property
    def branches(self) -> tuple[Branch, ...]:
        """Where a fault may sit: what leads to all, then its plots, some of very many."""
        lines = [line for line in self.r.garden.lines if line.zone == self.zone.id]
        plots = [p for p in self.zone.plots if any(line.plot == p for line in lines)]
        step = max(len(plots) / MOST_BRANCHES, 1.0)
        some = [plots[int(i * step)] for i in range(min(len(plots), MOST_BRANCHES))]
        found = []
        for plot in ("", *some):
            mine = [line for line in lines if (line.plot or "") == plot]
            ids = {line.id for line in mine}
            pipes = sorted((p for p in self.whole.pipes if p.id.rsplit(":", 1)[0] in ids
                            and abs(self.solved.flow_l_h[p.id]) > LEAST_FLOW_L_H),
                           key=lambda p: (self.way_m.get(p.start, 0.0), p.id))
            if not pipes:
                continue
            name = quoted(self.r.garden.plot(plot).name) if plot else quoted(self.zone.name)
            tubes = {line.id: line.tube for line in mine}
            found.append(Branch(
                plot or self.zone.id, Phrase(f"at {name}" if plot else f"on the way to {name}"),
                tuple(p.id for p in pipes),
                self.r.library.tubes[tubes[pipes[0].id.rsplit(":", 1)[0]]].name))
        return tuple(found)

    def pipe_at(self, branch: Branch, u: float) -> Pipe:
        """The pipe at a share of the way along a branch."""
        wanted = branch.pipes[min(int(u * len(branch.pipes)), len(branch.pipes) - 1)]
        return next(p for p in self.whole.pipes if p.id == wanted)

    def squeezed(self, link: str, times: float) -> Network:
        """With one link narrowed: at its flow when whole it would lose so many times the head that
        is left behind it.
        """
        flow = max(abs(self.solved.flow_l_h[link]), LEAST_FLOW_L_H)
        lost = times * max(self.given.start_m, LEAST_LOSS_M)
        resistance = lost / flow**2
        if any(p.id == link for p in self.whole.pipes):
            return self._with_pipe(link, lambda p: replace(p, k=p.k + resistance / _unit_k(p)))
        return replace(self.whole, losses=tuple(
            replace(x, clogged=x.clogged + resistance / _unit_loss(x)) if x.id == link else x
            for x in self.whole.losses))

    def _with_pipe(self, pipe: str, change: Callable[[Pipe], Pipe]) -> Network:
        return replace(self.whole, pipes=tuple(
            change(p) if p.id == pipe else p for p in self.whole.pipes))

    def leaking(self, pipe: Pipe, times: float) -> Network:
        """With a hole at a pipe's end that would take so many times the zone's flow."""
        node = pipe.end
        over = max(self.solved.head_m[node] - self.level_of[node], LEAST_LOSS_M)
        k = times * max(self.given.total_l_h / self.scale, 1.0) / over**0.5
        hole = OutletKind(key=LEAK, name=LEAK, source="", standing="physics", k=k, x=0.5,
                          least_head_m=0.0, opens_m=0.0, cv=0.0, price=0.0)
        return replace(self.whole, emitters=(*self.whole.emitters, Emitter(LEAK, node, hole)))

    def clogged(self, left: Mapping[str, float]) -> Network:
        """With a share of their flow left to some emitters, by id."""
        return replace(self.whole, emitters=tuple(
            replace(e, kind=replace(e.kind, k=e.kind.k * max(left[e.id], 0.005)))
            if e.id in left else e for e in self.whole.emitters))

    def pushed(self, times: float) -> Network:
        """With its tap's, or its pump's, head so many times what was reckoned."""
        if self.whole.pumps:
            return replace(self.whole, pumps=tuple(_weaker(p, times) for p in self.whole.pumps))
        nodes = tuple(n if n.fixed_head_m is None else replace(
            n, fixed_head_m=n.z_m + (n.fixed_head_m - n.z_m) * times) for n in self.whole.nodes)
        return replace(self.whole, nodes=nodes, regulators=tuple(
            replace(x, set_m=x.set_m * max(times, 1.0)) for x in self.whole.regulators))


def _weaker(pump: Pump, times: float) -> Pump:
    return replace(pump, points=tuple((q, h * times) for q, h in pump.points))


def _unit_k(pipe: Pipe) -> float:
    """Head in m that a local loss of K 1 takes from 1 L/h in a pipe's bore."""
    return float(velocity(1.0, pipe.bore_mm)) ** 2 / (2 * GRAVITY)


def _unit_loss(loss: Loss) -> float:
    """Head in m that a component takes from 1 L/h when it is clean."""
    return float(kv_resistance(loss.kv))
