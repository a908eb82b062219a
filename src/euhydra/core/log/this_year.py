"""A year with this morning in it, for the picture of the garden and its strip."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from euhydra.core.daily.run import Run
from euhydra.core.daily.year import Year
from euhydra.core.demand.roots import stress
from euhydra.core.log.entries import Entry
from euhydra.core.log.now import NO_FORECAST, WARM_DAYS, Forecast, Now, now
from euhydra.core.log.through import A_YEAR, logged_rain
from euhydra.core.results.results import Results
from euhydra.core.season.state import SAME, THIRSTY, Array


@dataclass(frozen=True, eq=False)
class ThisYear(Year):
    """A year of which one day is this morning: stores and roots as ``now`` has them, nothing run.

    What the day is to bring is not known in the morning: of it only the rain that was logged.
    """

    now: Now
    logged: Mapping[int, float] | None = None  # mm by days back

    def _with(self, daily: Array, today: Array | float) -> Array:
        found = np.array(daily, dtype=float)
        found[..., self.now.day] = today
        return found

    @cached_property
    def level(self) -> Array:
        """Litres in each bank; today's this morning."""
        return self._with(self.of(self.season.level), self.now.level)

    @cached_property
    def depletion(self) -> Array:
        """Litres that roots lack; today the middle of the years that began like this one."""
        return self._with(self.of(self.season.depletion),
                          np.median(self.now.depletion[:, self.now.alike], axis=1))

    @cached_property
    def reservoir(self) -> Array:
        """Litres in a row's own water, likewise."""
        return self._with(self.of(self.season.reservoir),
                          np.median(self.now.reservoir[:, self.now.alike], axis=1))

    @cached_property
    def thirsty(self) -> NDArray[np.bool_]:
        """Whether a crop would get too little of the day's thirst, by what its roots hold now."""
        world, day, found = self.season.world, self.now.day, self.of(self.season.thirsty).copy()
        ready = self.of(world.ready)[:, day]
        left = [stress(d, h, r) for d, h, r in zip(
            self.depletion[:, day], world.hold[:, day], ready, strict=True)]
        found[:, day] = (np.array(left) < THIRSTY) & ~(
            world.always_on & (self.reservoir[:, day] > SAME))
        return found

    @cached_property
    def rain_mm(self) -> Array:
        """Rain by day; up to today as it was logged, where it was."""
        found = self._with(self.of(self.results.weather.rain_mm), 0.0)
        for back in range(max(self.logged) + 1 if self.logged else 0):
            found[(self.now.day - back) % A_YEAR] = (self.logged or {}).get(back, 0.0)
        return found

    @property
    def rain_known(self) -> bool:
        """Whether the log tells of rain."""
        return self.logged is not None

    @cached_property
    def runs_by_day(self) -> dict[int, tuple[Run, ...]]:
        """The runs of each day but today's."""
        return {day: runs for day, runs in super().runs_by_day.items() if day != self.now.day}

    @cached_property
    def given(self) -> Array:
        """Litres that came to each plot; none yet today."""
        return self._with(self.of(self.season.given), 0.0)

    @cached_property
    def tap(self) -> Array:
        """Litres that taps gave; none yet today."""
        return self._with(self.of(self.season.tap), 0.0)

    @cached_property
    def well(self) -> Array:
        """Litres that wells gave; none yet today."""
        return self._with(self.of(self.season.well), 0.0)

    @cached_property
    def used(self) -> Array:
        """Litres of used water; none yet today."""
        return self._with(self.of(self.season.used), 0.0)

    @cached_property
    def over(self) -> Array:
        """Litres that ran over; none yet today."""
        return self._with(self.of(self.season.over), 0.0)


def this_year(r: Results, entries: Sequence[Entry], today: dt.date, which: int,
              forecast: Forecast = NO_FORECAST, stands: Now | None = None) -> ThisYear:
    """A year with this morning in it, ``stands`` where that is reckoned already."""
    past = [e for e in entries if e.day <= today]
    return ThisYear(r, which, stands or now(r, past, today, forecast),
                    logged_rain(past, today, WARM_DAYS))
