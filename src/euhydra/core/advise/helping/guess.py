"""Which set to weigh next: what the ones weighed let one expect of those beside them."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np
from numpy.typing import NDArray

from euhydra.core.advise.helping.moves import Move
from euhydra.core.advise.helping.sieve import Chosen

Array = NDArray[np.float64]
MOST_CHANGES = 8  # in a set: more are not made in a year, from memory
LITTLE, BOUNDS = 1e-3, (0.02, 50.0)
MOST_ASKED = 400  # of the best guesses, looked through for one that is new


class Guess:
    """Sets as rows of yes and no, with how far each is from the aim and what it costs.

    A set beside one that was weighed has one move more, one in another's place, or one fewer. It is
    expected to be as far from the aim, as a share, as that move brought others last, and to cost
    what it added there.
    """

    def __init__(self, moves: Sequence[Move]) -> None:
        self.clash = np.array([[bool(a.takes & b.takes) for b in moves] for a in moves],
                              dtype=bool).reshape(len(moves), len(moves))
        np.fill_diagonal(self.clash, val=False)
        self._clash = self.clash.astype(float)  # of what is whole or half, sums go fast
        self.size = len(moves)
        self.rows = np.zeros((0, self.size), dtype=bool)
        self.far, self.cost = np.zeros(0), np.zeros(0)
        self.brings = np.ones(self.size)
        self.adds = np.zeros(self.size)
        self.tested = np.zeros(self.size, dtype=int)

    def row(self, chosen: Chosen) -> NDArray[np.bool_]:
        """A set as yes and no."""
        found = np.zeros(self.size, dtype=bool)
        found[list(chosen)] = True
        return found

    def learn(self, chosen: Chosen, far: float, cost: float) -> None:
        """Take in what a set came to; sets with one move fewer tell what that move brings."""
        row = self.row(chosen)
        for i in chosen:
            less = row.copy()
            less[i] = False
            at = np.flatnonzero((self.rows == less).all(axis=1))
            if at.size and np.isfinite(far) and np.isfinite(self.far[at[0]]):
                self.brings[i] = np.clip((far + LITTLE) / (self.far[at[0]] + LITTLE), *BOUNDS)
                self.adds[i] = cost - self.cost[at[0]]
            self.tested[i] += 1
        self.rows = np.vstack([self.rows, row])
        self.far, self.cost = np.append(self.far, far), np.append(self.cost, cost)

    def expected(self) -> tuple[Array, Array]:
        """How far, and at what cost, each weighed set is expected to be with one move changed.

        (N, M) each: the move put in, in the place of what it clashes with, or taken out.
        """
        rows = self.rows.astype(float)
        full = (self.rows.sum(axis=1) >= MOST_CHANGES)[:, None] & ~self.rows & (
            rows @ self._clash == 0)
        brings = np.log(self.brings)
        factor = np.where(self.rows, -brings, brings) - (rows * brings) @ self._clash
        cost = np.where(self.rows, -self.adds, self.adds) - (rows * self.adds) @ self._clash
        far = np.where(full, np.inf, self.far[:, None] * np.exp(factor))
        return far, self.cost[:, None] + cost

    def changed(self, n: int, m: int) -> Chosen:
        """The set that one of the weighed becomes with one move changed."""
        row = self.rows[n].copy()
        row[m] = not row[m]
        if row[m]:
            row &= ~self.clash[m]
        return tuple(np.flatnonzero(row).tolist())

    def best(self, score: Array) -> Iterator[Chosen]:
        """The sets of least score, (N, M), one after another."""
        flat = score.ravel()
        order = np.argsort(flat, kind="stable")[:MOST_ASKED]
        for at in order[np.isfinite(flat[order])]:
            yield self.changed(int(at) // self.size, int(at) % self.size)
