"""Panes of Lay: the ground plan with its tools, every piece, files."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from markupsafe import Markup

from euhydra.core.editing import placement
from euhydra.core.editing.fields import NoSuchValue, measure_at
from euhydra.core.editing.hand_laying import HAND_FITTINGS
from euhydra.core.garden.model import Bed, Zone
from euhydra.core.garden.plot_kinds import PLOT_KINDS
from euhydra.core.layout.laying import pieces as named_pieces
from euhydra.core.stations.lay import outlet_count, tube_lengths
from euhydra.exports.tables import TABLES
from euhydra.web.drawings import plan as draw_plan
from euhydra.web.fields import Field
from euhydra.web.measures import SKETCH_KEYS, pipe_keys
from euhydra.web.panes.base import Form, Pane, Table, parted
from euhydra.web.sheet import Sheet
from euhydra.web.words import KIND_WORDS

DRAWN = (*PLOT_KINDS, "path", "building", "wall", "roof", "store", "tap")
DRAWN_WORDS = {key: kind.short for key, kind in PLOT_KINDS.items()}
SNAPS = {"metric": (("0", "free"), ("0.05", "5 cm"), ("0.1", "10 cm"), ("0.25", "25 cm"),
                    ("0.5", "50 cm"), ("1", "1 m")),
         "us": (("0", "free"), ("0.0508", "2 in"), ("0.1524", "6 in"), ("0.3048", "1 ft"),
                ("0.6096", "2 ft"))}
SIDES = (("west", "west edges"), ("east", "east edges"), ("south", "south edges"),
         ("north", "north edges"), ("middle-east", "middles, north to south"),
         ("middle-north", "middles, west to east"))
SKETCH_WORDS = {"wide_m": "shows, side to side", "turn_deg": "turned", "faded": "faded by",
                "at/x_m": "its middle, east", "at/y_m": "its middle, north",
                "cut_left": "left cut off", "cut_right": "right cut off",
                "cut_top": "top cut off", "cut_bottom": "bottom cut off",
                "on_paper": "on paper too"}
FITTING_WORDS = {"valve": "a valve", "plugged-tee": "a plugged end", "inline-filter": "a filter",
                 "splitter": "a splitter", "flush-end": "a flush end"}


@dataclass(frozen=True)
class Picked:
    """What is picked on the plan, and what may be done with it."""

    paths: tuple[str, ...]
    names: str
    beds: tuple[str, ...] = ()
    plots: tuple[str, ...] = ()
    things: bool = False
    turns: bool = False
    pieces: bool = False
    pinned: bool = False
    line: str = ""
    removable: bool = True


def picked(sheet: Sheet) -> Picked:
    """What is picked, in words, and of what kind it is."""
    names = {t.path: t.name for t in placement.placed(sheet.garden)}
    things_ = [p for p in sheet.picked if p in names]
    pieces = [p for p in sheet.picked if p not in names and not p.startswith("line:")]
    line = next((p[5:] for p in sheet.picked if p.startswith("line:")), "")
    plots = tuple(p.split("/")[1] for p in things_ if p.startswith("plots/"))
    words = [names[p] for p in things_] + [_piece_words(sheet, p) for p in pieces]
    if line:
        words.append(_line_words(sheet, line))
    beds = tuple(p for p in dict.fromkeys((*plots, *(
        q.split("/")[1] for q in pieces if q.startswith("plots/"))))
        if isinstance(sheet.garden.plot(p), Bed))
    return Picked(sheet.picked, ", ".join(words[:6]) + (" …" if len(words) > 6 else ""), beds,
                  plots, bool(things_),
                  bool(things_) and all(p.startswith(("plots/", "buildings/")) for p in things_),
                  bool(pieces) and not things_,
                  bool(pieces) and all(_is_pinned(sheet, p) for p in pieces), line,
                  bool(things_ or pieces))


def _line_words(sheet: Sheet, line_id: str) -> str:
    line = next(x for x in sheet.garden.lines if x.id == line_id)
    tube = sheet.assessment.library.tubes[line.tube].name
    return f"{tube}, {sheet.show(line.length_m, 'length')}"


def _piece_words(sheet: Sheet, path: str) -> str:
    parts = path.split("/")
    if parts[0] == "plots":
        word = "row" if parts[2] == "rows" else "dripper"
        return f"{word} {parts[3].lstrip('rowdip')} of {sheet.garden.plot(parts[1]).name}"
    return "a place the pipe is led through" if parts[0] == "zones" else "a fitting put on by hand"


def _is_pinned(sheet: Sheet, path: str) -> bool:
    try:
        return bool(measure_at(sheet.garden, f"{path}/pinned").value)
    except NoSuchValue:
        return False


@dataclass(frozen=True)
class Plan(Form):
    """The tools over the ground plan; ``draws`` are kind, word and small drawing."""

    template = "_plan.html"
    picked: Picked
    sides: Sequence[Any]
    snaps: Sequence[Any]
    fittings: Sequence[tuple[str, str]]
    draws: Sequence[tuple[str, str, Markup]]
    wet: bool
    figures: Mapping[str, str]


@dataclass(frozen=True)
class Under(Form):
    """The picture under the plan: its measures, none without one; units of files with outlines."""

    template = "_sketch.html"
    fields: tuple[Field, ...]
    units: Sequence[tuple[str, str]] = (
        ("", "what the file says they are"), ("m", "metres"), ("cm", "centimetres"),
        ("mm", "millimetres"), ("ft", "feet"), ("in", "inches"))


@dataclass(frozen=True)
class Files(Form):
    """Tables that can be had as files: key and words."""

    template = "_files.html"
    tables: Sequence[tuple[str, str]]


def plan(sheet: Sheet) -> list[Pane]:
    """The ground plan, the tools over it, and the measures of what is picked."""
    here = picked(sheet)
    words = DRAWN_WORDS | {"store": sheet.garden.vessel if sheet.garden.stores else "barrel"}
    tools = Plan(
        here, SIDES, SNAPS[sheet.system], [(kind, FITTING_WORDS[kind]) for kind in HAND_FITTINGS],
        [(kind, words.get(kind, kind), draw_plan.glyph(kind, sheet)) for kind in DRAWN],
        sheet.shows("wet"), dict(plan_figures(sheet)))
    fields = _fields(sheet, here)
    return [Pane(form=tools), Pane(drawing=draw_plan.lay(sheet, _picture_at(sheet)), zoom=True),
            *([Pane(bar=fields, few=len(fields))] if fields else []),
            Pane(form=_under(sheet)), Pane(twin=True, table=_placed(sheet))]


def _picture_at(sheet: Sheet) -> str:
    """Where the picture under the plan is had from; empty without one."""
    sketch = sheet.garden.sketch
    return f"/g/{sheet.garden.id}/sketch/{sketch.picture}.jpg" if sketch else ""


def _under(sheet: Sheet) -> Under:
    if sheet.garden.sketch is None:
        return Under(())
    return Under(tuple(sheet.fields.at(f"sketch/{key}", label=SKETCH_WORDS[key])
                       for key in SKETCH_KEYS))


def _placed(sheet: Sheet) -> Table:
    """All that stands in the plan, with its place and size."""
    show = sheet.show
    rows = tuple((t.name, KIND_WORDS.get(t.kind, t.kind), show(t.bounds[0], "length"),
                  show(t.bounds[1], "length"), show(t.bounds[2] - t.bounds[0], "length"),
                  show(t.bounds[3] - t.bounds[1], "length"), show(float(t.shape.area), "area"))
                 for t in placement.placed(sheet.garden))
    return Table("All that stands in the plan", (
        "Thing", "What it is", "East", "North", "West to east", "South to north", "Ground"), rows,
        frozenset(range(2, 7)))


def plan_figures(sheet: Sheet) -> list[tuple[str, str]]:
    """What follows a drag: the garden's need and its line."""
    a = sheet.assessment
    return [("need", sheet.show(float(a.demand.need_by_month[a.demand.peak_month]), "daily")),
            ("line", sheet.show(sum(tube_lengths(a).values()), "length", 1)),
            ("outlets", str(outlet_count(a)))]


def _fields(sheet: Sheet, here: Picked) -> tuple[Field, ...]:
    """The measures of the one thing or piece that is picked."""
    if len(here.paths) != 1 or here.line:
        return ()
    path = here.paths[0]
    keys = ["corner/x_m", "corner/y_m", "at/x_m", "at/y_m", "length_m", "width_m", "depth_m",
            "count", "canopy_m", *(["fed_by"] if len(sheet.garden.sources) > 1 else []),
            "turn_deg", "ground_m", "method", *_more(sheet, path), "layout", "across_m",
            "from_m", "to_m", "along_m", "course"]
    found, drawn = [], next((draw_plan.on_plan(t) for t in placement.placed(sheet.garden)
                             if t.path == path), ())
    for key in keys:
        try:
            if key in drawn:
                continue
            found.append(sheet.fields.at(f"{path}/{key}", here.names))
        except NoSuchValue:
            continue
    return tuple(found)


def _more(sheet: Sheet, path: str) -> tuple[str, ...]:
    """What is asked of a bed by its pipe; of drippers on a tube of their own."""
    if "/drippers/" in path:
        return "kind", "apart_m"
    bed = next((p for p in sheet.garden.plots if path == f"plots/{p.id}"), None)
    return pipe_keys(bed, sheet.assessment.library) if isinstance(bed, Bed) else ()


def pieces(sheet: Sheet) -> list[Pane]:
    """The plan as lists: every thing with its place, every line with its true length."""
    show, lib = sheet.show, sheet.assessment.library
    rows = [(kind.capitalize(), (name, *sizes)) for name, kind, *sizes in _placed(sheet).rows]
    own = named_pieces(sheet.garden, lib)
    names = {p.id: p.name for p in sheet.garden.plots}
    zones: dict[str, Zone] = {z.id: z for z in sheet.garden.zones}
    lines = [("Every line, true lengths",
              (x.id, zones[x.zone].name, names.get(x.plot or "", "on the way"), x.role,
               lib.tubes[x.tube].name, show(x.length_m, "length"),
               "by hand" if x.id in own and _is_pinned(sheet, own[x.id]) else ""))
             for x in sheet.garden.lines]
    return [parted(rows, ("Thing", "East", "North", "West to east", "South to north", "Ground"),
                   frozenset(range(1, 6)), opens="", words="All that stands in the plan."),
        parted(lines, ("Line", "Zone", "For", "Role", "Tube", "Length", "Pinned"),
               frozenset({5}), opens="")]


def files(sheet: Sheet) -> list[Pane]:
    """The garden in formats that other programs open."""
    tables = [(key, kind.words) for key, kind in TABLES.items()]
    return [Pane(form=Files(tables))]
