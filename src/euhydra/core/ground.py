"""The lie of the land: a level for every place, from the spot heights."""

from __future__ import annotations

from typing import TypeVar

import numpy as np
from scipy.interpolate import LinearNDInterpolator, NearestNDInterpolator
from scipy.spatial import QhullError

from euhydra.core.garden.model import Bed, Garden, Point, Pots, Site, Store, Tap

Placed = TypeVar("Placed", Store, Tap, Bed, Pots, Bed | Pots)


def level_m(site: Site, at: Point) -> float | None:
    """The ground's level at a place; None when the site has no spot heights.

    Terraces take the level of the nearest spot. A slope runs straight between the three spots
    round a place (Delaunay triangles); outside them, and where the spots stand in one line, the
    plane that fits all of them best.
    """
    if not site.spots:
        return None
    places = np.array([(spot.at.x_m, spot.at.y_m) for spot in site.spots])
    levels = np.array([spot.level_m for spot in site.spots])
    here = np.array([[at.x_m, at.y_m]])
    if site.lie == "terraces":
        return float(NearestNDInterpolator(places, levels)(here)[0])
    inside = _between(places, levels, here)
    return inside if inside is not None else _plane(places, levels, here)


def levelled(garden: Garden) -> Garden:
    """The garden with each store, tap and plot that takes its level from the site put on it."""
    if not garden.site.spots:
        return garden

    def put(thing: Placed, at: Point) -> Placed:
        level = level_m(garden.site, at) if thing.level_from == "site" else None
        return thing if level is None else thing.model_copy(update={"ground_m": round(level, 4)})

    return garden.model_copy(update={
        "stores": tuple(put(store, store.at) for store in garden.stores),
        "taps": tuple(put(tap, tap.at) for tap in garden.taps),
        "plots": tuple(put(plot, plot.corner) for plot in garden.plots)})


def _between(places: np.ndarray, levels: np.ndarray, here: np.ndarray) -> float | None:
    if len(places) < 3:
        return None
    try:
        level = float(LinearNDInterpolator(places, levels)(here)[0])
    except QhullError:
        return None
    return level if np.isfinite(level) else None


def _plane(places: np.ndarray, levels: np.ndarray, here: np.ndarray) -> float:
    middle = places.mean(axis=0)
    fall, *_ = np.linalg.lstsq(places - middle, levels - levels.mean(), rcond=None)
    return float(levels.mean() + ((here - middle) @ fall)[0])
