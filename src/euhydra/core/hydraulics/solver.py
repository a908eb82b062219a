"""Heads and flows together, by the global gradient method (Todini & Pilati 1988).

The equations and their solution stand in ``junctions``. Regulators are open, holding or shut; that
is settled round by round.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence

import numpy as np

from euhydra.core.hydraulics.junctions import FLOW_TOLERANCE_L_H, OPEN, Array, System
from euhydra.core.hydraulics.network import Network, Solution
from euhydra.core.hydraulics.places import Places

MOST_ROUNDS = 30


def solve(network: Network, temperature_c: float = 15.0) -> Solution:
    """Steady flow through the network.

    It always answers: look at ``converged`` and ``residual_l_h``, and at ``dry`` for what hangs on
    no source.
    """
    return _Solver(network, temperature_c).solution(np.zeros(0))[0]


def solve_under(network: Network, surfaces: Sequence[float], temperature_c: float = 15.0
                ) -> list[Solution]:
    """Steady flow with every source's head at each of some water surfaces, m above the datum.

    Each starts from the flows under the one before it, where those all ran.
    """
    solver, start, found = _Solver(network, temperature_c), np.zeros(0), []
    for surface in surfaces:
        solver.places.under(surface)
        solution, flow = solver.solution(start)
        runs = solution.converged and all(
            solution.flow_l_h[e.id] > FLOW_TOLERANCE_L_H for e in network.emitters)
        start = flow if runs else np.zeros(0)
        found.append(solution)
    return found


class _Solver:
    """One network, whatever stands before its sources, and what is kept of it between surfaces."""

    def __init__(self, network: Network, temperature_c: float) -> None:
        self.network, self.temperature_c = network, temperature_c
        self.places = Places(network)
        self._systems: dict[tuple[str, ...], System] = {}

    def solution(self, flow: Array) -> tuple[Solution, Array]:
        """What is found from a guess of the flows (none: from a rough one), with the flows."""
        states = dict.fromkeys((r.id for r in self.network.regulators), OPEN)
        seen: Counter[tuple[str, ...]] = Counter()
        rounds = 0
        for _ in range(MOST_ROUNDS):
            system = self._system(states)
            flow, heads, done, settled = system.settle(flow)
            rounds += done
            changed = system.changed_states(flow, heads)
            seen[tuple(states.values())] += 1
            if not changed:
                break
            # One at a time once a set of states comes back: two that push each other must not swap.
            again = seen[tuple((states | changed).values())] > 0
            states |= dict([next(iter(changed.items()))]) if again else changed
        return system.solution(flow, heads, rounds, settled=settled and not changed), flow

    def _system(self, states: Mapping[str, str]) -> System:
        key = tuple(states.values())
        if key not in self._systems:
            self._systems[key] = System(self.network, self.places, self.temperature_c,
                                         dict(states))
        self._systems[key].stand_under(self.places.head)
        return self._systems[key]
