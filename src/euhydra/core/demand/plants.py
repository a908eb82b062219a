"""The plants of a plot: where each stands, how many there are, how far its leaves reach."""

from __future__ import annotations

import math
from dataclasses import dataclass

from shapely import contains_xy

from euhydra.core.garden.model import AnyPlot, Bed, Planting, Pots, Tower, Tree, Wicking
from euhydra.core.library import Library
from euhydra.core.terrain import geometry
from euhydra.core.terrain.geometry import XY

MOST_PLACES = 4000
INSET = 0.35  # the outermost plants stand this share of their spacing within the edge, from memory
POT_OUTGROWN = 2.0  # leaves reach at most so many pot widths, from memory
POT_CANOPY = 1.5  # least leaf area over the pot's own mouth, from memory
TOWER_REACH_M = 0.15  # leaves stand out from a tower's side, from memory
TOWER_PLANT_M = 0.25  # a plant in a pocket grows no wider, from memory


@dataclass(frozen=True)
class Stand:
    """The plants of one planting: their places in the plot's own frame, and the spacing used."""

    planting: str
    crop: str
    spacing_m: float
    places: tuple[XY, ...]


def spacing_m(planting: Planting, library: Library) -> float:
    """From plant to plant: what was typed, or the crop's own."""
    return planting.spacing_m or library.crops[planting.crop].spacing_m


def bed_parts(bed: Bed) -> list[tuple[Planting, float, float]]:
    """Each planting with the stretch of the bed's length that it takes, one after another."""
    at, parts = 0.0, []
    for planting in bed.plantings:
        end = at + planting.share * bed.length_m
        parts.append((planting, at, min(end, bed.length_m)))
        at = end
    return parts


def stands_in(plot: AnyPlot, library: Library) -> tuple[Stand, ...]:
    """The plants of every planting of a plot, with their places."""
    if isinstance(plot, Bed):
        return tuple(_in_bed(plot, *part, library) for part in bed_parts(plot))
    places = holders(plot)
    stands, first = [], 0
    for planting in plot.plantings:
        until = first + round(planting.share * len(places))
        stands.append(Stand(planting.id, planting.crop, spacing_m(planting, library),
                            tuple(places[first:until])))
        first = until
    return tuple(stands)


def holders(plot: AnyPlot) -> list[XY]:
    """Where the pots, towers, buckets or trunks of a plot stand, in its own frame."""
    if isinstance(plot, Tree):
        return geometry.trunks(plot)
    if isinstance(plot, Bed):
        return []
    pitch, r = plot.diameter_m + plot.apart_m, plot.diameter_m / 2
    a_row = plot.a_row if isinstance(plot, Pots) else plot.count
    return [(r + (i % a_row) * pitch, r + (i // a_row) * pitch) for i in range(plot.count)]


def _in_bed(bed: Bed, planting: Planting, start: float, end: float, library: Library) -> Stand:
    """A grid at the plant's spacing over its part of the bed; a count takes the first so many."""
    gap = max(spacing_m(planting, library), 0.02)
    gap = max(gap, math.sqrt(max(end - start, 0.01) * bed.width_m / MOST_PLACES))
    xs, ys = spread(start, end, gap), spread(0.0, bed.width_m, gap)
    places = [(x, y) for x in xs for y in ys]
    if bed.outline:
        shape = geometry.own_outline(bed)
        inside = contains_xy(shape, [x for x, _ in places], [y for _, y in places])
        places = [p for p, here in zip(places, inside, strict=True) if here]
    if planting.count:
        places = places[:planting.count]
    return Stand(planting.id, planting.crop, gap, tuple(places))


def spread(start: float, end: float, gap: float) -> list[float]:
    """As many places as fit, evenly about the middle of a stretch."""
    room = end - start
    n = max(1, int((room - 2 * INSET * gap) / gap + 1 + 1e-9)) if room > 0 else 1
    first = (start + end) / 2 - (n - 1) * gap / 2
    return [first + i * gap for i in range(n)]


def fits(bed: Bed, planting: Planting, library: Library) -> int:
    """How many plants of a planting its part of the bed holds at the crop's own spacing."""
    full = planting.model_copy(update={"count": 0, "spacing_m": 0.0})
    start, end = next((a, b) for p, a, b in bed_parts(bed) if p.id == planting.id)
    return len(_in_bed(bed, full, start, end, library).places)


def cover(bed: Bed, planting: Planting, library: Library) -> float:
    """Plants that stand there as a share of those that would at the crop's own spacing, to 1."""
    if not planting.count and not planting.spacing_m:
        return 1.0
    start, end = next((a, b) for p, a, b in bed_parts(bed) if p.id == planting.id)
    here = len(_in_bed(bed, planting, start, end, library).places)
    return min(1.0, here / max(fits(bed, planting, library), 1))


def leaf_area_m2(plot: AnyPlot, library: Library) -> float:
    """Ground that a bed covers, or the leaf area of trees, pots, towers and buckets."""
    if isinstance(plot, Bed):
        return geometry.area_m2(plot)
    if isinstance(plot, Tree):
        return plot.count * math.pi / 4 * plot.canopy_m * plot.breadth_m
    wide = library.crops[plot.main.crop].canopy_m
    if isinstance(plot, Tower):
        pockets = plot.plants * math.pi / 4 * min(wide, TOWER_PLANT_M) ** 2
        side = math.pi * (plot.diameter_m + 2 * TOWER_REACH_M) * plot.height_m
        return plot.count * min(pockets, side)
    if isinstance(plot, Wicking):
        return plot.count * math.pi / 4 * wide**2
    wide = min(wide, POT_OUTGROWN * plot.diameter_m)
    return plot.count * math.pi / 4 * max(wide**2, POT_CANOPY * plot.diameter_m**2)
