"""The picture under the ground plan: put there, moved, scaled by a length, taken away."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

from euhydra.core.editing.placement import extent
from euhydra.core.editing.trees import EditRefused, checked_whole
from euhydra.core.garden.base import EDGE_M
from euhydra.core.garden.model import Garden
from euhydra.core.garden.sketch import MOST_WIDE_M, Sketch
from euhydra.core.library import Library
from euhydra.core.terrain.geometry import XY

LEAST_APART_M, LEAST_WIDE_M = 0.05, 5.0
CUTS = ("cut_left", "cut_right", "cut_top", "cut_bottom")
NO_PICTURE = "There is no picture under this plan."


@dataclass(frozen=True)
class LaySketch:
    """Lay a picture under the plan, its middle on the garden's, as wide as that; or put one in the
    place of the picture that lies there.
    """

    picture: str
    width_px: int
    height_px: int

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden on that picture."""
        values: dict[str, Any] = {"picture": self.picture, "width_px": self.width_px,
                                     "height_px": self.height_px}
        if garden.sketch:
            return _with(garden, values | dict.fromkeys(CUTS, 0.0))
        west, south, east, north = extent(garden)
        wide = max(east - west, (north - south) * self.width_px / self.height_px, LEAST_WIDE_M)
        return _with(garden, values | {
            "at": {"x_m": (west + east) / 2, "y_m": (south + north) / 2}, "wide_m": wide})


@dataclass(frozen=True)
class MoveSketch:
    """Move the picture so far, m."""

    east_m: float
    north_m: float

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with it there. Raises :class:`EditRefused` without one."""
        lies = _sketch(garden).at
        return _with(garden, {"at": {"x_m": lies.x_m + self.east_m,
                                     "y_m": lies.y_m + self.north_m}})


@dataclass(frozen=True)
class ScaleSketch:
    """Scale the picture so that two places on it, as it lies now, are ``true_m`` apart.

    The first of them stays where it is.
    """

    a: XY
    b: XY
    true_m: float

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with it so. Raises :class:`EditRefused` where the two are one place."""
        sketch, apart = _sketch(garden), math.dist(self.a, self.b)
        if apart < LEAST_APART_M:
            raise EditRefused("Measure between two places on the picture first, well apart: the "
                              "Measure tool, from one to the other.")
        grows, at = self.true_m / apart, sketch.at
        return _with(garden, {
            "wide_m": sketch.wide_m * grows,
            "at": {"x_m": self.a[0] + (at.x_m - self.a[0]) * grows,
                   "y_m": self.a[1] + (at.y_m - self.a[1]) * grows}})


@dataclass(frozen=True)
class TakeSketch:
    """Take the picture away."""

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden without it."""
        _sketch(garden)
        return garden.model_copy(update={"sketch": None})


def _sketch(garden: Garden) -> Sketch:
    if garden.sketch is None:
        raise EditRefused(NO_PICTURE)
    return garden.sketch


def _with(garden: Garden, values: dict[str, Any]) -> Garden:
    at, wide = values.get("at", {}), values.get("wide_m", 1.0)
    if wide > MOST_WIDE_M or any(abs(place) > EDGE_M for place in at.values()):
        raise EditRefused(f"The picture would reach too far off the plan: its middle lies within "
                          f"{EDGE_M:g} m of the datum, and it is up to {MOST_WIDE_M:g} m wide.")
    lies = garden.sketch.model_dump() if garden.sketch else {}
    return checked_whole(garden.model_dump() | {"sketch": lies | values})
