"""Away from home: which plots hold, what fails first and when, and what would help."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from euhydra.core.season import Season
from euhydra.core.season.inputs import SeasonInputs, world_of
from euhydra.core.season.simulate import run_days
from euhydra.core.season.state import SAME, THIRSTY, Array
from euhydra.core.statements.figures import Amount, Phrase, quoted, say

MOST_DAYS = 60


@dataclass(frozen=True)
class PlotAway:
    """How a plot fares while one is away.

    ``holds`` is the share of years in which it is never thirsty: its crop always gets THIRSTY or
    more of what it would drink; ``fails_on`` the middle of the days on which it first is (1 is the
    first day away), 0 where it never is; ``thirsty_days`` their mean number; ``litres_day`` what
    it drinks a day then.
    """

    plot: str
    holds: float
    fails_on: int
    litres_day: float
    thirsty_days: float


@dataclass(frozen=True)
class Away:
    """Days away, from a day of the year (0 to 364). Plots stand worst first.

    ``chance`` is the share of years in which some plot is thirsty on each of the days.
    """

    first: int
    days: int
    plots: tuple[PlotAway, ...]
    chance: tuple[float, ...]

    @property
    def first_to_fail(self) -> PlotAway | None:
        """The plot that fails in most years, the earliest of those; None where all hold."""
        failing = [p for p in self.plots if p.holds < 1]
        return failing[0] if failing else None

    @property
    def holds(self) -> float:
        """The share of years of the plot that holds least."""
        return min((p.holds for p in self.plots), default=1.0)


def days_of(first: int, days: int) -> np.ndarray:
    """The days of the year that one is away."""
    return (first + np.arange(days)) % 365


def season_away(inputs: SeasonInputs, was: Season, first: int, days: int,
                stands: Array | None = None) -> Season:
    """Those days with nobody there, begun as the ordinary years ``was`` stand the evening before.

    Where it is known how the garden's own banks stand, (B,) litres, they begin so.

    Whoever goes away has watered every plot and filled what is filled by hand; a tap opened by
    hand stays shut and nobody washes.
    Where a garden is changed for the journey its banks are as full in proportion as they were.
    """
    world, on = world_of(inputs), days_of(first, days)
    filled = world.filled_at > 0
    world.filled_at[:] = 0.0
    world.grey[:, :, on] = 0.0
    world.drained[:, on] = 0.0
    by_hand = [*(not inputs.garden.timer_of(zone) for zone in inputs.garden.zones),
               *(True for _ in inputs.schedule.by_hand)]
    for zone in np.flatnonzero(by_hand).tolist():
        world.minutes[zone, :, on] = 0.0
    full = np.divide(was.level[:, :, first - 1], was.world.size[:, None],
                     out=np.zeros_like(was.level[:, :, 0]), where=was.world.size[:, None] > 0)
    if stands is not None:
        full[:len(stands)] = (stands / np.maximum(world.size[:len(stands)], SAME))[:, None]
    full[filled] = 1.0
    reservoir = np.repeat(world.reservoir[:, None], was.years, axis=1)
    return run_days(world, full * world.size[:, None], np.zeros_like(reservoir), reservoir, on)


def away(inputs: SeasonInputs, was: Season, first: int, days: int,
         stands: Array | None = None) -> Away:
    """How every plot that grows then fares, over all years; as :func:`season_away`."""
    on = days_of(first, days)
    season = season_away(inputs, was, first, days, stands)
    found = []
    for i, plot in enumerate(season.world.plots):
        drinks = float(season.world.use[i][:, on].mean())
        if drinks <= 0:
            continue
        fails = season.fed[i][:, on] < THIRSTY
        failing = fails.any(axis=1)
        when = int(np.median(fails[failing].argmax(axis=1))) + 1 if failing.any() else 0
        found.append(PlotAway(plot, 1 - float(failing.mean()), when, drinks,
                              float(fails.sum(axis=1).mean())))
    chance = season.thirsty[:, :, on].any(axis=0).mean(axis=0)
    return Away(first, days, tuple(sorted(found, key=lambda p: (p.holds, p.fails_on))),
                tuple(chance.tolist()))


@dataclass(frozen=True)
class Ask:
    """What a neighbour is asked for: litres for a plot from a day on (1 is the first), so often."""

    plot: str
    from_day: int
    every: int
    litres: float

    def falls_on(self, day: int) -> bool:
        """Whether it is to be done on a day away."""
        return day >= self.from_day and (day - self.from_day) % self.every == 0


def asks(told: Away) -> tuple[Ask, ...]:
    """What to ask of a neighbour, for each plot that does not hold in every year."""
    every = 1 if any(p.fails_on and p.fails_on <= 2 for p in told.plots) else 2
    return tuple(Ask(p.plot, max(p.fails_on - 1, 1), every, p.litres_day * every)
                 for p in told.plots if p.fails_on)


def neighbour_note(season: Season, told: Away) -> list[Phrase]:
    """What to ask of a neighbour, a line for each plot."""
    return [say(f"{quoted(season.world.name_of(ask.plot))}: from day {ask.from_day} on, "
                + "{l} every " + ("day" if ask.every == 1 else "second day")
                + ", slowly, in the morning or evening.", l=Amount(ask.litres, "volume"))
            for ask in asks(told)]
