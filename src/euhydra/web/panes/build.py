"""Panes of Build: parts, steps, head assemblies, cuts, a few more pots, what goes on paper."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from euhydra.core import units
from euhydra.core.assessment.assess import STATIONS, Assessment
from euhydra.core.construction.extension import MorePots, new_findings, rows_of_pots, to_add
from euhydra.core.construction.parts import NEEDS, PartLine, cost_of, cut_list
from euhydra.core.construction.steps import steps
from euhydra.core.editing.trees import EditRefused
from euhydra.core.units import System
from euhydra.web.drawings import build as draw_build
from euhydra.web.drawings import marking
from euhydra.web.labels import printed
from euhydra.web.panes.base import Links, Pane, Table
from euhydra.web.sheet import Sheet

COUNTS = (1, 2, 3, 5, 8, 12)


def heads(sheet: Sheet) -> list[Pane]:
    """Head assemblies, exploded in order."""
    return [Pane(drawing=draw_build.heads(sheet))]


def buy(sheet: Sheet) -> list[Pane]:
    """What to buy: must-haves and the rest, what is there already, what it comes to."""
    return [Pane(form="_buy.html", data=shopping(sheet.assessment, sheet.system))]


def shopping(a: Assessment, system: System) -> dict[str, Any]:
    """The list as a page shows it."""
    def row(p: PartLine) -> dict[str, Any]:
        return {"id": p.id, "name": p.name, "reason": p.reason, "swap": p.swap,
                "own_price": p.own_price, "rolls": _rolls(p, system),
                "needed": _amount(p, p.quantity, system), "have": _amount(p, p.have, system),
                "to_buy": _amount(p, p.to_buy, system), "there": p.to_buy <= 0,
                "price": units.show(p.price, "money", system),
                "cost": units.show(p.cost, "money", system)}

    lists = [{"need": need, "title": title,
              "rows": [row(p) for p in a.parts if p.need == need],
              "cost": units.show(cost_of(a.parts, need), "money", system)}
             for need, title in (("must", "Must have"), ("optional", "Optional"),
                                 ("tool", "Tools, bought or borrowed"))]
    return {"lists": lists, "total": units.show(
        sum(cost_of(a.parts, need) for need in NEEDS), "money", system)}


def how(sheet: Sheet) -> list[Pane]:
    """The steps, each with its measures, to tick off; kept on a phone without a network."""
    parts: dict[str, list[dict[str, Any]]] = {}
    system, done = sheet.system, sheet.ticked
    for step in steps(sheet.assessment.season_inputs):
        parts.setdefault(step.part, []).append({
            "id": step.id, "title": step.title.show(system), "how": step.how.show(system),
            "tool": step.tool, "caution": step.caution, "test": step.test.show(system),
            "done": step.id in done})
    drawn = {store.name: marking.marking_out(replace(sheet, store=store.id))
             for store in sheet.garden.stores}
    todo = sum(len(rows) for rows in parts.values())
    return [Pane(form="_steps.html", data={
        "parts": parts, "todo": todo, "drawn": drawn,
        "done": sum(row["done"] for rows in parts.values() for row in rows)})]


def more(sheet: Sheet) -> list[Pane]:
    """What to add for a few more pots, and what that does to the rest."""
    a, garden = sheet.assessment, sheet.garden
    rows = {"": "in a row of their own", **{p.id: f"put to {p.name}"
                                           for p in rows_of_pots(garden)}}
    number, _, beside = sheet.asked.partition(":")
    count = int(number) if number in {str(n) for n in COUNTS} else 3
    beside = beside if sheet.asked and beside in rows else next(reversed(rows))
    base = f"/g/{garden.id}/build?view=more&asked="
    links = [Pane(links=Links("How many", tuple(
        (f"{base}{n}:{beside}", str(n), n == count) for n in COUNTS))),
        Pane(links=Links("Where", tuple(
            (f"{base}{count}:{key}", words, key == beside) for key, words in rows.items())))]
    try:
        then = a.after(MorePots(beside, count))
    except EditRefused as error:
        return [*links, Pane(words=str(error))]
    parts = tuple((p.name, _more(p, by, sheet.system), p.reason)
                  for p, by in to_add(a.parts, then.parts))
    stops = [(key, a.station(key), then.station(key)) for key in STATIONS if key != "keep"]
    figures = tuple((was.name, was.key_figure.show(sheet.system), now.key_figure.show(sheet.system))
                    for _, was, now in stops
                    if was.key_figure.show(sheet.system) != now.key_figure.show(sheet.system))
    said = [(f.level, f.title.show(sheet.system), f.why.show(sheet.system))
            for _, was, now in stops for f in new_findings(was.findings, now.findings)]
    return [*links,
            Pane(table=Table("To add to what is on the list", ("Part", "More", "Why"), parts,
                             frozenset({1}))),
            Pane(table=Table("What it does to the rest", ("Station", "Now", "Then"), figures,
                             frozenset({1, 2}))) if figures else Pane(
                                 words="No station's figure changes."),
            Pane(form="_more.html", data={"said": said, "count": count, "beside": beside})]


def _more(part: PartLine, by: float, system: System) -> str:
    return f"{'+' if by > 0 else '−'}\u202f{_amount(part, abs(by), system)}"


def on_paper(sheet: Sheet) -> list[Pane]:
    """The whole garden as a PDF, and the labels."""
    return [Pane(form="_paper.html", data={"labels": printed(
        sheet.garden, sheet.assessment.library, sheet.at), "at": sheet.at})]


def cuts(sheet: Sheet) -> list[Pane]:
    """The cut list."""
    rows = tuple((cut.tube, sheet.show(cut.length_m, "length"), str(cut.pieces), cut.where)
                 for cut in cut_list(sheet.garden, sheet.assessment.library))
    return [Pane(table=Table("Cut list, true lengths", ("Pipe", "Length", "Pieces", "For"), rows,
                             frozenset({1, 2})))]


def _rolls(part: PartLine, system: System) -> str:
    if not part.rolls:
        return ""
    roll, left = (units.show(m, "length", system, 0) for m in (part.roll_m, part.offcut_m))
    return f"{part.rolls} × {roll}, {left} left over"


def _amount(part: PartLine, quantity: float, system: System) -> str:
    return (units.show(quantity, "length", system, 0) if part.sold_by == "metre"
            else f"{quantity:g}")
