"""The forms of what is watered: ground, trees, pots, towers and the self-watering rows."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Any, Literal

from pydantic import Field, model_validator
from shapely.geometry import Polygon

from euhydra.core.garden.base import OptionalId, Point, measure, pick, refer
from euhydra.core.garden.plots import PlotBase, Row

POT_GAP_M = 0.08
DRIPPERS = ("plain-", "compensating-", "spray-", "spout-")  # what is put into a pot or a tower
MOST_DRIPPERS = 8
HOLE_MM = 1.5  # the drill that the table's drilled pipe is made with


def fitting(room_m: float, each_m: float, apart_m: float) -> int:
    """How many fit in a row, one at least."""
    return max(1, int((room_m + apart_m) / (each_m + apart_m) + 1e-6))


class Bed(PlotBase):
    """A bed, border or lawn strip, raised by ``rim_m`` or level with the ground.

    ``outline`` gives its shape, drawn out to fill the box; empty for a rectangle. ``rows`` are
    those laid by hand, and count when ``laid`` says so; ``hole_mm`` counts for drilled pipe. Lines
    with outlets built in are laid with the spacing sold that is nearest to ``openings_m``. The
    ``end`` of a drilled pipe is shut, as that of any row, or left open. A soaker hose goes
    on from that of the bed ``after`` which it comes, and opens with it.
    """

    own_measures = ("length_m", "width_m", "outline", "rim_m")

    kind: Literal["bed", "border", "lawn"] = "bed"
    length_m: float = measure("bed length", "length", 0.3, 60)
    width_m: float = measure("bed width", "length", 0.2, 20)
    outline: tuple[Point, ...] = Field((), title="corners", max_length=40,
                                       json_schema_extra={"kind": "outline"})
    rim_m: float = measure("rim height", "length", 0, 1.5, 0.0)
    method: str = pick("watered by", "methods", "dripline")
    layout: Literal["auto", "comb", "loop", "s-curve"] = Field("auto", title="rows laid as")
    apart_m: float = measure("rows apart (0: by plants and soil)", "small", 0, 3, 0.0)
    openings_m: float = measure("openings every (0: as usual)", "small", 0, 2, 0.0)
    hole_mm: float = measure("holes drilled", "bore", 0.8, 6, HOLE_MM)
    end: Literal["shut", "open"] = Field("shut", title="its pipes' far ends")
    after: OptionalId = refer("its hose goes on from", "plots", "")
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

    @property
    def outlets_up_m(self) -> float:
        """On the soil, at the rim."""
        return self.rim_m

    @property
    def put_with(self) -> str:
        """The bed that its hose goes on from, before any that it is put with otherwise."""
        return self.after or self.opens_with


class Tree(PlotBase):
    """A tree or shrub, or some alike in a row. ``apart_m`` is from trunk to trunk."""

    own_measures = ("count", "canopy_m", "apart_m", "deep_m")

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

    def filling(self, long_m: float, wide_m: float) -> dict[str, Any]:
        """One canopy as wide as the narrower side."""
        across = round(min(max(min(long_m, wide_m), 0.2), 15), 3)
        return {"canopy_m": across, "deep_m": 0.0, "count": 1}


class Holder(PlotBase):
    """Like vessels in a row; what their fields are is each form's own."""

    if TYPE_CHECKING:
        count: int
        compost: float
        diameter_m: float
        height_m: float
        apart_m: float

    @property
    def length_m(self) -> float:
        """Size from west to east."""
        return self.count * (self.diameter_m + self.apart_m) - self.apart_m

    @property
    def breadth_m(self) -> float:
        """Size from south to north."""
        return self.diameter_m

    @property
    def outlets_up_m(self) -> float:
        """At the rim."""
        return self.height_m

    def filling(self, long_m: float, wide_m: float) -> dict[str, Any]:
        """So many as fit along the longer side."""
        count = fitting(max(long_m, wide_m), self.diameter_m, self.apart_m)
        return {"count": min(count, 40), "turn_deg": 0.0}


class Pots(Holder):
    """Like pots or grow bags in ``in_rows`` rows; so many drippers in ``each``."""

    own_measures = ("count", "in_rows", "diameter_m", "height_m", "apart_m", "dripper", "each")

    kind: Literal["pots", "bags"] = "pots"
    count: int = measure("pots", "count", 1, 100, 1)
    in_rows: int = measure("rows of pots", "count", 1, 20, 1)
    diameter_m: float = measure("pot diameter", "small", 0.08, 1.5, 0.3)
    height_m: float = measure("pot height", "small", 0.08, 1.5, 0.3)
    apart_m: float = measure("gap between pots", "small", 0, 5, POT_GAP_M)
    soil: str = pick("mix", "soils", "potting-mix")
    compost: float = measure("own compost in the mix", "share", 0, 1, 0.0)
    dripper: str = pick("dripper in a pot", "outlets", "plain-2", only=DRIPPERS)
    each: int = measure("drippers a pot (0: by its size)", "count", 0, MOST_DRIPPERS, 0)
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

    def filling(self, long_m: float, wide_m: float) -> dict[str, Any]:
        """So many as fit along both sides."""
        a_row, rows = (fitting(side, self.diameter_m, self.apart_m) for side in (long_m, wide_m))
        return {"count": min(a_row * rows, 100), "in_rows": min(rows, 20)}


class Tower(Holder):
    """Tower planters in a row: columns of mix with pockets, watered from the top."""

    own_measures = ("count", "diameter_m", "height_m", "plants", "apart_m", "dripper", "each")

    kind: Literal["tower"] = "tower"
    count: int = measure("towers", "count", 1, 40, 1)
    diameter_m: float = measure("tower diameter", "small", 0.1, 1.2, 0.3)
    height_m: float = measure("tower height", "length", 0.3, 2.5, 1.2)
    plants: int = measure("plants a tower", "count", 1, 100, 20)
    apart_m: float = measure("gap between towers", "small", 0, 5, 0.3)
    soil: str = pick("mix", "soils", "potting-mix")
    compost: float = measure("own compost in the mix", "share", 0, 1, 0.0)
    dripper: str = pick("outlet of a tower", "outlets", "plain-4", only=DRIPPERS)
    each: int = measure("outlets a tower", "count", 1, MOST_DRIPPERS, 2)
    method: Literal["tower-drippers"] = Field("tower-drippers", title="watered by")


class Wicking(Holder):
    """Self-watering: buckets over a gutter, a chain of buckets with a float box, float pots.

    ``water_m`` is the depth that the float valve keeps; ``tube_mm`` the bore of the tube between
    buckets or pots.
    """

    own_measures = ("count", "bucket_l", "diameter_m", "height_m", "apart_m", "water_m",
                    "gutter_mm", "tube_mm", "feed_ml_l")

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
    compost: float = measure("own compost in the mix", "share", 0, 1, 0.0)
    method: Literal["float-valve"] = Field("float-valve", title="watered by")

    @property
    def outlets_up_m(self) -> float:
        """At the water that the float valve keeps."""
        return self.water_m


AnyPlot = Bed | Tree | Pots | Tower | Wicking
Plot = Annotated[AnyPlot, Field(discriminator="kind")]
