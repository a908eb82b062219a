"""All that is worked out of a garden, each part when it is first asked for, and kept.

Every part is a frozen result of one function, from what it names; see ``Memo`` for what an edit
leaves as it was.
"""

from __future__ import annotations

from functools import cached_property, partial
from typing import TYPE_CHECKING, Self

import numpy as np
from numpy.typing import NDArray

from euhydra.core import storage
from euhydra.core.construction import parts, parts_list
from euhydra.core.demand import crop_water, wicking
from euhydra.core.demand.demand import Demand
from euhydra.core.editing.edits import Edit
from euhydra.core.garden.model import AnyPlot, Garden, Roof, Wicking, Zone
from euhydra.core.hydraulics.drum_lines import DrumLines, drum_lines
from euhydra.core.hydraulics.flows import Flows
from euhydra.core.hydraulics.levels import Levels
from euhydra.core.hydraulics.surfaces import zone_levels
from euhydra.core.hydraulics.zone_pipes import pipes_of
from euhydra.core.layout import wetted
from euhydra.core.library import Library
from euhydra.core.results.memo import Memo
from euhydra.core.schedule import timing
from euhydra.core.schedule.by_hand import hand_watering, hose_l_h
from euhydra.core.schedule.schedule import Schedule
from euhydra.core.season import Season, run_season
from euhydra.core.season.inputs import SeasonInputs, just_what_it_drinks, world_of
from euhydra.core.season.lasts import Lasts, lasts
from euhydra.core.season.sizing import Sizes
from euhydra.core.storage import storm
from euhydra.core.storage.inflow import Inflow, winters_of
from euhydra.core.storage.top_up import feeding
from euhydra.core.supply import greywater, runoff
from euhydra.core.supply.gutter_capacity import sharing
from euhydra.core.weather import frost
from euhydra.core.weather.eto import daylight_h
from euhydra.core.weather.generator import DailyWeather, generate
from euhydra.core.weather.record import Record

if TYPE_CHECKING:
    from euhydra.core.storage.filling import Filling

LONG_PLOT_YEARS = 4000  # plots × years: about half a second
LARGE_LINES = 400  # laying so many anew, for one remedy, takes a quarter of a second


class Results:
    """The results of one garden. Arrays by day have shape (years, 365)."""

    def __init__(self, garden: Garden, library: Library, record: Record | None = None,
                 like: Self | None = None) -> None:
        self.garden, self.tables = garden, library
        self._memo: Memo = Memo(like._memo if like is not None else None)
        self.library = self._memo(Library.with_crops, library, garden.crops)
        self.record = record if record and record.id == garden.site.record else None
        self.only: tuple[int, ...] = like.only if like is not None else ()
        self._after: dict[Edit, Self] = {}

    def after(self, edit: Edit) -> Self:
        """The results of this garden with an edit made; used to say what a remedy would do."""
        if edit not in self._after:
            self._after[edit] = self.revised(edit.apply(self.garden, self.library), self.record)
        return self._after[edit]

    def revised(self, garden: Garden, record: Record | None = None) -> Self:
        """The results of another state of this garden; what did not change is not redone."""
        return type(self)(garden, self.tables, record, like=self)

    def sifted(self, years: tuple[int, ...]) -> Self:
        """The results of this garden, and of what it is revised to, in some of its years alone."""
        found = self.revised(self.garden, self.record)
        found.only = years
        return found

    @property
    def measured(self) -> bool:
        """Whether the years are a record's as measured, not generated."""
        return self.record is not None and self.garden.site.reckon_with == "record"

    @cached_property
    def weather(self) -> DailyWeather:
        """The years of the record there is to reckon with, else seeded ones; or some of them."""
        site = self.garden.site
        every = (self._memo(Record.weather, self.record, site.latitude_deg, site.altitude_m)
                 if self.record is not None and self.measured else
                 self._memo(generate, site.climate, site.latitude_deg, site.years, site.seed))
        return self._memo(DailyWeather.only, every, self.only) if self.only else every

    @property
    def years(self) -> int:
        """How many years are reckoned."""
        return self.weather.years

    @cached_property
    def daylight_h(self) -> NDArray[np.float64]:
        """Hours from sunrise to sunset by day of the year (365,)."""
        return self._memo(daylight_h, self.garden.site.latitude_deg)

    @cached_property
    def banks(self) -> storage.Banks:
        """The stores as banks, in the order water runs."""
        return storage.banks_of(self.garden)

    @cached_property
    def reached(self) -> tuple[int, ...]:
        """Banks whose water some zone can draw, by bottom links, siphons and float valves."""
        sources = {*(z.source for z in self.garden.zones),
                   *(self.garden.source_of(p) for p in self.garden.hand_plots)}
        drawn = {self.banks.of_store[s] for s in sources if s in self.banks.of_store}
        return tuple(sorted({near for bank in drawn for near in feeding(self.banks, bank)}))

    @cached_property
    def usable_l(self) -> float:
        """Usable water of all stores when full that a zone can draw; all of it where none does."""
        return sum(bank.usable_l for i, bank in enumerate(self.banks.banks)
                   if not self.reached or i in self.reached)

    @cached_property
    def inflow(self) -> Inflow:
        """What the roofs bring to the stores."""
        roofs: dict[str, runoff.RoofYield] = {}
        for shared in sharing(self.garden.roofs):
            roofs |= self._memo(_roof_yields, self.weather, shared, self.library, of=shared[0].id)
        return Inflow(roofs, self.banks, winters_of(
            self.banks, frost.timer_days(self.garden.site)), self._days)

    @property
    def _days(self) -> tuple[int, int]:
        return self.years, self.weather.rain_mm.shape[1]

    @cached_property
    def demand(self) -> Demand:
        """What every plot needs."""
        thirsts = {plot.id: self.thirst_of(plot) for plot in self.garden.plots}
        drinks = {plot.id: wicking.peak_l_h(thirsts[plot.id]) for plot in self.garden.plots
                  if isinstance(plot, Wicking)}
        grey = {greywater.ground_key(drain, bed): self.thirst_of(bed, of=drain.id)
                for drain in self.garden.drains for bed in greywater.grounds(drain)}
        return Demand(thirsts, grey, drinks, self._days)

    def thirst_of(self, plot: AnyPlot, of: str = "") -> crop_water.PlotThirst:
        """The thirst of a plot in this garden, or ``of`` something else than its plots."""
        return self._memo(crop_water.plot_thirst, plot, self.library, self.weather,
                          self.daylight_h, self.garden.thirst, of=f"{of}/{plot.id}")

    @cached_property
    def wetted(self) -> dict[str, wetted.Wetted]:
        """The ground that the lines wet, by plot id; of plots in the ground alone."""
        return {plot: self._memo(wetted.wetted, by, self.library, of=plot)
                for plot, by in wetted.watered(self.garden).items()}

    @cached_property
    def flows(self) -> Flows:
        """Each zone solved with its store full, half and low: ``flows[zone][level]``."""
        levels = {zone.id: self._levels(zone) for zone in self.garden.zones}
        return Flows(self.garden, self.library, levels, self.demand.drinks)

    @cached_property
    def drums(self) -> dict[str, DrumLines]:
        """What each drain's drum gives through its lines, by month; of drums with lines alone."""
        zones = {zone.source: zone for zone in self.garden.zones}
        return {drain.id: drum_lines(self.garden, drain, zone, partial(self._levels, zone))
                for drain in self.garden.drums if (zone := zones.get(drain.id))}

    def _levels(self, zone: Zone, shut: frozenset[str] = frozenset()) -> Levels:
        """A zone's flows, with the taps of some of its plots shut."""
        return self._memo(Levels, pipes_of(self.garden, zone, self.demand.drinks, shut),
                          self.library, zone_levels(self.garden, zone),
                          of=" ".join([zone.id, *sorted(shut)]))

    @cached_property
    def schedule(self) -> Schedule:
        """What the zones must run, and how the timer is set for that."""
        out = frost.timer_days(self.garden.site)
        days = {zone.id: out & np.any([self.demand.thirsts[p].kc > 0 for p in zone.plots], axis=0)
                for zone in self.garden.zones}
        needs = {zone.id: self._needs(zone) for zone in self.garden.timed_zones}
        by_hand = {plot.id: hand_watering(self.garden, self.library, plot,
                                          self.demand.thirsts[plot.id], self.own_l_day(plot))
                   for plot in self.garden.hand_plots}
        return Schedule(self.garden, self.library, self.flows, needs, days, by_hand)

    def _needs(self, zone: Zone) -> tuple[timing.MonthNeed, ...]:
        """Twelve months of running time for a zone."""
        garden, levels, timer = self.garden, self.flows[zone.id], self.garden.timer_of(zone)
        thirsts = tuple(self.demand.thirsts[p] for p in zone.plots)
        longer = (1 + garden.longer) * (1 + zone.longer) - 1
        return self._memo(_month_needs, levels, thirsts, longer, self.flows.read_share(zone),
                          garden.every_days, bool(timer and timer.opens == "pulses"),
                          self._own(zone), of=zone.id)

    def own_l_day(self, plot: AnyPlot) -> float:
        """What the gardener says they give a plot, L a day: litres, a depth, or minutes of its
        zone's flow.
        """
        zone = next((z for z in self.garden.zones if plot.id in z.plots), None)
        flow = 0.0
        if plot.watered == "hose":
            flow = hose_l_h(self.garden, self.garden.source_of(plot))
        elif zone and plot.own_min_day:
            flow = (self.flows[zone.id]["half"].plot_flow_l_h(plot.id)
                    * self.flows.read_share(zone))
        return crop_water.own_measure_l_day(plot, self.demand.thirsts[plot.id].area_m2, flow)

    def _own(self, zone: Zone) -> tuple[tuple[str, float], ...]:
        """The plots of a zone that are run by their gardener's own measure, with that."""
        plots = (self.garden.plot(p) for p in zone.plots)
        return tuple((p.id, own) for p in plots
                     if p.run_by == "own" and (own := self.own_l_day(p)) > 0)

    @cached_property
    def season_inputs(self) -> SeasonInputs:
        """All that the season is run from."""
        return SeasonInputs(self.garden, self.library, self.weather, self.banks, self.inflow,
                            self.demand, self.flows, self.schedule, self.drums)

    @cached_property
    def season(self) -> Season:
        """Every day of every year with the timer as it is really set."""
        return run_season(world_of(self.season_inputs))

    @cached_property
    def given_what_it_drinks(self) -> Season:
        """The same days, if every plot were given just what it drinks, whatever the timer does."""
        return run_season(just_what_it_drinks(self.season.world))

    @cached_property
    def sizes(self) -> Sizes:
        """The season with any number of barrels in the first store.

        Where the timer does not open no size would help: then as if every plot were given just
        what it drinks.
        """
        opens = self.flows.opens
        return Sizes(self.season_inputs, self.season if opens else self.given_what_it_drinks,
                     self.reached, as_set=opens)

    @property
    def curve_waits(self) -> bool:
        """Whether the sizing curve is still to be run: a season for each size."""
        return "sizes" not in self.__dict__ or self.sizes.waits

    @cached_property
    def lasts(self) -> Lasts:
        """How long full stores last from the start of the thirstiest month on."""
        return lasts(self.season_inputs, self.season)

    @cached_property
    def spills(self) -> tuple[storm.Spill, ...]:
        """Where each bank overflows, and the roof whose water does."""
        return storm.spills(self.garden, self.library, self.banks)

    @cached_property
    def fullest_fed(self) -> storage.Bank:
        """The bank that most roof is led to. A garden without stores has none: ValueError."""
        return max(self.banks.banks, key=lambda bank: sum(
            storm.area_into(self.garden.roofs, self.library, store) for store in bank.stores))

    def storm_at(self, rain_mm_h: float, bank: storage.Bank | None = None) -> Filling:
        """How a bank fills from empty in steady rain; the fullest fed when none is named."""
        from euhydra.core.storage.filling import filling  # what compiles it is slow to load

        bank = bank or self.fullest_fed
        return self._memo(filling, self.garden.roofs, self.garden.joints, self.library, bank,
                          rain_mm_h, of=f"{bank.id} {rain_mm_h}")

    @cached_property
    def parts(self) -> tuple[parts.PartLine, ...]:
        """The counted parts list."""
        return parts_list.parts_list(self.garden, self.library)

    @property
    def large(self) -> bool:
        """Whether laying it anew, or running it once more, takes long enough to show it first."""
        return (len(self.garden.lines) > LARGE_LINES
                or len(self.garden.plots) * self.years > LONG_PLOT_YEARS)

    def let_go(self) -> None:
        """Forget what takes much room and can be reckoned again."""
        for part in ("season", "given_what_it_drinks", "sizes"):
            self.__dict__.pop(part, None)
        self._after.clear()


def _roof_yields(weather: DailyWeather, roofs: tuple[Roof, ...], library: Library
                 ) -> dict[str, runoff.RoofYield]:
    return runoff.roof_yields(weather.water_mm, roofs, library)


def _month_needs(levels: Levels, thirsts: tuple[crop_water.PlotThirst, ...], longer: float,
                 read_share: float, every_days: float, pulses: bool,
                 own: tuple[tuple[str, float], ...]) -> tuple[timing.MonthNeed, ...]:
    return timing.month_needs(levels["half"], list(thirsts), longer, read_share, every_days,
                              pulses=pulses, refill=levels.refill, own_l_day=dict(own))
