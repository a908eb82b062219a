"""All that can be worked out about a garden, each part computed when first asked and kept."""

from __future__ import annotations

from functools import cached_property
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from euhydra.core import storage
from euhydra.core.assessment.water_years import WaterYears
from euhydra.core.construction import parts
from euhydra.core.garden.model import Zone
from euhydra.core.hydraulics import refilling, zone_flow
from euhydra.core.layout import wetted
from euhydra.core.schedule import timing
from euhydra.core.season import Season, run_season
from euhydra.core.season.inputs import just_what_it_drinks, world_of
from euhydra.core.season.lasts import Lasts, lasts
from euhydra.core.season.sizing import Sizes
from euhydra.core.storage import storm
from euhydra.core.weather import frost
from euhydra.core.weather.generator import MONTH_OF_DAY

if TYPE_CHECKING:
    from euhydra.core.storage.filling import Filling

LONG_PLOT_YEARS = 4000  # plots × years: about half a second
LARGE_LINES = 400  # laying so many anew, for one remedy, takes a quarter of a second


class Reckoning(WaterYears):
    """The reckoning of one garden. Arrays by day have shape (years, 365)."""

    @cached_property
    def wetted(self) -> dict[str, wetted.Wetted]:
        """The ground that the lines wet, by plot id; of plots in the ground alone."""
        return {plot: self._wetted.get(plot) or wetted.wetted(by, self.library)
                for plot, by in wetted.watered(self.garden).items()}

    def flow_with(self, zone: Zone, share: float) -> zone_flow.ZoneFlow:
        """One zone solved with a share of its source's usable water left."""
        named = {1.0: "full", 0.5: "half", 0.0: "low"}.get(share)
        if named or self.garden.tap_of(zone.source):
            return self.flows[zone.id][named or "full"]
        key = (zone.id, share)
        if key not in self._shares:
            level = zone_flow.level_at(self.garden, zone.source, share)
            self._shares[key] = zone_flow.solve_zone(self.garden, self.library, zone, level,
                                                     self.drinks)
        return self._shares[key]

    def read_share(self, zone: Zone) -> float:
        """The zone's flow as it was read off over the one solved; 1 where none was read."""
        solved = self.flow_with(zone, round(zone.read_at, 2)).flow_l_h
        return zone.read_l_h / solved if zone.read_l_h > 0 and solved > 1e-6 else 1.0

    def run_flow_l_h(self, zone: Zone) -> float:
        """What runs are set by: the zone's flow with half the water, put right by its reading."""
        return self.flows[zone.id]["half"].flow_l_h * self.read_share(zone)

    @property
    def timed_zones(self) -> list[Zone]:
        """The zones that the timer opens; the others are always open."""
        return [zone for zone in self.garden.zones if zone.timed]

    @cached_property
    def valve(self) -> zone_flow.ValveState:
        """Whether the timer's valve opens."""
        return zone_flow.valve_state(self.garden, self.library)

    @cached_property
    def spills(self) -> tuple[storm.Spill, ...]:
        """Where each bank overflows, and the roof whose water does."""
        return storm.spills(self.garden, self.library, self.banks)

    @cached_property
    def fullest_fed(self) -> storage.Bank:
        """The bank that most roof is led to. A garden without stores has none: ValueError."""
        return max(self.banks.banks, key=lambda bank: sum(
            storm.area_into(self.garden, self.library, store) for store in bank.stores))

    def storm_at(self, rain_mm_h: float, bank: storage.Bank | None = None) -> Filling:
        """How a bank fills from empty in steady rain; the fullest fed when none is named."""
        bank = bank or self.fullest_fed
        key = (bank.id, rain_mm_h)
        if key not in self._storms:
            from euhydra.core.storage.filling import filling  # what compiles it is slow to load

            self._storms[key] = filling(self.garden, self.library, bank, rain_mm_h)
        return self._storms[key]

    def fill_minutes(self, zone: Zone) -> float:
        """Minutes to fill the zone's empty pipes at its flow with the barrels half full."""
        return timing.fill_minutes(self.run_flow_l_h(zone),
                                   refilling.pipe_litres(self.garden, self.library, zone))

    @cached_property
    def refills(self) -> dict[str, refilling.Refill]:
        """What drains from each zone's lines after a run."""
        return {zone.id: refilling.refill(self.garden, self.library, zone,
                                          self.flows[zone.id]["half"])
                for zone in self.garden.zones}

    @cached_property
    def timer_days(self) -> dict[str, NDArray[np.bool_]]:
        """Days of the year on which each zone's settings stand (365,): something grows there, and
        the timer is out.
        """
        out = frost.timer_days(self.garden.site)
        return {zone.id: out & np.any([self.thirsts[p].kc > 0 for p in zone.plots], axis=0)
                for zone in self.garden.zones}

    @cached_property
    def needs(self) -> dict[str, tuple[timing.MonthNeed, ...]]:
        """Twelve months of running time for each zone."""
        return {zone.id: timing.month_needs(self.flows[zone.id]["half"],
                                            [self.thirsts[p] for p in zone.plots],
                                            (1 + self.garden.longer) * (1 + zone.longer) - 1,
                                            self.read_share(zone),
                                            self.garden.every_days,
                                            pulses=self.garden.opens == "pulses",
                                            refill=self.refills[zone.id])
                for zone in self.timed_zones}

    def settings_on(self, timer: str) -> dict[str, tuple[timing.Setting, ...]]:
        """Each zone's settings on a timer of the library."""
        if timer not in self._timers:
            self._timers[timer] = {zone.id: timing.settings(
                self.library.timers[timer],
                tuple(need for need in self.needs[zone.id]
                      if self.timer_days[zone.id][need.month == MONTH_OF_DAY].any()),
                self.run_flow_l_h(zone)) for zone in self.timed_zones}
        return self._timers[timer]

    @cached_property
    def settings(self) -> dict[str, tuple[timing.Setting, ...]]:
        """Each zone's settings on the garden's own timer."""
        return self.settings_on(self.garden.timer)

    @cached_property
    def season(self) -> Season:
        """Every day of every year with the timer as it is really set."""
        return run_season(world_of(self))

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
        opens = self.valve.opens
        return Sizes(self, self.season if opens else self.given_what_it_drinks, as_set=opens)

    @property
    def curve_waits(self) -> bool:
        """Whether the sizing curve is still to be run: a season for each size."""
        return "sizes" not in self.__dict__ or self.sizes.waits

    @cached_property
    def lasts(self) -> Lasts:
        """How long full stores last from the start of the thirstiest month on."""
        return lasts(self)

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

    @cached_property
    def parts(self) -> tuple[parts.PartLine, ...]:
        """The counted parts list."""
        return parts.parts_list(self.garden, self.library)
