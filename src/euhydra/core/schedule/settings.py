"""What to set on the timer in hand for what a zone needs: the nearest it can hold."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

from euhydra.core.garden.base import WEEK
from euhydra.core.library import Timer
from euhydra.core.schedule.timing import MonthNeed

WEEKDAY_PATTERNS = {7: WEEK, 4: ("Mon", "Wed", "Fri", "Sun"), 3: ("Mon", "Wed", "Fri"),
                    2: ("Mon", "Thu"), 1: ("Mon",)}
DAYS_BETWEEN = {7: 1, 4: 2, 3: 3, 2: 4, 1: 7}
MORE_OFTEN = {1: 2, 2: 3, 3: 4, 4: 7}
KEPT = 256  # zones' settings, for the states of a garden that differ in something else


@dataclass(frozen=True)
class Setting:
    """What to set on the timer for a zone and month.

    ``exact_min`` is the run reckoned for this rhythm; ``left_over`` is what the
    rounding gives too much (or, under 0, too little) as a share of the exact run. Several starts
    a day are spread over ``span_h``.
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
    span_h: float = 24.0

    @property
    def period_h(self) -> float:
        """Hours from one start to the next, on a day on which it opens."""
        return self.span_h / self.starts_a_day if self.weekdays else float(self.every_h)

    @property
    def runs_a_week(self) -> float:
        """Runs in seven days."""
        if self.weekdays:
            return len(self.weekdays) * self.starts_a_day
        return 168 / self.every_h


@dataclass(frozen=True)
class Allowed:
    """Hours of the clock between which a timer may open; ``first_h`` is its first start."""

    first_h: float = 5.0
    from_h: float = 0.0
    until_h: float = 24.0

    @property
    def span_h(self) -> float:
        """Over how many hours a day's starts are spread."""
        return 24.0 if self.until_h - self.from_h >= 24 else self.until_h - self.first_h

    def holds(self, every_h: float) -> bool:
        """Whether all starts so many hours apart fall into them."""
        return every_h >= 24 or all(
            self.from_h <= at < self.until_h
            for at in ((self.first_h + n * every_h) % 24 for n in range(math.ceil(24 / every_h))))


ANY_HOUR = Allowed()


@lru_cache(maxsize=KEPT)
def settings(timer: Timer, needs: tuple[MonthNeed, ...], flow_l_h: float,
             allowed: Allowed = ANY_HOUR) -> tuple[Setting, ...]:
    """The timer's own settings, one a month that needs water."""
    make = _weekday if timer.weekdays else _dial
    return tuple(make(timer, need, flow_l_h, allowed)
                 for need in needs if need.minutes_a_day > 0)


def on_days(timer: Timer, need: MonthNeed, flow_l_h: float, days: tuple[str, ...],
            exact_min: float) -> Setting:
    """The setting of a hose that hangs on a timer on some weekdays: one run on each of them.

    ``exact_min`` is its run; of two hoses at once the longer one's.
    """
    mark, longest = _mark(timer, exact_min), max(timer.minutes)
    return _setting(need, mark, exact_min, flow_l_h, exact_min <= longest + 0.5 * timer.step_min,
                    weekdays=days)


def _mark(timer: Timer, exact: float) -> int:
    """What it can be set to nearest a run: a mark of a dial, else whole steps."""
    least, longest = min(timer.minutes), max(timer.minutes)
    if not math.isfinite(exact):
        return longest
    if not timer.weekdays:
        return min(timer.minutes, key=lambda m: abs(m - exact))
    step = timer.step_min
    return int(min(max(step * round(exact / step), least), longest))


def _dial(timer: Timer, need: MonthNeed, flow_l_h: float, allowed: Allowed) -> Setting:
    """The longest rhythm the roots bridge whose run the dial can hold; nearest mark wins.

    None that opens at an hour that is not allowed, where there is another.
    """
    held = [h for h in timer.every_hours if allowed.holds(h)] or [max(timer.every_hours)]
    rhythms = [h for h in sorted(held, reverse=True)
               if 4 <= h <= max(need.longest_gap_h, min(timer.every_hours[3:], default=8))]
    rhythms = rhythms or [min(held)]
    options = []
    for every_h in rhythms:
        exact = need.run_min(every_h / 24)
        fits = exact <= max(timer.minutes) * 1.05
        options.append(_setting(need, _mark(timer, exact), exact, flow_l_h, fits, every_h=every_h))
    fitting = [o for o in options if o.fits]
    if not fitting:
        return options[-1]
    return min(fitting[:2], key=lambda o: abs(o.left_over) + (0 if o is fitting[0] else 0.05))


def _weekday(timer: Timer, need: MonthNeed, flow_l_h: float, allowed: Allowed) -> Setting:
    """Fewest weekdays whose longest gap the roots bridge; two starts when one run is too long."""
    days = next((n for n in (1, 2, 3, 4, 7) if 24 * DAYS_BETWEEN[n] <= need.longest_gap_h), 7)
    starts = (min(timer.most_starts, max(1, math.ceil(24 / need.longest_gap_h - 1e-9)))
              if days == 7 else 1)
    longest = max(timer.minutes)
    while True:
        exact = need.run_min(7 / days / starts)
        if exact <= longest or (days == 7 and starts >= timer.most_starts):
            break
        if days < 7:
            days = MORE_OFTEN[days]
        else:
            starts += 1
    return _setting(need, _mark(timer, exact), exact, flow_l_h,
                    exact <= longest + 0.5 * timer.step_min,
                    weekdays=WEEKDAY_PATTERNS[days], starts=starts, span_h=allowed.span_h)


def _setting(need: MonthNeed, mark: int, exact: float, flow_l_h: float, fits: bool, *,
             every_h: int = 0, weekdays: tuple[str, ...] = (), starts: int = 1,
             span_h: float = 24.0) -> Setting:
    over = (mark - exact) / exact if math.isfinite(exact) and exact > 0 else math.nan
    runs = len(weekdays) * starts if weekdays else 168 / every_h
    litres = (mark - exact) / 60 * flow_l_h * runs if math.isfinite(exact) else math.nan
    return Setting(need.month, every_h, weekdays, starts, mark, exact, over, litres, fits, span_h)
