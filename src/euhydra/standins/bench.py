"""A hose timer, a flow meter behind it, a level gauge in its store and a weather feed.

Minute by minute from a Monday midnight. The timer here knows only how it was set and its own
clock; it shares no code with the season that foretells it.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from euhydra.core.advise.watching import GAUGE_STEP_L, Reading
from euhydra.core.garden.base import DAYS_BEFORE_MONTH, WEEK
from euhydra.core.garden.model import Zone
from euhydra.core.hydraulics import timer_valve, zone_flow
from euhydra.core.hydraulics.levels import Levels
from euhydra.core.results.results import Results
from euhydra.core.schedule.settings import Setting
from euhydra.core.season.programme import ADJUSTS_OVER_DAYS, MOST_ADJUSTED
from euhydra.core.weather.generator import MONTH_LENGTHS

DAY_MIN, RAINS_AT_H = 1440, 15
FAULTS = {"flat-battery": "flat battery", "blocked-filter": "blocked filter",
          "stuck-float": "gauge's float stuck", "split-hose": "split hose"}
BLOCKED, SPLIT = 0.985, 1.6  # mesh all but shut; flow over that of a whole hose
MOST_DAYS = 28
FORECAST_DAYS = 7


@dataclass
class ZoneValve:
    """One zone on the timer: its setting, when it first opens in the day, when it shuts."""

    zone: Zone
    setting: Setting
    first_min: int
    shuts_at: int = -1


class Bench:
    """All devices of one source. ``advance`` moves the clock; readings are kept by the minute."""

    def __init__(self, r: Results, source: str, month: int) -> None:
        self.r, self.source, self.month = r, source, month
        self.faults: set[str] = set()
        self.minute, self.meter_l, self.shift_min = 0, 0.0, 0
        stored = source in r.banks.of_store
        self.bank = r.banks.of_store[source] if stored else -1
        self.usable_l = r.banks.banks[self.bank].usable_l if stored else 0.0
        self.level_l = self.usable_l
        season = r.season
        year = season.typical_year
        days = (DAYS_BEFORE_MONTH[month] + np.arange(-3, MOST_DAYS + 1)) % 365
        self.rain_mm, self.eto_mm, self.come_l = (season.in_year(daily, year)[days] for daily in (
            r.weather.rain_mm, r.weather.eto_mm, r.inflow.by_bank_l[max(self.bank, 0)]))
        of_month = slice(DAYS_BEFORE_MONTH[month], DAYS_BEFORE_MONTH[month] + MONTH_LENGTHS[month])
        self.mean_eto = float(r.weather.eto_mm[:, of_month].mean())
        starts = r.schedule.first_hours
        self.valves = [ZoneValve(z, s, round(starts[z.id, month] * 60))
                       for z in r.garden.timed_zones for s in r.schedule.settings[z.id]
                       if z.source == source and s.month == month]
        self.always_l_min = sum(
            float(r.demand.thirsts[p].use_by_month[month]) for z in r.garden.zones
            if not z.timed and z.source == source for p in z.plots) / DAY_MIN
        self.flows = {v.zone.id: self._flows(r.flows[v.zone.id]) for v in self.valves}
        self.dirty: dict[str, tuple[float, ...]] = {}
        self.stuck_at = 0.0
        self.readings: list[Reading] = [self.reading()]

    def _flows(self, levels: Levels) -> tuple[float, ...]:
        zone = levels.pipes.zone
        gets = timer_valve.valve_gets_kpa(self.r.garden, self.r.library, zone.source)
        if gets < self.r.schedule.row(zone).opens_kpa:
            return (0.0, 0.0, 0.0)
        return tuple(levels[name].flow_l_h for name in ("low", "half", "full"))

    def give(self, fault: str) -> None:
        """Give a fault, or mend all with an empty name. Raises KeyError for one that is none."""
        if not fault:
            self.faults.clear()
            return
        FAULTS[fault]
        self.faults.add(fault)
        self.stuck_at = self.level_l
        for valve in self.valves if fault == "blocked-filter" and not self.dirty else ():
            self.dirty[valve.zone.id] = self._flows(
                self.r.flows[valve.zone.id].blocked(BLOCKED))

    def change_clock(self, hours: int) -> None:
        """The clocks on the wall change. A dial has none; a timer with a clock is set anew."""
        self.shift_min += hours * 60

    @property
    def kinds(self) -> list[str]:
        """The kinds of timer that open its valves, by their keys, and what a hand opens."""
        return list(dict.fromkeys(self.r.garden.timer_kind(v.zone) for v in self.valves))

    @property
    def open(self) -> list[ZoneValve]:
        """The valves that stand open now."""
        return [v for v in self.valves if v.shuts_at > self.minute]

    @property
    def day(self) -> int:
        """Days gone by since the first Monday."""
        return self.minute // DAY_MIN

    @property
    def ended(self) -> bool:
        """Whether the weather feed has no further day."""
        return self.day >= MOST_DAYS

    def rained_mm(self) -> float:
        """Rain of the last two days as the feed tells it."""
        return float(self.rain_mm[self.day + 1:self.day + 3].sum())

    @property
    def yesterday_mm(self) -> float:
        """Yesterday's rain as the feed tells it."""
        return float(self.rain_mm[self.day + 2])

    @property
    def forecast_mm(self) -> list[float]:
        """Rain of a week from today on, or of what is left of it, as the feed foretells it."""
        return [float(mm) for mm in self.rain_mm[self.day + 3:self.day + 3 + FORECAST_DAYS]]

    def reading(self) -> Reading:
        """What all devices tell now."""
        level = self.stuck_at if "stuck-float" in self.faults else self.level_l
        shown = round(level / GAUGE_STEP_L) * GAUGE_STEP_L
        return Reading(self.minute, ",".join(v.zone.id for v in self.open),
                       round(self.meter_l, 2), shown, self.rained_mm())

    def advance(self, minutes: int) -> None:
        """Move the clock on, as far as the weather feed goes."""
        for _ in range(minutes):
            if self.ended:
                return
            self._minute()

    def _minute(self) -> None:
        for valve in self.valves:
            if self._opens(valve):
                valve.shuts_at = self.minute + self._minutes_of(valve)
        for valve in self.open:
            flow = self._flow(valve.zone.id) / 60
            had = min(flow, self.level_l) if self.usable_l > 0 else flow
            self.meter_l += had
            self.level_l -= had if self.usable_l > 0 else 0.0
        self.level_l = max(self.level_l - self.always_l_min, 0.0) if self.usable_l > 0 else 0.0
        if self.minute % DAY_MIN == RAINS_AT_H * 60:
            self.level_l = min(self.level_l + float(self.come_l[self.day + 3]), self.usable_l)
        self.minute += 1
        self.readings.append(self.reading())

    def _opens(self, valve: ZoneValve) -> bool:
        """Whether a valve's timer opens it in this minute."""
        stands = self.r.schedule.timer_days[valve.zone.id]
        today = (DAYS_BEFORE_MONTH[self.month] + self.day) % 365
        if "flat-battery" in self.faults or not stands[today]:
            return False
        hold = self.r.garden.rain_hold_mm
        if 0 < hold <= self.rained_mm():
            return False
        s = valve.setting
        if not s.weekdays:
            since = self.minute - valve.first_min
            return since >= 0 and since % (s.every_h * 60) == 0
        wall = self.minute + self.shift_min
        if WEEK[wall // DAY_MIN % 7] not in s.weekdays:
            return False
        gap = 60 * s.period_h
        at = wall % DAY_MIN
        return any(round(valve.first_min + i * gap) % DAY_MIN == at for i in range(s.starts_a_day))

    def _minutes_of(self, valve: ZoneValve) -> int:
        if self.r.schedule.row(valve.zone).style != "weather":
            return int(valve.setting.minutes)
        last = float(self.eto_mm[self.day + 3 - ADJUSTS_OVER_DAYS:self.day + 3].mean())
        return round(valve.setting.minutes * min(last / self.mean_eto, MOST_ADJUSTED))

    def _flow(self, zone: str) -> float:
        low, half, full = (self.dirty if "blocked-filter" in self.faults else self.flows)[zone]
        share = self.level_l / self.usable_l if self.usable_l > 0 else 1.0
        split = SPLIT if "split-hose" in self.faults else 1.0
        return zone_flow.between(low, half, full, share) * split
