"""The lie of the land: a level for every place, from the spot heights."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray
from scipy.interpolate import LinearNDInterpolator, NearestNDInterpolator
from scipy.spatial import QhullError

from euhydra.core.garden.base import HIGHEST_M
from euhydra.core.garden.model import (
    AnyPlot,
    Bed,
    Drain,
    Garden,
    Point,
    Pots,
    Site,
    Store,
    Tap,
    Tower,
    Tree,
    Well,
    Wicking,
)

Placed = TypeVar("Placed", Store, Tap, Well, Drain, Bed, Tree, Pots, Tower, Wicking, AnyPlot)


class OffLevel(ValueError):
    """The spot heights put a thing's ground past the levels a garden has."""

    def __init__(self, name: str, level_m: float) -> None:
        super().__init__(f"the ground under {name} would lie at {level_m:g} m")
        self.name, self.level_m = name, level_m


def level_m(site: Site, at: Point) -> float | None:
    """The ground's level at a place; None when the site has no spot heights."""
    return float(levels_m(site, [(at.x_m, at.y_m)])[0]) if site.spots else None


def levels_m(site: Site, at: Sequence[tuple[float, float]]) -> NDArray[np.float64]:
    """The ground's level at each place of a site with spot heights.

    Terraces take the level of the nearest spot. A slope runs straight between the three spots
    round a place (Delaunay triangles); outside them, and where the spots stand in one line, the
    plane that fits all of them best.
    """
    places = np.array([(spot.at.x_m, spot.at.y_m) for spot in site.spots])
    levels = np.array([spot.level_m for spot in site.spots])
    here = np.asarray(at, dtype=float)
    if site.lie == "terraces":
        found: NDArray[np.float64] = NearestNDInterpolator(places, levels)(here)
        return found
    inside = _between(places, levels, here)
    return np.where(np.isfinite(inside), inside, _plane(places, levels, here))


def levelled(garden: Garden) -> Garden:
    """The garden with each thing that takes its level from the site put on it.

    Raises :class:`OffLevel` where a slope, drawn on past its spots, leaves the levels a garden has.
    """
    if not garden.site.spots:
        return garden

    def put(thing: Placed, at: Point) -> Placed:
        level = level_m(garden.site, at) if thing.level_from == "site" else None
        if level is None:
            return thing
        if not -HIGHEST_M <= level <= HIGHEST_M:
            raise OffLevel(thing.name, round(level, 2))
        return thing.model_copy(update={"ground_m": round(level, 4)})

    return garden.model_copy(update={
        "stores": tuple(put(store, store.at) for store in garden.stores),
        "drains": tuple(put(drain, drain.at) for drain in garden.drains),
        "taps": tuple(put(tap, tap.at) for tap in garden.taps),
        "wells": tuple(put(well, well.at) for well in garden.wells),
        "plots": tuple(put(plot, plot.corner) for plot in garden.plots)})


def _between(places: NDArray[np.float64], levels: NDArray[np.float64], here: NDArray[np.float64]
             ) -> NDArray[np.float64]:
    triangles = _triangles(tuple(zip(*places.T.tolist(), levels.tolist(), strict=True)))
    if triangles is None:
        return np.full(len(here), np.nan)
    inside: NDArray[np.float64] = triangles(here)
    return inside


@lru_cache(maxsize=64)  # a page asks for one site's ground many times
def _triangles(spots: tuple[tuple[float, float, float], ...]) -> LinearNDInterpolator | None:
    """The faces between spots (x, y, level); None where these span no triangle."""
    if len(spots) < 3:
        return None
    try:
        return LinearNDInterpolator([spot[:2] for spot in spots], [spot[2] for spot in spots])
    except QhullError:
        return None


def _plane(places: NDArray[np.float64], levels: NDArray[np.float64], here: NDArray[np.float64]
           ) -> NDArray[np.float64]:
    middle = places.mean(axis=0)
    fall, *_ = np.linalg.lstsq(places - middle, levels - levels.mean(), rcond=None)
    plane: NDArray[np.float64] = levels.mean() + (here - middle) @ fall
    return plane
