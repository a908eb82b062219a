"""One search among sets of changes: what is weighed next, and which sets lead."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

import numpy as np

from euhydra.core.advise.helping.guess import Guess
from euhydra.core.advise.helping.sieve import Chosen, Sieve
from euhydra.core.advise.helping.weighing import Weighed
from euhydra.core.advise.helping.wishes import Wish

ALONE_SHARE = 0.5  # of the budget, for changes by themselves
SINGLES, FRONT, CONFIRMED = 5, 6, 4
RATES = (0.3, 3.0, 30.0)  # so much dearer than the best may be what is as much nearer
LITTLE_MONEY, CENT, WORTH_SEEING = 20.0, 0.01, 0.05


class Hunt:
    """Every change alone, then sets beside those weighed, as they are expected to serve."""

    def __init__(self, sieve: Sieve, wish: Wish, budget: int) -> None:
        self.sieve, self.wish, self.budget = sieve, wish, budget
        self.guess = Guess(sieve.moves)
        self.weights: dict[Chosen, Weighed] = {}
        self.far: dict[Chosen, float] = {}
        self.best: Chosen = ()
        self.alone = 0

    @property
    def start(self) -> Weighed:
        """The garden as it is, in the years that sift."""
        return self.weights[()]

    def run(self) -> Iterator[None]:
        """Weigh sets until the budget is spent or nothing is left to weigh."""
        self._take(())
        for i in range(min(len(self.sieve.moves), int(self.budget * ALONE_SHARE))):
            self._take((i,))
            self.alone += 1
            yield
        while len(self.far) < self.budget and (chosen := self._next()) is not None:
            self._take(chosen)
            yield

    def _take(self, chosen: Chosen) -> None:
        """Weigh a set, learn from it, and mark it where it is the best so far."""
        w, far, cost = self.sieve.sift(chosen), math.inf, math.inf
        if w is not None:
            self.weights[chosen] = w
            cost = self.wish.cost(w, self.start)
            if self.wish.affords(w, self.start):
                far = self.wish.far(w, self.start)
        self.far[chosen] = far
        self.guess.learn(chosen, far, cost)
        if math.isfinite(far) and self.rank(chosen) < self.rank(self.best):
            self.best = chosen

    def rank(self, chosen: Chosen) -> tuple[float, float, float, int, Chosen]:
        """What is better comes first, the same each time."""
        return (*self.wish.rank(self.weights[chosen], self.start), chosen)

    def _next(self) -> Chosen | None:
        """The set to weigh next, by turns: along the front, what is untested, what may be best."""
        far, cost = self.guess.expected()
        scale = max(self.far[()], 1e-9)
        here = int(np.flatnonzero((self.guess.rows == self.guess.row(self.best)).all(axis=1))[0])
        turn = len(self.far) % (len(RATES) + 3)
        if turn < len(RATES):
            dear = max(abs(float(self.guess.cost[here])), LITTLE_MONEY)
            score = far / scale + cost / dear / RATES[turn]
        elif turn == len(RATES):
            score = np.full(far.shape, np.inf)
            score[here] = self.guess.tested + np.minimum(far[here] / scale, 1.0) / 2
        elif turn % 2:
            score = far + 1e-6 * cost
        else:
            score = np.where(cost < self.guess.cost[here] - CENT, far, np.inf)
        for scored in (score, far + 1e-6 * cost):
            for chosen in self.guess.best(np.where(np.isfinite(far), scored, np.inf)):
                if chosen not in self.far:
                    return chosen
        return None

    def leaders(self) -> list[Chosen]:
        """What is to be confirmed in all years: the best sets, changes alone, the front."""
        sound = sorted((c for c, far in self.far.items() if math.isfinite(far)), key=self.rank)
        least = min(self.far[c] for c in sound)
        reach = [c for c in sound if self.wish.serves(self.far[c], least, self.far[()])]
        reach.sort(key=lambda c: self.rank(c)[1:])
        alone = [c for c in sound if len(c) == 1 and self.far[c] < self.far[()]]
        front = undominated([(c, self.weights[c]) for c in sound], self.wish, self.start)
        return list(dict.fromkeys([(), *reach[:CONFIRMED], *sound[:CONFIRMED], *alone[:SINGLES],
                                   *thinned(front, FRONT)]))

    def beside(self, chosen: Chosen, i: int) -> Chosen | None:
        """The best set weighed that has another change in the place of one."""
        rest = set(chosen) - {i}
        others = [c for c, far in self.far.items() if math.isfinite(far)
                  and len(c) == len(chosen) and rest < set(c) and c != chosen]
        return min(others, key=self.rank, default=None)


def undominated(sets: Sequence[tuple[Chosen, Weighed]], wish: Wish, start: Weighed
                ) -> list[Chosen]:
    """Those of which none other is both cheaper and better seen, the cheapest first."""
    seen = wish.aim.show_by
    by_cost = sorted(sets, key=lambda s: (round(wish.cost(s[1], start), 2), seen(s[1]),
                                          s[1].changes, s[0]))
    found: list[Chosen] = []
    least = math.inf
    for chosen, w in by_cost:
        if seen(w) < least - WORTH_SEEING:
            found.append(chosen)
            least = seen(w)
    return found


def thinned(sets: list[Chosen], most: int) -> list[Chosen]:
    """So many of them, spread evenly, the first and the last among them."""
    if len(sets) <= most:
        return sets
    return [sets[int(i)] for i in np.round(np.linspace(0, len(sets) - 1, most))]
