"""Lay a bed: a comb off a header, or one run in an S, with its outlets and flush ends."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

from euhydra.core.garden.model import Bed, Line, Node, Row, Zone
from euhydra.core.layout.rows import (
    GATE_M,
    INSET_M,
    RowFrame,
    Run,
    at_plants,
    built_in,
    ends_open,
    joined_as,
    openings_apart_m,
    rows_of,
    s_curve,
    tube_of,
)
from euhydra.core.layout.work import LAST, Work, stem
from euhydra.core.layout.zoning import outlet_z_m
from euhydra.core.library import Library
from euhydra.core.terrain.geometry import XY


def gates(bed: Bed, library: Library) -> list[XY]:
    """Where a header may come up to a bed, on the site's grid."""
    frame, rows = RowFrame(bed), rows_of(bed, library)
    near, far = -GATE_M, frame.long_m + GATE_M
    how = joined_as(bed, rows, library)
    if how == "s-curve":
        first, last = rows[0].across_m, rows[-1].across_m
        own = [(near, first), (near, last), (far, first), (far, last)]
    elif how == "middle":
        own = [(frame.long_m / 2, -GATE_M), (frame.long_m / 2, frame.short_m + GATE_M)]
    else:
        middle = (rows[0].across_m + rows[-1].across_m) / 2
        own = [(near, middle), (far, middle)]
    return frame.to_site(own)


def lay_bed(work: Work, zone: Zone, bed: Bed, gate: Node, which: int, *, goes_on: bool = False
            ) -> None:
    """The bed's lines, from the gate that was taken; one whose hose ``goes_on`` has no end."""
    rows = rows_of(bed, work.library)
    how = joined_as(bed, rows, work.library)
    if how == "s-curve":
        _s_curve(work, zone, bed, gate, which, rows, goes_on=goes_on)
    elif how == "middle":
        _fed_in_the_middle(work, zone, bed, gate, which, rows)
    else:
        _comb(work, zone, bed, gate, rows, far=which == 1, looped=how == "loop")


def lay_on(work: Work, zone: Zone, bed: Bed, before: Bed, *, goes_on: bool) -> None:
    """A bed's hose on from the end of another's, through a length of pipe with quick couplers."""
    end = next(n for n in work.nodes if n.id == f"{stem(before.id)}-end")
    ways = gates(bed, work.library)
    which = min(range(len(ways)), key=lambda i: (ways[i][0] - end.at.x_m) ** 2
                + (ways[i][1] - end.at.y_m) ** 2)
    lay_bed(work, zone, bed, end, which, goes_on=goes_on)
    between = next(x for x in work.lines if x.id == f"{stem(bed.id)}-branch")
    work.coupled.add(between.id)
    for order in (0, LAST):
        work.fitting("quick-coupler", between, order)


def _s_curve(work: Work, zone: Zone, bed: Bed, gate: Node, which: int, rows: Sequence[Row], *,
             goes_on: bool = False) -> None:
    frame, name = RowFrame(bed), stem(bed.id)
    course = s_curve(rows, far=which > 1, top=which % 2 == 1)
    first, *rest = frame.to_site(course)
    into = work.node(f"{name}-in", first, outlet_z_m(bed))
    work.line(f"{name}-branch", zone, "header", "poly-16", gate, into, plot=bed.id)
    end = work.node(f"{name}-end", rest[-1], into.z_m)
    method = work.library.methods[bed.method]
    line = work.line(f"{name}-{rows[0].id}", zone, method.role,
                     tube_of(bed, work.library).key, into, end, plot=bed.id, course=rest[:-1])
    _outlets(work, bed, line, None)
    if not goes_on:
        _end(work, bed, line)


def _comb(work: Work, zone: Zone, bed: Bed, gate: Node, rows: Sequence[Row], *, far: bool,
          looped: bool) -> None:
    """A header along the bed's end, each row off it; looped, a second one joins their far ends."""
    starts = [(r.to_m if far else r.from_m, r.across_m) for r in rows]
    heads = _header(work, zone, bed, gate, starts)
    ends = [_row(work, zone, bed, row, head, (row.from_m if far else row.to_m, row.across_m),
                 far=far, closed=looped) for row, head in zip(rows, heads, strict=True)]
    if looped:
        for i, (one, other) in enumerate(pairwise(ends), start=1):
            last = work.line(f"{stem(bed.id)}-far{i}", zone, "header", "poly-16", one, other,
                             plot=bed.id)
        _end(work, bed, last)


def _fed_in_the_middle(work: Work, zone: Zone, bed: Bed, gate: Node, which: int,
                       rows: Sequence[Row]) -> None:
    """A header across half-way, each row parted in two."""
    middle = RowFrame(bed).long_m / 2
    starts = [(min(max(middle, r.from_m), r.to_m), r.across_m) for r in rows]
    heads = _header(work, zone, bed, gate, starts, from_end=which)
    for row, head, (u, v) in zip(rows, heads, starts, strict=True):
        for part, end, far in (("a", row.from_m, True), ("b", row.to_m, False)):
            half = row.model_copy(update={"id": f"{row.id}{part}", "from_m": min(u, end),
                                          "to_m": max(u, end)})
            if half.to_m - half.from_m > INSET_M:
                _row(work, zone, bed, half, head, (end, v), far=far)


def _header(work: Work, zone: Zone, bed: Bed, gate: Node, starts: Sequence[XY],
            from_end: int | None = None) -> list[Node]:
    """From the gate into the bed, and both ways along the starts of the rows."""
    frame, name, z = RowFrame(bed), stem(bed.id), outlet_z_m(bed)
    middle = len(starts) / 2 - 0.5
    if from_end is not None:
        into_at = starts[-1] if from_end else starts[0]
        middle = len(starts) - 1.0 if from_end else 0.0
    elif len(starts) % 2:
        into_at = starts[len(starts) // 2]
    else:
        (ua, va), (ub, vb) = starts[len(starts) // 2 - 1], starts[len(starts) // 2]
        into_at = ((ua + ub) / 2, (va + vb) / 2)
    places = frame.to_site([into_at, *starts])
    into = work.node(f"{name}-in", places[0], z)
    work.line(f"{name}-branch", zone, "header", "poly-16", gate, into, plot=bed.id)
    heads: dict[int, Node] = {}
    exact = int(middle) if float(middle).is_integer() else None
    if exact is not None:
        heads[exact] = into
    after = [i for i in range(len(starts)) if i > middle]
    before = [i for i in reversed(range(len(starts))) if i < middle]
    for side in (after, before):
        here = into
        for i in side:
            heads[i] = work.node(f"{name}-h{i + 1}", places[i + 1], z)
            work.line(f"{name}-header{i + 1}", zone, "header", "poly-16", here, heads[i],
                      plot=bed.id)
            here = heads[i]
    return [heads[i] for i in range(len(starts))]


def _row(work: Work, zone: Zone, bed: Bed, row: Row, head: Node, end: XY, *, far: bool,
         closed: bool = False) -> Node:
    """A row from its head to its end; ``closed`` leaves the end to what is joined to it."""
    frame, name = RowFrame(bed), f"{stem(bed.id)}-{row.id}"
    there = work.node(f"{name}-end", frame.to_site([end])[0], head.z_m)
    method = work.library.methods[bed.method]
    line = work.line(name, zone, method.role, tube_of(bed, work.library).key, head, there,
                     plot=bed.id)
    _outlets(work, bed, line, row, far=far)
    if not closed:
        _end(work, bed, line)
    return there


def _end(work: Work, bed: Bed, line: Line) -> None:
    """What is at the far end of a line: a flush, or nothing."""
    if ends_open(bed, work.library):
        work.outlet(line, "open-end", bed.id, Run(line.length_m, 1.0, 1), name=f"{line.id}-open")
    else:
        work.fitting("flush-end", line, LAST)


def _outlets(work: Work, bed: Bed, line: Line, row: Row | None, *, far: bool = False) -> None:
    method = work.library.methods[bed.method]
    if method.at_plants and row is not None:
        for i, run in enumerate(at_plants(bed, row, work.library), start=1):
            last = run.first_m + (run.points - 1) * run.spacing_m
            first = line.length_m - last if far else run.first_m
            work.outlet(line, method.outlet, bed.id, replace(run, first_m=max(first, 0.0)),
                        name=f"{line.id}-out{i}")
    else:
        kind = method.outlet or tube_of(bed, work.library).outlet
        for run in built_in(line.length_m, openings_apart_m(bed, work.library)):
            work.outlet(line, kind, bed.id, run)
