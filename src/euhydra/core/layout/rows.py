"""The rows of a bed: how many, where, how they are joined, and what stands along them.

Rows are told in the bed's row frame: ``u`` along its longer side, ``v`` across.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from shapely import affinity
from shapely.geometry import Polygon

from euhydra.core.demand.plants import bed_parts, spacing_m, spread
from euhydra.core.garden.model import Bed, Outlet, Row
from euhydra.core.library import Library, Tube
from euhydra.core.terrain import geometry
from euhydra.core.terrain.geometry import XY

LEAST_DRIPPER_SPACING_M = 0.30
WETTED_UNDER = 0.33  # share of the ground under a canopy to wet, common practice
MOST_DRIPPERS = 12  # round one plant, from memory
INSET_M = 0.05
GATE_M = 0.15  # the header comes up to a bed this far outside it


@dataclass(frozen=True)
class RowFrame:
    """From the row frame of a bed to the site's grid."""

    bed: Bed

    @property
    def swapped(self) -> bool:
        """Whether the rows run across the bed's length, its width being longer."""
        return self.bed.width_m > self.bed.length_m

    @property
    def long_m(self) -> float:
        """Length of the side that rows run along."""
        return max(self.bed.length_m, self.bed.width_m)

    @property
    def short_m(self) -> float:
        """Length of the side that rows stand across."""
        return min(self.bed.length_m, self.bed.width_m)

    def to_site(self, places: Iterable[XY]) -> list[XY]:
        """Places in the row frame on the site's grid."""
        own = [(v, u) if self.swapped else (u, v) for u, v in places]
        return geometry.to_site(self.bed, own)

    def shape(self) -> Polygon:
        """The bed's outline in the row frame."""
        shape = geometry.own_outline(self.bed)
        return affinity.affine_transform(shape, [0, 1, 1, 0, 0, 0]) if self.swapped else shape


def row_spacing_m(bed: Bed, library: Library) -> float:
    """From row to row: as typed, else by how far water spreads from such a line in this soil."""
    method = library.methods[bed.method]
    if bed.apart_m > 0:
        return bed.apart_m
    if method.at_plants:
        return dripper_spacing_m(bed, library)
    return method.apart_m(library.soils[bed.soil].row_spacing_m)


def tube_of(bed: Bed, library: Library) -> Tube:
    """What a bed's rows are of: of emitter lines the one sold nearest to the spacing asked for."""
    usual = library.tubes[library.methods[bed.method].tube]
    if bed.openings_m <= 0 or not usual.outlet:
        return usual
    sold = [t for t in library.tubes.values() if t.key.startswith(f"{usual.key}-every-")]
    return min((usual, *sold), key=lambda t: abs(t.outlet_spacing_m - bed.openings_m))


def openings_offered(bed: Bed, library: Library) -> bool:
    """Whether a bed's rows may have their openings otherwise than as usual."""
    usual = library.tubes[library.methods[bed.method].tube]
    return usual.outlet == "hole" or any(key.startswith(f"{usual.key}-every-")
                                         for key in library.tubes)


def openings_apart_m(bed: Bed, library: Library) -> float:
    """From opening to opening along a row; holes are drilled as far apart as was asked for."""
    tube = tube_of(bed, library)
    drilled = tube.outlet == "hole" and bed.openings_m > 0
    return bed.openings_m if drilled else tube.outlet_spacing_m or LEAST_DRIPPER_SPACING_M


def rows_in(bed: Bed, library: Library) -> int:
    """Rows that the program lays across a bed."""
    return len(_across(bed, library))


def _across(bed: Bed, library: Library) -> list[float]:
    """Where the program's rows stand across: over the plants, or evenly by the spread of water."""
    wide, gap = RowFrame(bed).short_m, row_spacing_m(bed, library)
    if library.methods[bed.method].at_plants:
        return spread(0.0, wide, gap)
    n = max(1, round(wide / gap))
    return [wide * (i + 0.5) / n for i in range(n)]


def dripper_spacing_m(bed: Bed, library: Library) -> float:
    """One dripper a plant, or one to a clump where plants stand closer than 30 cm."""
    return max(LEAST_DRIPPER_SPACING_M, spacing_m(bed.main, library))


def drippers_under(canopy_m2: float, soil: str, library: Library) -> int:
    """So many that a third of the ground under a round canopy is wetted; one at least.

    ``canopy_m2`` is the product of its two diameters.
    """
    one = library.soils[soil].row_spacing_m ** 2
    return min(MOST_DRIPPERS, max(1, math.ceil(WETTED_UNDER * canopy_m2 / one - 1e-9)))


def program_rows(bed: Bed, library: Library) -> tuple[Row, ...]:
    """The rows that the program lays, evenly across, each as long as the bed is there."""
    frame, vs = RowFrame(bed), _across(bed, library)
    if not bed.outline:
        span = (INSET_M, max(frame.long_m - INSET_M, INSET_M + 0.1))
        return tuple(_row(i, v, span) for i, v in enumerate(vs))
    shape = frame.shape()
    inner = max(geometry.whole(shape.buffer(-INSET_M)), key=lambda p: p.area, default=shape)
    rows = []
    for i, v in enumerate(vs):
        spans = geometry.chords(inner, v)
        if spans:
            rows.append(_row(i, v, max(spans, key=lambda s: s[1] - s[0])))
    if rows:
        return tuple(rows)
    west, south, east, north = inner.bounds
    spans = geometry.chords(inner, (south + north) / 2)
    return (_row(0, (south + north) / 2, spans[0] if spans else (west, east)),)


def _row(number: int, v: float, span: tuple[float, float]) -> Row:
    return Row(id=f"row{number + 1}", across_m=round(v, 4), from_m=round(span[0], 4),
               to_m=round(span[1], 4))


def rows_of(bed: Bed, library: Library) -> tuple[Row, ...]:
    """The rows of a bed as they lie: the hand-laid ones, kept within the bed, or the program's."""
    if bed.laid == "program" or not bed.rows:
        return program_rows(bed, library)
    frame = RowFrame(bed)
    rows = []
    for row in sorted(bed.rows, key=lambda r: r.across_m):
        v = min(max(row.across_m, INSET_M), frame.short_m - INSET_M)
        start = min(max(row.from_m, INSET_M), frame.long_m - INSET_M - 0.1)
        end = min(max(row.to_m, start + 0.1), frame.long_m - INSET_M)
        rows.append(row.model_copy(update={
            "across_m": round(v, 4), "from_m": round(start, 4), "to_m": round(end, 4)}))
    return tuple(rows)


def joined_as(bed: Bed, rows: Sequence[Row], library: Library) -> str:
    """``s-curve`` in one run, ``comb`` off a header at one end, or ``middle`` off one half-way.

    A ``loop`` is a comb whose rows' far ends are joined by a second header, with one flush end.
    Unless the gardener says: a soaker hose lies in an S while that is not too long for it. A comb
    whose rows are too long for their pipe is fed in the middle.
    """
    method, longest = library.methods[bed.method], tube_of(bed, library).longest_run_m
    if bed.layout == "s-curve" or (
            bed.layout == "auto" and method.lies == "s-curve" and len(rows) > 1
            and s_curve_m(rows) <= longest):
        return "s-curve"
    if max(r.to_m - r.from_m for r in rows) > longest:
        return "middle"
    return "loop" if bed.layout == "loop" and len(rows) > 1 else "comb"


def s_curve(rows: Sequence[Row], *, far: bool = False, top: bool = False) -> list[XY]:
    """One course through all rows, there and back, from the near or far end, first or last row."""
    course: list[XY] = []
    for i, row in enumerate(reversed(rows) if top else rows):
        ends = [(row.from_m, row.across_m), (row.to_m, row.across_m)]
        course += ends[::-1] if (i % 2 == 1) != far else ends
    return course


def s_curve_m(rows: Sequence[Row]) -> float:
    """Length of the rows laid as one run."""
    return geometry.course_m(s_curve(rows))


def ends_open(bed: Bed, library: Library) -> bool:
    """Whether water runs out of the far ends of a bed's pipes: drilled ones, left open."""
    return bed.end == "open" and tube_of(bed, library).outlet == "hole"


def counted(runs: Iterable[Outlet], library: Library) -> int:
    """The outlets in some runs; the wall of a hose that seeps is none, nor an open end."""
    return sum(run.points * run.each for run in runs if library.outlets[run.kind].seeps == "no")


@dataclass(frozen=True)
class Run:
    """Like outlets along a line: the first at ``first_m``, the others ``spacing_m`` on.

    ``each`` stand at one place.
    """

    first_m: float
    spacing_m: float
    points: int
    each: int = 1


def built_in(length_m: float, spacing_m: float) -> list[Run]:
    """The outlets that come with the line, the run centred on its length."""
    points = max(1, int(length_m / spacing_m + 0.5))
    return [Run(max((length_m - (points - 1) * spacing_m) / 2, 0.0), spacing_m, points)]


def at_plants(bed: Bed, row: Row, library: Library) -> list[Run]:
    """Drippers along a row, one a plant or clump, each planting at its own spacing."""
    frame, runs = RowFrame(bed), []
    parts = [(bed.main, 0.0, frame.long_m)] if frame.swapped else bed_parts(bed)
    for planting, start, end in parts:
        gap = max(LEAST_DRIPPER_SPACING_M, spacing_m(planting, library))
        places = [u for u in spread(start, end, gap) if row.from_m <= u <= row.to_m]
        if places:
            runs.append(Run(places[0] - row.from_m, gap, len(places),
                            drippers_under(library.crops[planting.crop].canopy_m ** 2,
                                           bed.soil, library)))
    return runs or built_in(row.to_m - row.from_m, dripper_spacing_m(bed, library))
