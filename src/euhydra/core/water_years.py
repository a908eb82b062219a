"""What comes, what is kept and what is wanted in a garden's years, each part kept once computed."""

from __future__ import annotations

import datetime as dt
import math
from dataclasses import replace
from functools import cached_property
from typing import Self

import numpy as np
from numpy.typing import NDArray

from euhydra.core import catch, greywater, push, storage, storm, thirst, timing
from euhydra.core.backups import Backups, back_up
from euhydra.core.basis import BASIS, sky, zone_pipes
from euhydra.core.flows import Levels
from euhydra.core.garden.edits import Edit
from euhydra.core.garden.model import Garden
from euhydra.core.library import Library
from euhydra.core.log.entries import Entry
from euhydra.core.weather.eto import day_length
from euhydra.core.weather.generator import MONTH_OF_DAY, DailyWeather, generate
from euhydra.core.weather.record import Record

BARRELS_SHOWN, MOST_SHOWN = 6, 14


class WaterYears:
    """Weather, roofs, thirst, flows and stores of one garden.

    Arrays by day have shape (years, 365).
    """

    garden: Garden
    record: Record | None

    def __init__(self, garden: Garden, library: Library, record: Record | None = None,
                 like: Self | None = None) -> None:
        self.garden = garden
        self.tables = library
        self.library = library.of(garden)
        self.record = record if record and record.id == garden.site.record else None
        self.log: tuple[Entry, ...] = like.log if like is not None else ()
        self.today: dt.date | None = like.today if like is not None else None
        self._after: dict[Edit, Self] = {}
        self._storms: dict[tuple[str, float], storm.Filling] = {}
        self._thirsts: dict[str, thirst.PlotThirst] = {}
        self._yields: dict[str, catch.RoofYield] = {}
        self._flows: dict[str, Levels] = {}
        self._shares: dict[tuple[str, float], push.ZoneFlow] = {}
        self._timers: dict[str, dict[str, tuple[timing.Setting, ...]]] = {}
        if like is not None:
            self._take_over(like)

    def after(self, edit: Edit) -> Self:
        """The reckoning of this garden with an edit made; used to say what a remedy would do."""
        if edit not in self._after:
            self._after[edit] = self.revised(edit.apply(self.garden, self.library), self.record)
        return self._after[edit]

    def revised(self, garden: Garden, record: Record | None = None) -> Self:
        """The reckoning of another state of this garden; what did not change is not redone."""
        return type(self)(garden, self.tables, record, like=self)

    def _take_over(self, like: Self) -> None:
        """Share what is reckoned already and cannot differ, without keeping ``like`` alive."""
        for part, basis in BASIS.items():
            if part in like.__dict__ and basis(like) == basis(self):
                self.__dict__[part] = like.__dict__[part]
        if sky(like) == sky(self) and like.garden.crops == self.garden.crops:
            plots = {plot.id: plot for plot in like.garden.plots}
            self._thirsts = {plot.id: like.thirsts[plot.id] for plot in self.garden.plots
                             if "thirsts" in like.__dict__ and plots.get(plot.id) == plot}
        if sky(like) == sky(self) and "yields" in like.__dict__:
            roofs = {roof.id: roof for roof in like.garden.roofs}
            self._yields = {roof.id: like.yields[roof.id] for roof in self.garden.roofs
                            if roofs.get(roof.id) == roof}
        if "flows" in like.__dict__:
            same = {zone.id: zone_pipes(like.garden, zone) for zone in like.garden.zones}
            self._flows = {zone.id: like.flows[zone.id] for zone in self.garden.zones
                           if same.get(zone.id) == zone_pipes(self.garden, zone)}

    @cached_property
    def weather(self) -> DailyWeather:
        """The record's years where there is one to reckon with, else seeded ones."""
        site = self.garden.site
        if self.record is not None and self.measured:
            return self.record.weather(site.latitude_deg, site.altitude_m)
        return generate(site.climate, site.latitude_deg, site.years, site.seed)

    @property
    def measured(self) -> bool:
        """Whether the years are a record's as measured, not generated."""
        return self.record is not None and self.garden.site.reckon_with == "record"

    @property
    def years(self) -> int:
        """How many years are reckoned."""
        return self.weather.years

    @cached_property
    def banks(self) -> storage.Banks:
        """The stores as banks, in the order water runs."""
        return storage.banks_of(self.garden)

    @cached_property
    def yields(self) -> dict[str, catch.RoofYield]:
        """Litres by day from each roof, by roof id."""
        return {roof.id: self._yields.get(roof.id) or catch.roof_yield(
            self.weather.rain_mm, roof, self.library) for roof in self.garden.roofs}

    @cached_property
    def inflow_l(self) -> NDArray[np.float64]:
        """Litres by day that reach any store."""
        return np.asarray(self.bank_inflow_l.sum(axis=0))

    @cached_property
    def bank_inflow_l(self) -> NDArray[np.float64]:
        """Litres by day that reach each bank, (banks, years, 365)."""
        total = self._by_bank()
        for roof in self.yields.values():
            for store, litres in roof.by_store.items():
                total[self.banks.of_store[store]] += litres
        return total

    @cached_property
    def thirsts(self) -> dict[str, thirst.PlotThirst]:
        """Each plot's need, by plot id."""
        return {plot.id: self._thirsts.get(plot.id) or thirst.plot_thirst(
            plot, self.library, self.weather, self.daylight_h) for plot in self.garden.plots}

    @cached_property
    def grey_thirsts(self) -> dict[str, thirst.PlotThirst]:
        """The need of the ground that used water is led to, by its key."""
        return {greywater.ground_key(drain, bed): thirst.plot_thirst(
            bed, self.library, self.weather, self.daylight_h)
            for drain in self.garden.drains for bed in greywater.grounds(drain)}

    @cached_property
    def need_by_month(self) -> NDArray[np.float64]:
        """Litres a day that all plots need after rain, by month (12,)."""
        return np.asarray(np.sum([t.net_by_month for t in self.thirsts.values()], axis=0))

    @property
    def peak_month(self) -> int:
        """The month with the largest need."""
        return int(np.argmax(self.need_by_month))

    @cached_property
    def daylight_h(self) -> NDArray[np.float64]:
        """Hours from sunrise to sunset by day of the year (365,)."""
        return day_length(self.garden.site.latitude_deg, np.arange(1, 366))

    @cached_property
    def flows(self) -> dict[str, Levels]:
        """Each zone solved with its store full, half and low: ``flows[zone][level]``."""
        return {zone.id: self._flows.get(zone.id) or Levels(self.garden, self.library, zone)
                for zone in self.garden.zones}

    @cached_property
    def demand_l(self) -> NDArray[np.float64]:
        """Litres by day that the zones draw: each plot's net need over its zone's efficiency."""
        return np.asarray(self.bank_demand_l.sum(axis=0) + self.tap_fed_l)

    @cached_property
    def zone_demand_l(self) -> dict[str, NDArray[np.float64]]:
        """Litres by day that each zone draws, (years, 365)."""
        total = {}
        for zone in self.garden.zones:
            share = timing.efficiency(self.flows[zone.id]["half"]) if zone.timed else 1.0
            total[zone.id] = sum((self.thirsts[plot].net_l / share for plot in zone.plots),
                                 np.zeros_like(self.weather.rain_mm))
        return total

    @cached_property
    def tap_fed_l(self) -> NDArray[np.float64]:
        """Litres by day of the zones that a tap feeds itself, (years, 365)."""
        return sum((self.zone_demand_l[zone.id] for zone in self.garden.zones
                    if self.garden.tap_of(zone.source)), np.zeros_like(self.weather.rain_mm))

    @cached_property
    def bank_demand_l(self) -> NDArray[np.float64]:
        """Litres by day that the zones draw from each bank, (banks, years, 365)."""
        total = self._by_bank()
        for zone in self.garden.zones:
            if zone.source in self.banks.of_store:
                total[self.banks.of_store[zone.source]] += self.zone_demand_l[zone.id]
        return total

    def _by_bank(self) -> NDArray[np.float64]:
        """Nothing yet, (banks, years, 365); a garden without stores has one bank of no size."""
        return np.zeros((max(1, len(self.banks.banks)), *self.weather.rain_mm.shape))

    @cached_property
    def demand_by_month(self) -> NDArray[np.float64]:
        """Mean litres a day that the zones draw, by month (12,)."""
        return np.array([self.demand_l[:, MONTH_OF_DAY == m].mean() for m in range(12)])

    @cached_property
    def counts(self) -> NDArray[np.int64]:
        """Numbers of barrels shown on the sizing curve; the garden's own is among them.

        They are those of the first store; the others stay as they are. So many that the dry-spell
        rule stands on the curve, within MOST_SHOWN.
        """
        own = self.garden.store.count if self.garden.stores else 0
        ruled = min(MOST_SHOWN, math.ceil(self._barrels(self.rule_sizes_l["dry-spell"])) + 1)
        return np.arange(1, max(BARRELS_SHOWN, own + 3, ruled) + 1)

    @cached_property
    def sizing(self) -> storage.Balance:
        """The stores' balance over the years for every number in ``counts``."""
        return self.kept(self._sizes(self.counts.tolist()))

    def _sizes(self, counts: list[int]) -> NDArray[np.float64]:
        """Usable litres of each bank with so many barrels in the first store, (banks, counts)."""
        if not self.garden.stores:
            return np.zeros((1, len(counts)))
        sizes = np.repeat([[bank.usable_l] for bank in self.banks.banks], len(counts), axis=1)
        mine = self.banks.of_store[self.garden.store.id]
        bank = self.banks.banks[mine]
        for i, count in enumerate(counts):
            first = self.garden.store.model_copy(update={"count": count})
            stores = tuple(first if s.id == first.id else s for s in bank.stores)
            sizes[mine, i] = replace(bank, stores=stores).usable_l
        return np.asarray(sizes, dtype=float)

    def kept(self, sizes_l: NDArray[np.float64]) -> storage.Balance:
        """The balance with banks of these usable sizes, (banks, sizes)."""
        return storage.balance(self.bank_inflow_l, self.bank_demand_l, sizes_l,
                               over_to=self.banks.over_to, feeds=self.banks.feeds)

    @cached_property
    def rule_sizes_l(self) -> dict[str, float]:
        """Usable litres that each rule of thumb asks for.

        They know of one store, so all water and all need are put together.
        """
        inflow, demand = self.inflow_l.ravel(), self.demand_l.ravel()
        spell = float(np.median(storage.longest_dry_spell(self.weather.rain_mm)))
        return {
            "five-percent": storage.five_percent_l(float(inflow.sum()) / self.years,
                                                   float(demand.sum()) / self.years),
            "dry-spell": spell * float(self.demand_by_month.max()),
            "never-fails": (storage.sequent_peak_l(inflow, demand)
                            if inflow.sum() >= demand.sum() else math.inf)}

    def _barrels(self, size_l: float) -> float:
        """How many barrels like the first store's make so much, with the other stores as they are.

        0 where the others are enough, or where another barrel would add nothing.
        """
        one, two = self._sizes([1, 2]).sum(axis=0).tolist()
        return max(size_l - (2 * one - two), 0.0) / (two - one) if two > one else 0.0

    @cached_property
    def rules(self) -> tuple[storage.SizingRule, ...]:
        """What the rules of thumb would have one buy, and what each size gives over the years."""
        sizes = {key: size for key, size in self.rule_sizes_l.items() if math.isfinite(size)}
        kept = storage.balance(self.inflow_l, self.demand_l, list(sizes.values()))
        found = [storage.SizingRule(key, size, self._barrels(size), float(kept.reliability[i]))
                 for i, (key, size) in enumerate(sizes.items())]
        # A store so large that nothing spills gives all that comes.
        most = float(self.inflow_l.sum()) / max(float(self.demand_l.sum()), 1e-9)
        return (*found, *(storage.SizingRule(key, math.inf, math.inf, most)
                          for key in self.rule_sizes_l if key not in sizes))

    @cached_property
    def own(self) -> int:
        """Where the garden's own number of barrels stands in ``counts``."""
        return self.garden.store.count - 1 if self.garden.stores else 0

    @cached_property
    def usable_l(self) -> float:
        """Usable water of all stores together when full."""
        return float(self.sizing.size_l[:, self.own].sum())

    @cached_property
    def rain_share(self) -> float:
        """Share of all that the garden drinks that rain gives; 1 where it drinks nothing."""
        wanted = float(self.demand_l.sum())
        return float(self.sizing.given_l[self.own]) / wanted if wanted else 1.0

    @cached_property
    def level_l(self) -> NDArray[np.float64]:
        """Usable water in all stores at each day's end, (years, 365)."""
        return np.asarray(self.sizing.level_l[..., self.own].sum(axis=0))

    @cached_property
    def bank_unmet_l(self) -> NDArray[np.float64]:
        """Litres by day that each bank's stores did not give, (banks, years, 365)."""
        return self.bank_demand_l - self.sizing.used_l[..., self.own]

    @cached_property
    def backups(self) -> Backups:
        """Who gives what the stores did not."""
        given = back_up(self.garden, self.banks, self.bank_unmet_l)
        return replace(given, tap_l=given.tap_l + self.tap_fed_l)

    @cached_property
    def unmet_l(self) -> NDArray[np.float64]:
        """Litres by day that the stores did not give, (years, 365)."""
        return np.asarray(self.bank_unmet_l.sum(axis=0))

    @cached_property
    def short(self) -> NDArray[np.bool_]:
        """Days on which the stores gave less than was wanted, (years, 365)."""
        return np.asarray(self.sizing.short[..., self.own])

    @cached_property
    def short_days(self) -> NDArray[np.int64]:
        """Days with a need unmet by the stores, by year."""
        return np.asarray(self.short.sum(axis=1))

    @cached_property
    def typical_year(self) -> int:
        """The year whose number of short days is nearest the median (the first of them)."""
        days = self.short_days
        return int(np.argmin(np.abs(days - np.median(days))))
