"""Where the water comes from: roofs, drains, taps and wells."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field, model_validator
from shapely.geometry import Polygon

from euhydra.core.garden.base import (
    HIGHEST_M,
    MonthDay,
    OptionalId,
    Point,
    Thing,
    day,
    measure,
    pick,
    refer,
)
from euhydra.core.garden.stores import Store

DRUM_WIDTH = 0.59  # of its height, as a common 210 L drum, from memory
DRUM_SHELL_KG, COMMON_DRUM_L = 10.0, 210.0  # of plastic, from memory


class Downspout(Thing):
    """A pipe down from a gutter: its part of the roof's water, and the store it is led to.

    ``to`` is empty where the water goes elsewhere. A ``restrictor_l_h`` of 0 is none.
    """

    along_m: float = measure("place along the gutter", "length", 0, 60, 0.0)
    bore_mm: float = measure("downspout bore", "bore", 25, 200, 65)
    share: float = measure("share of the roof's water", "share", 0, 1, 1.0)
    to: OptionalId = refer("leads to", "stores", "")
    diverter_mm: float = measure("bore of the hose to the store", "bore", 10, 200, 40)
    restrictor_l_h: float = measure("restrictor lets through", "flow", 0, 20000, 0.0)


class Roof(Thing):
    """A roof in plan: a rectangle from its south-west corner, or an outline when one is given.

    Its gutter is its own, or runs on into that of another roof.
    """

    corner: Point
    width_m: float = measure("roof length", "length", 0.3, 60)
    depth_m: float = measure("roof width", "length", 0.3, 60)
    outline: tuple[Point, ...] = Field((), max_length=40, title="outline, if no rectangle",
                                       json_schema_extra={"kind": "outline"})
    over: Literal["building", "posts"] = Field("building", title="stands over")
    eave_m: float = measure("eave height", "length", 0.5, 20, 2.4)
    material: str = pick("roof material", "roof_materials")
    gutter_mm: float = measure("gutter width", "bore", 50, 300, 115)
    gutter_of: OptionalId = refer("shares the gutter of", "roofs", "")
    guard: str = pick("gutter guard", "guards", "none")
    own_runoff: float = measure("comes of its rain (0: by its material)", "share", 0, 1, 0.0)
    first_flush_mm: float = measure("first flush", "depth", 0, 5, 0.3)
    flush_days: float = measure("dry days until the flush is due in full", "days", 1, 14, 1)
    downspouts: tuple[Downspout, ...] = Field(min_length=1, max_length=8)

    @property
    def area_m2(self) -> float:
        """Plan area: what the rain falls on, whatever the slope."""
        if self.outline:
            return float(Polygon([(p.x_m, p.y_m) for p in self.outline]).area)
        return self.width_m * self.depth_m

    @model_validator(mode="after")
    def _shares(self) -> Roof:
        if sum(d.share for d in self.downspouts) > 1.000001:
            raise ValueError(f"{self.name}: the downspouts take more than the roof's whole water")
        if 0 < len(self.outline) < 3:
            raise ValueError(f"{self.name}: an outline has three corners at least")
        if self.outline and not Polygon([(p.x_m, p.y_m) for p in self.outline]).is_valid:
            raise ValueError(f"{self.name}: the outline crosses itself; give its corners in order "
                             "round the roof")
        return self


class Basin(Thing):
    """A mulch basin: a hollow filled with wood chips round a tree or shrubs."""

    corner: Point
    length_m: float = measure("basin length", "length", 0.3, 20)
    width_m: float = measure("basin width", "length", 0.3, 20)
    depth_m: float = measure("mulch depth", "small", 0.1, 0.6, 0.3)
    crop: str = pick("what grows there", "crops", "bush-fruit")
    planted: MonthDay = day("in leaf from", "04-14", min_length=5)


Uses = Annotated[int, Field(ge=0, le=20, json_schema_extra={"kind": "count"})]


class Drain(Thing):
    """A laundry or another drain whose water is used again. ``uses`` is by weekday from Monday.

    ``school`` says how: led straight to mulch basins, or into a surge drum that lines draw from as
    from a store. Its outlet stands ``drum_outlet_m`` above the drum's base.
    """

    at: Point
    level_from: Literal["hand", "site"] = Field("hand", title="ground level from")
    ground_m: float = measure("ground level", "length", -HIGHEST_M, HIGHEST_M, 0.0)
    fixture: Literal["laundry", "bath", "basin"] = Field("laundry", title="drains a")
    litres_a_use: float = measure("litres a use", "volume", 1, 400, 70)
    use_min: float = measure("a use runs out in", "minutes", 1, 120, 10)
    uses: tuple[Uses, ...] = Field((1, 0, 0, 1, 0, 0, 0), title="uses", min_length=7, max_length=7)
    bedrooms: int = measure("bedrooms", "count", 1, 12, 2)
    product: Literal["plain", "salty", "bleach", "nappies"] = Field("plain", title="washed with")
    way_back: bool = Field(True, title="valve back to the sewer")
    school: Literal["basins", "drum"] = Field("basins", title="led")
    soil: str = pick("soil there", "soils", "loam")
    drum_l: float = measure("drum volume", "volume", 20, 1000, 200)
    drum_lid: bool = Field(True, title="drum shut tight")
    stand_m: float = measure("stand height", "length", 0, 3, 0.0)
    feed_ml_l: float = measure("feed in its water, mL a litre (0: none)", "ratio", 0, 50, 0.0)
    drum_outlet_m: float = measure("outlet above the drum's base", "small", 0, 0.3, 0.05)
    basins: tuple[Basin, ...] = Field((), max_length=8)

    @property
    def drum(self) -> Store:
        """The drum as a store that lines and a pump draw from."""
        share = self.drum_l / COMMON_DRUM_L
        height = (self.drum_l / 1000 * 4 / math.pi / DRUM_WIDTH**2) ** (1 / 3)
        return Store(id=self.id, name=self.name, at=self.at, ground_m=self.ground_m,
                     volume_l=self.drum_l, height_m=round(height, 3), stand_m=self.stand_m,
                     outlet_m=self.drum_outlet_m, feed_ml_l=self.feed_ml_l,
                     lid_locked=self.drum_lid,
                     shell_kg=round(DRUM_SHELL_KG * share ** (2 / 3), 1))


class Standpipe(Thing):
    """Where water comes under pressure, known by a gauge and a bucket.

    A ``regulator_kpa`` of 0 is none.
    """

    at: Point
    level_from: Literal["hand", "site"] = Field("hand", title="ground level from")
    ground_m: float = measure("ground level", "length", -HIGHEST_M, HIGHEST_M, 0.0)
    height_m: float = measure("tap above the ground", "length", 0, 3, 0.5)
    tops_up: OptionalId = refer("its water goes to", "stores", "")
    static_kpa: float = measure("pressure, shut", "pressure", 20, 1200, 300)
    bucket_l: float = measure("bucket", "drop", 1, 60, 10)
    bucket_s: float = measure("seconds to fill it", "seconds", 1, 1200, 40)
    regulator_kpa: float = measure("regulator set to (0: none)", "pressure", 0, 600, 170)
    backflow: bool = Field(False, title="backflow preventer fitted")


class Tap(Standpipe):
    """A house tap: it tops a store up through an air gap, or feeds lines if it names none."""


class Well(Standpipe):
    """A well with its pump: it fills a store, or feeds lines itself if it names none.

    What it gives in a day is what comes back into it. With a ``share`` above 0 it gives so much of
    each draw on its store, as long as it has it; else what the store has not.
    """

    static_kpa: float = measure("pressure, shut", "pressure", 20, 1200, 280)
    bucket_s: float = measure("seconds to fill it", "seconds", 1, 1200, 60)
    share: float = measure("gives of each draw (0: only what the store has not)", "share", 0, 1,
                           0.0)
    recovery_l_h: float = measure("comes back", "flow", 0, 20000, 100)
    standing_l: float = measure("stands in the well", "volume", 0, 50000, 300)
    temperature_c: float = measure("water temperature", "temperature", 0, 40, 11)
    hours: float = measure("hours a day it is drawn from", "hours", 0.5, 24, 8)
