"""What goes on paper, as data: the whole garden, the drilling templates, the labels.

How it is set stands in ``papers/``.
"""

from __future__ import annotations

import base64
import datetime as dt
import html
import re
from collections.abc import Sequence
from dataclasses import asdict, dataclass
from typing import Any

from markupsafe import Markup, escape

from euhydra.core import units
from euhydra.core.assessment.assess import STATIONS, Assessment
from euhydra.core.construction.care import due
from euhydra.core.construction.holes import holes
from euhydra.core.construction.things import things
from euhydra.core.garden.model import Garden, Zone
from euhydra.core.schedule.calendar import Card, cards, clock
from euhydra.core.schedule.rhythm import rhythm
from euhydra.core.season import absence
from euhydra.core.statements.findings import worst_first
from euhydra.core.stations.place import MONTHS
from euhydra.web.drawings import build as draw_build
from euhydra.web.drawings import kits as draw_kits
from euhydra.web.drawings import marking, plan, push, zones
from euhydra.web.drawings.standalone import standing_alone
from euhydra.web.fields import Fields
from euhydra.web.labels import printed
from euhydra.web.panes import build, prove, time, timers
from euhydra.web.panes.base import Pane, Table
from euhydra.web.panes.kits import hole_table
from euhydra.web.sheet import Sheet

AWAY_DAYS = 14
CHECK_LINE = {"metric": (100.0, 10.0), "us": (101.6, 25.4)}  # mm long, mm from tick to tick
LEAST_DRAWN_MM = 4.0  # a smaller hole is marked by its middle alone
MOST_MARKED = 8
SHORT = tuple(month[:3] for month in MONTHS)
CONTENTS = (
    ("plan", "Ground plan"), ("settings", "Timer settings of the year"), ("due", "What falls due"),
    ("neighbour", "For the neighbour"), ("stands", "How it stands"), ("section", "Section"),
    ("zones", "Zones"), ("parts", "Parts"), ("making", "Marking out, kits, heads and cuts"),
    ("steps", "Steps"), ("cautions", "Cautions"), ("year", "Through the year"))
NOT_FOR_DRINKING = "The water here is not for drinking."
SMALL_WORDS = ("Figures come from the garden as it was drawn on this day; change the garden, and "
               "print it anew. Local code and licensed trades come before anything written here.")


@dataclass(frozen=True)
class DrillTemplate:
    """A circle to drill by: its bore in mm and in words, its tool, where it is drilled."""

    mm: float
    bore: str
    tool: str
    places: list[str]


@dataclass(frozen=True)
class Written:
    """What the press sets: the ``sheets`` of ``papers/`` that it goes on, and what they tell.

    ``told`` holds text, numbers, lists and mappings only; ``form`` is what is made, "pdf" or "png".
    """

    sheets: str
    told: dict[str, Any]
    form: str = "pdf"


def _written(sheets: str, garden: Garden, title: str, **told: Any) -> Written:
    size = "a4" if garden.units == "metric" else "us-letter"
    return Written(sheets, {"garden": garden.name, "title": f"{garden.name}: {title}",
                            "paper": size, **told})


def whole_garden(assessment: Assessment, today: dt.date, picture: bytes = b"") -> Written:
    """The whole garden in its own units; ``picture`` is a JPEG under the plan there too."""
    garden, system = assessment.garden, assessment.garden.units
    sheet = Sheet(assessment, Fields(garden, assessment.library))
    reports = [assessment.station(key) for key in STATIONS]
    made = f"Euhydra · {today.day} {today:%B %Y}"
    way = f": {sheet.chosen_way[0].name}" if garden.zones else ""
    return _written(
        "garden", garden, "the whole garden on paper", contents=CONTENTS,
        made=f"{garden.site.place} · {made}" if garden.site.place else made,
        small=(f"{NOT_FOR_DRINKING} " if _stored(garden) else "") + SMALL_WORDS,
        stations=[(r.name, r.key_figure.show(system), r.state, r.verdict.show(system))
                  for r in reports],
        plan=_drawn(plan.lay(sheet, _written_out(picture))),
        section_of=way,
        section=_drawn(push.draw(sheet, still=True)) if garden.zones else None,
        zones=_drawn(zones.plan(sheet)) if garden.zones else None,
        zone_tables=_tables(time.zones(sheet)),
        **_timer(sheet), **_due(assessment), **_bought(assessment),
        heads=_drawn(draw_build.heads(sheet)) if garden.zones else None,
        cuts=_cuts(sheet), marked=_marked(assessment, garden), kits=_kits(sheet),
        holes=_holes(sheet),
        steps=[(part, [asdict(row) for row in rows])
               for part, rows in build.steps_of(sheet, on_paper=True).parts.items()],
        cautions=[(r.name, [(f.level, f.title.show(system), f.why.show(system))
                            for f in worst_first(r.findings)]) for r in reports if r.findings],
        **_neighbour(sheet))


def _stored(garden: Garden) -> bool:
    return bool(garden.stores or garden.wells)


def _written_out(picture: bytes) -> str:
    return f"data:image/jpeg;base64,{base64.b64encode(picture).decode()}" if picture else ""


def _drawn(drawing: Markup) -> dict[str, str]:
    """A drawing as it goes on paper, and what it tells whoever cannot see it."""
    named = re.search(r"<title>([^<]*)</title>", drawing)
    return {"svg": standing_alone(str(drawing), on_paper=True),
            "alt": html.unescape(named[1]) if named else ""}


def _table(t: Table) -> dict[str, Any]:
    return {"caption": t.caption, "heads": t.heads, "rows": t.rows, "numbers": sorted(t.numbers)}


def _tables(panes: list[Pane]) -> list[dict[str, Any]]:
    return [_table(pane.table) for pane in panes if pane.table]


def _bought(assessment: Assessment) -> dict[str, Any]:
    """The list of parts in words: what each costs, how many, what for."""
    bought = build.shopping(assessment, assessment.garden.units)
    return {"prices": f"Prices are made up, save those typed in. {bought.total} with all that is "
                      "optional, and the tools. In brackets what is needed, where some is there.",
            "shopping": [{"title": f"{parts.title}: {parts.cost}",
                          "rows": [_part(row) for row in parts.rows]}
                         for parts in bought.lists if parts.rows]}


def _part(row: build.Part) -> dict[str, Any]:
    needed = f" ({row.needed})" if row.needed != row.to_buy else ""
    return {"there": row.there, "much": f"{row.to_buy}{needed}", "cost": row.cost,
            "name": f"{row.name}: {row.rolls}" if row.rolls else row.name,
            "why": f"{row.reason} Or: {row.swap}" if row.swap else row.reason}


def _timer(sheet: Sheet) -> dict[str, Any]:
    """The year's settings, a table for each timer, and how to stand before it."""
    panes = timers.timer_cards(sheet)
    told = next(pane.form for pane in panes if isinstance(pane.form, timers.TimerCards))
    return {"settings": [_table(_year_of(sheet, timer.name if timer else "By hand", zones_))
                         for timer, zones_ in timers.openers(sheet)],
            "stand": told.stand, "turns": _tables(panes)}


def _year_of(sheet: Sheet, whose: str, opened: Sequence[Zone]) -> Table:
    """What stands on a timer from one stretch of months to the next."""
    year = cards(sheet.assessment.schedule, opened)
    heads = tuple(SHORT[c.first] if c.first == c.last else f"{SHORT[c.first]}–{SHORT[c.last]}"
                  for c in year)
    rows = tuple((zone.name, *(_setting(card, zone.id) for card in year)) for zone in opened)
    return Table(f"{whose}: minutes, days and first start", ("Zone", *heads), rows)


def _setting(card: Card, zone_id: str) -> str:
    setting, at = next((s, at) for zone, s, at in card.zones if zone == zone_id)
    if not setting:
        return "–"
    return " ".join(words.replace(" ", "\N{NO-BREAK SPACE}") for words in (
        f"{setting.minutes} min", rhythm(setting), clock(at)))


def _kits(sheet: Sheet) -> list[tuple[str, dict[str, str]]]:
    """The kits that are drawn, alike ones once with their names.

    Stores are marked out apart; what joins two of them the steps tell in words.
    """
    a = sheet.assessment
    found: dict[str, tuple[Markup, list[str]]] = {}
    for thing in things(a.garden, a.library):
        if thing.sort not in ("store", "joint") and draw_kits.drawable(thing):
            picture = draw_kits.drawing(a, thing, sheet.system)
            alike = str(picture).replace(str(escape(thing.name)), "")
            found.setdefault(alike, (picture, []))[1].append(thing.name)
    return [(", ".join(names), _drawn(picture)) for picture, names in found.values()]


def _holes(sheet: Sheet) -> list[tuple[str, str]]:
    """Every hole: how many for what in what; its tool, where, what makes it tight."""
    bored = list(holes(sheet.garden, sheet.assessment.library))
    return [(f"{times} × {what}, {hole.of}",
             f"{tool}, {where}" + (f"; tight by {gasket}" if gasket else ""))
            for hole, (what, where, times, tool, gasket) in zip(
                bored, hole_table(sheet, bored).rows, strict=True)]


def _cuts(sheet: Sheet) -> list[tuple[str, list[tuple[str, str]]]]:
    """By pipe and by place the pieces to cut, in words."""
    found: dict[str, dict[str, list[str]]] = {}
    for tube, length, pieces, where in build.cut_table(sheet).rows:
        found.setdefault(tube, {}).setdefault(where, []).append(f"{pieces} × {length}")
    return [(tube, [(where, ", ".join(cut)) for where, cut in places.items()])
            for tube, places in found.items()]


def _due(assessment: Assessment) -> dict[str, Any]:
    """What falls due: each once with its days and how; and by the days, for the wall."""
    found: dict[tuple[str, str], list[str]] = {}
    for one in due(assessment.garden, assessment.schedule):
        if not one.key.startswith("timer-") or one.key in ("timer-in", "timer-out"):
            found.setdefault((one.title, one.words), []).append(units.show_month_day(one.day))
    told = [(title, ", ".join(days), words) for (title, words), days in found.items()]
    by_days: dict[str, list[str]] = {}
    for title, days, _ in told:
        by_days.setdefault(days, []).append(title)
    return {"due": told, "wall": [(days, "; ".join(titles)) for days, titles in by_days.items()]}


def _marked(assessment: Assessment, garden: Garden) -> list[tuple[str, dict[str, str]]]:
    fields = Fields(garden, assessment.library)
    return [(s.name, _drawn(marking.marking_out(Sheet(assessment, fields, store=s.id))))
            for s in garden.stores[:MOST_MARKED]]


def _neighbour(sheet: Sheet) -> dict[str, Any]:
    a = sheet.assessment
    told = absence.away(a.season_inputs, a.season, prove.FIRST_AWAY, AWAY_DAYS)
    left = units.show_date(prove.FIRST_AWAY)
    lids = (f" A full {sheet.garden.vessel} is heavy: please leave it where it stands, its lid "
            "shut." if sheet.garden.stores else "")
    return {"note": [line.show(sheet.system) for line in absence.neighbour_note(a.season, told)],
            "note_head": f"Day 1 is {left}. Please water:",
            "away": f"{AWAY_DAYS} days from {left}. {prove.first_to_fail(sheet, told)}",
            "not_for_drinking": f"The water is not for drinking.{lids}" if _stored(
                sheet.garden) else ""}


def picture(garden: Garden, date: str, head: str, drawing: str) -> Written:
    """The garden on a day with its words, as one image."""
    return Written("picture", {"garden": garden.name, "date": date, "head": head,
                               "picture": {"svg": drawing, "alt": date}}, "png")


def labels(assessment: Assessment, at: str) -> Written:
    """The labels, with codes that lead to where this app is reached: ``at``."""
    garden = assessment.garden
    return _written("labels", garden, "labels", labels=[
        {"code": str(x.code), "title": x.title, "line": x.line, "sign": x.sign,
         "under": f"{x.hangs_on} · {garden.name}"}
        for x in printed(garden, assessment.library, at)])


def drilling(assessment: Assessment) -> Written:
    """Each bore that is drilled as a circle of its true size, and a line to check the print by."""
    garden, system = assessment.garden, assessment.garden.units
    sheet = Sheet(assessment, Fields(garden, assessment.library))
    mm, step = CHECK_LINE[system]
    found: dict[str, DrillTemplate] = {}
    bored = sorted(holes(garden, assessment.library), key=lambda hole: hole.mm)
    for hole, row in zip(bored, hole_table(sheet, bored).rows, strict=True):
        at = found.setdefault(row[3], DrillTemplate(hole.mm, sheet.show(hole.mm, "hole"), row[3],
                                                    []))
        at.places.append(f"{hole.of}: {row[2]} × {row[0]}, {row[1]}")
    return _written("drilling", garden, "drilling templates",
                    line=units.show(mm / 1000, "small", system, 0), line_mm=mm,
                    ticks=[round(n * step, 3) for n in range(round(mm / step) + 1)],
                    holes=[asdict(h) for h in found.values() if h.mm >= LEAST_DRAWN_MM])
