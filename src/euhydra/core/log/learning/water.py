"""Roof, barrels and thirst by dips, rain and soil: the season run with each of many guesses."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from scipy.special import ndtr

from euhydra.core.log.entries import Entry
from euhydra.core.log.learning.past import Past, past_of
from euhydra.core.log.learning.sampling import Posterior, posterior
from euhydra.core.log.learning.unknowns import (
    DRAW,
    LEAK_L,
    RUNOFF,
    THIRST,
    Array,
    Unknown,
    of_kind,
)
from euhydra.core.log.through import as_logged_by_hand
from euhydra.core.results.results import Results
from euhydra.core.season.inputs import in_week
from euhydra.core.season.programme import first_weekday
from euhydra.core.season.simulate import run_stretches
from euhydra.core.season.state import SAME, Season, World
from euhydra.core.storage.inflow import Inflow
from euhydra.core.supply.gutter_capacity import sharing
from euhydra.core.supply.runoff import RoofYield, roof_yields, table_runoff

# Errors of reading, one standard deviation, from memory.
STICK_M, GAUGE, TIMER = 0.01, 0.1, 0.05  # a dip; rain of its litres; what a timer draws
TABLES = 0.06  # how far crops and soil differ from day to day from what any one factor tells
ASTRAY, MISFELT = 0.03, 0.06  # of dips that are quite wrong; of soil that is felt otherwise
DRY_AT, WET_AT, SOFT = 1.0, 0.12, (0.2, 0.1)  # of what roots easily have, at which it is felt so
STEPS = np.linspace(0.1, 1.6, 9)  # of the table's runoff, between which litres are interpolated
PLOT_GUESSES = 800  # plots × guesses run at once: a plot's year of a guess takes 60 kB
LEAST_DIPS = 3  # intervals, before a bank is fitted


@dataclass(frozen=True, eq=False)
class Fit:
    """What the log leaves likely: each unknown with its posterior samples' values, (S, N)."""

    past: Past
    unknowns: tuple[Unknown, ...]
    values: Array
    found: Posterior
    weather_differs: float

    def range_of(self, kind: str, at: int) -> tuple[float, float, float] | None:
        """The middle and the 90 % range of an unknown; None where it is none of this log's."""
        for i, unknown in enumerate(self.unknowns):
            if (unknown.kind, unknown.at) == (kind, at):
                told = self.values[:, i]
                if kind == "thirst":
                    told = told * self._other_weather
                low, middle, high = self.found.quantiles(told, (0.05, 0.5, 0.95))
                return middle, low, high
        return None

    @property
    def _other_weather(self) -> Array:
        """Air and crops of this year differ from the mean year that the run knows."""
        dice = np.random.default_rng(len(self.values))
        return np.asarray(np.exp(self.weather_differs * dice.standard_normal(len(self.values))))


def fit_water(r: Results, entries: Sequence[Entry], today: dt.date) -> Fit | None:
    """Fit the garden's water to its log; None where the log says nothing of it."""
    past = past_of(r, entries, today)
    if past is None:
        return None
    unknowns = _unknowns(r, past)
    if not unknowns:
        return None
    run = _Run(r, past, entries, today, unknowns)
    found = posterior(run.log_likelihood, len(unknowns))
    air = r.weather.eto_mm[:, past.days].mean(axis=1)
    return Fit(past, unknowns, _values(unknowns, found.samples), found,
               float(np.hypot(TABLES, np.std(np.log(air)))))


def _values(unknowns: Sequence[Unknown], z: Array) -> Array:
    return np.stack([u.values(z[:, i]) for i, u in enumerate(unknowns)], axis=1)


def _unknowns(r: Results, past: Past) -> tuple[Unknown, ...]:
    world = r.season.world
    banks = [b for b in range(len(r.banks.banks))
             if sum(dip.bank == b for dip in past.dips) >= LEAST_DIPS]
    rows = any(on and int(world.bank[p]) in banks for p, on in enumerate(world.always_on))
    found = [Unknown("thirst", 0, *THIRST)] if past.felt or rows else []
    for b in banks:
        roofs = r.garden.roofs_to({store.id for store in r.banks.banks[b].stores})
        if roofs:
            full = max(table_runoff(roof, r.library) for roof in roofs)
            found.append(Unknown("runoff", b, *RUNOFF, most=1 / full))
        found.append(Unknown("leak", b, *LEAK_L))
    plots = {p for p in range(len(world.plots))
             if int(world.bank[p]) in banks or any(f.plot == p for f in past.felt)}
    zones = sorted({int(world.zone[p]) for p in plots if not world.always_on[p]
                    and world.plots[p] not in world.washed})
    return (*found, *(Unknown("draw", z, *DRAW) for z in zones))


class _Run:
    """The days of a log, run for many guesses side by side as years of one season."""

    def __init__(self, r: Results, past: Past, entries: Sequence[Entry], today: dt.date,
                 unknowns: tuple[Unknown, ...]) -> None:
        self.r, self.past, self.unknowns = r, past, unknowns
        self.world = self._mean_year(entries, today)
        self.steps = np.stack([self._inflow(step) for step in STEPS])
        self.as_it_is = self._inflow()
        start = past.start
        self.depletion = np.median(r.season.depletion[:, :, start], axis=1)
        self.reservoir = np.median(r.season.reservoir[:, :, start], axis=1)
        self.level = np.median(r.season.level[:, :, start], axis=1)
        self.spread = np.array([self._spread(i) for i in range(len(past.dips))])

    def _mean_year(self, entries: Sequence[Entry], today: dt.date) -> World:
        """A world of one year: the log's rain, else the mean of all years; the timer as it is."""
        r, world = self.r, self.r.season.world
        weather = replace(r.weather.only((0,)), rain_mm=self.past.rain_mm[None],
                          eto_mm=r.weather.eto_mm.mean(axis=0, keepdims=True))
        per_mm = world.rain.sum(axis=(1, 2)) / max(float(r.weather.water_mm.sum()), SAME)

        def mean(daily: Array) -> Array:
            return np.asarray(daily.mean(axis=-2, keepdims=True))

        one = replace(
            in_week(r.season_inputs, world, weather, first_weekday(today)),
            use=mean(world.use), bare=mean(world.bare), ready=mean(world.ready),
            rain=per_mm[:, None, None] * self.past.rain_mm[None, None],
            inflow=mean(world.inflow), leak=mean(world.leak))
        return as_logged_by_hand(r, one, [e for e in entries if e.day <= today], today)

    def _inflow(self, step: float = 0.0) -> Array:
        """Litres by day into each bank, (B, 365): of so much of the table's runoff, or (0) as the
        garden's roofs bring it.
        """
        r = self.r
        found: dict[str, RoofYield] = {}
        for shared in sharing(r.garden.roofs):
            own = tuple(roof.model_copy(update={
                "own_runoff": min(step * table_runoff(roof, r.library), 1.0)}) if step else roof
                for roof in shared)
            found |= roof_yields(self.past.rain_mm[None], own, r.library)
        came = Inflow(found, r.banks, r.inflow.winters, (1, 365)).by_bank_l[:, 0]
        behind = len(self.world.size) - len(came)
        return np.concatenate([came, np.zeros((behind, 365))]) if behind else came

    def _spread(self, dip: int) -> float:
        """Standard deviation of a dip against what the one before it leads to, L."""
        told = self.past.dips[dip]
        bank, days = self.r.banks.banks[told.bank], list(told.since)
        levels, litres = bank.curve
        a_metre = (litres[-1] - litres[0]) / max(levels[-1] - levels[0], 1e-6)
        came = float(self.as_it_is[told.bank, days].sum())
        drawn = float(self.world.size[told.bank]) * 0.5
        asked = self.r.season.asked[self.r.season.world.bank == told.bank]
        if len(asked):
            drawn = float(asked[..., days].sum(axis=(0, 2)).mean())
        return float(np.sqrt(2 * (STICK_M * a_metre) ** 2 + (GAUGE * came) ** 2
                             + (TIMER * drawn) ** 2) + 0.5)

    def log_likelihood(self, z: Array) -> Array:
        """Of each sample, (S,); so many run side by side as a server has room for."""
        some = max(PLOT_GUESSES // len(self.world.plots), 1)
        values = _values(self.unknowns, z)
        return np.concatenate([self._told(values[i:i + some]) for i in range(0, len(z), some)])

    def _told(self, values: Array) -> Array:
        season = self._season(values)
        told = np.zeros(len(values))
        for dip, spread in zip(self.past.dips, self.spread, strict=True):
            off = (season.level[dip.bank, :, dip.day] - dip.litres) / spread
            wide = ASTRAY / max(float(self.world.size[dip.bank]), 1.0)
            told += np.log((1 - ASTRAY) * np.exp(-0.5 * off**2) / spread / 2.5066 + wide)
        for felt in self.past.felt:
            had = (season.depletion[felt.plot, :, felt.day - 1]
                   / max(float(self.world.ready[felt.plot, 0, felt.day]), SAME))
            dry, wet = ndtr((had - DRY_AT) / SOFT[0]), ndtr((WET_AT - had) / SOFT[1])
            chance = {"dry": dry, "wet": wet, "right": np.clip(1 - dry - wet, 0, 1)}[felt.word]
            told += np.log((1 - MISFELT) * chance + MISFELT / 3)
        return told

    def _season(self, values: Array) -> Season:
        """The days of the log, a guess a year."""
        guesses = len(values)
        world, shape = self.world, (guesses, 365)

        def each(daily: Array) -> Array:
            return np.broadcast_to(daily, (len(daily), *shape))

        thirst = np.ones(guesses)
        for _, told in of_kind(self.unknowns, values, "thirst"):
            thirst = told / self.r.garden.thirst
        inflow, leak = np.array(each(self.world.inflow)), np.array(each(world.leak))
        inflow[:] = self.as_it_is[:, None]
        for bank, told in of_kind(self.unknowns, values, "runoff"):
            inflow[bank] = _between(self.steps[:, bank], told)
        for bank, told in of_kind(self.unknowns, values, "leak"):
            leak[bank] = told[:, None]
        minutes = np.array(np.broadcast_to(world.minutes, (len(world.minutes), *shape, 4)))
        for zone, told in of_kind(self.unknowns, values, "draw"):
            minutes[zone] *= told[:, None, None]
        run = replace(
            world, use=world.use * thirst[None, :, None], bare=world.bare * thirst[None, :, None],
            ready=each(world.ready), rain=each(world.rain), grey=each(world.grey),
            drained=np.broadcast_to(world.drained, shape), inflow=inflow, leak=leak,
            minutes=minutes, runs=np.broadcast_to(world.runs, minutes.shape))

        def repeated(state: Array) -> Array:
            return np.repeat(state[:, None], guesses, axis=1)

        return run_stretches(run, repeated(self.level), repeated(self.depletion),
                             repeated(self.reservoir), self.past.stretches)


def _between(steps: Array, told: Array) -> Array:
    """Litres by day (S, 365) between those of each step (steps, 365)."""
    at = np.clip(np.interp(told, STEPS, np.arange(len(STEPS))), 0, len(STEPS) - 1 - 1e-9)
    low = at.astype(np.intp)
    share = (at - low)[:, None]
    return np.asarray(steps[low] * (1 - share) + steps[low + 1] * share)
