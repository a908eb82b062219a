"""Where the garden is: its climate, soil, frosts and spot heights."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from euhydra.core.garden.base import (
    HIGHEST_M,
    MonthDay,
    Name,
    Note,
    Part,
    Point,
    Thing,
    day,
    measure,
    pick,
)

MOST_RAIN_A_WET_DAY_MM = 200.0
FARTHEST_DEG = 72.0

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


class Spot(Thing):
    """A spot height: the ground's level at a place."""

    at: Point
    level_m: float = measure("level", "length", -HIGHEST_M, HIGHEST_M, 0.0)


class Site(Part):
    """Where the garden is. ``record`` names a daily weather record; empty when there is none."""

    place: Name = Field("My garden", title="place")
    latitude_deg: float = measure("latitude", "latitude", -FARTHEST_DEG, FARTHEST_DEG)
    altitude_m: float = measure("altitude", "length", -400, 5000, 0.0)
    climate: Climate
    seed: int = Field(1, ge=0, le=2**31 - 1, title="seed", json_schema_extra={"kind": "count"})
    years: int = measure("years to generate", "count", 5, 100, 30)
    soil: str = pick("soil", "soils", "loam")
    last_frost: MonthDay = day("last frost", "")
    first_frost: MonthDay = day("first frost", "")
    local_rules: Note = Field("", title="notes on local rules")
    record: str = Field("", max_length=64, pattern=r"^([0-9a-f]{16})?$")
    reckon_with: Literal["normals", "record"] = Field("normals", title="reckon with")
    spots: tuple[Spot, ...] = Field((), max_length=40)
    lie: Literal["terraces", "slope"] = Field("terraces", title="the ground between")
