"""What all that is watered has: plantings, a place, soil, drippers put in by hand."""

from __future__ import annotations

from typing import Any, ClassVar, Literal

from pydantic import Field, model_validator

from euhydra.core.garden.base import (
    HIGHEST_M,
    Id,
    Month,
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
    """A dripper put in by hand on its own quarter-inch tube, in the plot's own frame.

    More than one are a sub-line: ``count`` along the plot from there, ``apart_m`` one from the
    next.
    """

    id: Id
    along_m: float = measure("dripper along", "length", 0, 60)
    across_m: float = measure("dripper across", "length", 0, 20)
    kind: str = pick("dripper", "outlets", "plain-2", only="plain-")
    count: int = measure("drippers on this tube", "count", 1, 20, 1)
    apart_m: float = measure("from one to the next", "small", 0.05, 2, 0.3)
    pinned: bool = Field(False, title="pinned")


class PlotBase(Thing):
    """Anything watered. Its box, ``length_m`` by ``breadth_m``, is turned about its middle.

    ``corner`` is the south-west corner of the box before it is turned. ``opens_with`` names a plot
    whose zone it was put in by hand. What a drain's drum feeds may have a tap of its own, open
    ``open_in`` some months, () for all. One that is ``watered`` with cans or a hose has no lines.
    ``own_measures`` are the fields that give its size.
    """

    own_measures: ClassVar[tuple[str, ...]] = ()
    corner: Point
    turn_deg: float = measure("turned", "angle", -180, 180, 0.0)
    level_from: Literal["hand", "site"] = Field("hand", title="ground level from")
    ground_m: float = measure("ground level", "length", -HIGHEST_M, HIGHEST_M, 0.0)
    fed_by: OptionalId = refer("water from", "sources", "")
    open_in: tuple[Month, ...] = Field((), max_length=12, title="its tap is open in",
                                       json_schema_extra={"kind": "months"})
    own_valve: bool = Field(False, title="on a valve of its own")
    opens_with: OptionalId = refer("watered together with", "plots", "")
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
    own_min_day: float = measure("you run it a day", "minutes", 0, 720, 0.0)
    run_by: Literal["weather", "own"] = Field("weather", title="is run by")
    watered: Literal["lines", "can", "hose"] = Field("lines", title="is watered with")
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

    @property
    def outlets_up_m(self) -> float:
        """How high over the ground its outlets stand."""
        return 0.0

    @property
    def put_with(self) -> str:
        """The plot that it was put with by hand, "" for none."""
        return self.opens_with

    def filling(self, long_m: float, wide_m: float) -> dict[str, Any]:
        """The measures with which it fills a rectangle, from west to east and south to north."""
        return {"length_m": long_m, "width_m": wide_m}
