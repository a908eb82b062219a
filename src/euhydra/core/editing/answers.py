"""What First pour asks: what a person has, what they water, how they do it today."""

from __future__ import annotations

from typing import Literal, get_args

from pydantic import Field

from euhydra.core.garden.model import Climate, Name, Part, measure, pick
from euhydra.core.garden.site import FARTHEST_DEG
from euhydra.core.garden.today import Today

Water = Literal["roof", "tap", "laundry", "well", "tank"]
Watered = Literal["beds", "border", "trees", "pots", "towers", "gutter", "chain", "float-pots",
                  "lawn"]
Feeds = Literal["all", "beds", "rest"]
Fixture = Literal["laundry", "bath", "basin"]
Group = Literal["leafy", "fruiting", "roots", "legumes", "berries", "flowers"]
WATERS: tuple[Water, ...] = get_args(Water)
WATERED: tuple[Watered, ...] = get_args(Watered)
GROUPS: tuple[Group, ...] = get_args(Group)


class BedAnswer(Part):
    """Beds that are alike, so far under the ground that the others lie on."""

    count: int = measure("beds", "count", 1, 12, 1)
    length_m: float = measure("bed length", "length", 0.3, 60)
    width_m: float = measure("bed width", "length", 0.2, 20)
    group: Group = Field(title="crop group")
    lower_m: float = measure("lower by", "length", -10, 10, 0.0)


class RoofAnswer(Part):
    """Another roof that is led to the same barrels, of the same material."""

    length_m: float = measure("roof length", "length", 0.3, 60)
    width_m: float = measure("roof width", "length", 0.3, 60)


class StoreAnswer(Part):
    """More barrels of another size, beside the first and level with them by a siphon."""

    volume_l: float = measure("barrel volume", "volume", 10, 20000)
    count: int = measure("barrels", "count", 1, 24, 1)


class Strip(Part):
    """A border or a lawn strip."""

    length_m: float = measure("length", "length", 0.3, 60)
    width_m: float = measure("width", "length", 0.2, 20)


class Answers(Part):
    """All that First pour asks. What is of a water or a plant that is not there does not count.

    ``waters`` are those that are there; a laundry by itself is led into a drum, which feeds all
    lines; beside other water it feeds all, the beds, or the rest. What is watered is there where
    it has a size or a number above 0. A tap that is there beside a roof or well fills in for their
    barrels, or feeds the pots or all lines itself (``tap_feeds``). A well fills barrels, or its
    pump feeds lines itself: beside other water all, the beds, or the rest.
    """

    name: Name = Field(title="garden name")
    units: Literal["metric", "us"] = "metric"
    latitude_deg: float = measure("latitude", "latitude", -FARTHEST_DEG, FARTHEST_DEG)
    climate: Climate
    waters: tuple[Water, ...] = ("roof",)
    roof_width_m: float = measure("roof length", "length", 0.3, 60, 5.0)
    roof_depth_m: float = measure("roof width", "length", 0.3, 60, 3.0)
    roof_material: str = pick("roof material", "roof_materials", "metal")
    roofs: tuple[RoofAnswer, ...] = Field((), max_length=2)
    barrel_l: float = measure("barrel volume", "volume", 10, 20000, 210.0)
    barrels: int = measure("barrels", "count", 1, 24, 2)
    stand_m: float = measure("stand height", "length", 0, 3, 0.4)
    stores: tuple[StoreAnswer, ...] = Field((), max_length=2)
    well_l_h: float = measure("well comes back", "flow", 1, 20000, 100.0)
    well_led: Literal["stores", "lines"] = "stores"
    well_bucket_l: float = measure("bucket", "volume", 1, 60, 10.0)
    well_bucket_s: float = measure("seconds to fill it", "seconds", 1, 1200, 60.0)
    well_feeds: Feeds = "all"
    tank_l: float = measure("tank volume", "volume", 10, 20000, 47.0)
    tank_stand_m: float = measure("tank's stand height", "length", 0, 3, 0.25)
    bucket_l: float = measure("bucket", "volume", 1, 60, 10.0)
    bucket_s: float = measure("seconds to fill it", "seconds", 1, 1200, 40.0)
    tap_feeds: Literal["stores", "pots", "lines"] = "stores"
    fixture: Fixture = "laundry"
    washes: int = measure("washes a week", "count", 1, 14, 2)
    wash_l: float = measure("litres a wash", "volume", 1, 400, 70.0)
    laundry_led: Literal["basins", "drum"] = "basins"
    basins: int = measure("bushes or trees that drink it", "count", 1, 8, 2)
    drum_l: float = measure("drum volume", "volume", 20, 1000, 200.0)
    drum_feeds: Feeds = "all"
    fall_m: float = measure("fall to the beds", "length", -10, 20, 0.5)
    distance_m: float = measure("distance to the beds", "length", 0.5, 80, 4.0)
    method: Literal["soaker", "dripline", "drippers"] = Field("dripline", title="watered by")
    beds: tuple[BedAnswer, ...] = Field((), max_length=12)
    border: Strip | None = None
    lawn: Strip | None = None
    trees: int = measure("trees or shrubs", "count", 0, 60, 0)
    canopy_m: float = measure("canopy across", "length", 0.2, 15, 1.5)
    pots: int = measure("pots", "count", 0, 60, 0)
    pot_diameter_m: float = measure("pot diameter", "small", 0.08, 1.5, 0.3)
    towers: int = measure("towers", "count", 0, 40, 0)
    gutters: int = measure("gutters", "count", 0, 6, 0)
    buckets: int = measure("buckets a gutter", "count", 1, 20, 8)
    chain: int = measure("buckets in the chain", "count", 0, 40, 0)
    float_pots: int = measure("pots on float valves", "count", 0, 100, 0)
    today: Today = Today()

    @property
    def has_barrels(self) -> bool:
        """Whether water is stored in barrels: that of a roof, or what a well brings up."""
        return "roof" in self.waters or self.well_fills

    @property
    def well_fills(self) -> bool:
        """Whether a well fills barrels."""
        return "well" in self.waters and self.well_led == "stores"

    @property
    def has_drum(self) -> bool:
        """Whether a laundry runs into a drum that feeds lines: by itself it does."""
        return "laundry" in self.waters and (
            self.laundry_led == "drum" or tuple(self.waters) == ("laundry",))

    @property
    def tap_fills(self) -> bool:
        """Whether a tap fills in for the barrels."""
        return "tap" in self.waters and self.has_barrels and self.tap_feeds == "stores"
