"""The run itself: all years side by side, a day in four parts.

Each day: water is drawn from what stood there before, by the timer's minutes at the flow of that
level; what the banks lack a well gives, then a tap through its air gap; used water comes and crops
drink half before noon and half after; then the day's rain comes, fills, and spills (yield after
spillage).
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from typing import cast

import numpy as np
from numpy.typing import NDArray

from euhydra.core.season.programme import PARTS
from euhydra.core.season.world import Array, Season, World

DRINKS = (0.0, 0.5, 0.5, 0.0)  # of a day's thirst, by part of the day
SAME_L = 0.05
MOST_PASSES = 40
FIRST_PASS = 0.6  # of all the work, about
TELL_DAYS = 5
WHOLE_YEAR = np.arange(365)
BY_PLOT = ("given", "wasted", "drunk", "fed", "lacking", "depletion", "reservoir")
BY_YEAR = ("spilled", "well", "tap", "used")


def run_season(world: World, start_share: float = 0.5) -> Season:
    """All years of a garden. Each year begins as the year before it ended."""
    *_, season = season_steps(world, start_share)
    return cast(Season, season)


def season_steps(world: World, start_share: float = 0.5) -> Iterator[float | Season]:
    """The same, telling from time to time what share of the work is done; the season comes last.

    Years run side by side; those that did not begin so run again until none is left. How many
    those will be is not known beforehand, so each pass counts for half of what is left.
    """
    years, done, left = world.inflow.shape[1], 0.0, FIRST_PASS
    begin = _State.at(world, years, start_share)
    season, end = _blank(world, begin), begin.copy()
    for share in _days_run(world, season, end):
        yield share * left
    for _ in range(min(MOST_PASSES, years)):
        done, left = done + left, (1 - done - left) / 2
        after = begin.following(end)
        again = np.flatnonzero(after.apart(begin) > SAME_L)
        if not again.size:
            break
        begin = after
        some, ended = some_years(world, again), begin.some(again)
        part = _blank(some, ended)
        for share in _days_run(some, part, ended):
            yield done + share * left
        _put(season, part, again)
        end.put(ended, again)
    yield season


class _State:
    """What carries over from day to day: (B, Y) levels, (P, Y) depletion and reservoirs."""

    def __init__(self, level: Array, depletion: Array, reservoir: Array) -> None:
        self.level, self.depletion, self.reservoir = level, depletion, reservoir

    @classmethod
    def at(cls, world: World, years: int, share: float) -> _State:
        plots = len(world.plots)
        return cls(np.repeat(world.size[:, None] * share, years, axis=1), np.zeros((plots, years)),
                   np.repeat(world.reservoir[:, None], years, axis=1))

    def _each(self) -> tuple[Array, Array, Array]:
        return self.level, self.depletion, self.reservoir

    def copy(self) -> _State:
        return _State(*(x.copy() for x in self._each()))

    def some(self, years: NDArray[np.intp]) -> _State:
        return _State(*(x[:, years].copy() for x in self._each()))

    def put(self, other: _State, years: NDArray[np.intp]) -> None:
        for mine, theirs in zip(self._each(), other._each(), strict=True):
            mine[:, years] = theirs

    def following(self, end: _State) -> _State:
        """The first year's own beginning, then each year's end as the next one's beginning."""
        return _State(*(np.concatenate([mine[:, :1], theirs[:, :-1]], axis=1)
                        for mine, theirs in zip(self._each(), end._each(), strict=True)))

    def apart(self, other: _State) -> Array:
        gaps = [np.abs(a - b).max(axis=0, initial=0.0)
                for a, b in zip(self._each(), other._each(), strict=True)]
        return np.asarray(np.max(gaps, axis=0))


def some_years(world: World, years: NDArray[np.intp]) -> World:
    """The same garden in some of its years."""
    return replace(world, minutes=world.minutes[:, years], use=world.use[:, years],
                   rain=world.rain[:, years], inflow=world.inflow[:, years],
                   grey=world.grey[:, years], drained=world.drained[years])


def _put(season: Season, part: Season, years: NDArray[np.intp]) -> None:
    for name in (*BY_PLOT, "level", "start", "end"):
        getattr(season, name)[:, years] = getattr(part, name)
    for name in BY_YEAR:
        getattr(season, name)[years] = getattr(part, name)


def run_days(world: World, level: Array, depletion: Array, reservoir: Array,
             days: NDArray[np.intp]) -> Season:
    """Some days of each year only, begun with these levels (B, Y), depletion and free water (P, Y).

    What the season holds of other days is empty.
    """
    begin = _State(level, depletion, reservoir)
    season = _blank(world, begin)
    for _ in _days_run(world, season, begin.copy(), days):
        pass
    return season


def _blank(world: World, begin: _State) -> Season:
    """A season of which no day has been run."""
    plots, (banks, years) = len(world.plots), begin.level.shape
    daily = {name: np.zeros((plots, years, 365)) for name in BY_PLOT}
    daily |= {name: np.zeros((years, 365)) for name in BY_YEAR}
    season = Season(world=world, level=np.zeros((banks, years, 365)), start=begin.level.copy(),
                    end=begin.level.copy(), **daily)
    season.fed[:] = 1.0
    return season


def _days_run(world: World, season: Season, state: _State,
              days: NDArray[np.intp] = WHOLE_YEAR) -> Iterator[float]:
    """Run days on a season and a state, telling now and then what share of them is done."""
    day = _Day(world, season, state)
    for n, i in enumerate(days.tolist()):
        day.run(i)
        if n % TELL_DAYS == TELL_DAYS - 1:
            yield n / len(days)
    season.end[:] = state.level


class _Day:
    """One day at a time, on the arrays of a season."""

    def __init__(self, world: World, season: Season, state: _State) -> None:
        self.world, self.season, self.state = world, season, state
        plots, banks = len(world.plots), len(world.size)
        self.of_bank = np.zeros((banks, plots))
        stored = world.bank >= 0
        self.of_bank[world.bank[stored], np.flatnonzero(stored)] = 1.0
        self.stored = stored
        self.bank = np.maximum(world.bank, 0)
        low, half, full = (world.flow_l_h[:, i, None] for i in range(3))
        self.low, self.rise, self.more = low, 2 * (half - low), 2 * (full - 2 * half + low)
        self.washes = np.asarray((world.drained > 0).any(axis=0))
        self.opens = np.asarray((world.minutes > 0).any(axis=(0, 1)))  # (365, 4)
        self.timed = ~world.always_on
        self.spread = np.maximum(world.total - world.ready, 1e-9)[:, None]

    def run(self, i: int) -> None:
        """Day ``i`` of every year."""
        world, state, season = self.world, self.state, self.season
        there = state.level.copy()
        self.well_left = np.repeat(world.well[:, None], there.shape[1], axis=1)
        for part in range(PARTS):
            if self.opens[i, part]:
                self._draw(i, self._asked(i, part, there), there)
            if DRINKS[part]:
                if self.washes[i]:
                    self._wash(i, DRINKS[part])
                if world.always_on.any():
                    self._draw(i, self._let_in(i, DRINKS[part]), there)
                self._drink(i, DRINKS[part])
        fell = world.rain[:, :, i]
        np.maximum(state.depletion - fell, 0.0, out=state.depletion)
        self._fill(i, there)
        season.level[:, :, i] = state.level
        season.depletion[:, :, i] = state.depletion
        season.reservoir[:, :, i] = state.reservoir

    def _asked(self, i: int, part: int, there: Array) -> Array:
        world = self.world
        share = np.clip(there / np.maximum(world.size, 1e-9)[:, None], 0, 1)[self.bank]
        share = np.where(self.stored[:, None], share, 1.0)
        flow = self.low + self.rise * share + self.more * np.maximum(share - 0.5, 0.0)
        asked = flow * world.minutes[world.zone, :, i, part] / 60
        return np.asarray(np.where(self.timed[:, None], asked, 0.0))

    def _let_in(self, i: int, part: float) -> Array:
        """What float valves let in: all that the row drinks, and what its mix and water lack."""
        world, state = self.world, self.state
        lacks = world.reservoir[:, None] - state.reservoir + state.depletion
        return np.where(world.always_on[:, None], lacks + world.use[:, :, i] * part, 0.0)

    def _draw(self, i: int, asked: Array, there: Array) -> None:
        """Give what is asked from the banks, their feeders, wells and taps, in that order."""
        world, state, season = self.world, self.state, self.season
        want = self.of_bank @ asked
        got = np.minimum(want, there)
        there -= got
        for a, b in world.feeds:
            fed = np.minimum(want[b] - got[b], there[a])
            got[b] += fed
            there[a] -= fed
        well = np.minimum(want - got, self.well_left)
        self.well_left -= well
        got += well
        tap = np.where(world.tapped[:, None], want - got, 0.0)
        got += tap
        share = np.divide(got, want, out=np.ones_like(want), where=want > 1e-12)[self.bank]
        given = np.where(self.stored[:, None], asked * share, asked)
        season.well[:, i] += well.sum(axis=0)
        season.tap[:, i] += tap.sum(axis=0) + asked[~self.stored].sum(axis=0)
        season.given[:, :, i] += given
        season.lacking[:, :, i] += asked - given
        on = world.always_on[:, None]
        useful = np.minimum(given * world.works[:, None], state.depletion)
        state.depletion -= useful
        state.reservoir += np.where(on, given - useful, 0.0)
        season.wasted[:, :, i] += np.where(on, 0.0, given - useful)

    def _wash(self, i: int, part: float) -> None:
        """Used water to the ground it is led to; what a drum spills is lost."""
        world, state, season = self.world, self.state, self.season
        came = world.grey[:, :, i] * part
        useful = np.minimum(came, state.depletion)
        state.depletion -= useful
        season.given[:, :, i] += came
        season.wasted[:, :, i] += came - useful
        season.used[:, i] += world.drained[:, i] * part
        season.spilled[:, i] += world.drained[:, i] * part - came.sum(axis=0)

    def _drink(self, i: int, part: float) -> None:
        """FAO-56 eq. 84: a crop drinks less once its roots are drawn past what is ready."""
        world, state, season = self.world, self.state, self.season
        use = world.use[:, :, i] * part
        own = np.minimum(state.reservoir, use)
        state.reservoir -= own
        left = (world.total[:, None] - state.depletion) / self.spread
        drawn = np.minimum((use - own) * np.clip(left, 0.0, 1.0),
                           world.total[:, None] - state.depletion)
        state.depletion += drawn
        drunk = own + drawn
        season.drunk[:, :, i] += drunk
        fed = np.divide(drunk, use, out=np.ones_like(use), where=use > 1e-9)
        np.minimum(season.fed[:, :, i], fed, out=season.fed[:, :, i])

    def _fill(self, i: int, there: Array) -> None:
        """The day's rain into the banks, over their rims and on, as yield after spillage has it."""
        world, state, season = self.world, self.state, self.season
        drawn = state.level - there
        spilt = np.zeros_like(there)
        for b, over in enumerate(world.over_to):
            comes = there[b] + world.inflow[b, :, i] + spilt[b]
            room = world.size[b] - drawn[b]
            state.level[b] = np.minimum(comes, room)
            if over >= 0:
                spilt[over] += comes - state.level[b]
            else:
                season.spilled[:, i] += comes - state.level[b]
