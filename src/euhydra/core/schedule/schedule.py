"""The timers as they are set, through the year: what zones need, how each is set, and when."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from euhydra.core import library as lib
from euhydra.core.garden.base import WEEK
from euhydra.core.garden.model import Garden, Timer, Zone
from euhydra.core.hydraulics.flows import Flows
from euhydra.core.schedule import rotation, timing
from euhydra.core.schedule.by_hand import HandWatering
from euhydra.core.schedule.rhythm import allowed
from euhydra.core.schedule.settings import Allowed, Setting, on_days, settings
from euhydra.core.schedule.starts import Opening, Start, placed
from euhydra.core.weather.generator import MONTH_OF_DAY

Settings = Mapping[str, tuple[Setting, ...]]


class Schedule:
    """A garden's timers by its zones; a zone opened by hand is set as if by one.

    ``needs`` are twelve months of running time for each zone that is timed; ``timer_days`` the
    days of the year on which each zone's settings stand (365,): something grows there, and the
    timer is out. ``by_hand`` are the plots left to cans or a hose, by id.
    """

    def __init__(self, garden: Garden, library: lib.Library, flows: Flows,
                 needs: Mapping[str, tuple[timing.MonthNeed, ...]],
                 timer_days: Mapping[str, NDArray[np.bool_]],
                 by_hand: Mapping[str, HandWatering]) -> None:
        self.garden, self.library, self.needs, self.timer_days = garden, library, needs, timer_days
        self.by_hand = by_hand
        self._flows = flows
        self._plans: dict[tuple[str, int], dict[str, tuple[rotation.Turn, ...]]] = {}

    @property
    def zones(self) -> list[Zone]:
        """The zones that a timer or a hand opens."""
        return self.garden.timed_zones

    def row(self, zone: Zone) -> lib.Timer:
        """What opens a zone, with its own marks where its gardener typed them."""
        return marked(self.library.timers[self.garden.timer_kind(zone)],
                      self.garden.timer_of(zone))

    @cached_property
    def settings(self) -> Settings:
        """Each zone's settings on its own timer."""
        found = {zone.id: self.on(zone, self.row(zone)) for zone in self.zones}
        for timer in self.garden.timers:
            if timer.moved:
                found |= self._moved(timer)
        return found

    def on(self, zone: Zone, row: lib.Timer) -> tuple[Setting, ...]:
        """A zone's settings on a timer with a valve for it."""
        return settings(row, tuple(
            need for need in self.needs[zone.id]
            if self.timer_days[zone.id][need.month == MONTH_OF_DAY].any()),
            self._flows.run_flow_l_h(zone), allowed(self.garden.timer_of(zone)))

    def plans(self, timer: Timer, month: int) -> Mapping[str, tuple[rotation.Turn, ...]]:
        """The week's plan of a timer whose hoses are moved on each source, by its id.

        Of one whose zones have valves, as it would be with one of it and moved hoses.
        """
        if (timer.id, month) not in self._plans:
            zones = self.garden.zones_of(timer)
            longest = max(marked(self.library.timers[timer.kind], timer).minutes)
            self._plans[timer.id, month] = {
                source: rotation.turns(
                    self.wanting([z for z in zones if z.source == source], month),
                    max(timer.hoses, 1), longest)
                for source in dict.fromkeys(z.source for z in zones)}
        return self._plans[timer.id, month]

    def turns(self, timer: Timer, month: int) -> tuple[rotation.Turn, ...]:
        """All hoses of a timer that are moved, over all its sources."""
        return tuple(turn for plan in self.plans(timer, month).values() for turn in plan)

    def wanting(self, zones: Sequence[Zone], month: int) -> list[tuple[Zone, timing.MonthNeed]]:
        """Those of some zones that want water in a month, with what they need."""
        return [(z, need) for z in zones
                if 0 < (need := self.needs[z.id][month]).minutes_a_day < math.inf
                and self.timer_days[z.id][month == MONTH_OF_DAY].any()]

    def _moved(self, timer: Timer) -> dict[str, tuple[Setting, ...]]:
        zones = {zone.id: zone for zone in self.garden.zones_of(timer)}
        found: dict[str, list[Setting]] = {zone: [] for zone in zones}
        for month in range(12):
            for turn in self.turns(timer, month):
                for zone in turn.zones:
                    found[zone].append(on_days(
                        self.row(zones[zone]), self.needs[zone][month],
                        self._flows.run_flow_l_h(zones[zone]),
                        tuple(WEEK[d] for d in turn.days), turn.minutes))
        return {zone: tuple(settings) for zone, settings in found.items()}

    def setting_in(self, zone_id: str, month: int) -> Setting | None:
        """A zone's setting in a month; None when it needs no water then."""
        return self._by_month[zone_id].get(month)

    @cached_property
    def _by_month(self) -> dict[str, dict[int, Setting]]:
        return {zone: {s.month: s for s in settings} for zone, settings in self.settings.items()}

    @cached_property
    def starts(self) -> tuple[tuple[Start, ...], ...]:
        """In each month what opens when: of each source one after another, over all timers."""
        return tuple(placed(self._openings(month)) for month in range(12))

    def _openings(self, month: int) -> list[Opening]:
        found: list[Opening] = []
        done: set[str] = set()
        for zone, timer, hours in self._timed:
            setting = self.setting_in(zone.id, month)
            if setting is None or zone.id in done:
                continue
            together = next((t.zones for t in self.turns(timer, month) if zone.id in t.zones),
                            (zone.id,)) if timer and timer.moved else (zone.id,)
            done.update(together)
            found.append(Opening(together, zone.source, hours, setting))
        return found

    @cached_property
    def _timed(self) -> list[tuple[Zone, Timer | None, Allowed]]:
        """The zones with what opens each, and the hours that are allowed."""
        timers = [(zone, self.garden.timer_of(zone)) for zone in self.zones]
        return [(zone, timer, allowed(timer)) for zone, timer in timers]

    @cached_property
    def first_hours(self) -> dict[tuple[str, int], float]:
        """The hour of each zone's first start in a day, by zone and month."""
        return {(zone, month): start.at_h % 24
                for month, starts in enumerate(self.starts)
                for start in starts for zone in start.opening.zones}


def marked(row: lib.Timer, timer: Timer | None) -> lib.Timer:
    """A row of the table with what stands on one's own dial in place of what is usual."""
    if timer is None or row.weekdays:
        return row
    return replace(row, every_hours=timer.marks_h or row.every_hours,
                   minutes=timer.marks_min or row.minutes)
