"""A gardener's own picture under the ground plan: a sketch, a plan, a view from above."""

from __future__ import annotations

from pydantic import Field, model_validator

from euhydra.core.garden.base import Part, Point, measure

LARGEST_PX = 1600
MOST_WIDE_M = 4000.0
MOST_CUT = 0.95


class Sketch(Part):
    """A picture in its place on the site grid.

    ``picture`` names it by its content. It is turned about its middle, ``at``; ``wide_m`` is what
    it shows from its left to its right side. What is cut off is a share of that side, before it
    is turned.
    """

    picture: str = Field(pattern=r"^[0-9a-f]{16}$")
    width_px: int = Field(ge=1, le=LARGEST_PX)
    height_px: int = Field(ge=1, le=LARGEST_PX)
    at: Point
    wide_m: float = measure("picture shows from side to side", "length", 0.2, MOST_WIDE_M, 20.0)
    turn_deg: float = measure("picture turned", "angle", -180, 180, 0.0)
    faded: float = measure("picture faded by", "share", 0, 0.95, 0.4)
    cut_left: float = measure("cut off its left", "share", 0, 0.9, 0.0)
    cut_right: float = measure("cut off its right", "share", 0, 0.9, 0.0)
    cut_top: float = measure("cut off its top", "share", 0, 0.9, 0.0)
    cut_bottom: float = measure("cut off its bottom", "share", 0, 0.9, 0.0)
    on_paper: bool = Field(False, title="picture on paper too")

    @property
    def tall_m(self) -> float:
        """What it shows from top to bottom."""
        return self.wide_m * self.height_px / self.width_px

    @model_validator(mode="after")
    def _something_is_left(self) -> Sketch:
        if self.cut_left + self.cut_right > MOST_CUT or self.cut_top + self.cut_bottom > MOST_CUT:
            raise ValueError("nothing would be left of the picture: cut less off")
        return self
