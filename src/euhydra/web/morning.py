"""Today: how long the water lasts, the things to do with their buttons, the week to come."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass
from urllib.parse import urlencode

from markupsafe import Markup

from euhydra.core import units
from euhydra.core.daily.year import TONES, Year
from euhydra.core.garden.base import month_day
from euhydra.core.log.days_ahead import DayAhead, Opening, days_ahead
from euhydra.core.log.deeds import Deed
from euhydra.core.log.entries import KINDS
from euhydra.core.log.now import Forecast
from euhydra.core.log.today import today_told
from euhydra.web.drawings import ahead as draw_ahead
from euhydra.web.drawings import alive as draw
from euhydra.web.look import Look
from euhydra.web.sheet import Sheet

WEEK_DAYS = 7
HOLDS = ("today.hold", "today.hold-for")
DIP_SHOWN: dict[units.System, str] = {"metric": "34 cm", "us": "13 in"}


@dataclass(frozen=True)
class ToDo:
    """Something to do: its words, where it is done, and the entry that one touch makes of it.

    Without ``kind`` it leads where it is done. ``asks`` is an example of the number that is read
    off, ``words`` those that it is felt in; without both ``typed`` is known beforehand.
    """

    what: str
    why: str
    to: str
    kind: str = ""
    about: str = ""
    typed: str = ""
    asks: str = ""
    words: tuple[str, ...] = ()


@dataclass(frozen=True)
class DayShown:
    """A day of the week to come: what is opened or washed, what falls due, the rain forecast."""

    name: str
    opened: tuple[str, ...]
    due: tuple[str, ...]
    rain: str


@dataclass(frozen=True)
class Morning:
    """Today (``on`` this date): how long the water lasts, by what, what to do, the week to come.

    ``typical`` is the address of the day in the year that is looked at; ``forecast`` what is typed
    where it is put in.
    """

    date: str
    on: str
    head: str
    by: str
    chart: Markup
    deeds: list[ToDo]
    week: list[DayShown]
    forecast: str
    rows: list[tuple[str, str, str, str]]
    typical: str


def morning(sheet: Sheet, look: Look, year: Year) -> Morning | None:
    """What there is to say and to do today; None where a day is asked for."""
    a = sheet.assessment
    if a.today is None or look.asked_day:
        return None
    told, system = today_told(a, a.log, a.today, a.forecast, a.stands), a.garden.units
    query = {"day": month_day(look.today)} | ({"year": look.year} if look.year else {})
    head, by = told.head.show(system), told.by.show(system)
    return Morning(
        units.show_date(look.today), a.today.isoformat(), head, by,
        draw_ahead.stores_ahead(sheet, told.now, a.today, f"{by} {head}"),
        [to_do(sheet, d) for d in told.deeds],
        [_shown(sheet, day) for day in days_ahead(a, a.log, a.today, WEEK_DAYS, a.forecast)],
        typed_forecast(sheet, a.forecast, a.today), stands(sheet, year, look.today),
        f"/g/{a.garden.id}/garden?{urlencode(query)}")


def to_do(sheet: Sheet, deed: Deed) -> ToDo:
    """A thing to do, with the entry that says it was done where that needs no further word."""
    system, base = sheet.system, f"/g/{sheet.garden.id}"
    to = f"{base}/time?view=week" if deed.rule in HOLDS else f"{base}/keep?view=care"
    return ToDo(deed.what.show(system), deed.why.show(system), to, deed.kind, deed.about,
                deed.done.show(system) if deed.done else "",
                DIP_SHOWN[system] if deed.kind == "dip" and not deed.done else "", tuple(
                    KINDS[deed.kind].words) if deed.kind == "soil" else ())


def _shown(sheet: Sheet, day: DayAhead) -> DayShown:
    rain = "" if day.rain_mm is None else sheet.show(day.rain_mm, "rain")
    washed = tuple(f"{w.name}: {sheet.show(w.litres, 'volume')}" for w in day.washes)
    return DayShown(f"{day.date:%a} {day.date.day}", _opened(sheet, day.openings) + washed,
                    tuple(d.title for d in day.due), rain)


def _opened(sheet: Sheet, openings: tuple[Opening, ...]) -> tuple[str, ...]:
    """What is opened, each valve once with all its hours."""
    found = []
    for of in dict.fromkeys(o.of for o in openings):
        mine = [o for o in openings if o.of == of]
        litres, each = sheet.show(mine[0].litres, "volume"), " each" if len(mine) > 1 else ""
        if mine[0].by_hand:
            found.append(f"{mine[0].name}, by hand, {litres}{each}")
        else:
            hours = ", ".join(units.show_clock(o.start_h) for o in mine)
            found.append(f"{mine[0].name} at {hours}: {mine[0].minutes:g} min, {litres}{each}")
    return tuple(found)


def typed_forecast(sheet: Sheet, forecast: Forecast, today: dt.date) -> str:
    """A forecast as it is typed: the rain of each day from today on."""
    days = [(date - today).days for date in forecast if date >= today]
    return ", ".join(units.show(forecast.get(today + dt.timedelta(days=n), 0.0), "rain",
                                sheet.system) for n in range(max(days) + 1)) if days else ""


def stands(sheet: Sheet, year: Year, day: int) -> list[tuple[str, str, str, str]]:
    """The picture as a table: what it is, how it stands, how much is left, what came."""
    rows = [(bank.name, "store", f"{100 * level / max(bank.usable_l, 1e-9):.0f}\u00a0%",
             sheet.show(level, "volume"))
            for bank, level in zip(sheet.assessment.banks.banks, year.level[:, day].tolist(),
                                   strict=False)] if sheet.garden.stores else []
    for p in range(len(year.plots)):
        rows.append((year.season.world.names[p], draw.TONE_WORDS[TONES[year.tone[p, day]]],
                     f"{100 * year.left[p, day]:.0f}\u00a0%",
                     sheet.show(float(year.given[p, day]), "volume")))
    return rows
