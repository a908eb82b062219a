"""The page for a neighbour while one is away: what to do on which day, with the plan."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass

from markupsafe import Markup

from euhydra.core.log.neighbour import DayAway, begins_soon, days_away
from euhydra.core.log.this_year import this_year
from euhydra.core.season.absence import Ask
from euhydra.web.drawings import alive as draw
from euhydra.web.drawings.standalone import GROUND, standing_alone
from euhydra.web.morning import DIP_SHOWN, ToDo
from euhydra.web.sheet import Sheet
from euhydra.web.still import untouched


@dataclass(frozen=True)
class DayShown:
    """A day away with what there is to do, in words, each with the id of what it is about.

    ``done`` are the ids of what the log has watered or dipped on it.
    """

    number: int
    name: str
    tasks: list[tuple[str, str]]
    done: frozenset[str]


@dataclass(frozen=True)
class Neighbour:
    """What the page shows: ``now`` is the number of today's day, 0 outside the days away.

    ``alone`` is the picture with its own styles; ``as_now`` whether the stores begin as they stand.
    """

    first: dt.date
    last: dt.date
    days: int
    from_to: str
    now: int
    deeds: list[ToDo]
    listed: list[DayShown]
    holds: list[str]
    picture: Markup
    alone: Markup
    as_now: bool
    address: str


def neighbour(sheet: Sheet, first: dt.date, days: int, today: dt.date) -> Neighbour:
    """The days away from a date on, and what of them falls on today."""
    a = sheet.assessment
    told = days_away(a, a.log, first, days, today)
    last = told[-1].date
    now = next((d for d in told if d.date == today), None)
    watered = {(e.day, e.about) for e in a.log if e.kind == "water"}
    dipped = {(e.day, e.about) for e in a.log if e.kind == "dip"}
    asked = {ask.plot for d in told for ask in d.water}
    grows = a.season.world.grows
    on = [(d.date.timetuple().tm_yday - 1) % 365 for d in told]
    holds = [a.season.world.name_of(p) for i, p in enumerate(a.season.world.plots)
             if p not in asked and grows[i, on].any()]
    names = {store.id: store.name for store in sheet.garden.stores}
    year = this_year(a, a.log, today, a.season.typical_year, a.forecast,
                     a.stands if a.today == today else None)
    drawn = draw.picture(sheet, year, year.now.day)
    return Neighbour(
        first, last, days, f"{_named(first)} to {_named(last)}", now.number if now else 0,
        [*(_deed(sheet, ask) for ask in now.water if (today, ask.plot) not in watered),
         *(_dip(sheet, s, names[s]) for s in now.dips if (today, s) not in dipped)] if now else [],
        [_shown(sheet, d, names, {about for day, about in watered | dipped if day == d.date})
         for d in told if d.water or d.dips or d.due],
        holds, untouched(drawn), Markup(standing_alone(str(drawn), GROUND)),  # noqa: S704
        begins_soon(first, today), f"neighbour?from={first.isoformat()}&away={days}")


def _named(date: dt.date) -> str:
    return f"{date.day} {date:%B}"


def _deed(sheet: Sheet, ask: Ask) -> ToDo:
    return ToDo(_words(sheet, ask), "slowly, in the morning or evening", "", "water", ask.plot,
                sheet.show(ask.litres, "volume"))


def _dip(sheet: Sheet, store: str, name: str) -> ToDo:
    return ToDo(f"Dip “{name}”", "How deep is the water? A clean stick tells.", "", "dip", store,
                asks=DIP_SHOWN[sheet.system])


def _words(sheet: Sheet, ask: Ask) -> str:
    name = sheet.assessment.season.world.name_of(ask.plot)
    return f"Water “{name}”: {sheet.show(ask.litres, 'volume')}"


def _shown(sheet: Sheet, day: DayAway, names: dict[str, str], done: set[str]) -> DayShown:
    tasks = [(_words(sheet, ask), ask.plot) for ask in day.water]
    tasks += [(f"Dip “{names[store]}”: how deep is the water?", store) for store in day.dips]
    tasks += [(f"{due.title}, if you like", due.key) for due in day.due]
    return DayShown(day.number, f"{day.date:%a} {day.date.day} {day.date:%b}", tasks,
                    frozenset(done))
