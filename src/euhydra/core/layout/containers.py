"""Lay trees, pots, towers and self-watering rows: small tubes, rings and float valves."""

from __future__ import annotations

import math

from euhydra.core.demand.plants import holders
from euhydra.core.garden.model import AnyPlot, Holder, Node, Pots, Tower, Tree, Wicking, Zone
from euhydra.core.layout.rows import GATE_M, Run, built_in, drippers_under
from euhydra.core.layout.work import LAST, Work, stem
from euhydra.core.layout.zoning import outlet_z_m
from euhydra.core.library import Library
from euhydra.core.terrain import geometry
from euhydra.core.terrain.geometry import XY

InVessels = Pots | Tower | Wicking
POTS_A_LINE = 10  # on one quarter-inch line, common practice
LARGE_POT_M = 0.35  # two drippers from this diameter, from memory
POT_RISE_M = 0.5  # quarter-inch tube from the header up into the first pot
RING_SHARE = 0.6  # a ring of dripline lies at this share of the canopy's radius, from memory
RING_CORNERS = 16


def drippers_in(row: Pots | Tower) -> int:
    """As many a pot or a tower as were asked for; else one in a small pot, two in a large one."""
    return row.each or (2 if row.diameter_m >= LARGE_POT_M else 1)


def drippers_per_tree(tree: Tree, library: Library) -> int:
    """So many that a third of the ground under the canopy is wetted, two at least."""
    return max(2, drippers_under(tree.canopy_m * tree.breadth_m, tree.soil, library))


def gates(plot: AnyPlot) -> list[XY]:
    """Where a header may come up to a plot: before its first vessel or beyond its last."""
    v = (plot.diameter_m if isinstance(plot, Holder) else plot.breadth_m) / 2
    return geometry.to_site(plot, [(-GATE_M, v), (plot.length_m + GATE_M, v)])


def lay_vessels(work: Work, zone: Zone, plot: AnyPlot, gate: Node, which: int) -> None:
    """The plot's lines, from the gate that was taken."""
    places = holders(plot)
    rows = _rows(plot, places)
    if which == 1:
        rows = [row[::-1] for row in rows]
    if isinstance(plot, Tree):
        _trees(work, zone, plot, gate, rows[0])
    elif isinstance(plot, Wicking) and plot.kind != "float-pots":
        _one_valve(work, zone, plot, gate, rows[0][0])
    elif isinstance(plot, Holder):
        _small_tubes(work, zone, plot, gate, rows)


def _rows(plot: AnyPlot, places: list[XY]) -> list[list[XY]]:
    """The places row by row."""
    if not isinstance(plot, Pots):
        return [places]
    return [places[i:i + plot.a_row] for i in range(0, plot.count, plot.a_row)]


def _small_tubes(work: Work, zone: Zone, plot: InVessels, gate: Node, rows: list[list[XY]]) -> None:
    """Tubes off a header along the row; of quarter-inch at most ten pots and nine metres each."""
    name, z = stem(plot.id), outlet_z_m(plot)
    pitch = plot.diameter_m + plot.apart_m
    tube = _tube(plot, work.library)
    thin = tube == "quarter-inch"
    reach = int((work.library.tubes[tube].longest_run_m - POT_RISE_M) / max(pitch, 0.01)) + 1
    most = max(1, min(POTS_A_LINE, reach) if thin else reach)
    kind, each = _outlet_kind(plot)
    here, number = None, 0
    for row in rows:
        for first in range(0, len(row), most):
            group, number = row[first:first + most], number + 1
            at = work.node(f"{name}-q{number}", geometry.to_site(plot, group[:1])[0], z)
            pipe = work.line(f"{name}-branch" if here is None else f"{name}-header{number}", zone,
                             "header", "poly-16", gate if here is None else here, at,
                             plot=plot.id)
            here = at
            course = geometry.to_site(plot, group)
            end_at = course[-1] if len(group) > 1 else (course[0][0] + 0.02, course[0][1])
            end = work.node(f"{name}-q{number}-end", end_at, z)
            line = work.line(f"{name}-tube{number}", zone, "quarter-inch" if thin else "lateral",
                             tube, at, end, plot=plot.id, more_m=POT_RISE_M)
            work.outlet(line, kind, plot.id, Run(POT_RISE_M, max(pitch, 0.01), len(group), each))
            work.fitting("end-plug", line, LAST)
    work.fitting("flush-end", pipe, LAST)


def _tube(plot: InVessels, library: Library) -> str:
    """Quarter-inch; past float-valve pots the widest pipe of the table within the bore asked for.

    From memory: a table's 13.6 mm stands for a pipe sold as 16 mm.
    """
    if not isinstance(plot, Wicking):
        return "quarter-inch"
    fit = [t for t in library.tubes.values() if not t.outlet and (
        t.bore_mm <= plot.tube_mm or t.size_mm <= plot.tube_mm)]
    return max(fit, key=lambda t: t.bore_mm).key if fit else "quarter-inch"


def _outlet_kind(plot: InVessels) -> tuple[str, int]:
    if isinstance(plot, Wicking):
        return "float-valve", 1
    return plot.dripper, drippers_in(plot)


def _one_valve(work: Work, zone: Zone, row: Wicking, gate: Node, first: XY) -> None:
    """One float valve keeps the gutter full, or the float box at the head of a chain."""
    name = stem(row.id)
    at = work.node(f"{name}-in", geometry.to_site(row, [first])[0], outlet_z_m(row))
    line = work.line(f"{name}-branch", zone, "header", "poly-16", gate, at, plot=row.id)
    work.outlet(line, "float-valve", row.id, Run(line.length_m, 1.0, 1))


def _trees(work: Work, zone: Zone, tree: Tree, gate: Node, places: list[XY]) -> None:
    """A lateral past the trunks, with drippers round each, or a ring of dripline at each."""
    name, z = stem(tree.id), outlet_z_m(tree)
    ring = tree.method == "tree-ring"
    reach = RING_SHARE * min(tree.canopy_m, tree.breadth_m) / 2
    here = gate
    for i, (u, v) in enumerate(places, start=1):
        at = work.node(f"{name}-t{i}", geometry.to_site(tree, [(u, v - reach if ring else v)])[0],
                       z)
        line = work.line(f"{name}-branch" if i == 1 else f"{name}-lateral{i}", zone, "lateral",
                         "poly-16", here, at, plot=tree.id)
        here = at
        if not ring:
            work.outlet(line, "plain-4", tree.id, Run(line.length_m, 1.0, 1,
                                                      drippers_per_tree(tree, work.library)))
            if i == len(places):
                work.fitting("flush-end", line, LAST)
            continue
        turns = [2 * math.pi * k / RING_CORNERS - math.pi / 2 for k in range(1, RING_CORNERS)]
        round_it = geometry.to_site(tree, [(u + reach * math.cos(t), v + reach * math.sin(t))
                                           for t in turns])
        end = work.node(f"{name}-t{i}-end", round_it[-1], z)
        loop = work.line(f"{name}-ring{i}", zone, "dripline", "dripline", at, end, plot=tree.id,
                         course=round_it[:-1])
        for run in built_in(loop.length_m, work.library.tubes["dripline"].outlet_spacing_m):
            work.outlet(loop, "plain-2", tree.id, run)
        work.fitting("flush-end", loop, LAST)
