"""What a garden is made of. Frozen models; metres on one site grid (x east, y north, z up).

Volumes are in litres, heads in metres. Two things are never stored here: what can be worked out
(flows, needs, parts, verdicts) and anything of the screen (zoom, open panels).

Each number a person may type is made with :func:`measure`, which holds its label, its kind of
unit and its bounds; the edge reads those to parse an entry and to say what is allowed.
"""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Any, Literal

from pydantic import (
    AfterValidator,
    BaseModel,
    ConfigDict,
    Field,
    StringConstraints,
    model_validator,
)

DAYS_BEFORE_MONTH = (0, 31, 59, 90, 120, 151, 181, 212, 243, 273, 304, 334)


MOST_RAIN_A_WET_DAY_MM = 200.0


def _whole_text(text: str) -> str:
    if any(ord(c) < 32 or 0xD800 <= ord(c) <= 0xDFFF for c in text):
        raise ValueError("holds control characters that cannot be kept")
    return text


def _month_day(text: str) -> str:
    if text:
        dt.date.fromisoformat(f"2001-{text}")
    return text


Id = Annotated[str, StringConstraints(pattern=r"^[a-z0-9][a-z0-9-]{0,63}$")]
Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80),
                 AfterValidator(_whole_text)]
Note = Annotated[str, StringConstraints(max_length=2000), AfterValidator(_whole_text)]
MonthDay = Annotated[str, StringConstraints(pattern=r"^(\d\d-\d\d)?$"), AfterValidator(_month_day)]
Level = Annotated[float, Field(ge=-100, le=100)]


def measure(label: str, kind: str, low: float, high: float, default: Any = ...) -> Any:
    """A number a person may type: its label, kind (see ``units.KINDS``) and bounds, inclusive."""
    return Field(default, title=label, ge=low, le=high, json_schema_extra={"kind": kind})


def pick(label: str, table: str, default: Any = ..., only: str = "") -> Any:
    """A key of a table in the library; a person picks among those that start with ``only``."""
    return Field(default, title=label, max_length=64,
                 json_schema_extra={"table": table, "only": only})


def day(label: str, default: Any = ..., **more: Any) -> Any:
    """A day of the year as month-day."""
    return Field(default, title=label, json_schema_extra={"kind": "monthday"}, **more)


class Part(BaseModel):
    """Base of all parts: frozen, no unknown keys, no NaN."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


class Thing(Part):
    """A part with a lasting id and the name a person gave it."""

    id: Id
    name: Name = Field(title="name")


class Point(Part):
    """A place in plan, metres on the site grid."""

    x_m: Annotated[float, Field(ge=-1000, le=1000)]
    y_m: Annotated[float, Field(ge=-1000, le=1000)]


RainMonth = Annotated[float, Field(ge=0, le=2000, json_schema_extra={"kind": "rain"})]
WetDays = Annotated[float, Field(ge=0, le=28, json_schema_extra={"kind": "days"})]
Celsius = Annotated[float, Field(ge=-60, le=60, json_schema_extra={"kind": "temperature"})]


class Climate(Part):
    """Twelve months of normals, January first."""

    archetype: str = pick("climate like", "climates", "")
    rain_mm: tuple[RainMonth, ...] = Field(title="rain", min_length=12, max_length=12)
    wet_days: tuple[WetDays, ...] = Field(title="wet days", min_length=12, max_length=12)
    tmin_c: tuple[Celsius, ...] = Field(title="low", min_length=12, max_length=12)
    tmax_c: tuple[Celsius, ...] = Field(title="high", min_length=12, max_length=12)

    @model_validator(mode="after")
    def _months_agree(self) -> Climate:
        for i in range(12):
            if self.tmax_c[i] < self.tmin_c[i]:
                raise ValueError(f"month {i + 1}: high {self.tmax_c[i]:g} °C is under low "
                                 f"{self.tmin_c[i]:g} °C")
            if self.rain_mm[i] > MOST_RAIN_A_WET_DAY_MM * self.wet_days[i]:
                raise ValueError(f"month {i + 1}: {self.rain_mm[i]:g} mm of rain needs more than "
                                 f"{self.wet_days[i]:g} wet days (200 mm a wet day is the most)")
        return self


class Site(Part):
    """Where the garden is."""

    place: Name = Field("My garden", title="place")
    latitude_deg: float = measure("latitude", "latitude", -66, 66)
    altitude_m: float = measure("altitude", "length", -400, 5000, 0.0)
    climate: Climate
    seed: int = Field(1, ge=0, le=2**31 - 1)
    soil: str = pick("soil", "soils", "loam")
    last_frost: MonthDay = day("last frost", "")
    first_frost: MonthDay = day("first frost", "")
    local_rules: Note = Field("", title="notes on local rules")


class Roof(Thing):
    """A roof in plan; its gutter leads to a store."""

    corner: Point
    width_m: float = measure("roof length", "length", 0.3, 60)
    depth_m: float = measure("roof width", "length", 0.3, 60)
    eave_m: float = measure("eave height", "length", 0.5, 20, 2.4)
    material: str = pick("roof material", "roof_materials")
    first_flush_mm: float = measure("first flush", "depth", 0, 5, 0.3)
    gutter_share: float = measure("share that reaches the store", "share", 0.05, 1, 1.0)
    store: Id


class Tap(Thing):
    """A house tap that tops the store up through an air gap."""

    at: Point
    tops_up: Id


class Store(Thing):
    """A bank of like barrels, bottom-linked, on one stand."""

    at: Point
    ground_m: float = measure("ground level", "length", -30, 30, 0.0)
    volume_l: float = measure("barrel volume", "volume", 10, 20000)
    count: int = measure("barrels", "count", 1, 24, 1)
    height_m: float = measure("barrel height", "length", 0.2, 4)
    stand_m: float = measure("stand height", "length", 0, 3, 0.3)
    outlet_m: float = measure("outlet above barrel base", "small", 0, 1, 0.08)
    shell_kg: float = measure("empty weight", "mass", 0, 2000, 10)
    footing: Literal["soil", "paving", "deck"] = Field("soil", title="stands on")
    lid_locked: bool = Field(True, title="lid locked")
    screened: bool = Field(True, title="openings screened")

    @model_validator(mode="after")
    def _outlet_within(self) -> Store:
        if self.outlet_m >= self.height_m:
            raise ValueError(f"the outlet at {self.outlet_m:g} m is not below the barrel's top at "
                             f"{self.height_m:g} m")
        return self


class Planting(Part):
    """A crop in a plot. ``planted`` is month-day; ``share`` is its part of the plot's area."""

    id: Id
    crop: str = pick("crop", "crops")
    planted: MonthDay = day("planted", "04-15", min_length=5)
    share: float = Field(1.0, gt=0, le=1)


class PlotBase(Thing):
    """Anything watered."""

    corner: Point
    ground_m: float = measure("ground level", "length", -30, 30, 0.0)
    soil: str = pick("mix", "soils", "raised-mix")
    method: str = Field("dripline", title="watered by")
    plantings: tuple[Planting, ...] = Field(min_length=1, max_length=12)

    @model_validator(mode="after")
    def _shares(self) -> PlotBase:
        if sum(p.share for p in self.plantings) > 1.000001:
            raise ValueError(f"{self.name}: the plantings take more than the whole plot")
        return self


class Bed(PlotBase):
    """A bed, raised by ``rim_m`` or level with the ground."""

    kind: Literal["bed"] = "bed"
    length_m: float = measure("bed length", "length", 0.3, 60)
    width_m: float = measure("bed width", "length", 0.2, 20)
    rim_m: float = measure("rim height", "length", 0, 1.5, 0.0)
    method: Literal["soaker", "dripline", "dripline-pc", "drippers"] = Field(
        "dripline", title="watered by")

    @property
    def breadth_m(self) -> float:
        """Size from south to north."""
        return self.width_m


class Pots(PlotBase):
    """A row of like pots."""

    kind: Literal["pots"] = "pots"
    count: int = measure("pots", "count", 1, 100, 1)
    diameter_m: float = measure("pot diameter", "small", 0.08, 1.5, 0.3)
    height_m: float = measure("pot height", "small", 0.08, 1.5, 0.3)
    soil: str = pick("mix", "soils", "potting-mix")
    method: Literal["pot-drippers"] = Field("pot-drippers", title="watered by")

    @property
    def breadth_m(self) -> float:
        """Size from south to north."""
        return self.diameter_m


Plot = Annotated[Bed | Pots, Field(discriminator="kind")]


class Node(Part):
    """A joint of the pipe graph with its level."""

    id: Id
    at: Point
    z_m: Level


class Line(Part):
    """A pipe between two nodes. ``length_m`` is the true length, rise and fall included."""

    id: Id
    zone: Id
    role: Literal["supply", "header", "lateral", "dripline", "soaker", "quarter-inch", "blank"]
    tube: str = pick("tube", "tubes")
    start: Id
    end: Id
    course: tuple[Point, ...] = Field(min_length=2)
    length_m: float = Field(ge=0, le=2000)
    plot: Id | None = None


class Fitting(Part):
    """A component at the start of a line; those of one line stand in ``order`` from its start."""

    id: Id
    kind: str = Field(max_length=64)
    line: Id
    order: int = Field(0, ge=0, le=50)


class Outlet(Part):
    """A run of like outlets along a line: ``points`` places, ``each`` outlets at a place.

    The first stands ``first_m`` from the line's start, the others ``spacing_m`` on.
    """

    id: Id
    kind: str = pick("outlet", "outlets")
    line: Id
    plot: Id
    first_m: float = Field(ge=0, le=2000)
    spacing_m: float = Field(gt=0, le=100)
    points: int = Field(ge=1, le=5000)
    each: int = Field(1, ge=1, le=20)


class Zone(Thing):
    """What opens together: its plots, its store, and the pipe that feeds it."""

    store: Id
    plots: tuple[Id, ...] = Field(min_length=1)
    supply_tube: str = pick("supply pipe", "tubes", "poly-16", only="poly-")
    filter: str = Field("filter-screen", max_length=64)


class Garden(Part):
    """A whole garden. One store and at most one tap until several can be reckoned together."""

    id: Id
    name: Name = Field(title="garden name")
    units: Literal["metric", "us"] = "metric"
    site: Site
    roofs: tuple[Roof, ...] = Field(max_length=20)
    taps: tuple[Tap, ...] = Field((), max_length=1)
    stores: tuple[Store, ...] = Field(min_length=1, max_length=1)
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
        for label, things in (("roofs", self.roofs), ("plots", self.plots), ("nodes", self.nodes),
                              ("lines", self.lines), ("zones", self.zones),
                              ("fittings", self.fittings), ("outlets", self.outlets)):
            ids = [t.id for t in things]
            if len(ids) != len(set(ids)):
                twice = next(i for i in ids if ids.count(i) > 1)
                raise ValueError(f"two {label} have the id {twice}")
        stores, plots = {s.id for s in self.stores}, {p.id for p in self.plots}
        nodes, lines = {n.id for n in self.nodes}, {line.id for line in self.lines}
        zones = {z.id for z in self.zones}
        for kind, wanted, known in (
                ("store", [r.store for r in self.roofs], stores),
                ("store", [t.tops_up for t in self.taps] + [z.store for z in self.zones], stores),
                ("plot", [p for z in self.zones for p in z.plots], plots),
                ("plot", [o.plot for o in self.outlets], plots),
                ("plot", [line.plot for line in self.lines if line.plot], plots),
                ("zone", [line.zone for line in self.lines], zones),
                ("node", [n for line in self.lines for n in (line.start, line.end)], nodes),
                ("line", [o.line for o in self.outlets], lines),
                ("line", [f.line for f in self.fittings], lines)):
            for one in wanted:
                if one not in known:
                    raise ValueError(f"{kind} “{one}” is named but not in the garden")
        return self

    @property
    def store(self) -> Store:
        """The one store."""
        return self.stores[0]

    def plot(self, plot_id: str) -> Bed | Pots:
        """The plot of that id. Raises KeyError."""
        for plot in self.plots:
            if plot.id == plot_id:
                return plot
        raise KeyError(plot_id)


def day_of_year(month_day: str) -> int:
    """0 for ``"01-01"``, 364 for ``"12-31"``, in a year of 365 days (29 February counts as 28)."""
    month, day = int(month_day[:2]), int(month_day[3:])
    return DAYS_BEFORE_MONTH[month - 1] + (min(day, 28) if month == 2 else day) - 1


def month_day(day: int) -> str:
    """The month-day of a day of the year from 0, wrapping round."""
    day %= 365
    month = max(m for m in range(12) if DAYS_BEFORE_MONTH[m] <= day)
    return f"{month + 1:02d}-{day - DAYS_BEFORE_MONTH[month] + 1:02d}"
