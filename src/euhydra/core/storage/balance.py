"""How stores behave day by day, for every size at once."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np
from numpy.typing import ArrayLike, NDArray

Array = NDArray[np.float64]
Rule = Literal["spillage", "before"]
SAME_L = 1e-7  # levels no farther apart are one level


@dataclass(frozen=True)
class Balance:
    """A balance in litres. Shapes: sizes (banks, sizes); in and demand (banks, years, days).

    ``used_l`` (given to each bank's own plots) and ``level_l`` (at day's end) have shape (banks,
    years, days, sizes). ``start_l`` is what stood there at the very start, (banks, sizes).
    """

    size_l: Array
    inflow_l: Array
    demand_l: Array
    used_l: Array
    level_l: Array
    start_l: Array

    @property
    def wanted_l(self) -> float:
        """All that was wanted of all banks."""
        return float(self.demand_l.sum())

    @property
    def given_l(self) -> Array:
        """All that was given, by size."""
        return np.asarray(self.used_l.sum(axis=(0, 1, 2)))

    @property
    def reliability(self) -> Array:
        """Share of the litres wanted that the stores gave, by size; 1 where nothing is wanted."""
        if self.wanted_l == 0:
            return np.ones(self.size_l.shape[1])
        return self.given_l / self.wanted_l

    @property
    def unmet_l(self) -> Array:
        """Litres wanted and not given, by size."""
        return self.wanted_l - self.given_l

    @cached_property
    def short(self) -> NDArray[np.bool_]:
        """Days on which some bank gave less than was wanted, (years, days, sizes)."""
        return np.asarray((self.used_l < self.demand_l[..., None] - 1e-6).any(axis=0))

    @property
    def day_reliability(self) -> Array:
        """Share of the days with a need on which it was met in full, by size."""
        wanted = (self.demand_l > 0).any(axis=0)
        if not wanted.any():
            return np.ones(self.size_l.shape[1])
        return np.asarray((~self.short)[wanted].mean(axis=0))

    @cached_property
    def spilled_l(self) -> Array:
        """Litres that left all stores unused each day, (years, days, sizes)."""
        years, days, sizes = self.level_l.shape[1:]
        ended = self.level_l.sum(axis=0).reshape(years * days, sizes)
        began = np.concatenate([self.start_l.sum(axis=0)[None], ended[:-1]])
        came = self.inflow_l.sum(axis=0).reshape(-1, 1)
        used = self.used_l.sum(axis=0).reshape(years * days, sizes)
        spilled = np.maximum(began + came - used - ended, 0.0)  # no rounding under nothing
        return np.asarray(spilled.reshape(years, days, sizes))

    @property
    def overflow_share(self) -> Array:
        """Share of the inflow that spilled, by size; 0 where nothing flows in."""
        total = float(self.inflow_l.sum())
        return self.spilled_l.sum(axis=(0, 1)) / total if total else np.zeros(self.size_l.shape[1])

    @property
    def longest_dry_run(self) -> NDArray[np.int64]:
        """Most days from a need unmet to the next need met, by size."""
        short = self.short.reshape(-1, self.size_l.shape[1])
        wanted = (self.demand_l > 0).any(axis=0).reshape(-1)
        days = np.arange(len(wanted))
        asked = np.maximum.accumulate(np.where(wanted, days, -1))
        dry = short[asked] & (asked >= 0)[:, None]  # a day without a need stays as it was
        wet = np.maximum.accumulate(np.where(dry, -1, days[:, None]), axis=0)
        return np.asarray(np.where(dry, days[:, None] - wet, 0).max(axis=0))


def balance(inflow_l: ArrayLike, demand_l: ArrayLike, sizes_l: ArrayLike, *,
            rule: Rule = "spillage", start_share: float = 0.5,
            over_to: Sequence[int] = (-1,), feeds: Sequence[tuple[int, int]] = ()) -> Balance:
    """Behaviour model by day for every size at once.

    Yield after spillage (Jenkins et al. 1978; Fewkes & Butler 2000), the cautious rule: the day's
    rain comes and spills before the day's water is drawn from what stood there before,
    Y = min(D, V₋), V = min(V₋ + Q − Y, S − Y). ``rule="before"`` draws first from rain and store
    together.

    One store: ``inflow_l`` and ``demand_l`` of shape (days,) or (years, days), ``sizes_l``
    (sizes,). Several banks: a leading axis of banks on each; ``over_to[i]`` is the later bank that
    bank i spills into (−1: none), and each (a, b) of ``feeds`` lets b draw on a when b is empty.

    All years run side by side from a foreseen start (:func:`_foreseen`); those that did not start
    at the level the year before ended with run again, until none is left. The result is that of
    one long run.
    """
    flow, want, sizes = _shaped(inflow_l, demand_l, sizes_l)
    banks, years, days = flow.shape
    shape = (banks, days, years, sizes.shape[1])
    used, level = np.empty(shape), np.empty(shape)
    start = _foreseen(flow, want, sizes, start_share)
    run = _Run(sizes, rule, tuple(over_to), tuple(feeds))
    run.through(flow, want, start, used, level)
    while (wrong := np.abs(start[:, 1:] - level[:, -1, :-1]) > SAME_L).any():
        start[:, 1:][wrong] = level[:, -1, :-1][wrong]
        again = 1 + np.flatnonzero(wrong.any(axis=(0, 2)))
        some_used, some_level = (np.empty((banks, days, len(again), shape[3])) for _ in range(2))
        run.through(flow[:, again], want[:, again], start[:, again], some_used, some_level)
        used[:, :, again], level[:, :, again] = some_used, some_level
    return Balance(sizes, flow, want, used.transpose(0, 2, 1, 3), level.transpose(0, 2, 1, 3),
                   sizes * start_share)


@dataclass(frozen=True)
class _Run:
    """One pass through the days for some of the years, side by side."""

    sizes: Array
    rule: Rule
    over_to: tuple[int, ...]
    feeds: tuple[tuple[int, int], ...]

    def through(self, flow: Array, want: Array, start: Array, used: Array, level: Array) -> None:
        """Fill ``used`` and ``level``, (banks, days, years, sizes), from the levels begun with.

        ``flow`` and ``want`` have shape (banks, years, days), ``start`` (banks, years, sizes).
        """
        come, need = flow.transpose(2, 0, 1)[..., None], want.transpose(2, 0, 1)[..., None]
        full = np.broadcast_to(self.sizes[:, None], start.shape)
        room = np.empty_like(start[0])
        simple = len(start) == 1 and self.rule == "spillage"
        before = list(start)
        for day in range(flow.shape[2]):
            if simple:
                drawn, kept = used[0, day], level[0, day]
                np.minimum(need[day, 0], before[0], out=drawn)
                np.subtract(full[0], drawn, out=room)
                np.subtract(before[0], drawn, out=kept)
                np.add(kept, come[day, 0], out=kept)
                np.minimum(kept, room, out=kept)
                before = [kept]
            else:
                before = self._day(come[day], need[day], full, before, used[:, day],
                                   level[:, day])

    def _day(self, come: Array, want: Array, full: Array, before: list[Array], used: Array,
             level: Array) -> list[Array]:
        """One day of any banks under either rule; gives the levels at its end."""
        banks = len(before)
        first = self.rule == "before"
        at_hand = [before[b] + come[b] if first else before[b] for b in range(banks)]
        drawn = [np.minimum(want[b], at_hand[b]) for b in range(banks)]
        given = [d.copy() for d in drawn]
        for a, b in self.feeds:
            fed = np.minimum(want[b] - given[b], at_hand[a] - drawn[a])
            given[b], drawn[a] = given[b] + fed, drawn[a] + fed
        spilt = [np.zeros_like(full[0]) for _ in range(banks)]
        for b in range(banks):
            there = before[b] + come[b] - drawn[b] + spilt[b]
            room = full[b] if first else full[b] - drawn[b]
            level[b] = np.minimum(there, room)
            if self.over_to[b] >= 0:
                spilt[self.over_to[b]] += there - level[b]
            used[b] = given[b]
        return list(level)


def _foreseen(flow: Array, want: Array, sizes: Array, start_share: float) -> Array:
    """Level at each year's start, (banks, years, sizes), each bank taken by itself.

    Where a day's rain and need fit in the store together, a day is V → clip(V + Q − D, Q, S − D),
    and a year of them is again one clip, V → clip(V + c, low, high). So the years need not wait
    for each other: low and high are where a year ends that starts far under and far over.
    Elsewhere it is a guess.
    """
    banks, years, days = flow.shape
    shape = (banks, years, sizes.shape[1])
    ends = np.empty((2, *shape))
    ends[0], ends[1] = -np.inf, np.inf
    come, need = flow[..., None], want[..., None]
    change = come - need
    for day in range(days):
        ends += change[:, :, day]
        np.maximum(ends, come[:, :, day], out=ends)
        np.minimum(ends, sizes[:, None] - need[:, :, day], out=ends)
    start = np.empty(shape)
    start[:, 0] = sizes * start_share
    total = change.sum(axis=2)
    for year in range(1, years):
        start[:, year] = np.clip(start[:, year - 1] + total[:, year - 1], ends[0, :, year - 1],
                                 ends[1, :, year - 1])
    return np.maximum(start, 0.0)


def _shaped(inflow_l: ArrayLike, demand_l: ArrayLike, sizes_l: ArrayLike
            ) -> tuple[Array, Array, Array]:
    flow, want, sizes = (np.asarray(x, dtype=float) for x in (inflow_l, demand_l, sizes_l))
    if sizes.ndim == 1:
        sizes = sizes[None]
        flow, want = flow[None], want[None]
    if flow.ndim == 2:
        flow, want = flow[:, None], want[:, None]
    return flow, want, sizes
