"""Tables of a garden as CSV: SI units, each named in its column's head."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable, Iterable
from dataclasses import dataclass

from euhydra.core.assessment.assess import Assessment
from euhydra.core.demand.plants import stands_in
from euhydra.core.layout.heads import fitting_name
from euhydra.core.stations.place import MONTHS
from euhydra.core.terrain import geometry
from euhydra.exports.cells import guarded

Cell = str | float | int
Rows = Iterable[tuple[Cell, ...]]


@dataclass(frozen=True)
class Kind:
    """A table that can be written: what it holds in words, its columns, how its rows are found."""

    words: str
    columns: tuple[str, ...]
    rows: Callable[[Assessment], Rows]


def as_csv(assessment: Assessment, key: str) -> str:
    """A table by its key in ``TABLES``, as RFC 4180 asks: CRLF, quotes where they are needed."""
    kind, out = TABLES[key], io.StringIO(newline="")
    writer = csv.writer(out)
    writer.writerow(kind.columns)
    writer.writerows([_plain(cell) for cell in row] for row in kind.rows(assessment))
    return out.getvalue()


def _plain(cell: Cell) -> object:
    return round(cell, 4) if isinstance(cell, float) else guarded(cell)


def _plots(a: Assessment) -> Rows:
    peak = a.demand.peak_month
    for plot in a.garden.plots:
        thirst, crops = a.demand.thirsts[plot.id], a.library.crops
        yield (plot.id, plot.name, plot.kind, plot.corner.x_m, plot.corner.y_m, plot.turn_deg,
               plot.length_m, plot.breadth_m, plot.ground_m, thirst.area_m2, plot.soil,
               plot.method, plot.mulch, plot.shade,
               "; ".join(crops[p.crop].name for p in plot.plantings),
               sum(len(stand.places) for stand in stands_in(plot, a.library)),
               float(thirst.net_by_month[peak]), thirst.hottest_week_l)


def _lines(a: Assessment) -> Rows:
    for line in a.garden.lines:
        tube = a.library.tubes[line.tube]
        course = "; ".join(f"{x:g} {y:g}" for x, y in geometry.points_xy(line.course))
        yield (line.id, line.zone, line.plot or "", line.role, tube.name, tube.bore_mm,
               line.length_m, line.start, line.end, course)


def _outlets(a: Assessment) -> Rows:
    flows: dict[str, list[float]] = {}
    for levels in a.flows.values():
        for outlet in levels["half"].outlets:
            flows.setdefault(outlet.emitter.rsplit(":", 1)[0], []).append(outlet.flow_l_h)
    for run in a.garden.outlets:
        each = flows[run.id]
        yield (run.id, run.plot, run.line, a.library.outlets[run.kind].name, run.points, run.each,
               run.first_m, run.spacing_m, sum(each), min(each) / run.each, max(each) / run.each)


def _fittings(a: Assessment) -> Rows:
    zones = {line.id: line.zone for line in a.garden.lines}
    for fitting in a.garden.fittings:
        name = fitting_name(a.garden, a.library, fitting)
        yield (fitting.id, zones[fitting.line], fitting.line, fitting.order, name,
               "hand" if fitting.hand else "program")


def _parts(a: Assessment) -> Rows:
    for part in a.parts:
        yield (part.key, part.name, part.quantity, UNITS.get(part.sold_by, "pieces"),
               part.need, part.reason, part.swap, part.have, part.to_buy, part.price, part.cost)


def _thirst(a: Assessment) -> Rows:
    for plot in a.garden.plots:
        yield plot.id, plot.name, *(float(v) for v in a.demand.thirsts[plot.id].net_by_month)


UNITS = {"metre": "m", "area": "m²", "bulk": "m³"}
TABLES: dict[str, Kind] = {
    "plots": Kind("Plots, with place, size, crops and need", (
        "plot", "name", "kind", "east_m", "north_m", "turn_deg", "length_m", "breadth_m",
        "ground_level_m", "area_m2", "soil", "watered_by", "mulch", "shade", "crops", "plants",
        "need_peak_month_l_day", "need_hottest_week_l_day"), _plots),
    "lines": Kind("Lines, with tube, bore, course and true length", (
        "line", "zone", "plot", "role", "tube", "bore_mm", "length_m", "from_node", "to_node",
        "course_east_north_m"), _lines),
    "outlets": Kind("Runs of outlets, with their flow", (
        "run", "plot", "line", "kind", "places", "outlets_a_place", "first_m", "spacing_m",
        "flow_all_l_h", "least_each_l_h", "most_each_l_h"), _outlets),
    "fittings": Kind("Fittings, in their order along each line", (
        "fitting", "zone", "line", "order", "kind", "put_on_by"), _fittings),
    "parts": Kind("Parts to buy", (
        "part", "name", "quantity", "unit", "need", "reason", "swap", "have", "to_buy",
        "price_of_one", "cost"), _parts),
    "thirst": Kind("Need of every plot by month", (
        "plot", "name", *(f"{month.lower()}_l_day" for month in MONTHS)), _thirst)}
