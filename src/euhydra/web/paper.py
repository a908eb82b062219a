"""The whole garden on paper: what stands on it."""

from __future__ import annotations

import base64
import datetime as dt
from collections.abc import Sequence
from dataclasses import dataclass
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
from euhydra.core.units import System
from euhydra.web import pages
from euhydra.web.drawings import build as draw_build
from euhydra.web.drawings import kits as draw_kits
from euhydra.web.drawings import marking, plan, push, zones
from euhydra.web.drawings.standalone import standing_alone
from euhydra.web.fields import Fields
from euhydra.web.panes import build, prove, time, timers
from euhydra.web.panes.base import Pane, Table
from euhydra.web.panes.kits import hole_table
from euhydra.web.sheet import Sheet

AWAY_DAYS = 14
CHECK_LINE = {"metric": (100.0, 10.0), "us": (101.6, 25.4)}  # mm long, mm from tick to tick
LEAST_DRAWN_MM = 4.0  # a smaller hole is marked by its middle alone
MOST_MARKED = 8
SHORT = tuple(month[:3] for month in MONTHS)


@dataclass(frozen=True)
class DrillTemplate:
    """A circle to drill by: its bore in mm and in words, its tool, where it is drilled."""

    mm: float
    bore: str
    tool: str
    places: list[str]


def whole_garden(assessment: Assessment, today: dt.date, picture: bytes = b"") -> str:
    """The garden's whole file for paper, as a page that the press sets.

    ``picture`` is a JPEG that lies under the plan there too.
    """
    return page("paper.html", **contents(assessment, today, picture))


def page(template: str, **context: Any) -> str:
    """A page for the press. It asks for the fonts that ship, and nothing else."""
    return pages.templates.get_template(template).render(**context)


def size_of(system: System) -> str:
    """The size of paper that is at hand where a system of units is used."""
    return "A4" if system == "metric" else "letter"


def contents(assessment: Assessment, today: dt.date, picture: bytes = b"") -> dict[str, Any]:
    """What stands on the sheets, in the units of the garden."""
    garden, system = assessment.garden, assessment.garden.units
    sheet = Sheet(assessment, Fields(garden, assessment.library))
    reports = [assessment.station(key) for key in STATIONS]
    return {
        "garden": garden, "today": f"{today.day} {today:%B %Y}",
        "paper_size": size_of(system),
        "stations": [(r.name, r.key_figure.show(system), r.state, r.verdict.show(system))
                     for r in reports],
        "plan": _drawn(plan.lay(sheet, _written_out(picture))),
        "section": _drawn(push.draw(sheet, still=True)) if garden.zones else "",
        "section_of": sheet.chosen_way[0].name if garden.zones else "",
        "zones": _drawn(zones.plan(sheet)) if garden.zones else "",
        "zone_tables": _tables(time.zones(sheet)),
        **_timer(sheet), **_due(assessment),
        "shopping": build.shopping(assessment, system),
        "heads": _drawn(draw_build.heads(sheet)) if garden.zones else "",
        "cuts": _cuts(sheet),
        "marked": _marked(assessment, garden),
        "kits": _kits(sheet),
        "holes": _holes(sheet),
        "steps": build.steps_of(sheet, on_paper=True).parts,
        "cautions": [(r.name, [(f.level, f.title.show(system), f.why.show(system))
                               for f in worst_first(r.findings)]) for r in reports if r.findings],
        **_neighbour(sheet)}


def _written_out(picture: bytes) -> str:
    return f"data:image/jpeg;base64,{base64.b64encode(picture).decode()}" if picture else ""


def _drawn(drawing: Markup) -> Markup:
    return Markup(standing_alone(str(drawing), on_paper=True))  # noqa: S704  escaped where drawn


def _tables(panes: list[Pane]) -> list[Table]:
    return [pane.table for pane in panes if pane.table]


def _timer(sheet: Sheet) -> dict[str, Any]:
    """The year's settings, a table for each timer, and how to stand before it."""
    panes = timers.timer_cards(sheet)
    told = next(pane.form for pane in panes if isinstance(pane.form, timers.TimerCards))
    return {"settings": [_year_of(sheet, timer.name if timer else "By hand", zones_)
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
    return f"{setting.minutes} min {rhythm(setting)} {clock(at)}" if setting else "–"


def _kits(sheet: Sheet) -> list[tuple[str, Markup]]:
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


def _holes(sheet: Sheet) -> list[tuple[str, str, str, str, str]]:
    """Every hole: what it is for and in, how many, its tool, where, what makes it tight."""
    bored = list(holes(sheet.garden, sheet.assessment.library))
    return [(f"{what}, {hole.of}", times, tool, where, gasket) for hole, (
        what, where, times, tool, gasket) in zip(bored, hole_table(sheet, bored).rows,
                                                 strict=True)]


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


def _marked(assessment: Assessment, garden: Garden) -> list[tuple[str, Markup]]:
    fields = Fields(garden, assessment.library)
    return [(s.name, _drawn(marking.marking_out(Sheet(assessment, fields, store=s.id))))
            for s in garden.stores[:MOST_MARKED]]


def _neighbour(sheet: Sheet) -> dict[str, Any]:
    a = sheet.assessment
    told = absence.away(a.season_inputs, a.season, prove.FIRST_AWAY, AWAY_DAYS)
    return {"note": [line.show(sheet.system) for line in absence.neighbour_note(
        a.season, told)], "away_from": units.show_date(prove.FIRST_AWAY),
        "away_days": AWAY_DAYS,
        "first_to_fail": prove.first_to_fail(sheet, told)}


def drilling(assessment: Assessment) -> str:
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
    return page("drilling.html", garden=garden, paper_size=size_of(system),
                line=units.show(mm / 1000, "small", system, 0), line_mm=mm,
                ticks=[round(n * step, 3) for n in range(round(mm / step) + 1)],
                holes=[h for h in found.values() if h.mm >= LEAST_DRAWN_MM])
