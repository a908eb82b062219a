"""What comes, what is kept and what is wanted in a garden's years, each part kept once computed."""

from __future__ import annotations

import datetime as dt
from functools import cached_property
from typing import TYPE_CHECKING, Self

import numpy as np
from numpy.typing import NDArray

from euhydra.core import storage
from euhydra.core.assessment.basis import BASIS, sky, zone_pipes
from euhydra.core.demand import crop_water, wicking
from euhydra.core.editing.edits import Edit
from euhydra.core.garden.base import DAYS_BEFORE_MONTH
from euhydra.core.garden.model import Garden, Wicking
from euhydra.core.hydraulics import zone_flow
from euhydra.core.hydraulics.levels import Levels
from euhydra.core.layout.wetted import Wetted, watered
from euhydra.core.library import Library
from euhydra.core.log.entries import Entry
from euhydra.core.schedule import timing
from euhydra.core.storage.top_up import feeding
from euhydra.core.supply import greywater, runoff
from euhydra.core.supply.gutter_capacity import sharing
from euhydra.core.weather import frost, water_year
from euhydra.core.weather.eto import day_length
from euhydra.core.weather.generator import MONTH_OF_DAY, DailyWeather, generate
from euhydra.core.weather.record import Record

if TYPE_CHECKING:
    from euhydra.core.storage.filling import Filling


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
        self._storms: dict[tuple[str, float], Filling] = {}
        self._thirsts: dict[str, crop_water.PlotThirst] = {}
        self._wetted: dict[str, Wetted] = {}
        self._yields: dict[str, runoff.RoofYield] = {}
        self._flows: dict[str, Levels] = {}
        self._shares: dict[tuple[str, float], zone_flow.ZoneFlow] = {}
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
        if "wetted" in like.__dict__.keys() - self.__dict__ and (
                like.garden.crops == self.garden.crops):
            wet: dict[str, Wetted] = like.__dict__["wetted"]
            before = watered(like.garden)
            self._wetted = {plot: wet[plot] for plot, by in watered(self.garden).items()
                            if plot in wet and before.get(plot) == by}
        if sky(like) == sky(self) and "roof_yields" in like.__dict__:
            shared = set(sharing(like.garden.roofs))
            self._yields = {
                roof.id: like.roof_yields[roof.id] for roofs in sharing(self.garden.roofs)
                if roofs in shared for roof in roofs}
        if "flows" in like.__dict__:
            same = {zone.id: zone_pipes(like.garden, zone) for zone in like.garden.zones}
            self._flows = {zone.id: like.flows[zone.id] for zone in self.garden.zones
                           if same.get(zone.id) == zone_pipes(self.garden, zone)
                           and all(like.drinks.get(p) == self.drinks.get(p) for p in zone.plots)}

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
    def winters(self) -> NDArray[np.bool_]:
        """Days of the year on which each bank is emptied and out of use for frost, (banks, 365)."""
        out = ~frost.timer_days(self.garden.site)
        return np.array([out & (not bank.frost_proof) for bank in self.banks.banks]
                        or [np.zeros(365, dtype=bool)])

    @cached_property
    def yields(self) -> dict[str, runoff.RoofYield]:
        """Litres by day from each roof, by roof id."""
        out = {store: self.winters[bank] for store, bank in self.banks.of_store.items()
               if self.winters[bank].any()}
        return {roof: runoff.wintered(told, out) if out else told
                for roof, told in self.roof_yields.items()}

    @cached_property
    def roof_yields(self) -> dict[str, runoff.RoofYield]:
        """The same, were no store ever out of use for frost."""
        found = dict(self._yields)
        for roofs in sharing(self.garden.roofs):
            if roofs[0].id not in found:
                found |= runoff.roof_yields(self.weather.water_mm, roofs, self.library)
        return found

    @cached_property
    def inflow_l(self) -> NDArray[np.float64]:
        """Litres by day that reach any store."""
        return np.asarray(self.bank_inflow_l.sum(axis=0))

    @cached_property
    def bank_inflow_l(self) -> NDArray[np.float64]:
        """Litres by day that reach each bank, (banks, years, 365); one bank if there is none."""
        total = np.zeros((max(1, len(self.banks.banks)), *self.weather.rain_mm.shape))
        for roof in self.yields.values():
            for store, litres in roof.by_store.items():
                total[self.banks.of_store[store]] += litres
        return total

    @cached_property
    def thirsts(self) -> dict[str, crop_water.PlotThirst]:
        """Each plot's need, by plot id."""
        return {plot.id: self._thirsts.get(plot.id) or crop_water.plot_thirst(
            plot, self.library, self.weather, self.daylight_h) for plot in self.garden.plots}

    @cached_property
    def drinks(self) -> dict[str, float]:
        """L/h that each self-watering row drinks in its hottest hour, by plot id."""
        return {plot.id: wicking.peak_l_h(self.thirsts[plot.id]) for plot in self.garden.plots
                if isinstance(plot, Wicking)}

    @cached_property
    def grey_thirsts(self) -> dict[str, crop_water.PlotThirst]:
        """The need of the ground that used water is led to, by its key."""
        return {greywater.ground_key(drain, bed): crop_water.plot_thirst(
            bed, self.library, self.weather, self.daylight_h)
            for drain in self.garden.drains for bed in greywater.grounds(drain)}

    @cached_property
    def need_l(self) -> NDArray[np.float64]:
        """Litres by day that all plots need after rain, (years, 365)."""
        return sum((t.net_l for t in self.thirsts.values()), np.zeros_like(self.weather.rain_mm))

    @cached_property
    def year_begins(self) -> int:
        """The day of the year (0 to 364) on which a water year of this garden begins."""
        return int(DAYS_BEFORE_MONTH[self.year_begins_in])

    @cached_property
    def year_begins_in(self) -> int:
        """The month (0 to 11) in which it begins: the first of the longest without growth, if any.

        Else the first of those with the least need.
        """
        grows = sum((t.kc > 0 for t in self.thirsts.values()), np.zeros(365))
        by_month = np.array([grows[MONTH_OF_DAY == m].any() for m in range(12)], dtype=float)
        return water_year.first_month(self.need_by_month if by_month.all() else by_month)

    @property
    def shown_from(self) -> int:
        """The month in which a drawing of the year begins: January, where that cuts no season."""
        cut = any(t.kc[0] > 0 and t.kc[-1] > 0 for t in self.thirsts.values())
        return self.year_begins_in if cut else 0

    @cached_property
    def need_by_month(self) -> NDArray[np.float64]:
        """Litres a day that all plots need after rain, by month (12,)."""
        return np.asarray(np.sum([t.net_by_month for t in self.thirsts.values()], axis=0))

    @property
    def peak_month(self) -> int:
        """The month with the largest need."""
        return int(np.argmax(self.need_by_month))

    @cached_property
    def reached(self) -> tuple[int, ...]:
        """Banks whose water some zone can draw, by bottom links, siphons and float valves."""
        drawn = {self.banks.of_store[z.source] for z in self.garden.zones
                 if z.source in self.banks.of_store}
        return tuple(sorted({near for bank in drawn for near in feeding(self.banks, bank)}))

    @cached_property
    def usable_l(self) -> float:
        """Usable water of all stores when full that a zone can draw; all of it without a zone."""
        return sum(bank.usable_l for i, bank in enumerate(self.banks.banks)
                   if not self.garden.zones or i in self.reached)

    @cached_property
    def unreached_l(self) -> float:
        """Usable water in stores that no zone can draw from."""
        return sum(bank.usable_l for bank in self.banks.banks) - self.usable_l

    @cached_property
    def daylight_h(self) -> NDArray[np.float64]:
        """Hours from sunrise to sunset by day of the year (365,)."""
        return day_length(self.garden.site.latitude_deg, np.arange(1, 366))

    @cached_property
    def flows(self) -> dict[str, Levels]:
        """Each zone solved with its store full, half and low: ``flows[zone][level]``."""
        return {zone.id: self._flows.get(zone.id) or Levels(
            self.garden, self.library, zone, self.drinks)
                for zone in self.garden.zones}
