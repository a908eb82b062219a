"""The garden as it stands on a day of this year, by its log, and how long that lasts without rain.

Stores are followed from their dips, as Keep follows them; roots are run through the last weeks with
the rain that was logged, and put right by what was felt of soil and leaves. What is not known comes
from every year that was reckoned with, so that what is told has a band.
"""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from euhydra.core.garden.base import day_of_year
from euhydra.core.garden.model import Zone
from euhydra.core.log.entries import KINDS, Entry
from euhydra.core.log.levels import caught_l_mm, followed
from euhydra.core.results.results import Results
from euhydra.core.season.inputs import timer_runs, without_rain
from euhydra.core.season.simulate import run_days
from euhydra.core.season.state import SAME, Array, World

WARM_DAYS = 40  # that roots are run through before today
DIP_HOLDS_DAYS = 120  # a level that was followed for longer is no better than a middle year's
FELT_HOLDS_DAYS = 10
ALIKE_DAYS = 30  # whose rain tells which years began like this one
ALIKE_SHARE = 1 / 3  # of the years, the nearest by that rain
AHEAD_DAYS = 60
MOST_FORECAST_DAYS = 10
A_YEAR = 365
Forecast = Mapping[dt.date, float]  # mm of rain by date
NO_FORECAST: Forecast = {}


@dataclass(frozen=True, eq=False)
class Now:
    """How a garden stands this morning, in each of the years Y that were reckoned with.

    (B,): ``level`` in litres, ``dipped`` the days since the last dip, None where the level is a
    middle year's. (P, Y): ``depletion`` and ``reservoir``, litres. ``alike`` (Y,) are the years
    that began like this one; ``lasts`` (Y,) in how many days the stores first fail what is asked
    of them without rain, ``AHEAD_DAYS`` where they do not until then. (B, WARM_DAYS + 1):
    ``levels`` by days back. (B, Y, AHEAD_DAYS): ``ahead``, the levels at the end of the days to
    come without rain.
    """

    day: int
    level: Array
    dipped: tuple[int | None, ...]
    depletion: Array
    reservoir: Array
    alike: NDArray[np.bool_]
    lasts: NDArray[np.int64]
    levels: Array
    ahead: Array

    @property
    def days_left(self) -> tuple[int, int, int] | None:
        """Days on which the water fails without rain: the tenth, the middle, the ninetieth.

        Of the years that began like this one; None where that is past ``AHEAD_DAYS``.
        """
        mine = np.sort(self.lasts[self.alike])
        if not len(mine) or np.median(mine) >= AHEAD_DAYS:
            return None
        low, middle, high = (int(mine[round((len(mine) - 1) * share)]) for share in (0.1, 0.5, 0.9))
        return low, middle, high


def now(r: Results, entries: Sequence[Entry], today: dt.date,
        forecast: Forecast = NO_FORECAST) -> Now:
    """The garden on a day, by its log up to then; what is forecast counts for how long it lasts."""
    past = sorted((e for e in entries if e.day <= today), key=lambda e: e.day)
    day = day_of_year(today.isoformat()[5:])
    levels, dipped = _levels(r, past, today, day)
    level = levels[:, 0]
    world = _with_logged_rain(r, past, today, day)
    depletion, reservoir = _roots(r, world, levels, past, today, day)
    lasts, ahead = _lasting(r, level, depletion, reservoir, day, _by_day_ahead(forecast, today))
    return Now(day, level, dipped, depletion, reservoir, _alike(r, past, today, day), lasts,
               levels, ahead)


def _levels(r: Results, past: Sequence[Entry], today: dt.date, day: int
            ) -> tuple[Array, tuple[int | None, ...]]:
    """What stood in each bank, (B, WARM_DAYS + 1) by days back: followed from its dips on, before
    them and where it is not dipped a middle year's; and how long ago the last dip was.
    """
    backs = np.arange(WARM_DAYS + 1)
    levels = np.median(r.season.level, axis=1)[:, (day - backs) % A_YEAR]
    since: list[int | None] = []
    first = today - dt.timedelta(days=DIP_HOLDS_DAYS)
    for n, bank in enumerate(r.banks.banks):
        told = followed(r, bank, past, first, today)
        if told is None or r.season.world.out[n, day]:
            since.append(None)
            continue
        known = told.level_l[::-1][:WARM_DAYS + 1]
        levels[n, :len(known)] = known
        since.append((today - told.first).days - told.dips[-1][0])
    return levels, tuple(since)


def logged_rain(past: Sequence[Entry], today: dt.date) -> dict[int, float] | None:
    """Rain by days before today, as it was logged; None where nobody logs it."""
    since = today - dt.timedelta(days=WARM_DAYS)
    fell = [e for e in past if e.kind == "rain" and e.day > since]
    if not fell:
        return None
    found: dict[int, float] = {}
    for e in fell:
        back = (today - e.day).days
        found[back] = found.get(back, 0.0) + (e.value or 0.0)
    return found


def _with_logged_rain(r: Results, past: Sequence[Entry], today: dt.date, day: int) -> World:
    """Every year's weather, on the last days with the rain of the log where that tells it.

    A log that has rain in it tells of dry days too, from its first entry on.
    """
    world, logged = r.season.world, logged_rain(past, today)
    if logged is None:
        return world
    per_mm, rain = _per_mm(r), world.rain.copy()
    for back in range(max(logged) + 1):
        rain[:, :, (day - back) % A_YEAR] = (per_mm * logged.get(back, 0.0))[:, None]
    return replace(world, rain=rain)


def _per_mm(r: Results) -> Array:
    """Litres on each plot for a millimetre of rain, (P,)."""
    whole = float(r.weather.water_mm.sum())
    return np.asarray(r.season.world.rain.sum(axis=(1, 2)) / max(whole, SAME))


def _roots(r: Results, world: World, levels: Array, past: Sequence[Entry], today: dt.date, day: int
           ) -> tuple[Array, Array]:
    """Depletion and own water this morning, (P, Y): run for weeks, put right by what was felt."""
    season, years = r.season, r.season.years
    start = (day - WARM_DAYS) % A_YEAR
    depletion, reservoir = season.depletion[:, :, start - 1], season.reservoir[:, :, start - 1]
    felt, watered = _felt(r, past, today), _watered(r, past, today)
    dips = {(today - e.day).days for e in past if e.kind == "dip"}
    at = WARM_DAYS
    for back in sorted({*felt, *watered, *(d for d in dips if d < WARM_DAYS), 0}, reverse=True):
        days = (day - at + np.arange(at - back)) % A_YEAR
        if len(days):
            held = np.repeat(_as_banks(world, levels[:, at:at + 1]), years, axis=1)
            ran = run_days(world, held, depletion, reservoir, days)
            depletion, reservoir = ran.depletion[:, :, days[-1]], ran.reservoir[:, :, days[-1]]
        depletion = _put_right(world, depletion, felt.get(back, ()), (day - back) % A_YEAR)
        for p, litres in watered.get(back, ()):
            depletion[p] = np.maximum(depletion[p] - litres, 0.0)
        at = back
    return depletion, reservoir


def _as_banks(world: World, levels: Array) -> Array:
    """Levels of the garden's own banks, with none for those that stand for wells behind them."""
    found = np.zeros((len(world.size), levels.shape[1]))
    found[:len(levels)] = levels
    return found


def _felt(r: Results, past: Sequence[Entry], today: dt.date
          ) -> dict[int, list[tuple[int, str]]]:
    """What was felt of soil and leaves lately: by days back, (plot, "dry", "right" or "wet")."""
    found: dict[int, list[tuple[int, str]]] = {}
    plots = list(r.season.world.plots)
    for e in past:
        back = (today - e.day).days
        told = KINDS[e.kind].words.get(e.word, "") if e.kind in ("soil", "leaf") else ""
        if told and back <= FELT_HOLDS_DAYS and e.about in plots:
            found.setdefault(back, []).append((plots.index(e.about), told))
    return found


def _watered(r: Results, past: Sequence[Entry], today: dt.date
             ) -> dict[int, list[tuple[int, float]]]:
    """What was given beside the timer lately: by days back, (plot, litres)."""
    found: dict[int, list[tuple[int, float]]] = {}
    plots = list(r.season.world.plots)
    zones = {zone.id: zone for zone in r.garden.zones}
    for e in past:
        back = (today - e.day).days
        if e.kind != "water" or back >= WARM_DAYS:
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


def _put_right(world: World, depletion: Array, felt: Sequence[tuple[int, str]], day: int) -> Array:
    """Roots within what was felt: dry lacks more than is easily had, wet nothing, right less."""
    found = np.array(depletion)
    for p, told in felt:
        ready = world.ready[p, :, day]
        found[p] = {"dry": np.maximum(found[p], ready), "wet": np.zeros_like(found[p]),
                    "right": np.minimum(found[p], ready)}[told]
    return found


def _alike(r: Results, past: Sequence[Entry], today: dt.date, day: int) -> NDArray[np.bool_]:
    """The years whose rain of the last month is nearest to the log's; all where it tells none."""
    logged = logged_rain(past, today)
    if logged is None:
        return np.ones(r.season.years, dtype=bool)
    mine = sum(mm for back, mm in logged.items() if back < ALIKE_DAYS)
    days = (day - np.arange(ALIKE_DAYS)) % A_YEAR
    off = np.abs(r.weather.rain_mm[:, days].sum(axis=1) - mine)
    nearest = np.argsort(off, kind="stable")[:max(round(len(off) * ALIKE_SHARE), 1)]
    found = np.zeros(len(off), dtype=bool)
    found[nearest] = True
    return found


def _by_day_ahead(forecast: Forecast, today: dt.date) -> dict[int, float]:
    """Rain that is forecast by days from today on, which is 0."""
    return {ahead: mm for date, mm in forecast.items()
            if 0 <= (ahead := (date - today).days) < MOST_FORECAST_DAYS}


def _lasting(r: Results, level: Array, depletion: Array, reservoir: Array, day: int,
             ahead: Mapping[int, float]) -> tuple[NDArray[np.int64], Array]:
    """In how many days the stores first fail, in each year without its rain; 1 is today.

    ``ahead`` is the only rain there is, mm by days from today on. And what stands in them then.
    """
    fell = np.zeros_like(r.weather.rain_mm)
    for days_on, mm in ahead.items():
        fell[:, (day + days_on) % A_YEAR] = mm
    minutes, runs = timer_runs(r.season_inputs, replace(r.season_inputs.weather, rain_mm=fell))
    dry = without_rain(r.season.world)
    inflow = dry.inflow.copy()
    for n, bank in enumerate(r.banks.banks):
        inflow[n] = caught_l_mm(r, bank.stores[0]) * fell * ~dry.out[n]
    world = replace(dry, minutes=minutes, runs=runs, inflow=inflow,
                    rain=_per_mm(r)[:, None, None] * fell)
    days = (day + np.arange(AHEAD_DAYS)) % A_YEAR
    levels = np.repeat(_as_banks(world, level[:, None]), r.season.years, axis=1)
    ran = run_days(world, levels, depletion, reservoir, days)
    stored = world.stored
    lacks = ran.lacking[stored][:, :, days] > SAME + SAME * ran.asked[stored][:, :, days]
    failed = np.asarray(lacks.any(axis=0))
    return (np.where(failed.any(axis=-1), failed.argmax(axis=-1) + 1, AHEAD_DAYS),
            ran.level[:len(level)][:, :, days])
