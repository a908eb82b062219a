"""The lines as laid, on a plan: pipe by source and kind, outlets, valves, what the hand laid."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from markupsafe import Markup

from euhydra.core.assessment.assess import Assessment
from euhydra.core.garden.model import Bed, Fitting, Garden, Line, Point
from euhydra.core.layout import laying, wetted
from euhydra.core.layout.rows import RowFrame, joined_as, row_spacing_m, rows_of
from euhydra.core.results.results import Results
from euhydra.core.terrain import geometry
from euhydra.web import svg
from euhydra.web.drawings.frame import Frame

ROLES = {"soaker": "d-row d-row-soaker", "quarter-inch": "d-row d-row-quarter",
         "supply": "d-row d-row-blank", "blank": "d-row d-row-blank",
         "drilled": "d-row d-row-drilled"}
APART_PX = 2.6  # pipes of several zones on one way are drawn side by side
OPEN_WORDS = {"supply": "supply pipe", "blank": "pipe", "header": "header", "lateral": "row",
              "dripline": "row", "soaker": "row", "drilled": "row", "quarter-inch": "small tube"}


def kind_of_water(garden: Garden, source: str) -> str:
    """What a source's pipes are marked as: "tap", "well" or "grey", "" for rain."""
    if garden.tap_of(source):
        return "tap" if garden.on_mains(source) else "well"
    return "grey" if garden.drum_of(source) else ""


def pipe_class(garden: Garden, source: str) -> str:
    """How a pipe of a source's water is drawn."""
    water = kind_of_water(garden, source)
    return f"d-pipe d-pipe-{water}" if water else "d-pipe"


def layer(a: Assessment, frame: Frame, *, picked: frozenset[str] = frozenset()) -> Markup:
    """Every line, outlet, valve and hand-laid place; each line is a piece that can be picked."""
    garden = a.garden
    offsets = {z.id: (i - (len(garden.zones) - 1) / 2) * APART_PX
               for i, z in enumerate(garden.zones)}
    water = {zone.id: kind_of_water(garden, zone.source) for zone in garden.zones}
    paths, rows = laying.pieces(garden, a.library), _rests(a)
    parts = [_line(garden, frame, line, paths.get(line.id, f"line:{line.id}"),
                   _Look(offsets[line.zone], water[line.zone], picked, rows))
             for line in garden.lines]
    return svg.el("g", *parts, *_rows_in_an_s(a, frame, picked, rows),
                  *dots(a, frame, {x.id for x in garden.lines}),
                  *_valves(garden, frame, offsets), *_vias(garden, frame, picked),
                  *_hand_fittings(garden, frame, picked))


@dataclass(frozen=True)
class _Look:
    """How a line is drawn: how far aside, as which water, what is picked, its rows."""

    aside: float
    water: str
    picked: frozenset[str]
    rows: Mapping[str, dict[str, str]]


def _line(garden: Garden, frame: Frame, line: Line, piece: str, look: _Look) -> Markup:
    by = look.aside if line.role in ("supply", "blank") else 0.0
    points = [(x + by, y + by) for x, y in (frame.at(p) for p in line.course)]
    class_ = ROLES.get(line.role, "d-row") + (f" d-row-{look.water}" if look.water else "")
    whose = (garden.plot(line.plot).name if line.plot else
             next(z.name for z in garden.zones if z.id == line.zone))
    return _piece(piece, f"{OPEN_WORDS[line.role]}, {whose}", look.picked,
                  svg.line(points, "d-grip"), svg.line(points, class_),
                  plot=f"plots/{line.plot}" if line.plot else None, reached=line.plot is None,
                  more=look.rows.get(piece))


def _piece(path: str, label: str, picked: frozenset[str], *drawn: Markup, plot: str | None = None,
           reached: bool = False, more: Mapping[str, str] | None = None) -> Markup:
    """A piece of the laying; of a plot's own, it is reached when it or its plot is picked."""
    on = path in picked
    reached = reached or on or any(p == plot or p.startswith(f"{plot}/") for p in picked)
    return svg.el("g", *drawn, class_="piece picked" if on else "piece", data_piece=path,
                  role="button", aria_label=label, aria_pressed="true" if on else "false",
                  tabindex="0" if reached else "-1", data_plot=plot, **(more or {}))


def _rests(a: Assessment) -> dict[str, dict[str, str]]:
    """For each row by its path: which way it goes across, where it lies, and half its spacing."""
    found: dict[str, dict[str, str]] = {}
    for bed in a.garden.plots:
        if not isinstance(bed, Bed):
            continue
        (x0, y0), (x1, y1) = RowFrame(bed).to_site([(0, 0), (0, 1)])
        half = f"{row_spacing_m(bed, a.library) / 2:.4f}"
        found |= {f"plots/{bed.id}/rows/{row.id}": {
            "data_nx": f"{x1 - x0:.6f}", "data_ny": f"{y1 - y0:.6f}", "data_half": half,
            "data_across": f"{row.across_m:.4f}",
            **({"data_pinned": "1"} if row.pinned else {})}
            for row in rows_of(bed, a.library)}
    return found


def _rows_in_an_s(a: Assessment, frame: Frame, picked: frozenset[str],
                  rests: Mapping[str, dict[str, str]]) -> Iterable[Markup]:
    """A grip on every row of a bed that is laid in one run."""
    for bed in a.garden.plots:
        if not isinstance(bed, Bed):
            continue
        rows = rows_of(bed, a.library)
        if joined_as(bed, rows, a.library) != "s-curve":
            continue
        for row in rows:
            path = f"plots/{bed.id}/rows/{row.id}"
            points = frame.places(RowFrame(bed).to_site([(row.from_m, row.across_m),
                                                         (row.to_m, row.across_m)]))
            yield _piece(path, f"row, {bed.name}", picked, svg.line(points, "d-grip"),
                         svg.line(points, "d-row-pick"), plot=f"plots/{bed.id}",
                         more=rests[path])


def dots(a: Results, frame: Frame, of: set[str]) -> Iterable[Markup]:
    """The outlets on lines as one path of round dots, so that thousands pan as lightly as few."""
    garden, kinds = a.garden, a.library.outlets
    lines = {line.id: line for line in garden.lines if line.id in of}
    marks = "".join(
        f"M{x:.1f} {y:.1f}h0" for run in garden.outlets
        if kinds[run.kind].seeps == "no" and run.line in lines
        for x, y in frame.places(wetted.places(lines[run.line], run)))
    if marks:
        width = min(max(frame.scale * 0.08, 2.8), 6.5)
        yield svg.path(marks, "d-dots-rim", stroke_width=width + 1.4)
        yield svg.path(marks, "d-dots", stroke_width=width)


def _valves(garden: Garden, frame: Frame, offsets: dict[str, float]) -> Iterable[Markup]:
    for zone in garden.zones:
        first = next((line for line in garden.lines if line.zone == zone.id), None)
        if first is not None:
            (x, y), by = frame.at(first.course[0]), offsets[zone.id]
            yield svg.rect(x + by - 4, y + by - 4, 8, 8, "d-white")


def _vias(garden: Garden, frame: Frame, picked: frozenset[str]) -> Iterable[Markup]:
    for zone in garden.zones:
        for via in zone.vias:
            x, y = frame.at(via.at)
            path = f"zones/{zone.id}/vias/{via.id}"
            yield _spot(x, y, path, f"{zone.name}: pipe led through here", picked,
                        pinned=via.pinned)


def _hand_fittings(garden: Garden, frame: Frame, picked: frozenset[str]) -> Iterable[Markup]:
    lines = {line.id: line for line in garden.lines}
    for fitting in garden.fittings:
        if fitting.kind == "plugged-tee" and not fitting.hand:
            x, y = frame.at(_place(lines[fitting.line], fitting))
            yield svg.path(f"M{x:.1f} {y:.1f}v-9M{x - 5:.1f} {y - 9:.1f}h10", "d-plug")
    for i, fitting in enumerate(f for f in garden.fittings if f.hand):
        x, y = frame.at(_place(lines[fitting.line], fitting))
        yield _spot(x + 7 * (i % 2), y - 9, f"fittings/{fitting.id}",
                    f"{fitting.kind.replace('-', ' ')} put on by hand", picked,
                    pinned=fitting.pinned, square=True)


def _place(line: Line, fitting: Fitting) -> Point:
    return line.course[-1] if fitting.kind in ("flush-end", "plugged-tee") else line.course[0]


def _spot(x: float, y: float, path: str, label: str, picked: frozenset[str], *, pinned: bool,
          square: bool = False) -> Markup:
    shape = (svg.rect(x - 5, y - 5, 10, 10, "d-hand") if square else
             svg.path(f"M{x:.1f} {y - 7:.1f}l7 7l-7 7l-7 -7Z", "d-hand"))
    pin = [svg.el("circle", cx=x, cy=y, r=2.2, class_="d-stop")] if pinned else []
    return _piece(path, label, picked, svg.el("circle", cx=x, cy=y, r=18, class_="d-grip"), shape,
                  *pin, reached=True, more={"data_pinned": "1"} if pinned else None)


def pins(a: Assessment, frame: Frame) -> Iterable[Markup]:
    """A pin's head at the start of every row and dripper that is pinned."""
    for plot in a.garden.plots:
        held = [p for p in plot.drippers if p.pinned]
        places = [(p.along_m, p.across_m) for p in held]
        if isinstance(plot, Bed) and plot.laid == "hand":
            starts = RowFrame(plot).to_site([(row.from_m, row.across_m)
                                             for row in rows_of(plot, a.library) if row.pinned])
            yield from (svg.el("circle", cx=x, cy=y, r=4.5, class_="d-pin")
                        for x, y in frame.places(starts))
        yield from (svg.el("circle", cx=x, cy=y, r=4.5, class_="d-pin")
                    for x, y in frame.places(geometry.to_site(plot, places)))


def wet(a: Assessment, frame: Frame) -> list[Markup]:
    """The wetted ground of every plot, and a ring about each plant outside it."""
    parts = []
    for ground in a.wetted.values():
        parts += [svg.path(frame.outline(ground.ground), "d-wet"),
                  svg.path(frame.outline(ground.twice), "d-wet-twice")]
        rings = "".join(f"M{x - 5:.1f} {y:.1f}a5 5 0 1 0 10 0a5 5 0 1 0 -10 0"
                        for x, y in frame.places(list(ground.thirsty)))
        if rings:
            parts.append(svg.path(rings, "d-dry"))
    return parts

