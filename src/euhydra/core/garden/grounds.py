"""What lines cross or go round: paths, buildings and walls."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from euhydra.core.garden.base import Point, Thing, measure


class Path(Thing):
    """A path or paving strip along a course; pipe crosses it blank, in a sleeve."""

    course: tuple[Point, ...] = Field(title="corners", min_length=2, max_length=40,
                                      json_schema_extra={"kind": "outline"})
    width_m: float = measure("path width", "length", 0.2, 10, 0.8)
    surface: Literal["paving", "gravel", "grass", "earth"] = Field("paving", title="surface")


class Building(Thing):
    """A building or wall in plan; no pipe goes through it. Turned about its middle."""

    kind: Literal["building", "wall"] = "building"
    corner: Point
    length_m: float = measure("length", "length", 0.1, 100)
    width_m: float = measure("width", "length", 0.05, 100)
    turn_deg: float = measure("turned", "angle", -180, 180, 0.0)

    @property
    def breadth_m(self) -> float:
        """Size from south to north, before it is turned."""
        return self.width_m
