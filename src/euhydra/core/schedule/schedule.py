"""The timer as it is set, through the year: what zones need, how it is set for that, and when."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from euhydra.core.garden.model import Garden, Zone
from euhydra.core.hydraulics.flows import Flows
from euhydra.core.library import Library
from euhydra.core.schedule import timing
from euhydra.core.schedule.rhythm import STARTS_H
from euhydra.core.weather.generator import MONTH_OF_DAY

Settings = Mapping[str, tuple[timing.Setting, ...]]


class Schedule:
    """A garden's timer by its zones.

    ``needs`` are twelve months of running time for each zone that the timer opens; ``timer_days``
    the days of the year on which each zone's settings stand (365,): something grows there, and the
    timer is out.
    """

    def __init__(self, garden: Garden, library: Library, flows: Flows,
                 needs: Mapping[str, tuple[timing.MonthNeed, ...]],
                 timer_days: Mapping[str, NDArray[np.bool_]]) -> None:
        self.garden, self.library, self.needs, self.timer_days = garden, library, needs, timer_days
        self._flows = flows
        self._on: dict[str, Settings] = {}

    @property
    def zones(self) -> list[Zone]:
        """The zones that the timer opens."""
        return self.garden.timed_zones

    @property
    def settings(self) -> Settings:
        """Each zone's settings on the garden's own timer."""
        return self.on(self.garden.timer)

    def on(self, timer: str) -> Settings:
        """Each zone's settings on a timer of the library."""
        if timer not in self._on:
            self._on[timer] = {zone.id: timing.settings(
                self.library.timers[timer],
                tuple(need for need in self.needs[zone.id]
                      if self.timer_days[zone.id][need.month == MONTH_OF_DAY].any()),
                self._flows.run_flow_l_h(zone)) for zone in self.zones}
        return self._on[timer]

    def setting_in(self, zone_id: str, month: int) -> timing.Setting | None:
        """A zone's setting in a month; None when it needs no water then."""
        return next((s for s in self.settings[zone_id] if s.month == month), None)

    @cached_property
    def first_hours(self) -> dict[tuple[str, int], float]:
        """The hour of each zone's first start in a day, by zone and month.

        Zones of a source open one after another from early morning or evening, so that no two
        fight for it.
        """
        begun: dict[tuple[str, int], float] = {}
        found = {}
        for zone in self.zones:
            for setting in self.settings[zone.id]:
                turn = (zone.source, setting.month)
                hour = begun.get(turn, STARTS_H[self.garden.opens])
                found[zone.id, setting.month] = hour % 24
                begun[turn] = hour + setting.minutes / 60
        return found
