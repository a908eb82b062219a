"""Panes of Build: parts, steps, head assemblies, cuts, a few more pots, what goes on paper."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

from markupsafe import Markup

from euhydra.core import units
from euhydra.core.assessment.assess import STATIONS, Assessment
from euhydra.core.construction.extension import MorePots, new_findings, rows_of_pots, to_add
from euhydra.core.construction.joints import head_assembly
from euhydra.core.construction.parts import NEEDS, PartLine, cost_of, cut_list, shown
from euhydra.core.construction.step import together
from euhydra.core.construction.steps import steps
from euhydra.core.editing.trees import EditRefused
from euhydra.core.units import System
from euhydra.web.drawings import build as draw_build
from euhydra.web.drawings import marking
from euhydra.web.labels import Printed, printed
from euhydra.web.panes.base import Form, Links, Pane, Table
from euhydra.web.sheet import Sheet

COUNTS = (1, 2, 3, 5, 8, 12)
# How tall a place of a step is on a phone, and how much of its screen places may take.
PLACE_PX, LINE_PX, LINE_LETTERS, PLACES_PX = 56, 24, 38, 520
# The lists: key, title, the need of its parts, where they are put (anywhere: none named).
LISTS = (("store", "Must have: stores, gutters and stands", "must", ("store",)),
         ("head", "Must have: timer, filter and valves", "must", ("head",)),
         ("line", "Must have: pipes and outlets", "must", ("line",)),
         ("pump", "Must have: pump and power", "must", ("pump",)),
         ("kit", "Must have: pots, buckets, soil and gravel", "must", ("kit", "ground")),
         ("optional", "Optional", "optional", ()),
         ("tool", "Tools, bought or borrowed", "tool", ()))


@dataclass(frozen=True)
class Part:
    """A part to buy, its amounts in words."""

    id: str
    name: str
    reason: str
    swap: str
    own_price: bool
    rolls: str
    needed: str
    have: str
    to_buy: str
    there: bool
    price: str
    cost: str


@dataclass(frozen=True)
class Parts:
    """Parts that go together, and what they come to."""

    key: str
    title: str
    rows: Sequence[Part]
    cost: str


@dataclass(frozen=True)
class Shopping(Form):
    """All that is bought."""

    template = "_buy.html"
    lists: Sequence[Parts]
    total: str


@dataclass(frozen=True)
class Place:
    """Where a step is done: what is ticked off, the place's name, what differs there."""

    id: str
    name: str
    own: str
    done: bool


@dataclass(frozen=True)
class StepRow:
    """A step of building, ticked off at each of its places, or as a whole where it has none."""

    id: str
    title: str
    how: str
    tool: str
    caution: str
    test: str
    places: Sequence[Place]
    done: bool


@dataclass(frozen=True)
class Steps(Form):
    """The steps by part, the ``next`` part to go on with, ``todo`` steps in all, ``done`` so many.

    ``drawn`` are by part drawings to drill by.
    """

    template = "_steps.html"
    parts: Mapping[str, Sequence[StepRow]]
    next: str
    todo: int
    done: int
    drawn: Mapping[str, Mapping[str, Markup]]


@dataclass(frozen=True)
class More(Form):
    """What a few more pots would be told of: level, title and why."""

    template = "_more.html"
    said: Sequence[tuple[str, str, str]]
    count: int
    beside: str


@dataclass(frozen=True)
class OnPaper(Form):
    """What goes on paper: the labels, and where a phone reaches the app."""

    template = "_paper.html"
    labels: Sequence[Printed]
    at: str


def heads(sheet: Sheet) -> list[Pane]:
    """Head assemblies, exploded in order, and the pieces of pipe to cut."""
    a = sheet.assessment
    rows = tuple((zone.name, "; ".join(part.name for part in head_assembly(
        a.garden, a.library, zone))) for zone in a.garden.zones)
    return [Pane(drawing=draw_build.heads(sheet)), Pane(twin=True, table=Table(
        "Head assemblies, from the source on", ("Zone", "In order"), rows)),
        Pane(table=cut_table(sheet))]


def buy(sheet: Sheet) -> list[Pane]:
    """What to buy: must-haves and the rest, what is there already, what it comes to."""
    return [Pane(form=shopping(sheet.assessment, sheet.system))]


def shopping(a: Assessment, system: System) -> Shopping:
    """The list as a page shows it."""
    def row(p: PartLine) -> Part:
        return Part(p.id, p.name, p.reason, p.swap, own_price=p.own_price,
                    rolls=_rolls(p, system), needed=shown(p, p.quantity, system),
                    have=shown(p, p.have, system), to_buy=shown(p, p.to_buy, system),
                    there=p.to_buy <= 0, price=units.show(p.price, "money", system),
                    cost=units.show(p.cost, "money", system))

    lists = []
    for key, title, need, places in LISTS:
        mine = [p for p in a.parts if p.need == need and (
            not places or a.library.parts[p.key].place in places)]
        if mine:
            lists.append(Parts(key, title, [row(p) for p in mine], units.show(
                cost_of(mine, need), "money", system)))
    return Shopping(lists, units.show(sum(cost_of(a.parts, need) for need in NEEDS), "money",
                                      system))


def how(sheet: Sheet) -> list[Pane]:
    """The steps, each with its measures, to tick off; kept on a phone without a network."""
    return [Pane(form=steps_of(sheet))]


def steps_of(sheet: Sheet, *, on_paper: bool = False) -> Steps:
    """The steps as a page shows them; ``on_paper`` all places of one together."""
    parts: dict[str, list[StepRow]] = {}
    system, done = sheet.system, sheet.ticked
    every = steps(sheet.assessment.season_inputs)
    for step, at in together(every):
        places = [Place(s.id, s.place, s.own.show(system), s.id in done) for s in at if s.place]
        screens = [places] if on_paper else list(_by_screen(places)) or [[]]
        for i, few in enumerate(screens):
            first, last = i == 0, i == len(screens) - 1
            title = step.title.show(system) + ("" if first else ", the next")
            parts.setdefault(step.part, []).append(StepRow(
                few[0].id if few else step.id, title, step.how.show(system) if first else "",
                step.tool if first else "", step.caution if first else "",
                step.test.show(system) if last else "", few,
                all(p.done for p in few) if few else step.id in done))
    drawn = {"Stores": {store.name: marking.marking_out(replace(sheet, store=store.id))
                        for store in sheet.garden.stores}}
    on_with = next((part for part, rows in parts.items() if not all(r.done for r in rows)), "")
    return Steps(parts, on_with, len(every), sum(s.id in done for s in every), drawn)


def _by_screen(places: Sequence[Place]) -> Iterator[list[Place]]:
    """Places in lots that a phone shows at once, with what they have in common."""
    lot: list[Place] = []
    tall = 0
    for place in places:
        needs = PLACE_PX + LINE_PX * math.ceil(len(place.own) / LINE_LETTERS)
        if lot and tall + needs > PLACES_PX:
            yield lot
            lot, tall = [], 0
        lot.append(place)
        tall += needs
    if lot:
        yield lot


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
    parts = tuple((p.name, _more(p, by, sheet.system))
                  for p, by in to_add(a.parts, then.parts))
    stops = [(key, a.station(key), then.station(key)) for key in STATIONS if key != "keep"]
    figures = tuple((was.name, was.key_figure.show(sheet.system), now.key_figure.show(sheet.system))
                    for _, was, now in stops
                    if was.key_figure.show(sheet.system) != now.key_figure.show(sheet.system))
    said = [(f.level, f.title.show(sheet.system), f.why.show(sheet.system))
            for _, was, now in stops for f in new_findings(was.findings, now.findings)]
    return [*links,
            Pane(table=Table("To add to what is on the list", ("Part", "More"), parts,
                             frozenset({1}))),
            Pane(table=Table("What it does to the rest", ("Station", "Now", "Then"), figures,
                             frozenset({1, 2}))) if figures else Pane(
                                 words="No station's figure changes."),
            Pane(form=More(said, count, beside))]


def _more(part: PartLine, by: float, system: System) -> str:
    return f"{'+' if by > 0 else '−'}\u202f{shown(part, abs(by), system)}"


def on_paper(sheet: Sheet) -> list[Pane]:
    """The whole garden as a PDF, and the labels."""
    return [Pane(form=OnPaper(
        printed(sheet.garden, sheet.assessment.library, sheet.at), sheet.at))]


def cut_table(sheet: Sheet) -> Table:
    """Every piece of pipe to cut, as one table."""
    rows = tuple((cut.tube, sheet.show(cut.length_m, "length"), str(cut.pieces), cut.where)
                 for cut in cut_list(sheet.garden, sheet.assessment.library))
    return Table("Cut list, true lengths", ("Pipe", "Length", "Pieces", "For"), rows,
                 frozenset({1, 2}))


def _rolls(part: PartLine, system: System) -> str:
    if not part.rolls:
        return ""
    roll, left = (units.show(m, "length", system, 0) for m in (part.roll_m, part.offcut_m))
    return f"{part.rolls} × {roll}, {left} left over"
