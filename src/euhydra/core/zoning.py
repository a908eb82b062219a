"""Zones: what may open together."""

from __future__ import annotations

from collections.abc import Iterable

from euhydra.core.garden.model import AnyPlot, Bed, Garden, Pots, Tower, Tree, Wicking, Zone
from euhydra.core.library import Library

LEVEL_BAND_M = 0.3  # outlets farther apart in level than this part under gravity, from memory


def zones_for(garden: Garden, library: Library) -> tuple[Zone, ...]:
    """Plots that share store, kind, method, thirst and level band, in the order of the plots.

    A zone that stands already keeps its pipe and filter; ids follow a zone's first plot, so they
    last while plots are added.
    """
    before = {zone.id: zone for zone in garden.zones}
    zones = []
    place = {plot.id: i for i, plot in enumerate(garden.plots)}
    for group in sorted(_groups(garden, library), key=lambda g: place[g[0].id]):
        zone_id = f"zone-{group[0].id}"[:60]
        old = before.get(zone_id)
        fresh = Zone(id=zone_id, name=_joined(group), source=garden.source_of(group[0]),
                     plots=tuple(p.id for p in group),
                     timed=not isinstance(group[0], Wicking))
        zones.append(old.model_copy(update={
            "name": fresh.name, "plots": fresh.plots, "source": fresh.source,
            "timed": fresh.timed}) if old else fresh)
    return tuple(zones)


def outlet_z_m(plot: AnyPlot) -> float:
    """Level at which the plot's outlets stand."""
    if isinstance(plot, Bed):
        return plot.ground_m + plot.rim_m
    if isinstance(plot, Tree):
        return plot.ground_m
    return plot.ground_m + (plot.water_m if isinstance(plot, Wicking) else plot.height_m)


def thirst_group(plot: AnyPlot, library: Library) -> str:
    """Leafy, fruiting or woody: that of the planting with the largest share."""
    return library.crops[plot.main.crop].thirst


def family(plot: AnyPlot) -> str:
    """What is watered alike: ground, trees, pots, towers, or each kind of self-watering row.

    A float valve takes what it wants, so thirst does not part self-watering rows.
    """
    if isinstance(plot, Bed):
        return "ground"
    if isinstance(plot, Wicking):
        return plot.kind
    return {Tree: "tree", Pots: "pots", Tower: "tower"}[type(plot)]


def _groups(garden: Garden, library: Library) -> Iterable[list[AnyPlot]]:
    alike: dict[tuple[str, ...], list[AnyPlot]] = {}
    for plot in garden.plots:
        thirst = "" if isinstance(plot, Wicking) else thirst_group(plot, library)
        own = plot.id if plot.own_valve else ""
        key = (garden.source_of(plot), family(plot), plot.method, thirst, own)
        alike.setdefault(key, []).append(plot)
    for plots in alike.values():
        for band in _bands(sorted({outlet_z_m(p) for p in plots})):
            yield [p for p in plots if band[0] - 1e-9 <= outlet_z_m(p) <= band[1] + 1e-9]


def _bands(levels: list[float]) -> Iterable[tuple[float, float]]:
    low = high = levels[0]
    for level in levels[1:]:
        if level - low > LEVEL_BAND_M + 1e-9:
            yield low, high
            low = level
        high = level
    yield low, high


def _joined(plots: list[AnyPlot]) -> str:
    names = [p.name for p in plots]
    text = names[0] if len(names) == 1 else ", ".join(names[:-1]) + " and " + names[-1]
    return text if len(text) <= 78 else f"{names[0]} and {len(names) - 1} more"[:78]
