"""Sets of changes made to a garden and weighed, each once; some years to sift, all to confirm."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Sequence

from euhydra.core.advise.helping.moves import Move, as_one
from euhydra.core.advise.helping.weighing import Weighed, more_to_buy, spread, weighed
from euhydra.core.editing.makers import CannotAdd
from euhydra.core.editing.trees import EditRefused
from euhydra.core.garden.model import Garden
from euhydra.core.results.results import Results

Chosen = tuple[int, ...]  # places among the moves, rising
SIFT_YEARS = 6
FEWEST_PLOT_YEARS = 60  # a garden with fewer is weighed in all its years at once
MOST_LAYINGS, MOST_GARDENS = 8, 40  # whose results, and whose lines, are kept at hand


class Sieve:
    """The gardens that sets of moves make of one, weighed when first asked for.

    A set that cannot be made, for a change that the garden refuses, weighs None. What is sifted
    costs what its changes cost one by one; what is sure, what the whole of it does.
    """

    def __init__(self, r: Results, moves: Sequence[Move], *, without_rain: bool = False) -> None:
        self.whole, self.moves, self.without_rain = r, tuple(moves), without_rain
        few = len(r.garden.plots) * r.years <= FEWEST_PLOT_YEARS
        years = () if few else spread(r, SIFT_YEARS)
        self.sifting = bool(years)
        self.sift_years = len(years) or r.years
        self.like = OrderedDict[Chosen, Results]([((), r.sifted(years) if years else r)])
        self._gardens: dict[Chosen, Garden | None] = {(): r.garden}
        self._found: dict[Chosen, Weighed | None] = {}
        self._sure: dict[Chosen, Weighed | None] = {}

    @property
    def count(self) -> int:
        """How many gardens were weighed."""
        return len({*self._found, *self._sure})

    def garden(self, chosen: Chosen) -> Garden | None:
        """The garden with a set of moves made."""
        laying = self._laying(chosen)
        if laying not in self._gardens:
            self._gardens[laying] = self._made(self.whole.garden, laying)
            if len(self._gardens) > MOST_GARDENS:
                del self._gardens[next(key for key in self._gardens if key)]
        laid = self._gardens[laying]
        return laid if laid is None else self._made(laid, tuple(
            i for i in chosen if i not in laying))

    def sift(self, chosen: Chosen) -> Weighed | None:
        """A set weighed in a few years."""
        if chosen not in self._found:
            self._found[chosen] = self._sifted(chosen)
        return self._found[chosen]

    def sure(self, chosen: Chosen) -> Weighed | None:
        """A set weighed in all years."""
        if chosen not in self._sure:
            garden = self.garden(chosen)
            made = None if garden is None else self.whole.revised(garden, self.whole.record)
            self._sure[chosen] = None if made is None else self._figures(
                chosen, made, more_to_buy(self.whole.parts, made.parts), without_rain=True)
        return self._sure[chosen]

    def _laying(self, chosen: Chosen) -> Chosen:
        return tuple(i for i in chosen if self.moves[i].lays)

    def _made(self, garden: Garden, chosen: Chosen) -> Garden | None:
        try:
            return as_one([self.moves[i] for i in chosen]).apply(garden, self.whole.library)
        except (EditRefused, CannotAdd):
            return None

    def _sifted(self, chosen: Chosen) -> Weighed | None:
        garden = self.garden(chosen)
        if garden is None:
            return None
        laying = self._laying(chosen)
        near = self.like.get(laying) or next(reversed(self.like.values()))
        made = near.revised(garden, self.whole.record)
        alone = [w.bought for i in chosen if (w := self._found.get((i,))) is not None]
        known = self.sifting and len(alone) == len(chosen) > 1
        found = self._figures(chosen, made, sum(alone) if known else more_to_buy(
            self.whole.parts, made.parts), without_rain=self.without_rain)
        if laying not in self.like or not chosen:
            made.let_go()
            self.like[laying] = made
            while len(self.like) > MOST_LAYINGS:
                self.like.popitem(last=False)
        return found

    def _figures(self, chosen: Chosen, made: Results, bought: float, *, without_rain: bool
                 ) -> Weighed:
        return weighed(made, bought, sum(self.moves[i].hours for i in chosen), len(chosen),
                       without_rain=without_rain)
