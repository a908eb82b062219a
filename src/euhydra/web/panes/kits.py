"""Panes of Build: each kit of the garden cut through to scale, its parts and its holes."""

from __future__ import annotations

from collections.abc import Iterator

from markupsafe import Markup

from euhydra.core.construction.counting import Count, kit_parts
from euhydra.core.construction.facts import Built
from euhydra.core.construction.holes import LEAST_SAW_MM, Hole, holes
from euhydra.core.construction.parts import shown
from euhydra.core.construction.things import things
from euhydra.web.drawings import kits as draw_kits
from euhydra.web.drawings import kits_ground
from euhydra.web.panes.base import Links, Pane, Table
from euhydra.web.sheet import Sheet


def whole_kits(sheet: Sheet) -> list[Pane]:
    """One kit cut through, what it takes, and where it is drilled; the others to choose from."""
    drawn = list(drawn_kits(sheet))
    if not drawn:
        return [Pane(words="Nothing in this garden is built from a kit: its lines are bought, cut "
                           "and joined as the other views tell.")]
    thing, picture = next((d for d in drawn if d[0].id == sheet.asked), drawn[0])
    base = f"/g/{sheet.garden.id}/build?view=kits&asked="
    choice = Links("Kit", tuple((f"{base}{t.id}", t.name, t is thing) for t, _ in drawn))
    bored = [h for h in holes(sheet.garden, sheet.assessment.library) if h.of == thing.name]
    return [*([Pane(links=choice)] if len(drawn) > 1 else []), Pane(drawing=picture),
            Pane(table=_parts(sheet, thing)), *([Pane(table=hole_table(sheet, bored))]
                                                if bored else [])]


def drawn_kits(sheet: Sheet) -> Iterator[tuple[Built, Markup]]:
    """Each thing that has a drawing of its own, with it."""
    garden, library = sheet.garden, sheet.assessment.library
    for thing in things(garden, library):
        picture = (kits_ground.wet_ground(next(a for a in garden.wet_areas if a.id == thing.id),
                                          library, sheet.system) if thing.sort == "wet-area"
                   else draw_kits.drawing(garden, thing, sheet.system))
        if picture is not None:
            yield thing, picture


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
