"""What each zone needs to run, month by month, from its plots' thirst and the solved flow."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from euhydra.core.demand.crop_water import PlotThirst
from euhydra.core.hydraulics.refilling import Refill
from euhydra.core.weather.generator import MONTH_OF_DAY

LEAST_EFFICIENCY = 0.5
MOST_DAYS_BETWEEN = 3
SEEDLINGS_H = 12.0
PULSE_H = 8.0  # morning, noon and evening, from memory
LEAST_NEED_L_DAY = 0.05
NOTHING_DRAINS = Refill()
NO_OWN: Mapping[str, float] = {}
LEAST_DAYS = 7  # a plot in season for less of a month keeps the neighbouring month's setting


@dataclass(frozen=True)
class PlotNeed:
    """One plot of a zone in a month: litres a day at its outlets, its flow, what lands on it.

    ``lands`` is its share of what drains from the lines after a run.
    """

    plot: str
    wanted_l_day: float
    flow_l_h: float
    lands: float = 0.0

    def run_min(self, days: float, drained_l: float, zone_l_h: float) -> float:
        """The run that gives it what so many days want, once the lines are filled again."""
        wants, lands = self.wanted_l_day * days, drained_l * self.lands
        if self.wanted_l_day < LEAST_NEED_L_DAY:
            return 0.0
        if zone_l_h <= 1e-6 or (wants > lands and self.flow_l_h <= 1e-6):
            return math.inf
        if wants <= lands:
            return 60 * wants / (self.lands * zone_l_h)
        return 60 * ((wants - lands) / self.flow_l_h + drained_l / zone_l_h)

    def gets_l(self, minutes: float, drained_l: float, zone_l_h: float) -> float:
        """What a run gives it: its flow once the lines are full, and its part of what drains."""
        opened = zone_l_h * minutes / 60
        if zone_l_h <= 1e-6:
            return 0.0
        filled = min(opened, drained_l)
        return filled * self.lands + (opened - filled) * self.flow_l_h / zone_l_h


@dataclass(frozen=True)
class MonthNeed:
    """A zone in one month: litres a day for the thirstiest plot's sake, and how seldom it may be.

    ``wanted_l_day`` is what the zone's plots need on their days in season; ``minutes_a_day`` is the
    run that gives the thirstiest its share out of full lines; ``longest_gap_h`` is the longest time
    between runs that the root zone bridges. ``drained_l`` drains after each run.
    """

    month: int
    wanted_l_day: float
    minutes_a_day: float
    longest_gap_h: float
    plots: tuple[PlotNeed, ...] = ()
    drained_l: float = 0.0
    flow_l_h: float = 0.0

    def run_min(self, days: float) -> float:
        """Minutes of a run for so many days: the thirstiest plot gets what it wants of them."""
        if not self.plots:
            return self.minutes_a_day * days
        return max(p.run_min(days, self.drained_l, self.flow_l_h) for p in self.plots)

    def gets_l(self, plot: str, minutes: float) -> float:
        """Litres that a run of so many minutes gives a plot."""
        return next((p.gets_l(minutes, self.drained_l, self.flow_l_h) for p in self.plots
                     if p.plot == plot), 0.0)


def efficiency(flow: RunsAt) -> float:
    """Share of the water that does its work: the low-quarter uniformity, at least one half."""
    return max(LEAST_EFFICIENCY, flow.low_quarter)


class RunsAt(Protocol):
    """What a run's need is worked out from: a zone's flow, or what a hand gives."""

    @property
    def flow_l_h(self) -> float:
        """All that is given."""
        ...

    @property
    def low_quarter(self) -> float:
        """How evenly it lands."""
        ...

    def plot_flow_l_h(self, plot_id: str) -> float:
        """What one plot gets."""
        ...


def month_needs(flow: RunsAt, plots: list[PlotThirst], longer: float = 0.0,
                read_share: float = 1.0, every_days: float = 0.0, *, pulses: bool = False,
                refill: Refill = NOTHING_DRAINS, own_l_day: Mapping[str, float] = NO_OWN
                ) -> tuple[MonthNeed, ...]:
    """Twelve months of what a zone must run, from the plots' net need and the solved flow.

    ``longer`` is the share that its gardener adds to every run, ``read_share`` what was read off
    over what is solved; ``every_days`` is how often plots in the ground are watered by their
    gardener's wish (0: as seldom as roots bridge). In ``pulses`` each day is parted. A plot that
    ``own_l_day`` names is given so much on each of its days, whatever it needs. A month in season
    for less than a week has the need of the month beside it.
    """
    share = efficiency(flow)
    needs = []
    grows = np.stack([p.kc > 0 for p in plots])
    for month in range(12):
        in_season = grows[:, MONTH_OF_DAY == month]
        here = [p for p, row in zip(plots, in_season, strict=True) if row.sum() >= LEAST_DAYS]
        found = [PlotNeed(p.plot, own_l_day.get(
                              p.plot, p.net_in_season(month) / share * (1 + longer)),
                          flow.plot_flow_l_h(p.plot) * read_share,
                          refill.lands.get(p.plot, 0.0)) for p in here]
        gap = min((_gap_hours(p, month, every_days) for p in here), default=24.0)
        gap = min(gap, PULSE_H) if pulses else gap
        needs.append(MonthNeed(
            month, sum(p.wanted_l_day for p in found),
            max((p.run_min(1.0, 0.0, flow.flow_l_h * read_share) for p in found), default=0.0),
            gap, tuple(found), refill.litres, flow.flow_l_h * read_share))
    return tuple(_beside(needs, np.asarray(grows.any(axis=0))))


def _beside(needs: list[MonthNeed], grows: NDArray[np.bool_]) -> list[MonthNeed]:
    """The needs, a month of few days in season with that of the month that goes on from it."""
    found = list(needs)
    for month, need in enumerate(needs):
        days = grows[month == MONTH_OF_DAY]
        if days.any() and not need.plots:
            beside = needs[(month + 1) % 12] if days[-1] else needs[month - 1]
            found[month] = replace(beside, month=month)
    return found


def _gap_hours(plot: PlotThirst, month: int, every_days: float = 0.0) -> float:
    """RAW over ETc in hours: at most three days in a bed, one day in pots, half a day where
    seedlings are raised (common practice). In the ground a gardener's own wish goes before it.
    """
    if every_days > 0 and not plot.potted and not plot.seedlings:
        return 24.0 * every_days
    longest = SEEDLINGS_H if plot.seedlings else 24.0 * (1 if plot.potted else MOST_DAYS_BETWEEN)
    use = plot.use_in_season(month)
    return longest if use <= 0 else min(24 * float(plot.raw_by_month[month]) / use, longest)
