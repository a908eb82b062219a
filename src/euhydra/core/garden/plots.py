"""What is watered: ground, trees, pots, towers and the self-watering kinds."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator
from shapely.geometry import Polygon

from euhydra.core.garden.base import (
    HIGHEST_M,
    Id,
    MonthDay,
    OptionalId,
    Part,
    Point,
    Thing,
    day,
    measure,
    pick,
    refer,
)

POT_GAP_M = 0.08


class Planting(Part):
    """A crop in a plot. ``planted`` is month-day; ``share`` is its part of the plot's area.

    A ``count`` of 0 is as many as fit at the spacing; a spacing of 0 is the crop's own.
    """

    id: Id
    crop: str = pick("crop", "crops")
    planted: MonthDay = day("planted", "04-15", min_length=5)
    share: float = measure("share of the plot", "share", 0.01, 1, 1.0)
    count: int = measure("plants", "count", 0, 5000, 0)
    spacing_m: float = measure("plant spacing", "small", 0, 10, 0.0)


class Row(Part):
    """A row laid by hand, in the plot's own frame: ``across_m`` from its first long edge.

    It runs from ``from_m`` to ``to_m`` along the plot. A pinned row stays when the plot is laid
    anew.
    """

    id: Id
    across_m: float = measure("row from the edge", "length", 0, 20)
    from_m: float = measure("row starts at", "length", 0, 60, 0.05)
    to_m: float = measure("row ends at", "length", 0, 60)
    pinned: bool = Field(False, title="pinned")


class Dripper(Part):
    """A single dripper put in by hand on its own quarter-inch tube, in the plot's own frame."""

    id: Id
    along_m: float = measure("dripper along", "length", 0, 60)
    across_m: float = measure("dripper across", "length", 0, 20)
    kind: str = pick("dripper", "outlets", "plain-2", only="plain-")
    pinned: bool = Field(False, title="pinned")


class PlotBase(Thing):
    """Anything watered. Its box, ``length_m`` by ``breadth_m``, is turned about its middle.

    ``corner`` is the south-west corner of the box before it is turned. ``opens_with`` names a plot
    whose zone it was put in by hand.
    """

    corner: Point
    turn_deg: float = measure("turned", "angle", -180, 180, 0.0)
    level_from: Literal["hand", "site"] = Field("hand", title="ground level from")
    ground_m: float = measure("ground level", "length", -HIGHEST_M, HIGHEST_M, 0.0)
    fed_by: OptionalId = refer("fed by", "sources", "")
    own_valve: bool = Field(False, title="on a valve of its own")
    opens_with: OptionalId = refer("opens with", "plots", "")
    seedlings: bool = Field(False, title="raising seedlings")
    soil: str = pick("mix", "soils", "raised-mix")
    method: str = Field("dripline", title="watered by")
    mulch: Literal["none", "straw", "chips", "plastic"] = Field("none", title="mulch")
    shade: Literal["none", "tree", "cloth", "panel"] = Field("none", title="shaded by")
    shade_h: float = measure("shade, hours about noon", "hours", 0, 16, 0.0)
    exposure: Literal["sheltered", "open", "windy"] = Field("open", title="wind")
    cover: Literal["open", "glasshouse"] = Field("open", title="stands in the")
    own_l_day: float = measure("you give a day", "volume", 0, 5000, 0.0)
    own_mm_week: float = measure("you give a week", "rain", 0, 200, 0.0)
    drippers: tuple[Dripper, ...] = Field((), max_length=200)
    plantings: tuple[Planting, ...] = Field(min_length=1, max_length=12)

    @model_validator(mode="after")
    def _shares(self) -> PlotBase:
        if sum(p.share for p in self.plantings) > 1.000001:
            raise ValueError(f"{self.name}: the plantings take more than the whole plot")
        return self

    @property
    def main(self) -> Planting:
        """The planting with the largest share."""
        return max(self.plantings, key=lambda p: p.share)


HOLE_MM = 1.5  # the drill that the table's drilled pipe is made with


class Bed(PlotBase):
    """A bed, border or lawn strip, raised by ``rim_m`` or level with the ground.

    ``outline`` gives its shape, drawn out to fill the box; empty for a rectangle. ``rows`` are
    those laid by hand, and count when ``laid`` says so; ``hole_mm`` counts for drilled pipe.
    """

    kind: Literal["bed", "border", "lawn"] = "bed"
    length_m: float = measure("bed length", "length", 0.3, 60)
    width_m: float = measure("bed width", "length", 0.2, 20)
    outline: tuple[Point, ...] = Field((), title="corners", max_length=40,
                                       json_schema_extra={"kind": "outline"})
    rim_m: float = measure("rim height", "length", 0, 1.5, 0.0)
    method: str = pick("watered by", "methods", "dripline")
    layout: Literal["auto", "comb", "loop", "s-curve"] = Field("auto", title="rows laid as")
    hole_mm: float = measure("holes drilled", "bore", 0.8, 6, HOLE_MM)
    laid: Literal["program", "hand"] = Field("program", title="rows laid by")
    rows: tuple[Row, ...] = Field((), max_length=100)

    @model_validator(mode="after")
    def _outline_is_one(self) -> Bed:
        if not self.outline:
            return self
        if len(self.outline) < 3:
            raise ValueError(f"{self.name}: an outline has three corners at least")
        shape = Polygon([(p.x_m, p.y_m) for p in self.outline])
        if not shape.is_valid or shape.area < 1e-3:
            raise ValueError(f"{self.name}: the outline crosses itself or is too thin; give its "
                             "corners in order round the bed")
        return self

    @property
    def breadth_m(self) -> float:
        """Size from south to north."""
        return self.width_m


class Tree(PlotBase):
    """A tree or shrub, or some alike in a row. ``apart_m`` is from trunk to trunk."""

    kind: Literal["tree", "shrub"] = "tree"
    count: int = measure("how many", "count", 1, 60, 1)
    canopy_m: float = measure("canopy across", "length", 0.2, 15, 2.0)
    apart_m: float = measure("trunk to trunk", "length", 0.2, 20, 2.5)
    deep_m: float = measure("canopy deep", "length", 0, 15, 0.0)
    soil: str = pick("soil", "soils", "loam")
    method: Literal["tree-drippers", "tree-ring"] = Field("tree-drippers", title="watered by")

    @property
    def length_m(self) -> float:
        """From the first canopy's edge to the last one's."""
        return self.canopy_m + (self.count - 1) * self.apart_m

    @property
    def breadth_m(self) -> float:
        """Depth of the canopy; an espalier on a wall is flatter than it is wide."""
        return self.deep_m or self.canopy_m


class Pots(PlotBase):
    """Like pots or grow bags in ``in_rows`` rows."""

    kind: Literal["pots", "bags"] = "pots"
    count: int = measure("pots", "count", 1, 100, 1)
    in_rows: int = measure("rows of pots", "count", 1, 20, 1)
    diameter_m: float = measure("pot diameter", "small", 0.08, 1.5, 0.3)
    height_m: float = measure("pot height", "small", 0.08, 1.5, 0.3)
    apart_m: float = measure("gap between pots", "small", 0, 5, POT_GAP_M)
    soil: str = pick("mix", "soils", "potting-mix")
    method: Literal["pot-drippers"] = Field("pot-drippers", title="watered by")

    @property
    def a_row(self) -> int:
        """Pots in the longest row."""
        return -(-self.count // self.in_rows)

    @property
    def length_m(self) -> float:
        """Size from west to east."""
        return self.a_row * (self.diameter_m + self.apart_m) - self.apart_m

    @property
    def breadth_m(self) -> float:
        """Size from south to north."""
        rows = -(-self.count // self.a_row)
        return rows * (self.diameter_m + self.apart_m) - self.apart_m


class Tower(PlotBase):
    """Tower planters in a row: columns of mix with pockets, watered from the top."""

    kind: Literal["tower"] = "tower"
    count: int = measure("towers", "count", 1, 40, 1)
    diameter_m: float = measure("tower diameter", "small", 0.1, 1.2, 0.3)
    height_m: float = measure("tower height", "length", 0.3, 2.5, 1.2)
    plants: int = measure("plants a tower", "count", 1, 100, 20)
    apart_m: float = measure("gap between towers", "small", 0, 5, 0.3)
    soil: str = pick("mix", "soils", "potting-mix")
    method: Literal["tower-drippers"] = Field("tower-drippers", title="watered by")

    @property
    def length_m(self) -> float:
        """Size from west to east."""
        return self.count * (self.diameter_m + self.apart_m) - self.apart_m

    @property
    def breadth_m(self) -> float:
        """Size from south to north."""
        return self.diameter_m


class Wicking(PlotBase):
    """Self-watering: buckets over a gutter, a chain of buckets with a float box, float pots.

    ``water_m`` is the depth that the float valve keeps; ``tube_mm`` the bore of the tube between
    buckets or pots.
    """

    kind: Literal["gutter", "chain", "float-pots"] = "gutter"
    count: int = measure("buckets or pots", "count", 1, 100, 8)
    bucket_l: float = measure("bucket or pot", "volume", 2, 200, 15.0)
    diameter_m: float = measure("bucket diameter", "small", 0.1, 1.2, 0.3)
    height_m: float = measure("bucket height", "small", 0.1, 1.2, 0.3)
    apart_m: float = measure("gap between", "small", 0, 5, 0.1)
    water_m: float = measure("water kept", "small", 0.01, 0.5, 0.05)
    gutter_mm: float = measure("gutter width", "bore", 60, 400, 125.0)
    tube_mm: float = measure("tube between", "bore", 2, 32, 4.0)
    feed_ml_l: float = measure("feed, mL a litre", "ratio", 0, 50, 4.0)
    soil: str = pick("mix", "soils", "potting-mix")
    method: Literal["float-valve"] = Field("float-valve", title="watered by")

    @property
    def length_m(self) -> float:
        """Size from west to east."""
        return self.count * (self.diameter_m + self.apart_m) - self.apart_m

    @property
    def breadth_m(self) -> float:
        """Size from south to north."""
        return self.diameter_m


AnyPlot = Bed | Tree | Pots | Tower | Wicking
Plot = Annotated[AnyPlot, Field(discriminator="kind")]
POTTED = (Pots, Tower, Wicking)
