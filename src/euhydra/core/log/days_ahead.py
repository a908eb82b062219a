"""What is opened on a date: each run of the timer, and each round with cans or a hose."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from euhydra.core.garden.base import day_of_year
from euhydra.core.log.coming import coming
from euhydra.core.log.entries import Entry
from euhydra.core.results.results import Results
from euhydra.core.schedule.by_hand import AT_H
from euhydra.core.schedule.calendar import Due
from euhydra.core.season.programme import hours_on
from euhydra.core.season.washing import led_on
from euhydra.core.supply.greywater import by_weekday, grounds
from euhydra.core.weather.frost import timer_days


@dataclass(frozen=True)
class Opening:
    """A valve that opens, or a round by hand: ``of`` is a zone's id or a plot's that has a hand.

    ``litres`` is what its flow gives in its minutes where the source has it.
    """

    of: str
    name: str
    source: str
    start_h: float
    minutes: float
    litres: float
    by_hand: bool = False


@dataclass(frozen=True)
class Wash:
    """Used water that a drain leads into the garden: so many litres in the day."""

    name: str
    litres: float


@dataclass(frozen=True)
class DayAhead:
    """A day to come: what is opened, what is washed, what falls due, the rain forecast for it where
    one is.
    """

    date: dt.date
    openings: tuple[Opening, ...]
    washes: tuple[Wash, ...]
    due: tuple[Due, ...]
    rain_mm: float | None


def days_ahead(r: Results, entries: Sequence[Entry], first: dt.date, days: int,
               forecast: Mapping[dt.date, float]) -> tuple[DayAhead, ...]:
    """So many days from the first on."""
    falls = coming(r, entries, first, within=days - 1)
    return tuple(DayAhead(date, openings(r, date), washes(r, date),
                          tuple(d for n, d in falls if n == ahead), forecast.get(date))
                 for ahead in range(days) for date in (first + dt.timedelta(days=ahead),))


def openings(r: Results, date: dt.date) -> tuple[Opening, ...]:
    """What is opened on a date as the timers are set, by its hour; rain that holds it left out."""
    day = day_of_year(date.isoformat()[5:])
    return tuple(sorted([*_timed(r, date, day), *_by_hand(r, date, day)],
                        key=lambda o: (o.start_h, o.of)))


def washes(r: Results, date: dt.date) -> tuple[Wash, ...]:
    """What is washed on a date and led into the garden; none that goes back to the sewer."""
    day, found = day_of_year(date.isoformat()[5:]), []
    for drain in r.garden.drains:
        lines = r.drums.get(drain.id)
        led = bool(led_on(lines, timer_days(r.garden.site))[day] if lines else grounds(drain))
        litres = float(by_weekday(drain)[date.weekday()])
        if led and litres > 0:
            found.append(Wash(drain.name, litres))
    return tuple(found)


def _timed(r: Results, date: dt.date, day: int) -> list[Opening]:
    found, first = [], r.schedule.first_hours
    for zone in r.garden.timed_zones:
        setting = r.schedule.setting_in(zone.id, date.month - 1)
        if setting is None or zone.id in r.flows.shut or not r.schedule.timer_days[zone.id][day]:
            continue
        litres = r.flows.run_flow_l_h(zone) * setting.minutes / 60
        found += [Opening(zone.id, zone.name, zone.source, hour, setting.minutes, litres)
                  for hour in hours_on(setting, first[zone.id, setting.month], date)]
    return found


def _by_hand(r: Results, date: dt.date, day: int) -> list[Opening]:
    found = []
    for plot, hand in r.schedule.by_hand.items():
        setting = hand.setting_in(date.month - 1)
        if setting is None or not hand.days[day]:
            continue
        found += [Opening(plot, hand.plot.name, hand.source, hour, hand.work_min(setting),
                          hand.litres(setting), by_hand=True)
                  for hour in hours_on(setting, AT_H, date)]
    return found
