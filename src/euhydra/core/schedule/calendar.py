"""What falls due of the timers: their changes, their moves with the frost, the filters."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from euhydra.core.garden.base import DAYS_BEFORE_MONTH, month_day
from euhydra.core.garden.model import Bed, Garden, Zone
from euhydra.core.schedule.by_hand import HandWatering
from euhydra.core.schedule.rhythm import rhythm
from euhydra.core.schedule.schedule import Schedule
from euhydra.core.schedule.settings import Setting
from euhydra.core.units import show_clock, show_date
from euhydra.core.weather.frost import timer_in, timer_out
from euhydra.core.weather.generator import MONTH_OF_DAY

FILTER_DAY = 15  # of each month in which the timer runs, from memory


@dataclass(frozen=True)
class Due:
    """Something to do on a day of the year (``MM-DD``), every year."""

    key: str
    day: str
    title: str
    words: str


@dataclass(frozen=True)
class Card:
    """What stands on the timer from one month to another: (zone, setting, first start's hour)."""

    first: int
    last: int
    zones: tuple[tuple[str, Setting | None, float], ...]


def cards(schedule: Schedule, zones: Sequence[Zone] | None = None) -> tuple[Card, ...]:
    """A card for every stretch of months in which nothing changes for some zones, or for all."""
    starts = schedule.first_hours
    mine = schedule.zones if zones is None else zones

    def standing(month: int) -> tuple[tuple[str, Setting | None, float], ...]:
        return tuple((z.id, schedule.setting_in(z.id, month),
                      starts.get((z.id, month), 0.0)) for z in mine)

    def face(month: int) -> list[object]:
        return [s and (s.every_h, s.weekdays, s.starts_a_day, s.minutes, round(at, 2))
                for _, s, at in standing(month)]

    found: list[Card] = []
    for month in range(12):
        if found and face(month) == face(found[-1].first):
            found[-1] = Card(found[-1].first, month, found[-1].zones)
        else:
            found.append(Card(month, month, standing(month)))
    return tuple(card for card in found if any(s for _, s, _ in card.zones))


def clock(hour: float) -> str:
    """``5:00`` for 5.0."""
    return show_clock(hour % 24)


def of_timer(schedule: Schedule) -> list[Due]:
    """What falls due of the timers, of what is watered by hand, with the frost, of the filters."""
    return [*_timer(schedule), *_by_hand(schedule), *_frost(schedule), *_filters(schedule)]


def how_much(each: HandWatering, setting: Setting) -> str:
    """How much is given at a time: "3 cans", or "12 min with the hose"."""
    if each.can_l:
        return "1 can" if setting.minutes == 1 else f"{setting.minutes} cans"
    return f"{setting.minutes} min with the hose"


def _by_hand(schedule: Schedule) -> list[Due]:
    """What is watered with cans or a hose, told on the first day of each month that changes it."""
    found: list[Due] = []
    before: list[str] = []
    for month in range(12):
        lines = [f"{each.plot.name}: {rhythm(s)}, {how_much(each, s)}"
                 for each in schedule.by_hand.values() if (s := each.setting_in(month))]
        if lines and lines != before:
            days = [each.days[DAYS_BEFORE_MONTH[month]:].argmax()
                    for each in schedule.by_hand.values() if each.setting_in(month)]
            found.append(Due(f"by-hand-{month + 1:02d}", month_day(
                DAYS_BEFORE_MONTH[month] + int(min(days))), "Water by hand", "\n".join(lines)))
        before = lines
    return found


def _timer(schedule: Schedule) -> list[Due]:
    found = []
    on = _stands(schedule)
    names = {zone.id: zone.name for zone in schedule.zones}
    title = f"Set the timer{'s' if len(schedule.garden.timers) > 1 else ''} anew"
    for card in cards(schedule):
        lines = [f"{names[zone]}: " + (
            f"{_hung(schedule, zone)}{rhythm(s)}, {s.minutes} min, from {clock(at)}"
            f"{_days_of(schedule, card, zone)}"
            if s else "off") for zone, s, at in card.zones]
        begins = DAYS_BEFORE_MONTH[card.first]
        day = begins + int(np.argmax(on[begins:]))
        found.append(Due(f"timer-{card.first + 1:02d}", month_day(day), title,
                         "\n".join(lines)))
    into = timer_in(schedule.garden.site)
    for last in np.flatnonzero(on & ~np.roll(on, -1)).tolist():
        off = month_day((last + 1) % 365)
        if off != into:
            found.append(Due(f"timer-off-{off}", off, "Timer off", "No plot needs water now."))
    return found


def _hung(schedule: Schedule, zone_id: str) -> str:
    """What goes before the rhythm of a hose that is moved by hand."""
    timer = next(schedule.garden.timer_of(z) for z in schedule.zones if z.id == zone_id)
    return f"its hose hangs on {timer.name} " if timer and timer.moved else ""


def _stands(schedule: Schedule) -> NDArray[np.bool_]:
    """Days of the year on which anything stands on the timer (365,)."""
    days = np.zeros(365, dtype=bool)
    for zone in schedule.zones:
        days |= schedule.timer_days[zone.id]
    return days


def _days_of(schedule: Schedule, card: Card, zone: str) -> str:
    """Within a card's months: from when and until when something grows in a zone."""
    on = schedule.timer_days[zone]
    days = np.flatnonzero([on[d] and card.first <= MONTH_OF_DAY[d] <= card.last
                           for d in range(365)])
    first, last = int(days[0]), int(days[-1])
    begins, ends = DAYS_BEFORE_MONTH[card.first], (*DAYS_BEFORE_MONTH, 365)[card.last + 1] - 1
    after = f", not before {show_date(first)}" if first > begins else ""
    until = f", until {show_date(last)}" if last < ends else ""
    return after + until


def _frost(schedule: Schedule) -> list[Due]:
    garden, found = schedule.garden, []
    site = garden.site
    if site.first_frost:
        found.append(Due("timer-in", timer_in(site),
                         "Timer indoors, " + (f"{garden.vessel}s and " if garden.stores else "")
                         + "lines drained",
                         "Before the first hard frost: take the timer in, open the flush ends and "
                         "let the lines run empty (blow out what stays), drain filter"
                         + (f" and {garden.vessel}s" if garden.stores else " and hose")
                         + (", shut the tap" if garden.standpipes and not garden.stores else "")
                         + "." + _pump(garden) + _soakers(schedule)))
    if site.last_frost:
        found.append(Due("timer-out", timer_out(site),
                         "Timer out, with fresh batteries",
                         "After the last frost: rinse the lines before their ends are shut, "
                         + ("look at screens and gutters, " if garden.roofs else "")
                         + "put fresh batteries in."))
    return found


def _filters(schedule: Schedule) -> list[Due]:
    on = _stands(schedule)
    months = [m for m in range(12) if on[DAYS_BEFORE_MONTH[m] + FILTER_DAY - 1]]
    return [Due(f"filter-{m + 1:02d}", f"{m + 1:02d}-{FILTER_DAY}", "Rinse the filters",
                "One a zone. Open the flush ends at the same time.") for m in months]


def _pump(garden: Garden) -> str:
    return (" The pump comes in too, its hose and foot valve emptied." if garden.lifts else "")


def _soakers(schedule: Schedule) -> str:
    methods = schedule.library.methods
    beds = [p.name for p in schedule.garden.plots
            if isinstance(p, Bed) and p.watered == "lines" and methods[p.method].indoors == "yes"]
    return (" Soakers come indoors, each labelled with its bed: " + ", ".join(beds) + "."
            if beds else "")
