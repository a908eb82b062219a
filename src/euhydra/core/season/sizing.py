"""The same season with other stores: what each barrel buys, and what rules of thumb would have."""

from __future__ import annotations

import math
import os
from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from euhydra.core import storage
from euhydra.core.season.inputs import SeasonInputs
from euhydra.core.season.simulate import run_season
from euhydra.core.season.state import SAME, Season
from euhydra.core.weather.generator import MONTH_OF_DAY

BARRELS_SHOWN, MOST_SHOWN = 6, 14
ALWAYS = 0.9995  # of what is opened for
GROWS, TRIES = 1.1, 6


@dataclass(frozen=True)
class Sized:
    """What stores of one size give over all years: usable litres; shares of litres and of days.

    ``rain_l``, ``filled_in_l`` (wells, taps, by hand) and ``lacking_l`` are of a mean year,
    ``fills`` is how often in it a store is filled by hand.
    """

    usable_l: float
    given: float
    days_met: float
    spilled: float
    rain_l: float
    filled_in_l: float
    lacking_l: float
    dry_run: int
    fills: float

    @classmethod
    def of(cls, season: Season, banks: Sequence[int]) -> Sized:
        """That of a season that was run; ``banks`` are those that zones can draw from."""
        return cls(float(season.world.size[list(banks)].sum()), season.rain_share, season.days_met,
                   season.over_share, season.a_year(season.rain),
                   season.a_year(season.filled_in), season.a_year(season.lacking),
                   season.longest_dry_run,
                   float((season.poured > SAME).sum()) / season.years)


class Sizes:
    """A garden's season by number of barrels in its first store; the other stores stay.

    ``as_set`` says whether it is the season as the timer is set.
    """

    def __init__(self, inputs: SeasonInputs, season: Season, reached: tuple[int, ...], *,
                 as_set: bool) -> None:
        self.garden, self.banks = inputs.garden, inputs.banks
        self.stores, self.rain_mm = inputs.garden.stores, inputs.weather.rain_mm
        self.season, self.as_set = season, as_set
        self.reached = reached or tuple(range(len(season.world.size) - season.world.shafts))
        self._found: dict[tuple[float, ...], Sized] = {}

    @cached_property
    def counts(self) -> NDArray[np.int64]:
        """Numbers of barrels shown on the curve; the garden's own is among them.

        So many that the dry-spell rule stands on the curve, within MOST_SHOWN.
        """
        own = self.garden.store.count if self.stores else 0
        ruled = min(MOST_SHOWN, math.ceil(self._barrels(self.rule_sizes_l["dry-spell"])) + 1)
        return np.arange(1, max(BARRELS_SHOWN, own + 3, ruled) + 1)

    @property
    def own(self) -> int:
        """Where the garden's own number of barrels stands in ``counts``."""
        return self.garden.store.count - 1 if self.stores else 0

    @cached_property
    def curve(self) -> tuple[Sized, ...]:
        """What the season gives for every number in ``counts``."""
        sizes = [self._sizes(int(count)) for count in self.counts]
        with ThreadPoolExecutor(os.cpu_count()) as pool:  # the loops let go of the interpreter
            return tuple(pool.map(self._with, sizes))

    @property
    def waits(self) -> bool:
        """Whether the curve is still to be run."""
        return "curve" not in self.__dict__

    def at(self, i: int) -> Sized:
        """What the season gives for one of ``counts``, whether or not the others are run."""
        return self.with_barrels(int(self.counts[i]))

    def with_barrels(self, count: int) -> Sized:
        """What the season gives with so many barrels in the first store."""
        return self._with(self._sizes(count))

    def _with(self, sizes_l: Sequence[float]) -> Sized:
        key = tuple(sizes_l)
        if key not in self._found:
            world = self.season.world
            size = np.array([*sizes_l, *[0.0] * world.shafts])
            same = np.allclose(size, world.size, rtol=1e-12)
            mark = np.divide(world.filled_at * size, world.size, out=np.zeros_like(size),
                             where=world.size > 0)
            self._found[key] = Sized.of(self.season if same else run_season(
                replace(world, size=size, filled_at=mark)), self.reached)
        return self._found[key]

    def _sizes(self, count: int) -> list[float]:
        """Usable litres of each bank with so many barrels in the first store."""
        if not self.stores:
            return [0.0]
        sizes = [bank.usable_l for bank in self.banks.banks]
        mine = self.banks.of_store[self.stores[0].id]
        bank = self.banks.banks[mine]
        first = self.stores[0].model_copy(update={"count": count})
        sizes[mine] = replace(bank, stores=tuple(first if s.id == first.id else s
                                                 for s in bank.stores)).usable_l
        return sizes

    @cached_property
    def asked_l(self) -> NDArray[np.float64]:
        """Litres by day that are asked of the stores, (years, 365)."""
        stored = self.season.world.stored
        return np.asarray(self.season.asked[stored].sum(axis=0))

    @cached_property
    def inflow_l(self) -> NDArray[np.float64]:
        """Litres by day that come to the stores, (years, 365)."""
        return np.asarray(self.season.world.inflow.sum(axis=0))

    @cached_property
    def rule_sizes_l(self) -> dict[str, float]:
        """Usable litres that each rule of thumb asks for.

        They know of one store, so all water and all draws are put together.
        """
        inflow, asked = (self.season.by_year(x).ravel() for x in (self.inflow_l, self.asked_l))
        years, none = self.season.years, np.zeros_like(asked)
        # A day's water is drawn before its rain comes: two steps.
        peak = storage.sequent_peak_l(np.stack([none, inflow], axis=1).ravel(),
                                      np.stack([asked, none], axis=1).ravel())
        spell = float(np.median(storage.longest_dry_spell(self.rain_mm)))
        most = max(float(self.asked_l[:, MONTH_OF_DAY == m].mean()) for m in range(12))
        return {
            "five-percent": storage.five_percent_l(float(inflow.sum()) / years,
                                                   float(asked.sum()) / years),
            "dry-spell": spell * most,
            "never-fails": peak if inflow.sum() >= asked.sum() else math.inf}

    def _barrels(self, size_l: float) -> float:
        """How many barrels like the first store's make so much, with the other stores as they are.

        0 where the others are enough, or where another barrel would add nothing.
        """
        one, two = sum(self._sizes(1)), sum(self._sizes(2))
        return max(size_l - (2 * one - two), 0.0) / (two - one) if two > one else 0.0

    @cached_property
    def rules(self) -> tuple[storage.SizingRule, ...]:
        """What the rules of thumb would have one buy, and what the season gives with each."""
        found = []
        # A store that holds a year's draw gives all that comes.
        a_year = max(float(self.asked_l.sum(axis=1).max()), 1.0)
        for key, size in self.rule_sizes_l.items():
            if key == "never-fails":
                size = self._never_fails(size)
            share = self._with(self._in_all(min(size, a_year))).given
            found.append(storage.SizingRule(
                key, size, self._barrels(size) if math.isfinite(size) else math.inf, share))
        return tuple(found)

    def _never_fails(self, size_l: float) -> float:
        """The least store, in tenths from the sequent peak's, with which the season never fails.

        The sequent peak knows no levels: a larger store stands higher, and a timer draws more from
        it. Infinite where none of them is enough.
        """
        for tries in range(TRIES if math.isfinite(size_l) else 0):
            size = size_l * GROWS**tries
            if self._with(self._in_all(size)).given >= ALWAYS:
                return size
        return math.inf

    def _in_all(self, size_l: float) -> list[float]:
        """Each bank's litres when all hold so much: the first store's bank holds what is left."""
        sizes = self._sizes(1)
        if not self.stores:
            return sizes
        mine = self.banks.of_store[self.stores[0].id]
        rest = sum(sizes) - sizes[mine]
        sizes = [s * min(1.0, size_l / rest) if rest > 0 else s for s in sizes]
        sizes[mine] = max(size_l - rest, 0.0)
        return sizes
