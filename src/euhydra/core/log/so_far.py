"""The year up to this morning, day by day, by the log; what it does not tell is as in a year."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from euhydra.core.log.entries import Entry
from euhydra.core.log.now import NO_FORECAST, Forecast, Now, levels_of_late, now
from euhydra.core.log.this_year import ThisYear
from euhydra.core.log.through import A_YEAR, Through, as_banks, in_this_year, logged_rain
from euhydra.core.results.results import Results
from euhydra.core.schedule.settings import Setting
from euhydra.core.season.lasts import one_year
from euhydra.core.season.programme import hours_on
from euhydra.core.season.simulate import run_days
from euhydra.core.season.state import Array, Season
from euhydra.core.weather.generator import DailyWeather


@dataclass(frozen=True, eq=False)
class SoFar(ThisYear):
    """A year from its first day to this morning, by the log; of later days nothing is known.

    ``ran`` is the season of those days alone, with one year in it: the rain of the log (where
    nobody logs it that of year ``which``), stores put right by dips, roots by what was felt. What
    the log does not tell, as the thirst of the air, is that of year ``which``. ``levels``
    (B, days) are those that Keep follows.
    """

    ran: Season = field(kw_only=True)
    levels: Array = field(kw_only=True)
    dates: Mapping[int, dt.date] = field(kw_only=True)

    @property
    def season(self) -> Season:
        """The days of this year alone."""
        return self.ran

    def of(self, daily: NDArray[Any]) -> NDArray[Any]:
        """What the days' own season holds, else what the weather has of year ``which``."""
        if daily.shape[-2] == 1:
            return np.asarray(daily[..., 0, :])
        return self.results.season.in_year(daily, self.which)

    def has(self, day: int) -> bool:
        """Whether a day of it has been, today included."""
        return day <= self.now.day

    @cached_property
    def grows(self) -> NDArray[np.bool_]:
        """Whether something grows there; on days to come nothing yet."""
        return self.ran.world.grows & (np.arange(A_YEAR) <= self.now.day)

    @cached_property
    def level(self) -> Array:
        """Litres in each bank, as followed from its dips; of days to come none."""
        found = np.zeros_like(super().level)
        found[:len(self.levels), :self.now.day + 1] = self.levels
        return found

    @cached_property
    def rain_mm(self) -> Array:
        """Rain by day as it was logged, else that of year ``which``; of days to come none."""
        return np.where(np.arange(A_YEAR) <= self.now.day, super().rain_mm, 0.0)

    @cached_property
    def caught(self) -> Array:
        """Litres of rain that ran to each bank; on days to come none."""
        return super().caught * (np.arange(A_YEAR) <= self.now.day)

    @cached_property
    def frost(self) -> NDArray[np.bool_]:
        """Whether it froze, as in year ``which``; on days to come not yet."""
        return super().frost & (np.arange(A_YEAR) <= self.now.day)

    @property
    def rain_known(self) -> bool:
        """Whether it is known what rained up to each day."""
        return True

    def _hours(self, settings: Sequence[Setting], first: Sequence[float]
               ) -> list[tuple[int, float]]:
        """Each day so far on which the settings would open, and at which hour."""
        return [(day, hour) for day, date in self.dates.items()
                for setting, start in zip(settings, first, strict=True)
                for hour in hours_on(setting, start, date)]


def so_far(r: Results, entries: Sequence[Entry], today: dt.date,
           forecast: Forecast = NO_FORECAST, stands: Now | None = None) -> SoFar:
    """The year that a day is in, up to the day, begun as a middle year begins.

    ``stands`` is how the garden stands then, where that is reckoned already.
    """
    past = sorted((e for e in entries if e.day <= today), key=lambda e: e.day)
    stands = stands or now(r, past, today, forecast)
    day, logged = stands.day, logged_rain(past, today, stands.day + 1)
    which = _nearest(r, logged, day)
    weather = DailyWeather(*(r.season.in_year(x, which)[None] for x in (
        r.weather.rain_mm, r.weather.tmin_c, r.weather.tmax_c, r.weather.eto_mm)))
    world = in_this_year(r, one_year(r.season, which), weather, logged, today)
    levels, _ = levels_of_late(r, past, today, day)
    depletion, reservoir = (r.season.in_year(x, which)[:, -1:] for x in (
        r.season.depletion, r.season.reservoir))
    through = Through(world, depletion, reservoir)
    through.run(r, levels, past, today)
    ran = through.season() if through.parts else run_days(
        world, as_banks(world, levels[:, :1]), depletion, reservoir, np.zeros(0, np.intp))
    dates = {n: today - dt.timedelta(days=day - n) for n in range(day + 1)}
    return SoFar(r, which, stands, logged, ran=ran, levels=levels[:, ::-1], dates=dates)


def _nearest(r: Results, logged: Mapping[int, float] | None, day: int) -> int:
    """The year whose rain up to a day is nearest to the log's; the typical one where it has none.

    Counted over the days that the log tells of.
    """
    if logged is None:
        return r.season.typical_year
    back = np.arange(max(logged) + 1)
    fell = [float(r.season.in_year(r.weather.rain_mm, y)[(day - back) % A_YEAR].sum())
            for y in range(r.season.years)]
    return int(np.argmin(np.abs(np.array(fell) - sum(logged.values()))))


