"""The equations of a network's junctions as arrays, and their solution by Newton's method.

Each round linearises every link's law and solves for the heads at which all junctions balance, with
sparse algebra over junctions put in order from the far ends inwards, so that a tree fills nothing
in. The step is shortened where the laws bend, as in any Newton method for a convex problem. One
that would turn the water about where nothing lets it back is gone whole: what is shut then lies
beyond the bend, and the next step brings it to rest (an active set, as in a semismooth Newton
method).
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import csc_array
from scipy.sparse.linalg import splu

from euhydra.core.hydraulics.elimination import Elimination
from euhydra.core.hydraulics.friction import kv_resistance
from euhydra.core.hydraulics.laws import EmitterLaw, LossLaw, PipeLaw, PumpLaw
from euhydra.core.hydraulics.network import Loss, Network, Solution
from euhydra.core.hydraulics.places import Index, Places

Array = NDArray[np.float64]
FLOW_TOLERANCE_L_H = 1e-3
SETTLED_L_H, SETTLED_SHARE = 0.01, 1e-6  # out by the larger of these at most: it is settled
MOST_ITERATIONS = 120
DAMPED_AFTER = 30
MOST_CROSSINGS = 12
MOST_SHORTENINGS, CLOSE_L_H = 8, 0.05  # a step as small as this is not shortened
LEAST_SLOPE = 1e-9  # m per L/h; only the direction of a step is changed by it, not where it ends
SLOPE_SPAN = 1e-14
SAME_M = 1e-6
OPEN, HOLDING, SHUT = "open", "holding", "shut"


@dataclass(frozen=True)
class _Ends:
    """One end of every link: the junction whose balance it enters, and that whose head it sees.

    -1 where there is none. Behind a holding regulator the head is given, and the water is the
    regulator's own: it enters the balance of the junction before it.
    """

    row: Index
    column: Index


class System:
    """A network with each regulator in a given state, as arrays.

    Links stand in the order of ``network.joins``, then the emitters. One that hangs on no source,
    and a regulator that holds its pressure, enters no balance.
    """

    def __init__(self, network: Network, places: Places, temperature_c: float,
                 states: Mapping[str, str]) -> None:
        self.network, self.places, self.states = network, places, states
        self.first_regulator = len(network.joins) - len(network.regulators)
        holding = np.array([states[r.id] == HOLDING for r in network.regulators], dtype=bool)
        self.holding = self.first_regulator + np.flatnonzero(holding)
        self.given, self.behind = places.fixed.copy(), places.end[self.holding]
        self.given[self.behind] = True
        self.held_m = places.level[self.behind] + [r.set_m for r, h in zip(
            network.regulators, holding, strict=True) if h]
        self.free = places.order[~self.given[places.order]][::-1]  # the farthest first
        self.column = np.full(len(places.ids), -1, dtype=np.intp)
        self.column[self.free] = np.arange(len(self.free))
        self.row = self._rows()
        self._laws(temperature_c)
        air = np.full(len(places.emitter), -1, dtype=np.intp)
        self.from_node = np.concatenate([places.start, places.emitter])
        self.start = _Ends(self.row[self.from_node], self.column[self.from_node])
        self.end = _Ends(np.concatenate([self.row[places.end], air]),
                         np.concatenate([self.column[places.end], air]))
        self.idle = np.concatenate([places.dry[places.start], places.dry[places.emitter]])
        self.idle[self.holding] = True
        self.one_way = np.concatenate([places.one_way, np.ones(len(places.emitter), dtype=bool)])
        self._pattern()

    def stand_under(self, head: Array) -> None:
        """Take the heads of the sources, by node; those behind holding regulators are their own."""
        self.head = head.copy()
        self.head[self.behind] = self.held_m
        given, places = np.where(self.given, self.head, 0.0), self.places
        into = np.concatenate([given[places.end], places.level[places.emitter]])
        self.driven = np.where(self.idle, 0.0, given[self.from_node] - into)

    def _rows(self) -> Index:
        """The balance that water at a node enters; behind a holding regulator, that before it."""
        row, places = self.column.copy(), self.places
        for _ in self.holding:
            row[places.end[self.holding]] = row[places.start[self.holding]]
        return row

    def _laws(self, temperature_c: float) -> None:
        net, self.outlets = self.network, EmitterLaw(self.network.emitters)
        passing = [Loss(r.id, r.start, r.end, 1e-6 if self.states[r.id] == SHUT else r.kv,
                        one_way=True) for r in net.regulators]
        self.laws = ((PipeLaw(net.pipes, temperature_c), len(net.pipes)),
                     (LossLaw(net.losses), len(net.losses)), (PumpLaw(net.pumps), len(net.pumps)),
                     (LossLaw(passing), len(passing)),
                     (self.outlets, len(net.emitters)))

    def _pattern(self) -> None:
        """Where each link's conductance enters the matrix, columns in order."""
        n, link = len(self.free), np.arange(len(self.idle))
        quarters = [(a.row, b.column, 1.0 if a is b else -1.0)
                    for a in (self.start, self.end) for b in (self.start, self.end)]
        rows = np.concatenate([r for r, _, _ in quarters])
        columns = np.concatenate([c for _, c, _ in quarters])
        signs = np.repeat([s for *_, s in quarters], len(link))
        inside = (rows >= 0) & (columns >= 0) & ~np.tile(self.idle, 4)
        self.entry_link, self.entry_sign = np.tile(link, 4)[inside], signs[inside]
        keys, self.entry_at = np.unique(columns[inside] * n + rows[inside], return_inverse=True)
        self.matrix = csc_array((np.zeros(len(keys)), (keys % max(n, 1)).astype(np.int32),
                                 np.searchsorted(keys, np.arange(n + 1) * n).astype(np.int32)),
                                shape=(n, n))
        self.matrix.has_sorted_indices = True
        self.elimination = Elimination(self.matrix.indptr, self.matrix.indices)
        self.from_row, self.to_row = (np.where(self.idle, 0, ends.row + 1)
                                      for ends in (self.start, self.end))

    def losses(self, flow: Array) -> tuple[Array, Array]:
        """Head lost by every link at its flow, and the slope of that."""
        loss, slope, at = np.empty_like(flow), np.empty_like(flow), 0
        for law, size in self.laws:
            if size:
                loss[at:at + size], slope[at:at + size] = law(flow[at:at + size])
            at += size
        loss[self.idle] = 0.0
        return loss, np.maximum(slope, LEAST_SLOPE)

    def settle(self, flow: Array) -> tuple[Array, Array, int, bool]:
        """Flows and heads with the regulators as they are; rounds taken, and whether it settled."""
        flow = self._guess() if flow.size == 0 else np.where(self.idle, 0.0, flow)
        heads = np.zeros(len(self.free))
        loss, slope = self.losses(flow)
        crossings = 0
        for done in range(1, MOST_ITERATIONS + 1):
            # A wide pipe beside a shut valve spans more orders than a double holds: the least
            # slopes are then raised, which changes the way to the answer and not the answer.
            slope = np.maximum(slope, SLOPE_SPAN * slope[~self.idle].max(initial=0.0))
            try:
                heads = self._heads(flow, loss, slope)
            except RuntimeError:  # the matrix has no inverse in floating point
                return flow, heads, done, False
            drop = np.where(self.idle, 0.0, self._drop(heads))
            step = (drop - loss) / slope
            size = float(np.abs(step).max(initial=0.0))
            # Behind a holding regulator the water's energy is no measure: there a fixed share.
            whole = done == 1 or size < CLOSE_L_H or self.holding.size > 0
            if not whole and crossings < MOST_CROSSINGS and (
                    (flow > 0) & (flow + step < 0) & self.one_way).any():
                whole, crossings = True, crossings + 1
            damped = self.holding.size > 0 and done > DAMPED_AFTER
            share, loss, slope = self._shared(flow, step, drop, loss,
                                              0.5 if damped else 1.0, whole=whole)
            flow = flow + share * step
            if done > 1 and size < FLOW_TOLERANCE_L_H / 10 + 1e-9 * np.abs(flow).max(initial=0):
                return flow, heads, done, True
        return flow, heads, MOST_ITERATIONS, False

    def _guess(self) -> Array:
        outlets = self.outlets.k * self.outlets.count
        guess = np.concatenate([np.full(len(self.places.start), 10.0), 0.5 * outlets])
        return np.where(self.idle, 0.0, guess)

    def _shared(self, flow: Array, step: Array, drop: Array, loss: Array, share: float, *,
                whole: bool) -> tuple[float, Array, Array]:
        """How much of a step to go, with the laws there: so far that the energy still falls.

        A step keeps the balance, so the heads' own part in the energy does not change. The first
        step, which brings balance, is gone whole, and so are the last small ones.
        """
        falls = float(step @ (drop - loss))
        for shortened in range(MOST_SHORTENINGS + 1):
            there, slope = self.losses(flow + share * step)
            rises = float(step @ (there - drop))
            if whole or rises <= 0.5 * falls or shortened == MOST_SHORTENINGS:
                break
            share *= max(0.1, falls / (falls + rises))
        return share, there, slope

    def _heads(self, flow: Array, loss: Array, slope: Array) -> Array:
        """Heads at which the linearised links balance at every junction."""
        n = len(self.free)
        if not n:
            return np.zeros(0)
        g = 1 / slope
        known = flow + g * (self.driven - loss)
        data = np.asarray(np.bincount(
            self.entry_at, self.entry_sign * g[self.entry_link], len(self.matrix.data)), float)
        right = np.asarray(np.bincount(self.to_row, known, n + 1)
                           - np.bincount(self.from_row, known, n + 1), float)[1:]
        if not self.holding.size:
            return self.elimination.solve(data, right)
        # A balance that takes the water of a node behind it: no longer symmetric.
        self.matrix.data = data
        return np.asarray(splu(self.matrix, permc_spec="NATURAL", diag_pivot_thresh=0.0, relax=1,
                               panel_size=1).solve(right))

    def _drop(self, heads: Array) -> Array:
        """Fall of head along each link."""
        padded = np.append(heads, 0.0)
        return np.asarray(padded[self.start.column] - padded[self.end.column] + self.driven)

    def _with_holding(self, flow: Array) -> Array:
        """The flows with those through holding regulators: all that leaves the node behind each."""
        flow, behind = flow.copy(), self.places.end[self.holding]
        flow[self.holding] = 0.0
        for _ in self.holding:  # so often that one behind another is reckoned in
            flow[self.holding] -= self._net(flow)[behind]
        return flow

    def _net(self, flow: Array) -> Array:
        """What enters less what leaves, by node, L/h."""
        n, places = len(self.places.ids), self.places
        joins = len(places.start)
        return np.asarray(np.bincount(places.end, flow[:joins], n)
                          - np.bincount(places.start, flow[:joins], n)
                          - np.bincount(places.emitter, flow[joins:], n))

    def _every_head(self, heads: Array) -> Array:
        every = np.where(self.given, self.head, self.places.level)
        every[self.free] = heads
        return every

    def changed_states(self, flow: Array, heads: Array) -> dict[str, str]:
        """The regulators that would rather be in another state."""
        if not self.network.regulators:
            return {}
        head, flow, places = self._every_head(heads), self._with_holding(flow), self.places
        taken, changed = set(places.end[self.holding].tolist()), {}
        for i, r in enumerate(self.network.regulators, start=self.first_regulator):
            before, behind, state = head[places.start[i]], int(places.end[i]), self.states[r.id]
            target = places.level[behind] + r.set_m
            if state == OPEN:
                free = not places.fixed[behind] and behind not in taken
                if free and head[behind] > target + SAME_M:
                    changed[r.id] = HOLDING
            elif state == HOLDING:
                lost = float(kv_resistance(r.kv)) * flow[i] ** 2
                if flow[i] < -FLOW_TOLERANCE_L_H:
                    changed[r.id] = SHUT
                elif before - lost < target - SAME_M:
                    changed[r.id] = OPEN
            elif head[behind] < min(target, before) - SAME_M:
                changed[r.id] = OPEN
        return changed

    def solution(self, flow: Array, heads: Array, rounds: int, *, settled: bool) -> Solution:
        """What was found, by name; links that hang on no source carry nothing."""
        net, places = self.network, self.places
        flow = self._with_holding(flow)
        amiss = np.abs(np.where(places.fixed, 0.0, self._net(flow)))
        worst = int(amiss.argmax()) if amiss.size else 0
        residual = float(amiss[worst]) if amiss.size else 0.0
        forward = np.concatenate([places.one_way, np.ones(len(places.emitter), dtype=bool)])
        flow = np.where(forward, np.maximum(flow, 0.0), flow)
        ids = [j.id for j in net.joins] + [e.id for e in net.emitters]
        return Solution(
            dict(zip(places.ids, self._every_head(heads).tolist(), strict=True)),
            dict(zip(ids, flow.tolist(), strict=True)), residual,
            places.ids[worst] if amiss.size else "", rounds,
            settled and residual < max(SETTLED_L_H, SETTLED_SHARE * float(
                np.abs(flow).max(initial=0.0))),
            frozenset(r.id for r, i in zip(net.regulators, range(
                self.first_regulator, len(net.joins)), strict=True) if i in self.holding),
            frozenset(places.ids[i] for i in np.flatnonzero(places.dry)))
