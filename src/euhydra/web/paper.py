"""The whole garden on paper: what stands on it."""

from __future__ import annotations

import base64
import datetime as dt
from dataclasses import replace
from typing import Any

from markupsafe import Markup

from euhydra.core import units
from euhydra.core.assessment.assess import STATIONS, Assessment
from euhydra.core.garden.model import Garden
from euhydra.core.season import absence
from euhydra.core.statements.findings import worst_first
from euhydra.core.units import System
from euhydra.web import pages
from euhydra.web.drawings import build as draw_build
from euhydra.web.drawings import marking, plan, push, zones
from euhydra.web.drawings.standalone import standing_alone
from euhydra.web.fields import Fields
from euhydra.web.panes import build, prove, time, timers
from euhydra.web.panes.base import Pane, Table
from euhydra.web.sheet import Sheet

AWAY_DAYS = 14
MOST_MARKED = 8


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
        **_timer(sheet),
        "shopping": build.shopping(assessment, system),
        "heads": _drawn(draw_build.heads(sheet)) if garden.zones else "",
        "cuts": build.cut_table(sheet),
        "marked": _marked(assessment, garden),
        "steps": build.steps_of(sheet).parts,
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
    panes = timers.timer_cards(sheet)
    told = next(pane.form for pane in panes if isinstance(pane.form, timers.TimerCards))
    return {"cards": [replace(card, face=_drawn(card.face)) for card in told.cards],
            "stand": told.stand, "due": told.due, "turns": _tables(panes)}


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
