"""All that can be worked out about a garden, each part computed when first asked and kept."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Self

import numpy as np
from numpy.typing import NDArray

from euhydra.core import catch, parts, push, storage, thirst, timing
from euhydra.core.garden.edits import Edit
from euhydra.core.garden.model import Garden, Zone
from euhydra.core.hydraulics.build import pipe_litres
from euhydra.core.library import Library
from euhydra.core.weather.generator import MONTH_OF_DAY, DailyWeather, generate

YEARS = 30
BARRELS_SHOWN = 6


@dataclass(frozen=True)
class SizingRule:
    """A rule of thumb: the usable litres it asks for, and the share of the need they would give."""

    key: str
    size_l: float
    barrels: float
    reliability: float


class Reckoning:
    """The reckoning of one garden. Arrays by day have shape (30 years, 365)."""

    def __init__(self, garden: Garden, library: Library, like: Self | None = None) -> None:
        self.garden = garden
        self.library = library
        self._after: dict[Edit, Self] = {}
        if like is not None:
            self._take_over(like)

    def after(self, edit: Edit) -> Self:
        """The reckoning of this garden with an edit made; used to say what a remedy would do."""
        if edit not in self._after:
            self._after[edit] = self.revised(edit.apply(self.garden, self.library))
        return self._after[edit]

    def revised(self, garden: Garden) -> Self:
        """The reckoning of another state of this garden; what did not change is not redone."""
        return type(self)(garden, self.library, like=self)

    def _take_over(self, like: Self) -> None:
        """Share what is reckoned already and cannot differ, without keeping ``like`` alive."""
        if "weather" not in like.__dict__ or like.garden.site != self.garden.site:
            return
        self.__dict__["weather"] = like.weather
        if "thirsts" in like.__dict__ and like.garden.plots == self.garden.plots:
            self.__dict__["thirsts"] = like.thirsts

    @cached_property
    def weather(self) -> DailyWeather:
        """Thirty seeded years."""
        site = self.garden.site
        return generate(site.climate, site.latitude_deg, YEARS, site.seed)

    @cached_property
    def yields(self) -> dict[str, catch.RoofYield]:
        """Litres by day from each roof, by roof id."""
        return {roof.id: catch.roof_yield(self.weather.rain_mm, roof,
                                          self.library.roof_materials[roof.material])
                for roof in self.garden.roofs}

    @cached_property
    def inflow_l(self) -> NDArray[np.float64]:
        """Litres by day that reach the store."""
        total = np.zeros_like(self.weather.rain_mm)
        return sum((y.caught_l for y in self.yields.values()), total)

    @cached_property
    def thirsts(self) -> dict[str, thirst.PlotThirst]:
        """Each plot's need, by plot id."""
        return {plot.id: thirst.plot_thirst(plot, self.library, self.weather)
                for plot in self.garden.plots}

    @cached_property
    def flows(self) -> dict[str, dict[str, push.ZoneFlow]]:
        """Each zone solved with barrels full, half and low: ``flows[zone][level]``."""
        levels = push.water_levels(self.garden)
        return {zone.id: {name: push.solve_zone(self.garden, self.library, zone, z)
                          for name, z in levels.items()} for zone in self.garden.zones}

    @cached_property
    def valve(self) -> push.ValveState:
        """Whether the timer's valve opens."""
        return push.valve_state(self.garden, self.library)

    @cached_property
    def demand_l(self) -> NDArray[np.float64]:
        """Litres by day that the zones draw: each plot's net need over its zone's efficiency."""
        total = np.zeros_like(self.weather.rain_mm)
        for zone in self.garden.zones:
            share = timing.efficiency(self.flows[zone.id]["half"])
            for plot in zone.plots:
                total += self.thirsts[plot].net_l / share
        return total

    @cached_property
    def demand_by_month(self) -> NDArray[np.float64]:
        """Mean litres a day that the zones draw, by month (12,)."""
        return np.array([self.demand_l[:, MONTH_OF_DAY == m].mean() for m in range(12)])

    @cached_property
    def counts(self) -> NDArray[np.int64]:
        """Numbers of barrels shown on the sizing curve; the garden's own is among them."""
        return np.arange(1, max(BARRELS_SHOWN, self.garden.store.count + 3) + 1)

    @cached_property
    def sizing(self) -> storage.Balance:
        """The barrels' balance over thirty years for every number in ``counts``."""
        one = storage.usable_l(self.garden.store) / self.garden.store.count
        return storage.balance(self.inflow_l.ravel(), self.demand_l.ravel(), one * self.counts)

    @cached_property
    def rules(self) -> tuple[SizingRule, ...]:
        """What the rules of thumb would have one buy, and what each size gives over the years."""
        inflow, demand = self.inflow_l.ravel(), self.demand_l.ravel()
        spell = float(np.median(storage.longest_dry_spell(self.weather.rain_mm)))
        sizes = {
            "five-percent": storage.five_percent_l(float(inflow.sum()) / YEARS,
                                                   float(demand.sum()) / YEARS),
            "dry-spell": spell * float(self.demand_by_month.max()),
            "never-fails": storage.sequent_peak_l(inflow, demand)}
        kept = storage.balance(inflow, demand, list(sizes.values()))
        one = float(self.sizing.size_l[0])
        return tuple(SizingRule(key, size, size / one, float(kept.reliability[i]))
                     for i, (key, size) in enumerate(sizes.items()))

    @cached_property
    def own(self) -> int:
        """Where the garden's own number of barrels stands in ``counts``."""
        return self.garden.store.count - 1

    @cached_property
    def level_l(self) -> NDArray[np.float64]:
        """Usable water at each day's end with the garden's own barrels, (30, 365)."""
        return self.sizing.level_l[:, self.own].reshape(-1, 365)

    @cached_property
    def unmet_l(self) -> NDArray[np.float64]:
        """Litres by day that the barrels did not give, (30, 365): the tap's, if there is one."""
        used = self.sizing.used_l[:, self.own].reshape(-1, 365)
        return self.demand_l - used

    @cached_property
    def unmet_year_l(self) -> float:
        """Litres a year that the barrels do not give."""
        return float(self.unmet_l.sum()) / YEARS

    @cached_property
    def short_days(self) -> NDArray[np.int64]:
        """Days with a need unmet by the barrels, by year (30,)."""
        return np.asarray(self.sizing.short[:, self.own].reshape(-1, 365).sum(axis=1))

    @cached_property
    def typical_year(self) -> int:
        """The year whose number of short days is nearest the median (the first of them)."""
        days = self.short_days
        return int(np.argmin(np.abs(days - np.median(days))))

    def fill_minutes(self, zone: Zone) -> float:
        """Minutes to fill the zone's pipes at its flow with the barrels half full."""
        return timing.fill_minutes(self.flows[zone.id]["half"],
                                   pipe_litres(self.garden, self.library, zone))

    @cached_property
    def needs(self) -> dict[str, tuple[timing.MonthNeed, ...]]:
        """Twelve months of running time for each zone."""
        return {zone.id: timing.month_needs(self.flows[zone.id]["half"],
                                            [self.thirsts[p] for p in zone.plots])
                for zone in self.garden.zones}

    def settings_on(self, timer: str) -> dict[str, tuple[timing.Setting, ...]]:
        """Each zone's settings on a timer of the library."""
        return {zone.id: timing.settings(
            self.library.timers[timer], self.needs[zone.id], self.fill_minutes(zone),
            self.flows[zone.id]["half"].flow_l_h) for zone in self.garden.zones}

    @cached_property
    def settings(self) -> dict[str, tuple[timing.Setting, ...]]:
        """Each zone's settings on the garden's own timer."""
        return self.settings_on(self.garden.timer)

    @cached_property
    def parts(self) -> tuple[parts.PartLine, ...]:
        """The counted parts list."""
        return parts.parts_list(self.garden, self.library)
