"""A network of pipes, losses and outlets, and its steady flow.

Trees and loops, any number of fixed heads. Heads and flows are solved together by the global
gradient method (Todini & Pilati 1988) with sparse linear algebra. The model (:class:`Network`),
the method (:func:`solve`) and the results (:class:`Solution`) are kept apart.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import coo_array
from scipy.sparse.linalg import splu

from euhydra.core.hydraulics.friction import head_loss, kv_resistance
from euhydra.core.hydraulics.outlets import driving_head
from euhydra.core.library import OutletKind

Array = NDArray[np.float64]
FLOW_TOLERANCE_L_H = 1e-3
MOST_ITERATIONS = 200


@dataclass(frozen=True)
class NetNode:
    """A junction, or a water surface when ``fixed_head_m`` is given."""

    id: str
    z_m: float
    fixed_head_m: float | None = None


@dataclass(frozen=True)
class Pipe:
    """A pipe with true bore and the sum of its local loss coefficients K."""

    id: str
    start: str
    end: str
    length_m: float
    bore_mm: float
    k: float = 0.0


@dataclass(frozen=True)
class Loss:
    """A component without length that loses head by its Kv (m³/h at 1 bar)."""

    id: str
    start: str
    end: str
    kv: float


@dataclass(frozen=True)
class Emitter:
    """``count`` like outlets at a node, opening into the air at the node's level."""

    id: str
    node: str
    kind: OutletKind
    count: int = 1


@dataclass(frozen=True)
class Network:
    """Nodes and links. Link ids are unique across all three kinds."""

    nodes: tuple[NetNode, ...]
    pipes: tuple[Pipe, ...]
    losses: tuple[Loss, ...]
    emitters: tuple[Emitter, ...]


@dataclass(frozen=True)
class Solution:
    """Heads above the datum in m by node, flows in L/h by link.

    ``residual_l_h`` is the worst imbalance at a node; ``converged`` says whether it and the last
    change of flow are within tolerance.
    """

    head_m: Mapping[str, float]
    flow_l_h: Mapping[str, float]
    residual_l_h: float
    iterations: int
    converged: bool


class NoSource(ValueError):
    """The network has no node with a fixed head, or a part of it is joined to none."""


def solve(network: Network, temperature_c: float = 15.0) -> Solution:
    """Steady flow through the network.

    Raises :class:`NoSource` when a junction cannot be reached from any fixed head. Otherwise it
    always answers; look at ``converged`` and ``residual_l_h``.
    """
    system = _System(network, temperature_c)
    flow, heads = system.first_guess(), np.zeros(system.unknowns)
    change, done, relax = np.inf, 0, 1.0
    for iteration in range(1, MOST_ITERATIONS + 1):
        done = iteration
        loss, slope = system.loss_and_slope(flow)
        heads = system.heads(flow, loss, slope)
        step = (system.drop(heads) - loss) / slope
        relax = 1.0 if iteration < 30 else 0.6 if iteration < 80 else 0.3
        flow = flow + relax * step
        change = float(np.abs(step).max(initial=0.0))
        if change < FLOW_TOLERANCE_L_H / 10 and iteration > 2:
            break
    residual = system.imbalance(flow)
    return Solution(system.named_heads(heads), system.named_flows(flow), residual, done,
                    change < FLOW_TOLERANCE_L_H and residual < 10 * FLOW_TOLERANCE_L_H)


class _System:
    """The network as arrays: links in the order pipes, losses, emitters."""

    def __init__(self, network: Network, temperature_c: float) -> None:
        self.network, self.temperature_c = network, temperature_c
        free = [n for n in network.nodes if n.fixed_head_m is None]
        self.free_ids = [n.id for n in free]
        self.fixed: dict[str, float] = {n.id: n.fixed_head_m for n in network.nodes
                                        if n.fixed_head_m is not None}
        index = {node_id: i for i, node_id in enumerate(self.free_ids)}
        level = {n.id: n.z_m for n in network.nodes}
        joins: list[Pipe | Loss] = [*network.pipes, *network.losses]
        starts = [j.start for j in joins] + [e.node for e in network.emitters]
        self.start = np.array([index.get(s, -1) for s in starts], dtype=np.intp)
        self.end = np.array([index.get(j.end, -1) for j in joins]
                            + [-1] * len(network.emitters), dtype=np.intp)
        self.start_head = np.array([self.fixed.get(s, 0.0) for s in starts], dtype=float)
        self.end_head = np.array([self.fixed.get(j.end, 0.0) for j in joins]
                                 + [level[e.node] for e in network.emitters], dtype=float)
        self.unknowns = len(free)
        self._laws()
        self._require_source(index)

    def _laws(self) -> None:
        pipes, emitters = self.network.pipes, self.network.emitters
        self.length = np.array([p.length_m for p in pipes])
        self.bore = np.array([p.bore_mm for p in pipes])
        self.k = np.array([p.k for p in pipes])
        self.resistance = kv_resistance(np.array([loss.kv for loss in self.network.losses]))
        self.count = np.array([e.count for e in emitters], dtype=float)
        self.out_k = np.array([e.kind.k for e in emitters])
        self.out_x = np.array([e.kind.x for e in emitters])
        self.out_opens = np.array([e.kind.opens_m for e in emitters])

    def _require_source(self, index: Mapping[str, int]) -> None:
        if not self.fixed:
            raise NoSource("no barrel, tank or tap feeds this network")
        reached = set(self.fixed)
        neighbours: dict[str, list[str]] = {}
        joins: list[Pipe | Loss] = [*self.network.pipes, *self.network.losses]
        for join in joins:
            neighbours.setdefault(join.start, []).append(join.end)
            neighbours.setdefault(join.end, []).append(join.start)
        waiting = list(reached)
        while waiting:
            for node in neighbours.get(waiting.pop(), ()):
                if node not in reached:
                    reached.add(node)
                    waiting.append(node)
        for node in index:
            if node not in reached:
                raise NoSource(f"no pipe joins {node} to the source")

    def first_guess(self) -> Array:
        emitters = len(self.network.emitters)
        return np.concatenate([np.full(len(self.start) - emitters, 10.0),
                               0.5 * self.out_k * self.count if emitters else np.zeros(0)])

    def loss_and_slope(self, flow: Array) -> tuple[Array, Array]:
        """Head lost by each link at its flow (m), and the slope of that (m per L/h)."""
        n_pipes, n_losses = len(self.network.pipes), len(self.network.losses)
        q = flow[:n_pipes]
        nudge = np.maximum(np.abs(q) * 1e-5, 1e-5)
        at = head_loss(q, self.length, self.bore, self.k, self.temperature_c)
        beyond = head_loss(q + nudge, self.length, self.bore, self.k, self.temperature_c)
        through = flow[n_pipes:n_pipes + n_losses]
        each = flow[n_pipes + n_losses:] / np.maximum(self.count, 1)
        out, out_slope = driving_head(each, self.out_k, self.out_x, self.out_opens)
        loss = np.concatenate([
            at, self.resistance * through * np.abs(through) + 1e-9 * through, out])
        slope = np.concatenate([
            (beyond - at) / nudge, 2 * self.resistance * np.abs(through) + 1e-9,
            out_slope / np.maximum(self.count, 1)])
        return loss, np.maximum(slope, 1e-9)

    def heads(self, flow: Array, loss: Array, slope: Array) -> Array:
        """Heads at which the linearised links balance at every junction."""
        if not self.unknowns:
            return np.zeros(0)
        g = 1 / slope
        known = flow + g * (self.start_head - self.end_head - loss)
        s, e = self.start, self.end
        has_s, has_e = s >= 0, e >= 0
        both = has_s & has_e
        rows = np.concatenate([s[has_s], e[has_e], s[both], e[both]])
        columns = np.concatenate([s[has_s], e[has_e], e[both], s[both]])
        values = np.concatenate([g[has_s], g[has_e], -g[both], -g[both]])
        matrix = coo_array((values, (rows, columns)), shape=(self.unknowns, self.unknowns))
        right = np.bincount(e[has_e], known[has_e], self.unknowns) - np.bincount(
            s[has_s], known[has_s], self.unknowns)
        return np.asarray(splu(matrix.tocsc()).solve(right))

    def drop(self, heads: Array) -> Array:
        """Fall of head along each link."""
        padded = np.append(heads, 0.0)
        return np.asarray(padded[self.start] + self.start_head
                          - padded[self.end] - self.end_head)

    def imbalance(self, flow: Array) -> float:
        """The worst difference between what enters and what leaves a junction, L/h."""
        s, e = self.start, self.end
        net = np.bincount(e[e >= 0], flow[e >= 0], self.unknowns) - np.bincount(
            s[s >= 0], flow[s >= 0], self.unknowns)
        return float(np.abs(net).max(initial=0.0))

    def named_heads(self, heads: Array) -> dict[str, float]:
        return dict(zip(self.free_ids, heads.tolist(), strict=True)) | dict(self.fixed)

    def named_flows(self, flow: Array) -> dict[str, float]:
        n = len(self.network.pipes) + len(self.network.losses)
        flow = np.concatenate([flow[:n], np.maximum(flow[n:], 0.0)])
        links: list[Pipe | Loss | Emitter] = [*self.network.pipes, *self.network.losses,
                                              *self.network.emitters]
        ids = [link.id for link in links]
        return dict(zip(ids, flow.tolist(), strict=True))
