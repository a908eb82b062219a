"""What a change of habit would save a plot: mulch, shade, richer mix, shelter, closer planting."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from euhydra.core.demand import plants
from euhydra.core.editing.edits import Edit, Together
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import AnyPlot, Bed, Tree
from euhydra.core.results.results import Results

RICH = {"sand": "sandy-loam", "sandy-loam": "loam", "loam": "raised-mix", "clay": "clay-loam",
        "silt-loam": "raised-mix", "clay-loam": "raised-mix", "raised-mix": "compost-mix",
        "bark-mix": "potting-mix", "potting-mix": "coir-mix"}
PACKED = 0.85  # a bed with less of its plants than this is thinly planted, from memory
LEAST_BED_M = 0.3


@dataclass(frozen=True)
class Habit:
    """What one change of habit does for a plot in its peak month, litres a day."""

    key: str
    label: str
    saves_l_day: float
    edit: Edit


def habits_of(r: Results, plot: AnyPlot) -> tuple[Habit, ...]:
    """Mulch, shade, richer mix, shelter and closer planting, each tried alone on a plot."""
    now = float(r.demand.thirsts[plot.id].net_by_month[r.demand.peak_month])
    tried = [(key, label, values, plot.model_copy(update=values))
             for key, label, values in _changes(r, plot)]
    return tuple(Habit(key, label, now - _peak_need(r, changed), Together(tuple(
        SetValue(f"plots/{plot.id}/{name}", value) for name, value in values.items())))
        for key, label, values, changed in (*tried, *_packed(r, plot)))


def _peak_need(r: Results, plot: AnyPlot) -> float:
    after = r.thirst_of(plot, "tried")
    return float(after.net_by_month[r.demand.peak_month])


def _changes(r: Results, plot: AnyPlot) -> Iterable[tuple[str, str, dict[str, Any]]]:
    if plot.mulch == "none":
        yield "mulch", "Mulch it with straw", {"mulch": "straw"}
    if plot.shade == "none":
        yield "shade", "Shade cloth for four hours at noon", {"shade": "cloth", "shade_h": 4.0}
    if plot.exposure == "windy":
        yield "wind", "A windbreak", {"exposure": "sheltered"}
    richer = RICH.get(plot.soil)
    if richer and not isinstance(plot, Tree):
        yield "soil", f"{r.library.soils[richer].name} instead", {"soil": richer}


def _packed(r: Results, plot: AnyPlot) -> Iterable[tuple[str, str, dict[str, Any], AnyPlot]]:
    """Plants that stand wider than they need: the same number on less ground."""
    if not isinstance(plot, Bed) or len(plot.plantings) > 1:
        return
    cover = plants.cover(plot, plot.main, r.library)
    shorter = round(plot.length_m * cover, 2)
    if cover <= PACKED and shorter >= LEAST_BED_M:
        packed = plot.model_copy(update={"length_m": shorter, "plantings": (
            plot.main.model_copy(update={"count": 0, "spacing_m": 0.0}),)})
        at = f"plantings/{plot.main.id}"
        yield "packed", "The same plants, packed", {
            "length_m": shorter, f"{at}/count": 0, f"{at}/spacing_m": 0.0}, packed
