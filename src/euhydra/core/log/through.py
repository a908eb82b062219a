"""The garden run through days that are past: rain of the log, levels from dips, roots put right.

Roots are put right by what was felt of soil and leaves, and get what was given beside the timer.
"""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

import numpy as np
from numpy.typing import NDArray

from euhydra.core.garden.base import day_of_year
from euhydra.core.garden.model import Zone
from euhydra.core.log.entries import KINDS, Entry
from euhydra.core.log.levels import caught_l_mm, first_logged
from euhydra.core.results.results import Results
from euhydra.core.season.inputs import in_week
from euhydra.core.season.programme import first_weekday
from euhydra.core.season.simulate import BY_BANK, BY_PLOT, BY_YEAR, run_days
from euhydra.core.season.state import SAME, Array, Season, World
from euhydra.core.weather.generator import DailyWeather

A_YEAR = 365


def logged_rain(past: Sequence[Entry], today: dt.date, back: int) -> dict[int, float] | None:
    """Rain by days before today, as it was logged in so many; None where nobody logs it."""
    since = today - dt.timedelta(days=back)
    fell = [e for e in past if e.kind == "rain" and e.day > since]
    if not fell:
        return None
    found: dict[int, float] = {}
    for e in fell:
        at = (today - e.day).days
        found[at] = found.get(at, 0.0) + (e.value or 0.0)
    return found


def with_rain(r: Results, world: World, mm: Mapping[int, float]) -> World:
    """A world in which so much falls on some days of the year, in all of its years alike.

    On plots and into stores as a millimetre does in the mean.
    """
    whole = float(r.weather.water_mm.sum())
    per_mm = r.season.world.rain.sum(axis=(1, 2)) / max(whole, SAME)
    each = [caught_l_mm(r, bank.stores[0]) for bank in r.banks.banks]
    rain, inflow = world.rain.copy(), world.inflow.copy()
    for day, fell in mm.items():
        rain[:, :, day] = (per_mm * fell)[:, None]
        for n, litres in enumerate(each):
            inflow[n, :, day] = litres * fell * (not world.out[n, day])
    return replace(world, rain=rain, inflow=inflow)


def in_this_year(r: Results, world: World, weather: DailyWeather,
                 logged: Mapping[int, float] | None, today: dt.date) -> World:
    """A world of as many years as its weather: with the rain of the log where that tells it, and
    its timers and its washing on this year's own weekdays, held by that rain.

    A log that has rain in it tells of dry days too, from its first entry on.
    """
    day = day_of_year(today.isoformat()[5:])
    fell = {(day - back) % A_YEAR: (logged or {}).get(back, 0.0)
            for back in range(max(logged) + 1 if logged else 0)}
    rain = np.array(weather.rain_mm)
    rain[:, list(fell)] = list(fell.values())
    return with_rain(r, in_week(r.season_inputs, world, replace(weather, rain_mm=rain),
                                first_weekday(today)), fell)


def as_logged_by_hand(r: Results, world: World, past: Sequence[Entry], today: dt.date) -> World:
    """A world in which hands water as the log has it, from the first day on that it has it."""
    first, minutes = first_logged(past), world.minutes
    day = day_of_year(today.isoformat()[5:])
    for n, plot in enumerate(r.schedule.by_hand, start=len(r.garden.zones)):
        if plot in first:
            back = min((today - first[plot]).days, A_YEAR - 1)
            minutes = minutes.copy()
            minutes[n][:, (day - np.arange(back + 1)) % A_YEAR] = 0.0
    return world if minutes is world.minutes else replace(
        world, minutes=minutes, runs=world.runs * (minutes > 0))


@dataclass
class Through:
    """A world run from one morning to another. (P, Y): ``depletion`` and ``reservoir``, litres.

    ``parts`` are the days that were run at a time, each with what the season holds of them.
    """

    world: World
    depletion: Array
    reservoir: Array
    parts: list[tuple[NDArray[np.intp], Season]] = field(default_factory=list)

    def run(self, r: Results, levels: Array, past: Sequence[Entry], today: dt.date) -> None:
        """From so many days back as ``levels`` (B, back + 1) go, to this morning.

        Anew from each dip, and from each day on which something was felt or given.
        """
        day, at = day_of_year(today.isoformat()[5:]), levels.shape[1] - 1
        self.world = as_logged_by_hand(r, self.world, past, today)
        felt, watered = felt_by_day(r, past, today), watered_by_day(r, past, today)
        dips = {(today - e.day).days for e in past if e.kind == "dip"}
        for back in sorted((b for b in {*felt, *watered, *dips, 0} if b <= at), reverse=True):
            days = (day - at + np.arange(at - back)) % A_YEAR
            if len(days):
                self._on(days, levels[:, at:at + 1])
            self._put_right(felt.get(back, ()), watered.get(back, ()), (day - back) % A_YEAR)
            at = back

    def _on(self, days: NDArray[np.intp], level: Array) -> None:
        held = np.repeat(as_banks(self.world, level), self.depletion.shape[1], axis=1)
        ran = run_days(self.world, held, self.depletion, self.reservoir, days)
        self.depletion, self.reservoir = (x[:, :, days[-1]] for x in (ran.depletion,
                                                                      ran.reservoir))
        self.parts.append((days, ran))

    def _put_right(self, felt: Sequence[tuple[int, str]], watered: Sequence[tuple[int, float]],
                   day: int) -> None:
        """Dry soil lacks more than is easily had, wet nothing, right less; water makes up for."""
        found = np.array(self.depletion)
        for p, told in felt:
            ready = self.world.ready[p, :, day]
            found[p] = {"dry": np.maximum(found[p], ready), "wet": np.zeros_like(found[p]),
                        "right": np.minimum(found[p], ready)}[told]
        for p, litres in watered:
            found[p] = np.maximum(found[p] - litres, 0.0)
        self.depletion = found

    def season(self) -> Season:
        """All the days that were run; what it holds of others is empty."""
        first = self.parts[0][1]
        daily = {name: np.array(getattr(first, name)) for name in (*BY_PLOT, *BY_BANK, *BY_YEAR)}
        for days, ran in self.parts[1:]:
            for name, array in daily.items():
                array[..., days] = getattr(ran, name)[..., days]
        return replace(first, world=self.world, **daily)


def as_banks(world: World, levels: Array) -> Array:
    """Levels of the garden's own banks, with none for those that stand for wells behind them."""
    found = np.zeros((len(world.size), levels.shape[1]))
    found[:len(levels)] = levels
    return found


def felt_by_day(r: Results, past: Sequence[Entry], today: dt.date
                ) -> dict[int, list[tuple[int, str]]]:
    """What was felt of soil and leaves: by days back, (plot, "dry", "right" or "wet")."""
    found: dict[int, list[tuple[int, str]]] = {}
    plots = list(r.season.world.plots)
    for e in past:
        told = KINDS[e.kind].words.get(e.word, "") if e.kind in ("soil", "leaf") else ""
        if told and e.about in plots:
            found.setdefault((today - e.day).days, []).append((plots.index(e.about), told))
    return found


def watered_by_day(r: Results, past: Sequence[Entry], today: dt.date
                   ) -> dict[int, list[tuple[int, float]]]:
    """What was given beside the timer: by days back, (plot, litres)."""
    found: dict[int, list[tuple[int, float]]] = {}
    plots = list(r.season.world.plots)
    zones = {zone.id: zone for zone in r.garden.zones}
    for e in past:
        back = (today - e.day).days
        if e.kind != "water":
            continue
        shares = ({e.about: 1.0} if e.about in plots else
                  _shares(r, zones[e.about]) if e.about in zones else {})
        found.setdefault(back, []).extend(
            (plots.index(plot), share * (e.value or 0.0)) for plot, share in shares.items())
    return found


def _shares(r: Results, zone: Zone) -> dict[str, float]:
    """What share of a zone's water each of its plots gets."""
    flow = r.flows[zone.id]["half"]
    return {p: flow.plot_flow_l_h(p) / max(flow.flow_l_h, SAME) for p in zone.plots}
