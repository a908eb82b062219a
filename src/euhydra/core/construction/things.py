"""All things of a garden that are built from kits, in the order in which a careful person works."""

from __future__ import annotations

from euhydra.core.construction import facts_plots, facts_water
from euhydra.core.construction.facts import Built
from euhydra.core.garden.model import Bed, Garden
from euhydra.core.library import Library


def things(garden: Garden, library: Library) -> tuple[Built, ...]:
    """Earthworks first, then water's way from the gutter to the last pot."""
    return tuple(one for group in (
        earthworks(garden, library), *water(garden, library), plots(garden, library))
        for one in group)


def earthworks(garden: Garden, library: Library) -> list[Built]:
    """Wet ground, rain gardens, the frames of raised beds."""
    return [*(facts_plots.wet_area(area, library) for area in garden.wet_areas),
            *(facts_plots.rain_garden(hollow, library) for hollow in garden.rain_gardens),
            *(facts_plots.raised_bed(plot, library) for plot in garden.plots
              if isinstance(plot, Bed) and plot.rim_m > 0)]


def water(garden: Garden, library: Library) -> list[list[Built]]:
    """What catches, stores, joins and lifts the water: a group for what is built together."""
    return [
        [facts_water.roof(garden, library, roof) for roof in garden.roofs],
        *(facts_water.store_group(garden, library, store) for store in garden.stores),
        [facts_water.joint(garden, joint) for joint in garden.joints],
        *(facts_water.drain_group(drain) for drain in garden.drains),
        [facts_water.standpipe(garden, library, tap) for tap in garden.under_pressure],
        [facts_water.lift(garden, library, lift) for lift in garden.lifts]]


def plots(garden: Garden, library: Library) -> list[Built]:
    """All that is watered."""
    return [facts_plots.plot_facts(garden, library, plot) for plot in garden.plots]
