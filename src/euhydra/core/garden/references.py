"""Whether what a garden's parts name of each other is there, each under an id of its own."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from euhydra.core.garden.base import Id
from euhydra.core.garden.plot_forms import AnyPlot, Wicking

if TYPE_CHECKING:
    from euhydra.core.garden.model import Garden

LABELS = ("roofs", "drains", "taps", "wells", "stores", "joints", "lifts", "rain_gardens",
          "wet_areas", "paths", "buildings", "crops", "holdings", "plots", "timers", "nodes",
          "lines", "fittings", "outlets", "zones")
NAMED = ("roof", "store", "vessel", "source", "plot", "timer", "zone", "node", "line")


def require_whole(garden: Garden) -> None:
    """Raise ValueError for two things of one id, no source, or a name of what is not there."""
    for label in LABELS:
        seen: set[Id] = set()
        for thing in getattr(garden, label):
            if thing.id in seen:
                raise ValueError(f"two {label.replace('_', ' ')} have the id {thing.id}")
            seen.add(thing.id)
    if not garden.sources:
        raise ValueError("a garden has a store, a tap or a well that feeds the lines itself, or a "
                         "laundry drum that does")
    known = {kind: {thing.id for thing in getattr(garden, f"{kind}s")} for kind in NAMED}
    for kind, wanted in named(garden):
        if wanted not in known[kind]:
            raise ValueError(f"{kind} “{wanted}” is named but not in the garden")


def require_agreeing(garden: Garden) -> None:
    """Raise ValueError for two pumps on one store, what a drum cannot feed, a gutter in a ring."""
    drawn = [lift.draws_from for lift in garden.lifts]
    if twice := next((s for s in drawn if drawn.count(s) > 1), None):
        raise ValueError(f"two pumps draw from {garden.store_of(twice).name}: one is enough")
    for plot in garden.plots:
        if drum := garden.drum_of(garden.source_of(plot)):
            _require_open_outlets(plot, drum.name)
    shared = {roof.id: roof for roof in garden.roofs if roof.gutter_of}
    for roof in shared.values():
        if roof.gutter_of == roof.id:
            raise ValueError(f"{roof.name} shares its own gutter")
        if roof.gutter_of in shared:
            raise ValueError(f"{roof.name} shares the gutter of a roof that shares one itself")


def _require_open_outlets(plot: AnyPlot, drum: str) -> None:
    if plot.watered != "lines":
        raise ValueError(f"the drum of {drum} empties by itself, so that nothing is left in it to "
                         f"carry to {plot.name}: leave that on its lines, or give it other water")
    if isinstance(plot, Wicking):
        raise ValueError(f"{plot.name} shuts its float valve once it is full, and the drum of "
                         f"{drum} would run over: lead that to plots with open outlets")


def named(garden: Garden) -> Iterator[tuple[str, Id]]:
    """Every (kind, id) that one part of the garden names of another."""
    for roof in garden.roofs:
        yield from (("store", d.to) for d in roof.downspouts if d.to)
        if roof.gutter_of:
            yield "roof", roof.gutter_of
    yield from (("store", tap.tops_up) for tap in garden.taps if tap.tops_up)
    yield from (("store", well.tops_up) for well in garden.wells if well.tops_up)
    for joint in garden.joints:
        yield "store", joint.a
        yield "store", joint.b
    yield from (("vessel", lift.draws_from) for lift in garden.lifts)
    yield from (("source", plot.fed_by) for plot in garden.plots if plot.fed_by)
    yield from _of_lines(garden)


def _of_lines(garden: Garden) -> Iterator[tuple[str, Id]]:
    for zone in garden.zones:
        yield "source", zone.source
        yield from (("plot", plot) for plot in zone.plots)
        if zone.timer:
            yield "timer", zone.timer
    for line in garden.lines:
        yield "zone", line.zone
        yield "node", line.start
        yield "node", line.end
        if line.plot:
            yield "plot", line.plot
    for run in garden.outlets:
        yield "plot", run.plot
        yield "line", run.line
    yield from (("line", fitting.line) for fitting in garden.fittings)
