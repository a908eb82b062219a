"""What a garden is made of. Frozen models; metres on one site grid (x east, y north, z up).

Volumes are in litres, heads in metres. Two things are never stored here: what can be worked out
(flows, needs, parts, verdicts) and anything of the screen (zoom, open panels).

Each number a person may type is made with ``base.measure``, which holds its label, its kind of
unit and its bounds; the edge reads those to parse an entry and to say what is allowed.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

from pydantic import Field, model_validator

from euhydra.core.garden.base import (
    DAYS_BEFORE_MONTH,
    Id,
    MonthDay,
    Name,
    Note,
    Part,
    Point,
    Thing,
    day,
    day_of_year,
    measure,
    month_day,
    pick,
)
from euhydra.core.garden.holding import Joint, RainGarden, Store, WetArea
from euhydra.core.garden.joining import require_leading_on
from euhydra.core.garden.lines import Fitting, Line, Node, Outlet, Zone
from euhydra.core.garden.plots import Bed, Planting, Plot, PlotBase, Pots
from euhydra.core.garden.site import MOST_RAIN_A_WET_DAY_MM, Climate, Site, Spot
from euhydra.core.garden.sources import Basin, Downspout, Drain, Roof, Tap, Well

__all__ = [
    "DAYS_BEFORE_MONTH", "MOST_RAIN_A_WET_DAY_MM", "Basin", "Bed", "Climate", "Downspout", "Drain",
    "Fitting", "Garden", "Id", "Joint", "Line", "MonthDay", "Name", "Node", "Note", "Outlet",
    "Part", "Planting", "Plot", "PlotBase", "Point", "Pots", "RainGarden", "Roof", "Site", "Spot",
    "Store", "Tap", "Thing", "Well", "WetArea", "Zone", "day", "day_of_year", "measure",
    "month_day", "pick"]


class Garden(Part):
    """A whole garden. Plots draw from its first source unless they say another."""

    id: Id
    name: Name = Field(title="garden name")
    units: Literal["metric", "us"] = "metric"
    site: Site
    roofs: tuple[Roof, ...] = Field(max_length=20)
    drains: tuple[Drain, ...] = Field((), max_length=4)
    taps: tuple[Tap, ...] = Field((), max_length=4)
    wells: tuple[Well, ...] = Field((), max_length=4)
    stores: tuple[Store, ...] = Field((), max_length=12)
    joints: tuple[Joint, ...] = Field((), max_length=20)
    rain_gardens: tuple[RainGarden, ...] = Field((), max_length=4)
    wet_areas: tuple[WetArea, ...] = Field((), max_length=4)
    plots: tuple[Plot, ...] = Field(min_length=1, max_length=60)
    timer: str = pick("timer", "timers", "dial-ball")
    window_h: float = measure("hours a day allowed", "hours", 0.5, 24, 8.0)
    nodes: tuple[Node, ...] = ()
    lines: tuple[Line, ...] = ()
    fittings: tuple[Fitting, ...] = ()
    outlets: tuple[Outlet, ...] = ()
    zones: tuple[Zone, ...] = ()

    @model_validator(mode="after")
    def _references(self) -> Garden:
        for label in ("roofs", "drains", "taps", "wells", "stores", "joints", "rain_gardens",
                      "wet_areas", "plots", "nodes", "lines", "fittings", "outlets", "zones"):
            ids = [t.id for t in getattr(self, label)]
            if len(ids) != len(set(ids)):
                twice = next(i for i in ids if ids.count(i) > 1)
                raise ValueError(f"two {label.replace('_', ' ')} have the id {twice}")
        if not self.sources:
            raise ValueError("a garden has a store, or a tap that feeds the lines itself")
        known = {kind: {thing.id for thing in getattr(self, f"{kind}s")}
                 for kind in ("store", "source", "plot", "zone", "node", "line")}
        for kind, wanted in self._named():
            if wanted not in known[kind]:
                raise ValueError(f"{kind} “{wanted}” is named but not in the garden")
        return self

    def _named(self) -> Iterator[tuple[str, Id]]:
        """Every (kind, id) that one part of the garden names of another."""
        for roof in self.roofs:
            yield from (("store", d.to) for d in roof.downspouts if d.to)
        yield from (("store", tap.tops_up) for tap in self.taps if tap.tops_up)
        yield from (("store", well.tops_up) for well in self.wells)
        for joint in self.joints:
            yield "store", joint.a
            yield "store", joint.b
        yield from (("source", plot.fed_by) for plot in self.plots if plot.fed_by)
        for zone in self.zones:
            yield "source", zone.source
            yield from (("plot", plot) for plot in zone.plots)
        for line in self.lines:
            yield "zone", line.zone
            yield "node", line.start
            yield "node", line.end
            if line.plot:
                yield "plot", line.plot
        for run in self.outlets:
            yield "plot", run.plot
            yield "line", run.line
        yield from (("line", fitting.line) for fitting in self.fittings)

    @model_validator(mode="after")
    def _joints_lead_on(self) -> Garden:
        require_leading_on([store.id for store in self.stores], self.joints)
        return self

    @property
    def store(self) -> Store:
        """The first store. A garden on the tap alone has none: IndexError."""
        return self.stores[0]

    @property
    def sources(self) -> tuple[Store | Tap, ...]:
        """What lines can draw from: every store, and each tap that tops none up."""
        return (*self.stores, *(tap for tap in self.taps if not tap.tops_up))

    def source_of(self, plot: Bed | Pots) -> str:
        """The id of what feeds a plot."""
        return plot.fed_by or self.sources[0].id

    def tap_of(self, tap_id: str) -> Tap | None:
        """The tap of that id; None when it is another thing's."""
        return next((tap for tap in self.taps if tap.id == tap_id), None)

    def store_of(self, store_id: str) -> Store:
        """The store of that id. Raises KeyError."""
        for store in self.stores:
            if store.id == store_id:
                return store
        raise KeyError(store_id)

    def plot(self, plot_id: str) -> Bed | Pots:
        """The plot of that id. Raises KeyError."""
        for plot in self.plots:
            if plot.id == plot_id:
                return plot
        raise KeyError(plot_id)
