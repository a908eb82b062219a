"""Panes of Build: head assemblies, parts, cuts."""

from __future__ import annotations

from euhydra.core.parts import PartLine, cut_list
from euhydra.web.drawings import build as draw_build
from euhydra.web.drawings.sheet import Sheet
from euhydra.web.panes.base import Pane, Table


def build(sheet: Sheet) -> list[Pane]:
    """Head assemblies and parts."""
    return [Pane(drawing=draw_build.heads(sheet)), *_parts(sheet)]


def _parts(sheet: Sheet) -> list[Pane]:
    def rows(need: str) -> tuple[tuple[str, ...], ...]:
        return tuple((p.name, _quantity(sheet, p), p.reason)
                     for p in sheet.assessment.parts if p.need == need)

    heads = ("Part", "How many", "Why")
    return [Pane(table=Table("Must have", heads, rows("must"), frozenset({1}))),
            Pane(table=Table("Optional", heads, rows("optional"), frozenset({1})))]


def cuts(sheet: Sheet) -> list[Pane]:
    """The cut list."""
    rows = tuple((cut.tube, sheet.show(cut.length_m, "length"), str(cut.pieces), cut.where)
                 for cut in cut_list(sheet.garden, sheet.assessment.library))
    return [Pane(table=Table("Cut list, true lengths", ("Pipe", "Length", "Pieces", "For"), rows,
                             frozenset({1, 2})))]


def _quantity(sheet: Sheet, part: PartLine) -> str:
    if part.sold_by == "metre":
        return sheet.show(part.quantity, "length", 0)
    return f"{part.quantity:g}"
