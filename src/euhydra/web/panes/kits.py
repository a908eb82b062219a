"""Panes of Build: each kit of the garden cut through to scale, its parts and its holes."""

from __future__ import annotations

from euhydra.core.construction.counting import Count, kit_parts
from euhydra.core.construction.facts import Built
from euhydra.core.construction.holes import LEAST_SAW_MM, Hole, holes
from euhydra.core.construction.parts import shown
from euhydra.core.construction.things import things
from euhydra.web.drawings import kits as draw_kits
from euhydra.web.panes.base import Links, Pane, Table
from euhydra.web.sheet import Sheet


def whole_kits(sheet: Sheet) -> list[Pane]:
    """One kit cut through, what it takes, and where it is drilled; the others to choose from."""
    a = sheet.assessment
    drawn = [thing for thing in things(a.garden, a.library) if draw_kits.drawable(thing)]
    if not drawn:
        return [Pane(words="Nothing in this garden is built from a kit: its lines are bought, cut "
                           "and joined as the other views tell.")]
    thing = next((t for t in drawn if sheet.asked == f"{t.sort}:{t.id}"), drawn[0])
    base = f"/g/{a.garden.id}/build?view=kits&asked="
    choice = Links("Kit", tuple((f"{base}{t.sort}:{t.id}", (
        f"{t.name}: downspouts merged" if t.sort == "merged" else t.name), t is thing)
        for t in drawn))
    bored = [h for h in holes(a.garden, a.library) if h.about == thing.id
             and thing.sort != "merged"]
    return [*([Pane(links=choice)] if len(drawn) > 1 else []),
            Pane(drawing=draw_kits.drawing(a, thing, sheet.system)),
            Pane(table=_parts(sheet, thing)), *([Pane(table=hole_table(sheet, bored))]
                                                if bored else [])]


def _parts(sheet: Sheet, thing: Built) -> Table:
    count = Count(sheet.assessment.library, sheet.system)
    kit_parts(count, thing)
    rows = tuple((p.name, shown(p, p.quantity, sheet.system), p.reason) for p in count.lines())
    return Table(f"{thing.name}: what goes into it, beside its lines",
                 ("Part", "How many", "Why"), rows, frozenset({1}))


def hole_table(sheet: Sheet, bored: list[Hole]) -> Table:
    """Holes with the tool that makes each in the country's own sizes, and what makes it tight."""
    rows = tuple((h.what, h.where.show(sheet.system), str(h.times), (
        "saw" if h.mm >= LEAST_SAW_MM else "drill") + f" of {sheet.show(h.mm, 'hole')}",
        h.gasket) for h in bored)
    return Table("Holes", ("For", "Where", "How many", "Tool", "Tight by"), rows, frozenset({2}))
