"""Panes of Lay: one bed laid three ways, side by side."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from markupsafe import Markup

from euhydra.core.advise import layings as core_layings
from euhydra.core.garden.model import Bed
from euhydra.web.drawings import layings as draw
from euhydra.web.panes.base import Form, Links, Pane, Table
from euhydra.web.sheet import Sheet


@dataclass(frozen=True)
class LayingCard:
    """One way of laying a bed; ``why`` where it suits best, ``against`` where it does not."""

    method: str
    words: str
    mine: bool
    best: bool
    drawing: Markup
    why: str
    against: Sequence[str]


@dataclass(frozen=True)
class Layings(Form):
    """A bed's ways of laying, side by side."""

    template = "_layings.html"
    bed: Bed
    cards: Sequence[LayingCard]


def layings(sheet: Sheet) -> list[Pane]:
    """The same bed laid with soaker, dripline and drippers, side by side."""
    bed = sheet.chosen_bed
    if bed is None:
        return [Pane(words="No bed to lay yet. Draw one on the ground plan first: pots and trees "
                           "have one way of laying that suits them.")]
    laid = core_layings.layings(sheet.assessment, bed)
    best = core_layings.suits(laid)
    base = f"/g/{sheet.garden.id}/lay?view=layings"
    links = Links("Bed", tuple((f"{base}&plot={b.id}", b.name, b.id == bed.id)
                               for b in sheet.garden.plots if isinstance(b, Bed)))
    methods = sheet.assessment.library.methods
    rows = tuple((methods[x.method].name, sheet.show(x.flow_l_h, "flow"),
                  sheet.show(x.minutes_a_day, "minutes"), sheet.show(x.evenness, "share"),
                  sheet.show(x.line_m, "length"), str(x.outlets) if x.outlets else "seeps",
                  str(x.pieces), sheet.show(x.cost, "money"), f"{x.dry_plants} of {x.plants}")
                 for x in laid)
    cards = [LayingCard(
        x.method, methods[x.method].name, x.method == bed.method, x is best, draw.laying(x, bed.id),
        core_layings.reason(laid, best).show(sheet.system) if x is best else "",
        [p.show(sheet.system) for p in x.against]) for x in laid]
    half = f", {sheet.garden.vessel}s half full" if sheet.garden.stores else ""
    return [Pane(links=links), Pane(form=Layings(bed, cards)),
            Pane(table=Table(f"{bed.name}{half}; costs from a made-up price book", (
                "Laid with", "Gives", "Minutes a day, peak month", "Evenness", "Line", "Outlets",
                "Pieces", "Cost", "Plants outside"), rows, frozenset(range(1, 9))))]
