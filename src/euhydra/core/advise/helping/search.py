"""The sets of changes that serve a wish best, told with what each change of them buys.

A plain search that claims no more than it weighed: see :mod:`hunt`. A few years sift, all of them
confirm what leads.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from euhydra.core.advise.helping.hunt import CONFIRMED, FRONT, SINGLES, Hunt, undominated
from euhydra.core.advise.helping.moves import Move
from euhydra.core.advise.helping.sieve import Chosen, Sieve
from euhydra.core.advise.helping.weighing import Weighed
from euhydra.core.advise.helping.wishes import REACHED, Wish
from euhydra.core.results.results import Results

BUDGET = 300


@dataclass(frozen=True)
class Step:
    """One change of a set, or some that only go together: the garden before and after.

    ``beaten`` is the change that would serve next best in its place, with the whole set's figures
    then.
    """

    moves: tuple[Move, ...]
    before: Weighed
    after: Weighed
    beaten: tuple[Move, Weighed] | None = None


@dataclass(frozen=True)
class Found:
    """A set of changes and what the garden then comes to, in all its years."""

    moves: tuple[Move, ...]
    weighed: Weighed


@dataclass(frozen=True)
class Helps:
    """What was found. ``singles`` serve best alone; ``steps`` are the cheapest set that ``reached``
    the aim, else the nearest to it; ``front`` are gardens of which none is both cheaper and better.

    ``gardens`` were weighed, of ``could`` changes that the wish allows ``alone`` by themselves;
    most of them in ``sift_years``.
    """

    wish: Wish
    start: Weighed
    singles: tuple[Found, ...]
    steps: tuple[Step, ...]
    reached: bool
    front: tuple[Found, ...]
    gardens: int
    could: int
    alone: int
    sift_years: int

    @property
    def end(self) -> Weighed:
        """The garden with all steps made."""
        return self.steps[-1].after if self.steps else self.start

    @property
    def moves(self) -> tuple[Move, ...]:
        """The changes of all steps."""
        return tuple(move for step in self.steps for move in step.moves)


def sieve_for(r: Results, moves: Sequence[Move], wish: Wish) -> Sieve:
    """What a search weighs gardens with; a search that was broken off goes on with its own."""
    return Sieve(r, [move for move in moves if wish.allows(move)],
                 without_rain=wish.aim.seen == "lasts")


def search(sieve: Sieve, wish: Wish, budget: int = BUDGET) -> Iterator[float | Helps]:
    """Shares of the work done, and at last what was found. The same each time."""
    hunt = Hunt(sieve, wish, budget)
    whole = budget + CONFIRMED + SINGLES + FRONT
    for _ in hunt.run():
        yield min(len(hunt.far) / whole, 0.99)
    sure: dict[Chosen, Weighed] = {}
    for n, chosen in enumerate(hunt.leaders()):
        if (w := sieve.sure(chosen)) is not None:
            sure[chosen] = w
        yield min((budget + n) / whole, 0.99)
    yield _told(hunt, sure)


def _told(hunt: Hunt, sure: Mapping[Chosen, Weighed]) -> Helps:
    """What was found, by what was confirmed in all years."""
    wish, start = hunt.wish, sure[()]
    far = {c: wish.far(w, start) for c, w in sure.items() if wish.affords(w, start)}
    good = [c for c in far if math.isfinite(far[c])]
    least = min(far[c] for c in good)
    best = min((c for c in good if wish.serves(far[c], least, far[()])),
               key=lambda c: (wish.rank(sure[c], start)[1:], c))
    alone = sorted((c for c in good if len(c) == 1 and far[c] < far[()] - REACHED),
                   key=lambda c: wish.rank(sure[c], start))

    def found(chosen: Chosen) -> Found:
        return Found(tuple(hunt.sieve.moves[i] for i in chosen), sure[chosen])

    front = undominated([(c, sure[c]) for c in good], wish, start)
    best = _pruned(hunt, best, start, least)
    steps = _steps(hunt, best, start)
    return Helps(wish, start, tuple(map(found, alone[:SINGLES])), steps,
                 not wish.aim.least and least <= REACHED, tuple(map(found, front)),
                 hunt.sieve.count, len(hunt.sieve.moves), hunt.alone, hunt.sieve.sift_years)


def _pruned(hunt: Hunt, best: Chosen, start: Weighed, least: float) -> Chosen:
    """A set without what it serves as well without, by all years."""
    wish, at_first = hunt.wish, hunt.wish.far(start, start)
    now, quick = hunt.sieve.sure(best) or start, hunt.sieve.sift(best) or start
    for i in range(len(best)):
        less = (*best[:i], *best[i + 1:])
        sifted = hunt.sieve.sift(less)
        if sifted is None or wish.rank(sifted, start)[1:] >= wish.rank(quick, start)[1:]:
            continue
        w = hunt.sieve.sure(less)
        if w is not None and wish.affords(w, start) and wish.serves(
                wish.far(w, start), least, at_first) and (
                wish.rank(w, start)[1:] < wish.rank(now, start)[1:]):
            return _pruned(hunt, less, start, least)
    return best


def _steps(hunt: Hunt, best: Chosen, start: Weighed) -> tuple[Step, ...]:
    """The changes of a set in the order in which each brings most after those before it."""
    sieve, steps = hunt.sieve, list[Step]()
    made: Chosen = ()
    before = start
    while made != best:
        ways = [tuple(sorted((*made, i))) for i in best if i not in made]
        each = {way: w for way in ways if (w := sieve.sift(way)) is not None}
        # Where none can be made before the others, the rest is one step.
        made_next = min(each, key=lambda way: (hunt.wish.far(each[way], hunt.start), way),
                        default=best)
        new = sorted(set(made_next) - set(made))
        after = sieve.sure(made_next) or before
        steps.append(Step(tuple(sieve.moves[i] for i in new), before, after,
                          _beaten(hunt, best, new[0]) if len(new) == 1 else None))
        made, before = made_next, after
    return tuple(steps)


def _beaten(hunt: Hunt, best: Chosen, i: int) -> tuple[Move, Weighed] | None:
    """The change that would serve next best in the place of one, of those weighed there."""
    other = hunt.beside(best, i)
    w = hunt.sieve.sure(other) if other else None
    if other is None or w is None:
        return None
    (instead,) = set(other) - set(best)
    return hunt.sieve.moves[instead], w
