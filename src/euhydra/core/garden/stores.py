"""What holds the water and where it goes when that is full: stores, joints, hollows."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from euhydra.core.garden.base import HIGHEST_M, Id, Point, Thing, measure, pick, refer

LINK_M = 0.6  # a link between barrels that stand side by side
OverflowGoal = Literal["nowhere", "border", "rain-garden", "drain", "neighbour"]


class Store(Thing):
    """A bank of like vessels, bottom-linked, on one stand. Heights are above the vessel's base.

    ``height_m`` is the diameter of a lying cylinder. ``overflow_down_m`` is under the rim. With a
    ``merged_mm`` above 0 its downspouts merge whole into one pipe, ``merged_m`` long to the store;
    else each has its diverter. That pipe's first flush may be a buried chamber.
    """

    at: Point
    level_from: Literal["hand", "site"] = Field("hand", title="ground level from")
    ground_m: float = measure("ground level", "length", -HIGHEST_M, HIGHEST_M, 0.0)
    shape: Literal["upright", "box", "lying"] = Field("upright", title="shape")
    volume_l: float = measure("volume of each", "volume", 10, 20000)
    count: int = measure("number", "count", 1, 24, 1)
    height_m: float = measure("height", "length", 0.2, 4)
    stand_m: float = measure("stand height", "length", 0, 3, 0.3)
    outlet_m: float = measure("outlet above its base", "small", 0, 1, 0.08)
    hand_filled: bool = Field(False, title="filled by hand")
    refill_at: float = measure("filled again at", "share", 0.02, 0.95, 0.333)
    leak_l_day: float = measure("loses a day (0: nothing)", "daily", 0, 2000, 0.0)
    hose_m: float = measure("hose outlet (0: none)", "small", 0, 2, 0.0)
    merged_mm: float = measure("one pipe for its downspouts (0: a diverter each)", "bore", 0, 200,
                               0.0)
    merged_m: float = measure("length of that pipe", "length", 0.5, 100, 5.0)
    flush_buried: bool = Field(False, title="first flush buried, one for all")
    overflow_down_m: float = measure("overflow under the rim", "small", 0, 0.5, 0.0)
    overflow_mm: float = measure("overflow bore", "bore", 10, 200, 50)
    overflow_to: OverflowGoal = Field("border", title="overflow goes to")
    linked: Literal["link", "siphon"] = Field("link", title="joined by")
    link_mm: float = measure("bore of its links", "bore", 8, 150, 25)
    intake: Literal["bottom", "floating"] = Field("bottom", title="intake")
    feed_ml_l: float = measure("feed in its water, mL a litre (0: none)", "ratio", 0, 50, 0.0)
    shell_kg: float = measure("empty weight", "mass", 0, 2000, 10)
    footing: Literal["soil", "paving", "deck"] = Field("soil", title="stands on")
    buried: bool = Field(False, title="buried")
    indoors: bool = Field(False, title="stands indoors, free of frost")
    burial_rated: bool = Field(False, title="rated for burial")
    lid: Literal["plain", "planter"] = Field("plain", title="lid")
    lid_locked: bool = Field(True, title="lid locked")
    screened: bool = Field(True, title="openings screened")

    @property
    def merges(self) -> bool:
        """Whether its downspouts merge into one pipe."""
        return self.merged_mm > 0

    @property
    def link_m(self) -> float:
        """How long what joins two of its barrels is; a siphon goes over both rims."""
        return LINK_M + (2 * self.height_m if self.linked == "siphon" else 0.0)

    @model_validator(mode="after")
    def _outlet_within(self) -> Store:
        full = self.height_m - self.overflow_down_m
        if self.outlet_m >= full:
            raise ValueError(f"the outlet at {self.outlet_m:g} m is not below the overflow at "
                             f"{full:g} m")
        if self.hose_m >= full:
            raise ValueError(f"the hose outlet at {self.hose_m:g} m is not below the overflow at "
                             f"{full:g} m")
        return self


class Joint(Thing):
    """What joins two stores. Its ends stand ``end_m`` above the base of each.

    A link and a siphon let levels meet; an overflow carries what spills from ``a`` to ``b``; a
    float valve fills ``b`` from ``a`` as it is drawn.
    """

    kind: Literal["link", "siphon", "overflow", "float"] = Field(title="joined by")
    a: Id = refer("from", "stores")
    b: Id = refer("to", "stores")
    bore_mm: float = measure("bore", "bore", 4, 150, 25)
    length_m: float = measure("length", "length", 0.05, 100, 1.0)
    end_m: float = measure("ends above the base", "small", 0, 1, 0.05)


class RainGarden(Thing):
    """A planted hollow that takes an overflow and lets it soak away."""

    corner: Point
    length_m: float = measure("rain garden length", "length", 0.3, 40)
    width_m: float = measure("rain garden width", "length", 0.3, 20)
    depth_m: float = measure("hollow depth", "small", 0.05, 0.6, 0.15)
    soil: str = pick("soil there", "soils", "loam")


class WetArea(Thing):
    """Ground that floods: its size, how deep, and where the water could lawfully go."""

    corner: Point
    length_m: float = measure("length", "length", 0.5, 100)
    width_m: float = measure("width", "length", 0.5, 100)
    flood_m: float = measure("flood depth", "small", 0.01, 1, 0.05)
    months: float = measure("months a year under water", "ratio", 0, 12, 2)
    soil: str = pick("soil there", "soils", "clay")
    fall_m: float = measure("fall to the outfall", "length", -20, 20, 0.0)
    outfall_m: float = measure("way to the outfall", "length", 1, 500, 30)
    outfall: Literal["unknown", "own-ground", "ditch", "storm-drain", "sewer", "neighbour"] = Field(
        "unknown", title="outfall")
    drain_days: float = measure("to be dry within", "days", 0.25, 14, 2)
