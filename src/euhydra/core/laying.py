"""Lay the lines: from the store's outlet along headers to the rows of every plot.

A supply pipe runs east from the store at the store's own northing; west of each column of plots a
header leaves it north and south, and a branch leads into each plot. Rows run the plot's length.
"""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, field
from itertools import pairwise
from math import dist

from euhydra.core import storage
from euhydra.core.garden.model import (
    Bed,
    Fitting,
    Garden,
    Line,
    Node,
    Outlet,
    Point,
    Pots,
    Zone,
)
from euhydra.core.library import Library
from euhydra.core.zoning import outlet_z_m, zones_for

SOAKER_SPACING_M = 0.30  # a hand's width each side: three runs in a 90 cm bed, common practice
LEAST_DRIPPER_SPACING_M = 0.30
HEADER_GAP_M = 0.30  # header stands this far west of the plots
INSET_M = 0.05
POT_GAP_M = 0.08
POTS_A_LINE = 10  # on one quarter-inch line, common practice
QUARTER_INCH_RUN_M = 9.0  # 30 ft, common practice
LARGE_POT_M = 0.35  # two drippers from this diameter, from memory
POT_RISE_M = 0.5  # quarter-inch tube from the header up into the first pot


def rows_in(bed: Bed, library: Library) -> int:
    """Rows of line across a bed, by how far water spreads sideways in its soil."""
    if bed.method == "soaker":
        spacing = SOAKER_SPACING_M
    elif bed.method == "drippers":
        spacing = dripper_spacing_m(bed, library)
    else:
        spacing = library.soils[bed.soil].row_spacing_m
    return max(1, round(bed.width_m / spacing))


def dripper_spacing_m(bed: Bed, library: Library) -> float:
    """One dripper a plant, or one to a clump where plants stand closer than 30 cm."""
    main = max(bed.plantings, key=lambda p: p.share)
    return max(LEAST_DRIPPER_SPACING_M, library.crops[main.crop].spacing_m)


def drippers_per_pot(pots: Pots) -> int:
    """One dripper in a small pot, two in a large one, so both can share a zone."""
    return 2 if pots.diameter_m >= LARGE_POT_M else 1


def lay(garden: Garden, library: Library) -> Garden:
    """The garden with its zones made and every line laid anew. Laying twice changes nothing."""
    zones = zones_for(garden, library)
    work = _Laying(garden, library)
    for number, zone in enumerate(zones, start=1):
        work.lay_zone(number, zone, splitter=sum(z.source == zone.source for z in zones) > 1)
    work.count_joints()
    return garden.model_copy(update={
        "zones": zones, "nodes": tuple(work.nodes), "lines": tuple(work.lines),
        "fittings": tuple(work.fittings), "outlets": tuple(work.outlets)})


@dataclass
class _Laying:
    garden: Garden
    library: Library
    nodes: list[Node] = field(default_factory=list)
    lines: list[Line] = field(default_factory=list)
    fittings: list[Fitting] = field(default_factory=list)
    outlets: list[Outlet] = field(default_factory=list)

    def lay_zone(self, number: int, zone: Zone, *, splitter: bool) -> None:
        """Head, supply, headers and rows of one zone."""
        prefix, offset = f"z{number}", 0.07 * (number - 1)
        tap = self.garden.tap_of(zone.source)
        at, level = (tap.at, tap.ground_m + tap.height_m) if tap else self._outlet(zone)
        here = self._node(f"{prefix}-source", at.x_m, at.y_m + offset, level)
        first = True
        columns = self._columns(zone)
        for c, (x, plots) in enumerate(columns, start=1):
            reach = self._node(f"{prefix}-c{c}", x - offset, at.y_m + offset,
                               plots[0].ground_m)
            supply = self._line(f"{prefix}-supply{c}", zone, "supply", zone.supply_tube, here,
                                reach)
            if first:
                self._head(supply, zone, splitter)
            first, here = False, reach
            self._header(f"{prefix}-c{c}", zone, reach, plots)

    def _outlet(self, zone: Zone) -> tuple[Point, float]:
        store = self.garden.store_of(zone.source)
        return store.at, storage.outlet_z_m(store)

    def _columns(self, zone: Zone) -> list[tuple[float, list[Bed | Pots]]]:
        columns: dict[float, list[Bed | Pots]] = {}
        for plot_id in zone.plots:
            plot = self.garden.plot(plot_id)
            columns.setdefault(round(plot.corner.x_m - HEADER_GAP_M, 3), []).append(plot)
        return sorted(columns.items())

    def _head(self, supply: Line, zone: Zone, splitter: bool) -> None:
        # From a tap only the timer stands constant pressure, so it is first: common practice.
        split = ["splitter"] if splitter else []
        tap = self.garden.tap_of(zone.source)
        kinds = (["barrel-outlet", *split, "timer", zone.filter, "barb-coupling"] if tap is None
                 else [*split, "timer", "backflow", zone.filter,
                       *(["regulator"] if tap.regulator_kpa > 0 else []), "barb-coupling"])
        for order, kind in enumerate(kinds):
            self._fitting(kind, supply, order)

    def _header(self, prefix: str, zone: Zone, start: Node, plots: list[Bed | Pots]) -> None:
        """North then south of the supply, nearest plot first."""
        for side, sign in (("n", 1), ("s", -1)):
            ordered = sorted((p for p in plots if (_entry_y(p) >= start.at.y_m) == (sign > 0)),
                             key=lambda p: abs(_entry_y(p) - start.at.y_m))
            here = start
            for i, plot in enumerate(ordered, start=1):
                name = f"{prefix}{side}{i}"
                there = self._node(name, start.at.x_m, _entry_y(plot), plot.ground_m)
                self._line(f"{name}-header", zone, "blank", zone.supply_tube, here, there)
                here = there
                self._plot(name, zone, here, plot)

    def _plot(self, name: str, zone: Zone, start: Node, plot: Bed | Pots) -> None:
        into = self._node(f"{name}-in", plot.corner.x_m + INSET_M, start.at.y_m, outlet_z_m(plot))
        self._line(f"{name}-branch", zone, "header", "poly-16", start, into, plot.id)
        if isinstance(plot, Bed):
            self._bed(name, zone, into, plot)
        else:
            self._pots(name, zone, into, plot)

    def _bed(self, name: str, zone: Zone, into: Node, bed: Bed) -> None:
        rows = rows_in(bed, self.library)
        ys = [bed.corner.y_m + bed.width_m * (i + 0.5) / rows for i in range(rows)]
        nodes = {y: into if abs(y - into.at.y_m) < 1e-6 else self._node(
            f"{name}-h{i}", into.at.x_m, y, into.z_m) for i, y in enumerate(ys, start=1)}
        for side in (sorted(y for y in ys if y > into.at.y_m + 1e-6),
                     sorted((y for y in ys if y < into.at.y_m - 1e-6), reverse=True)):
            here = into
            for y in side:
                self._line(f"{nodes[y].id}-header", zone, "header", "poly-16", here, nodes[y],
                           bed.id)
                here = nodes[y]
        for i, y in enumerate(ys, start=1):
            self._row(f"{name}-row{i}", zone, nodes[y], bed)

    def _row(self, name: str, zone: Zone, start: Node, bed: Bed) -> None:
        tube = {"drippers": "poly-16"}.get(bed.method, bed.method)
        role = {"drippers": "lateral", "soaker": "soaker"}.get(bed.method, "dripline")
        length = max(bed.length_m - 2 * INSET_M, 0.1)
        end = self._node(f"{name}-end", start.at.x_m + length, start.at.y_m, start.z_m)
        line = self._line(name, zone, role, tube, start, end, bed.id)
        spacing = (dripper_spacing_m(bed, self.library) if bed.method == "drippers"
                   else self.library.tubes[tube].outlet_spacing_m)
        points = max(1, int(length / spacing + 0.5))
        first = max((length - (points - 1) * spacing) / 2, 0.0)
        kind = "plain-2" if bed.method == "drippers" else self.library.tubes[tube].outlet
        self.outlets.append(Outlet(id=f"{name}-out", kind=kind, line=line.id, plot=bed.id,
                                   first_m=first, spacing_m=spacing, points=points))
        self._fitting("flush-end", line, 99)

    def _pots(self, name: str, zone: Zone, into: Node, pots: Pots) -> None:
        """Quarter-inch lines of at most ten pots and nine metres, off a header behind the row."""
        pitch = pots.diameter_m + POT_GAP_M
        most = max(1, min(POTS_A_LINE, int((QUARTER_INCH_RUN_M - POT_RISE_M) / pitch) + 1))
        here, first = into, 0
        for i in range(1, -(-pots.count // most) + 1):
            count = min(most, pots.count - first)
            if i > 1:
                at = self._node(f"{name}-q{i}", into.at.x_m + first * pitch, into.at.y_m, into.z_m)
                self._line(f"{name}-q{i}-header", zone, "header", "poly-16", here, at, pots.id)
                here = at
            length = POT_RISE_M + (count - 1) * pitch
            end = self._node(f"{name}-q{i}-end", here.at.x_m + max((count - 1) * pitch, 0.02),
                             here.at.y_m, into.z_m)
            line = self._line(f"{name}-q{i}-line", zone, "quarter-inch", "quarter-inch", here, end,
                              pots.id, length)
            self.outlets.append(Outlet(
                id=f"{name}-q{i}-out", kind="plain-2", line=line.id, plot=pots.id,
                first_m=POT_RISE_M, spacing_m=pitch, points=count, each=drippers_per_pot(pots)))
            self._fitting("end-plug", line, 99)
            first += count

    def count_joints(self) -> None:
        """Tees where lines part, elbows where one turns: from the true geometry."""
        degree = Counter(node for line in self.lines for node in (line.start, line.end))
        seen: Counter[str] = Counter()
        arriving = {line.end: line for line in self.lines}
        for line in self.lines:
            seen[line.start] += 1
            if line.role == "quarter-inch":
                continue
            before = arriving.get(line.start)
            turns = before is not None and _turns(before, line)
            if degree[line.start] > 2:
                if seen[line.start] > 1:
                    self._fitting("barb-tee", line, 50)
            elif turns:
                self._fitting("barb-elbow", line, 50)

    def _node(self, name: str, x_m: float, y_m: float, z_m: float) -> Node:
        node = Node(id=name, at=Point(x_m=round(x_m, 4), y_m=round(y_m, 4)), z_m=round(z_m, 4))
        self.nodes.append(node)
        return node

    def _line(self, name: str, zone: Zone, role: str, tube: str, start: Node, end: Node,
              plot: str | None = None, length_m: float | None = None) -> Line:
        if length_m is None:
            length_m = dist((start.at.x_m, start.at.y_m, start.z_m),
                            (end.at.x_m, end.at.y_m, end.z_m))
        line = Line.model_validate({
            "id": name, "zone": zone.id, "role": role, "tube": tube, "start": start.id,
            "end": end.id, "course": (start.at, end.at), "length_m": round(length_m, 4),
            "plot": plot})
        self.lines.append(line)
        return line

    def _fitting(self, kind: str, line: Line, order: int) -> None:
        self.fittings.append(Fitting(id=f"f{len(self.fittings) + 1}", kind=kind, line=line.id,
                                     order=min(order, 50)))


def _entry_y(plot: Bed | Pots) -> float:
    return plot.corner.y_m + plot.breadth_m / 2


def _turns(before: Line, after: Line) -> bool:
    headings = []
    for line in (before, after):
        a, b = next(iter(pairwise(line.course)))
        headings.append((b.x_m - a.x_m, b.y_m - a.y_m))
    (ax, ay), (bx, by) = headings
    return abs(ax * by - ay * bx) > 1e-6 or ax * bx + ay * by < 0
