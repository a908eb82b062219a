"""Zones: what may open together."""

from __future__ import annotations

from collections.abc import Iterable

from euhydra.core.garden.model import Bed, Garden, Pots, Zone
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
                     plots=tuple(p.id for p in group))
        zones.append(old.model_copy(update={
            "name": fresh.name, "plots": fresh.plots, "source": fresh.source})
                     if old else fresh)
    return tuple(zones)


def outlet_z_m(plot: Bed | Pots) -> float:
    """Level at which the plot's outlets stand."""
    return plot.ground_m + (plot.rim_m if isinstance(plot, Bed) else plot.height_m)


def thirst_group(plot: Bed | Pots, library: Library) -> str:
    """Leafy, fruiting or woody: that of the planting with the largest share."""
    main = max(plot.plantings, key=lambda p: p.share)
    return library.crops[main.crop].thirst


def _groups(garden: Garden, library: Library) -> Iterable[list[Bed | Pots]]:
    alike: dict[tuple[str, str, str, str], list[Bed | Pots]] = {}
    for plot in garden.plots:
        key = (garden.source_of(plot), plot.kind, plot.method, thirst_group(plot, library))
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


def _joined(plots: list[Bed | Pots]) -> str:
    names = [p.name for p in plots]
    text = names[0] if len(names) == 1 else ", ".join(names[:-1]) + " and " + names[-1]
    return text if len(text) <= 78 else f"{names[0]} and {len(names) - 1} more"[:78]
