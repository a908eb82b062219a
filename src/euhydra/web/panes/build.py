"""Panes of Build: head assemblies, parts, cuts."""

from __future__ import annotations

from typing import Any

from euhydra.core import units
from euhydra.core.assess import Assessment
from euhydra.core.parts import NEEDS, PartLine, cost_of, cut_list
from euhydra.core.steps import steps
from euhydra.core.units import System
from euhydra.web.drawings import build as draw_build
from euhydra.web.drawings.sheet import Sheet
from euhydra.web.panes.base import Pane, Table


def heads(sheet: Sheet) -> list[Pane]:
    """Head assemblies, exploded in order."""
    return [Pane(drawing=draw_build.heads(sheet))]


def buy(sheet: Sheet) -> list[Pane]:
    """What to buy: must-haves and the rest, what is there already, what it comes to."""
    return [Pane(form="_buy.html", data=shopping(sheet.assessment, sheet.system))]


def shopping(a: Assessment, system: System) -> dict[str, Any]:
    """The list as a page shows it."""
    def row(p: PartLine) -> dict[str, Any]:
        return {"id": p.id, "name": p.name, "reason": p.reason, "own_price": p.own_price,
                "rolls": _rolls(p, system),
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
    for step in steps(sheet.assessment):
        parts.setdefault(step.part, []).append({
            "id": step.id, "title": step.title.show(system), "how": step.how.show(system),
            "tool": step.tool, "caution": step.caution, "test": step.test.show(system),
            "done": step.id in done})
    todo = sum(len(rows) for rows in parts.values())
    return [Pane(form="_steps.html", data={
        "parts": parts, "todo": todo,
        "done": sum(row["done"] for rows in parts.values() for row in rows)})]


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
