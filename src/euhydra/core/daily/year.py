"""One water year of the season by day of the calendar year: states, flows, each run by its hour."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from euhydra.core.daily.run import Run
from euhydra.core.garden.model import Zone
from euhydra.core.results.results import Results
from euhydra.core.schedule.by_hand import AT_H
from euhydra.core.schedule.settings import Setting
from euhydra.core.season.lasts import dry_after, dry_world
from euhydra.core.season.programme import PART_H, opening_hours
from euhydra.core.season.state import SAME, Array, Season, World

FULL = 0.9  # of what the roots hold; a choice of ours
WET_MM = 0.05  # a day with less is dry
LEAST_L = 0.5  # less in a day is not told
TONES = ("full", "enough", "low", "thirsty", "bare")


@dataclass(frozen=True, eq=False)
class Year:
    """A water year of the season, first of January first; litres unless a name says otherwise.

    (P, 365): ``left``, the share of what a plot's roots (and its own water) hold that is there at
    day's end, ``given``, ``wasted``, ``drunk``, ``lacking``, ``grows``; ``tone`` is the index of
    how that stands in TONES, ``thirsty`` the season's own. (B, 365): ``level``, ``caught``,
    ``poured``. (365,): ``rain_mm``, ``air_mm``, ``snow_mm`` that lies, ``spilled``, ``well``,
    ``tap``, ``used``, ``emptied``.
    """

    results: Results
    which: int

    @property
    def season(self) -> Season:
        """The season that it is a year of."""
        return self.results.season

    def of(self, daily: NDArray[Any]) -> NDArray[Any]:
        """The year's own of what the season or the weather holds of all, (…, Y, 365)."""
        return self.season.in_year(daily, self.which)

    @cached_property
    def plots(self) -> tuple[str, ...]:
        """The plots' ids in the order of the arrays."""
        return self.season.world.plots

    @cached_property
    def given(self) -> Array:
        """Litres that came to each plot."""
        return self.of(self.season.given)

    @cached_property
    def wasted(self) -> Array:
        """Litres of it that went past the roots."""
        return self.of(self.season.wasted)

    @cached_property
    def drunk(self) -> Array:
        """Litres that its crop drank."""
        return self.of(self.season.drunk)

    @cached_property
    def lacking(self) -> Array:
        """Litres that would have come had there been any."""
        return self.of(self.season.lacking)

    @cached_property
    def grey(self) -> Array:
        """Litres of used water that came to it."""
        return self.of(self.season.world.grey)

    @cached_property
    def depletion(self) -> Array:
        """Litres that its roots lack of what they hold."""
        return self.of(self.season.depletion)

    @cached_property
    def reservoir(self) -> Array:
        """Litres in a row's own water."""
        return self.of(self.season.reservoir)

    @cached_property
    def grows(self) -> NDArray[np.bool_]:
        """Whether something grows there."""
        return self.season.world.grows

    @cached_property
    def thirsty(self) -> NDArray[np.bool_]:
        """Whether it is short of what it would drink, by the season's own measure."""
        return self.of(self.season.thirsty)

    @cached_property
    def left(self) -> Array:
        """Share of what roots and the plot's own water hold that is there, 0 to 1."""
        world = self.season.world
        own = np.where(world.always_on, world.reservoir, 0.0)[:, None]
        there = world.hold - self.depletion + np.where(
            world.always_on[:, None], self.reservoir, 0.0)
        return np.asarray(np.clip(there / np.maximum(world.hold + own, SAME), 0.0, 1.0))

    @cached_property
    def tone(self) -> NDArray[np.int64]:
        """How each plot stands, as an index into TONES."""
        world = self.season.world
        has_own = world.always_on[:, None] & (self.reservoir > SAME)
        low = (self.depletion > self.of(world.ready) + SAME) & ~has_own
        return np.asarray(np.select(
            [~self.grows, self.thirsty, low, self.left >= FULL],
            [TONES.index(t) for t in ("bare", "thirsty", "low", "full")],
            TONES.index("enough")))

    @cached_property
    def level(self) -> Array:
        """Litres in each bank at day's end."""
        return self.of(self.season.level)

    @cached_property
    def caught(self) -> Array:
        """Litres of rain that ran to each bank."""
        return self.of(self.season.world.inflow)

    @cached_property
    def poured(self) -> Array:
        """Litres that a person filled into each bank."""
        return self.of(self.season.poured)

    @cached_property
    def rain_mm(self) -> Array:
        """Rain and snow that fell."""
        return self.of(self.results.weather.rain_mm)

    @property
    def rain_known(self) -> bool:
        """Whether it is known what rained up to each day."""
        return True

    @cached_property
    def dry_days(self) -> NDArray[np.int64]:
        """Days without rain up to each day, going round the year."""
        twice = np.concatenate([self.rain_mm, self.rain_mm]) >= WET_MM
        at = np.arange(1, len(twice) + 1)
        return np.asarray((at - np.maximum.accumulate(np.where(twice, at, 0)))[365:])

    def has(self, day: int) -> bool:
        """Whether a day of it has been."""
        return True

    def dry_after(self, day: int) -> int:
        """Days after a day until the stores first fail the timer if no rain comes, as ``lasts``."""
        season = self.season
        return dry_after(self.dry, day, *(self.of(x)[:, day:day + 1] for x in (
            season.level, season.depletion, season.reservoir)))

    @cached_property
    def dry(self) -> World:
        """The same year with no rain."""
        return dry_world(self.results.season_inputs, self.results.season, self.which)

    def came_to(self, zone: Zone) -> Array:
        """Litres that came to a zone's plots through its lines, by day; a drum's too."""
        plots = [self.plots.index(plot) for plot in zone.plots]
        return np.asarray(self.given[plots].sum(axis=0))

    @cached_property
    def air_mm(self) -> Array:
        """What the air takes of a green field (ETo)."""
        return self.of(self.results.weather.eto_mm)

    @cached_property
    def snow_mm(self) -> Array:
        """Water that lies as snow at day's end, as ``weather.snow`` has it."""
        weather = self.results.weather
        lies = np.cumsum((weather.rain_mm - weather.water_mm).ravel())
        return self.of(np.maximum(lies, 0.0).reshape(weather.rain_mm.shape))

    @cached_property
    def frost(self) -> NDArray[np.bool_]:
        """Whether it froze."""
        return np.asarray(self.of(self.results.weather.tmin_c) < 0)

    @cached_property
    def spilled(self) -> Array:
        """Litres that ran over the rims, or back to the sewer."""
        return self.of(self.season.spilled)

    @cached_property
    def over(self) -> Array:
        """Litres of rain among them."""
        return self.of(self.season.over)

    @cached_property
    def well(self) -> Array:
        """Litres that wells gave."""
        return self.of(self.season.well)

    @cached_property
    def tap(self) -> Array:
        """Litres that taps gave."""
        return self.of(self.season.tap)

    @cached_property
    def used(self) -> Array:
        """Litres of used water that were led into the garden."""
        return self.of(self.season.used)

    @cached_property
    def emptied(self) -> Array:
        """Litres let out before the frost."""
        return self.of(self.season.emptied)

    @cached_property
    def runs(self) -> tuple[Run, ...]:
        """Every run, day by day and by its hour."""
        r = self.results
        settings = [(zone.id, r.schedule.settings[zone.id] if zone.timed else (), False)
                    for zone in r.garden.zones]
        settings += [(plot, hand.settings, True) for plot, hand in r.schedule.by_hand.items()]
        found = [run for n, (of, those, by_hand) in enumerate(settings)
                 for run in self._of_zone(n, of, those, by_hand)]
        return tuple(sorted(found, key=lambda run: (run.day, run.start_h)))

    @cached_property
    def runs_by_day(self) -> dict[int, tuple[Run, ...]]:
        """The runs of each day that has any."""
        found: dict[int, list[Run]] = {}
        for run in self.runs:
            found.setdefault(run.day, []).append(run)
        return {day: tuple(runs) for day, runs in found.items()}

    def _of_zone(self, n: int, of: str, settings: Sequence[Setting], by_hand: bool) -> list[Run]:
        """The runs of one zone: its hours by its settings, its minutes as they were run."""
        world = self.season.world
        minutes, times = (self._by_part(x[n]) for x in (world.minutes, world.runs))
        mine = (world.zone == n) & ~world.always_on & np.array(
            [plot not in world.washed for plot in world.plots], dtype=bool)
        came = (self.given - self.grey)[mine].sum(axis=0)
        lacked = self.lacking[mine].sum(axis=0)
        first = [AT_H if by_hand else self.results.schedule.first_hours[of, s.month]
                 for s in settings]
        whole = minutes.sum(axis=1)
        found = []
        for day, hour in self._hours(settings, first):
            part = int(hour // PART_H)
            if minutes[day, part] <= 0:
                continue
            open_for = float(minutes[day, part] / times[day, part])
            share = open_for / float(whole[day])
            found.append(Run(of, day, hour, open_for, float(came[day]) * share,
                             float(lacked[day]) * share, by_hand))
        return found

    def _hours(self, settings: Sequence[Setting], first: Sequence[float]
               ) -> list[tuple[int, float]]:
        """Each day of this year on which the settings would open, and at which hour."""
        found = []
        for setting, start in zip(settings, first, strict=True):
            days, hours = opening_hours(setting, start, self.season.years)
            opens: dict[int, list[float]] = {}
            for day, hour in zip(days.tolist(), hours.tolist(), strict=True):
                opens.setdefault(day, []).append(hour)
            repeats = not setting.weekdays
            found += [(day, hour) for day in range(365)
                      for hour in opens.get(day if repeats else self._ran_on(day), ())]
        return found

    def _ran_on(self, day: int) -> int:
        """A day of this year counted from the first of all days of the season."""
        years, begins = self.season.years, self.season.world.begins
        return (self.which if day >= begins else (self.which + 1) % years) * 365 + day

    def _by_part(self, daily: Array) -> Array:
        """The year's own of what stands by year, day and part of the day, (365, 4)."""
        return np.moveaxis(self.of(np.moveaxis(daily, -1, 0)), 0, -1)


def named_years(r: Results) -> dict[str, int]:
    """Water years worth looking at: a dry and a wet one by their rain, the typical by its thirst.

    The typical one is the season's own, which Prove draws.
    """
    rain = r.season.by_year(r.weather.rain_mm).sum(axis=1)
    order = np.argsort(rain, kind="stable")
    last = len(order) - 1
    return {"typical": r.season.typical_year, "dry": int(order[round(last * 0.1)]),
            "wet": int(order[round(last * 0.9)])}
