"""What is watered."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from euhydra.core.garden.base import (
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


class Planting(Part):
    """A crop in a plot. ``planted`` is month-day; ``share`` is its part of the plot's area."""

    id: Id
    crop: str = pick("crop", "crops")
    planted: MonthDay = day("planted", "04-15", min_length=5)
    share: float = Field(1.0, gt=0, le=1)


class PlotBase(Thing):
    """Anything watered."""

    corner: Point
    level_from: Literal["hand", "site"] = Field("hand", title="ground level from")
    ground_m: float = measure("ground level", "length", -30, 30, 0.0)
    fed_by: OptionalId = refer("fed by", "sources", "")
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
