"""Minutes for each zone and month from the solved flow, and the settings of the timer in hand."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from euhydra.core.library import Timer
from euhydra.core.push import ZoneFlow
from euhydra.core.thirst import PlotThirst
from euhydra.core.weather.generator import MONTH_OF_DAY

WEEK = ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun")
WEEKDAY_PATTERNS = {7: WEEK, 4: ("Mon", "Wed", "Fri", "Sun"), 3: ("Mon", "Wed", "Fri"),
                    2: ("Mon", "Thu"), 1: ("Mon",)}
DAYS_BETWEEN = {7: 1, 4: 2, 3: 3, 2: 4, 1: 7}
MORE_OFTEN = {1: 2, 2: 3, 3: 4, 4: 7}
LEAST_EFFICIENCY = 0.5
MOST_DAYS_BETWEEN = 3
SEEDLINGS_H = 12.0
PULSE_H = 8.0  # morning, noon and evening, from memory
LEAST_NEED_L_DAY = 0.05
LEAST_DAYS = 7  # a plot in season for less of a month keeps the neighbouring month's setting


@dataclass(frozen=True)
class MonthNeed:
    """A zone in one month: litres a day for the thirstiest plot's sake, and how seldom it may be.

    ``wanted_l_day`` is what the zone's plots need; ``minutes_a_day`` is the run that gives the
    thirstiest its share, without fill time; ``longest_gap_h`` is the longest time between runs
    that the root zone bridges.
    """

    month: int
    wanted_l_day: float
    minutes_a_day: float
    longest_gap_h: float


@dataclass(frozen=True)
class Setting:
    """What to set on the timer for a zone and month.

    ``exact_min`` is the run reckoned for this rhythm, fill time within; ``left_over`` is what the
    rounding gives too much (or, under 0, too little) as a share of the exact run.
    """

    month: int
    every_h: int
    weekdays: tuple[str, ...]
    starts_a_day: int
    minutes: int
    exact_min: float
    left_over: float
    left_over_l_week: float
    fits: bool

    @property
    def runs_a_week(self) -> float:
        """Runs in seven days."""
        if self.weekdays:
            return len(self.weekdays) * self.starts_a_day
        return 168 / self.every_h


def efficiency(flow: ZoneFlow) -> float:
    """Share of the water that does its work: the low-quarter uniformity, at least one half."""
    return max(LEAST_EFFICIENCY, flow.low_quarter)


def fill_minutes(flow_l_h: float, pipe_l: float) -> float:
    """Time to fill the zone's empty pipes at its flow; infinite when nothing flows."""
    return 60 * pipe_l / flow_l_h if flow_l_h > 1e-6 else math.inf


def month_needs(flow: ZoneFlow, plots: list[PlotThirst], longer: float = 0.0,
                read_share: float = 1.0, every_days: float = 0.0, *, pulses: bool = False
                ) -> tuple[MonthNeed, ...]:
    """Twelve months of what a zone must run, from the plots' net need and the solved flow.

    ``longer`` is the share that its gardener adds to every run, ``read_share`` what was read off
    over what is solved; ``every_days`` is how often plots in the ground are watered by their
    gardener's wish (0: as seldom as roots bridge). In ``pulses`` each day is parted.
    """
    share = efficiency(flow)
    needs = []
    for month in range(12):
        in_season = np.stack([p.kc > 0 for p in plots])[:, MONTH_OF_DAY == month]
        here = [(p, float(row.mean())) for p, row in zip(plots, in_season, strict=True)
                if row.sum() >= LEAST_DAYS]
        wanted = [(p, float(p.net_by_month[month]) / part / share * (1 + longer))
                  for p, part in here]
        minutes = [_minutes(litres, flow.plot_flow_l_h(p.plot) * read_share)
                   for p, litres in wanted]
        gap = min((_gap_hours(p, month, part, every_days) for p, part in here), default=24.0)
        gap = min(gap, PULSE_H) if pulses else gap
        needs.append(MonthNeed(month, sum(litres for _, litres in wanted),
                               max(minutes, default=0.0), gap))
    return tuple(needs)


def _minutes(wanted_l: float, flow_l_h: float) -> float:
    if wanted_l < LEAST_NEED_L_DAY:
        return 0.0
    return 60 * wanted_l / flow_l_h if flow_l_h > 1e-6 else math.inf


def _gap_hours(plot: PlotThirst, month: int, part: float, every_days: float = 0.0) -> float:
    """RAW over ETc in hours: at most three days in a bed, one day in pots, half a day where
    seedlings are raised (common practice). In the ground a gardener's own wish goes before it.
    """
    if every_days > 0 and not plot.potted and not plot.seedlings:
        return 24.0 * every_days
    longest = SEEDLINGS_H if plot.seedlings else 24.0 * (1 if plot.potted else MOST_DAYS_BETWEEN)
    use = float(plot.use_by_month[month]) / part
    return longest if use <= 0 else min(24 * float(plot.raw_by_month[month]) / use, longest)


def settings(timer: Timer, needs: tuple[MonthNeed, ...], fill_min: float,
             flow_l_h: float) -> tuple[Setting, ...]:
    """The timer's own settings, one a month that needs water."""
    make = _weekday if timer.weekdays else _dial
    return tuple(make(timer, need, fill_min, flow_l_h)
                 for need in needs if need.minutes_a_day > 0)


def _dial(timer: Timer, need: MonthNeed, fill_min: float, flow_l_h: float) -> Setting:
    """The longest rhythm the roots bridge whose run the dial can hold; nearest mark wins."""
    rhythms = [h for h in sorted(timer.every_hours, reverse=True)
               if 4 <= h <= max(need.longest_gap_h, min(timer.every_hours[3:], default=8))]
    options = []
    for every_h in rhythms:
        exact = need.minutes_a_day * every_h / 24 + fill_min
        mark = (min(timer.minutes, key=lambda m: abs(m - exact)) if math.isfinite(exact)
                else max(timer.minutes))
        fits = exact <= max(timer.minutes) * 1.05
        options.append(_setting(need, mark, exact, fill_min, flow_l_h, fits, every_h=every_h))
    fitting = [o for o in options if o.fits]
    if not fitting:
        return options[-1]
    return min(fitting[:2], key=lambda o: abs(o.left_over) + (0 if o is fitting[0] else 0.05))


def _weekday(timer: Timer, need: MonthNeed, fill_min: float, flow_l_h: float) -> Setting:
    """Fewest weekdays whose longest gap the roots bridge; two starts when one run is too long."""
    days = next((n for n in (1, 2, 3, 4, 7) if 24 * DAYS_BETWEEN[n] <= need.longest_gap_h), 7)
    starts = (min(timer.most_starts, max(1, math.ceil(24 / need.longest_gap_h - 1e-9)))
              if days == 7 else 1)
    longest = max(timer.minutes)
    while True:
        exact = need.minutes_a_day * 7 / days / starts + fill_min
        if exact <= longest or (days == 7 and starts >= timer.most_starts):
            break
        if days < 7:
            days = MORE_OFTEN[days]
        else:
            starts += 1
    step = timer.step_min
    mark = int(min(max(step * round(exact / step), min(timer.minutes)), longest)) if math.isfinite(
        exact) else longest
    return _setting(need, mark, exact, fill_min, flow_l_h, exact <= longest + 0.5 * step,
                    weekdays=WEEKDAY_PATTERNS[days], starts=starts)


def _setting(need: MonthNeed, mark: int, exact: float, fill_min: float, flow_l_h: float,
             fits: bool, *, every_h: int = 0, weekdays: tuple[str, ...] = (),
             starts: int = 1) -> Setting:
    wet = exact - fill_min
    over = (mark - exact) / wet if math.isfinite(wet) and wet > 0 else math.nan
    runs = len(weekdays) * starts if weekdays else 168 / every_h
    litres = (mark - exact) / 60 * flow_l_h * runs if math.isfinite(exact) else math.nan
    return Setting(need.month, every_h, weekdays, starts, mark, exact, over, litres, fits)
