"""What a garden is made of. Frozen models; metres on one site grid (x east, y north, z up).

Volumes are in litres, heads in metres. Two things are never stored here: what can be worked out
(flows, needs, parts, verdicts) and anything of the screen (zoom, open panels).

Each number a person may type is made with ``base.measure``, which holds its label, its kind of
unit and its bounds; the edge reads those to parse an entry and to say what is allowed.
"""

from __future__ import annotations

from collections.abc import Collection
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
from euhydra.core.garden.crops import OwnCrop
from euhydra.core.garden.grounds import Building, Path
from euhydra.core.garden.learnt import Learnt
from euhydra.core.garden.lines import (
    MOST_FITTINGS,
    MOST_LINES,
    Fitting,
    Line,
    Node,
    Outlet,
    Via,
    Zone,
)
from euhydra.core.garden.plot_forms import (
    HOLE_MM,
    POT_GAP_M,
    AnyPlot,
    Bed,
    Holder,
    Plot,
    Pots,
    Tower,
    Tree,
    Wicking,
)
from euhydra.core.garden.plots import Dripper, Planting, PlotBase, Row
from euhydra.core.garden.pumps import CurvePoint, Lift
from euhydra.core.garden.references import require_agreeing, require_whole
from euhydra.core.garden.site import MOST_RAIN_A_WET_DAY_MM, Climate, Site, Spot
from euhydra.core.garden.sketch import Sketch
from euhydra.core.garden.sources import Basin, Downspout, Drain, Roof, Standpipe, Tap, Well
from euhydra.core.garden.stock import Holding
from euhydra.core.garden.store_links import require_leading_on
from euhydra.core.garden.stores import Joint, RainGarden, Store, WetArea
from euhydra.core.garden.timers import BY_HAND, Timer
from euhydra.core.garden.today import Today

__all__ = [
    "DAYS_BEFORE_MONTH",
    "HOLE_MM",
    "MOST_RAIN_A_WET_DAY_MM",
    "POT_GAP_M",
    "AnyPlot",
    "Basin",
    "Bed",
    "Building",
    "Climate",
    "CurvePoint",
    "Downspout",
    "Drain",
    "Dripper",
    "Fitting",
    "Garden",
    "Holder",
    "Id",
    "Joint",
    "Learnt",
    "Lift",
    "Line",
    "MonthDay",
    "Name",
    "Node",
    "Note",
    "Outlet",
    "OwnCrop",
    "Part",
    "Path",
    "Planting",
    "Plot",
    "PlotBase",
    "Point",
    "Pots",
    "RainGarden",
    "Roof",
    "Row",
    "Site",
    "Source",
    "Spot",
    "Standpipe",
    "Store",
    "Tap",
    "Thing",
    "Timer",
    "Tower",
    "Tree",
    "Via",
    "Well",
    "WetArea",
    "Wicking",
    "Zone",
    "day",
    "day_of_year",
    "measure",
    "month_day",
    "pick",
]


Source = Store | Standpipe | Drain


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
    lifts: tuple[Lift, ...] = Field((), max_length=6)
    rain_gardens: tuple[RainGarden, ...] = Field((), max_length=4)
    wet_areas: tuple[WetArea, ...] = Field((), max_length=4)
    paths: tuple[Path, ...] = Field((), max_length=20)
    buildings: tuple[Building, ...] = Field((), max_length=20)
    crops: tuple[OwnCrop, ...] = Field((), max_length=40)
    holdings: tuple[Holding, ...] = Field((), max_length=300)
    plots: tuple[Plot, ...] = Field(min_length=1, max_length=100)
    timers: tuple[Timer, ...] = Field((), max_length=12)
    every_days: float = measure("days between runs (0: we choose)", "days", 0, 7, 0.0)
    longer: float = measure("runs longer by", "share", -0.5, 1, 0.0)
    thirst: float = measure("thirst against the tables", "ratio", 0.3, 2, 1.0)
    rain_hold_mm: float = measure("held after rain of", "rain", 0, 100, 0.0)
    nodes: tuple[Node, ...] = Field((), max_length=2 * MOST_LINES)
    lines: tuple[Line, ...] = Field((), max_length=MOST_LINES)
    fittings: tuple[Fitting, ...] = Field((), max_length=MOST_FITTINGS)
    outlets: tuple[Outlet, ...] = Field((), max_length=2 * MOST_LINES)
    zones: tuple[Zone, ...] = Field((), max_length=200)
    today: Today = Today()
    sketch: Sketch | None = None
    learnt: tuple[Learnt, ...] = Field((), max_length=300)

    @model_validator(mode="after")
    def _references(self) -> Garden:
        require_whole(self)
        require_agreeing(self)
        return self

    @model_validator(mode="after")
    def _joints_lead_on(self) -> Garden:
        require_leading_on([store.id for store in self.stores], self.joints)
        return self

    @property
    def store(self) -> Store:
        """The first store. A garden on the tap alone has none: IndexError."""
        return self.stores[0]

    @property
    def sources(self) -> tuple[Source, ...]:
        """What lines can draw from: stores, taps and wells that top none up, drains' drums."""
        return (*self.stores, *self.standpipes, *self.drums)

    @property
    def standpipes(self) -> tuple[Standpipe, ...]:
        """The taps, and the wells with their pumps, that feed lines themselves."""
        return tuple(x for x in self.under_pressure if not x.tops_up)

    @property
    def under_pressure(self) -> tuple[Standpipe, ...]:
        """Every tap, and the wells whose pumps feed lines: none without a backflow preventer."""
        return (*self.taps, *(well for well in self.wells if not well.tops_up))

    @property
    def drums(self) -> tuple[Drain, ...]:
        """The drains that run into a drum."""
        return tuple(drain for drain in self.drains if drain.school == "drum")

    @property
    def merging(self) -> frozenset[str]:
        """Ids of the stores whose downspouts merge into one pipe."""
        return frozenset(store.id for store in self.stores if store.merges)

    @property
    def vessels(self) -> tuple[Store, ...]:
        """What a pump can draw from: every store, and each drain's drum."""
        return (*self.stores, *(drain.drum for drain in self.drums))

    @property
    def vessel(self) -> str:
        """What its stores are called: tanks where all are filled by hand, drums with none."""
        if not self.stores and self.drums:
            return "drum"
        return "tank" if self.stores and all(s.hand_filled for s in self.stores) else "barrel"

    @property
    def hand_plots(self) -> tuple[AnyPlot, ...]:
        """The plots that are left to cans or a hose: no line leads to them."""
        return tuple(plot for plot in self.plots if plot.watered != "lines")

    @property
    def timed_zones(self) -> list[Zone]:
        """The zones that a timer or a hand opens; the others are always open."""
        return [zone for zone in self.zones if zone.timed]

    @property
    def float_zones(self) -> list[Zone]:
        """The zones that float valves shut: self-watering rows."""
        return [z for z in self.zones if not z.timed and self.drum_of(z.source) is None]

    def timer_of(self, zone: Zone) -> Timer | None:
        """The timer that opens a zone; None where a hand does, or where it is always open."""
        return next((t for t in self.timers if t.id == zone.timer), None) if zone.timed else None

    def timer_kind(self, zone: Zone) -> str:
        """The key of the kind of timer that opens a zone, a tap opened by hand among them."""
        timer = self.timer_of(zone)
        return timer.kind if timer else BY_HAND

    def zones_of(self, timer: Timer) -> list[Zone]:
        """The zones that a timer opens."""
        return [zone for zone in self.zones if zone.timed and zone.timer == timer.id]

    def source_of(self, plot: AnyPlot) -> str:
        """The id of what feeds a plot."""
        return plot.fed_by or self.sources[0].id

    def tap_of(self, source: str) -> Standpipe | None:
        """The tap of that id, or the well with its pump; None when it is another thing's."""
        return next((x for x in (*self.taps, *self.wells) if x.id == source), None)

    def well_of(self, source: str) -> Well | None:
        """The well of that id; None when it is another thing's."""
        return next((well for well in self.wells if well.id == source), None)

    def on_mains(self, source: str) -> bool:
        """Whether a source's water is the mains', which one may drink."""
        return any(tap.id == source for tap in self.taps)

    def source_path(self, source: str) -> str:
        """Where a source stands in the garden."""
        kind = ("taps" if self.on_mains(source) else "wells" if self.well_of(source) else
                "drains" if self.drum_of(source) else "stores")
        return f"{kind}/{source}"

    def drum_of(self, drain_id: str) -> Drain | None:
        """The drain of that id whose drum lines draw from; None when it is another thing's."""
        return next((drain for drain in self.drums if drain.id == drain_id), None)

    def vessel_of(self, source: str) -> str:
        """What a source's water stands in, in a word."""
        return "drum" if self.drum_of(source) else self.vessel

    def lift_on(self, source: str) -> Lift | None:
        """The pump that a source's lines hang on; None where they run by themselves."""
        return next((lift for lift in self.lifts if lift.draws_from == source), None)

    def store_of(self, store_id: str) -> Store:
        """The store, or drum, of that id. Raises KeyError."""
        for store in self.vessels:
            if store.id == store_id:
                return store
        raise KeyError(store_id)

    def roofs_to(self, stores: Collection[str]) -> list[Roof]:
        """The roofs with a downspout that leads to one of some stores."""
        return [x for x in self.roofs if any(spout.to in stores for spout in x.downspouts)]

    def plot(self, plot_id: str) -> AnyPlot:
        """The plot of that id. Raises KeyError."""
        for plot in self.plots:
            if plot.id == plot_id:
                return plot
        raise KeyError(plot_id)
