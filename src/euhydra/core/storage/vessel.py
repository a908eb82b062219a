"""One store by itself: its shape from volume to dip, its levels, its weight and its footing.

A store is a bank of like vessels; ``volume_l`` and ``height_m`` of one fix every other size.
Heights named ``dip_m`` are of the water over the vessel's base.
"""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import ArrayLike, NDArray

from euhydra.core.garden.model import Store

Array = NDArray[np.float64]
GRAVITY = 9.80665
CRADLE = 0.5  # of a lying tank's width that its cradle bears on, from memory


def volume_at(store: Store, dip_m: ArrayLike) -> Array:
    """Litres in one vessel at a dip, up to its brim; any shape. A lying tank is a segment."""
    dip = np.clip(np.asarray(dip_m, dtype=float), 0, store.height_m)
    if store.shape != "lying":
        return np.asarray(store.volume_l * dip / store.height_m)
    r = store.height_m / 2
    up = np.clip(1 - dip / r, -1, 1)
    segment = (np.arccos(up) - up * np.sqrt(1 - up**2)) / math.pi
    return np.asarray(store.volume_l * segment)


def dip_at(store: Store, volume_l: float) -> float:
    """The dip at which one vessel holds so much; the inverse of :func:`volume_at`."""
    if store.shape != "lying":
        return store.height_m * min(max(volume_l / store.volume_l, 0.0), 1.0)
    # A circle's segment by Newton from its area, in radians: a = θ − sin θ, dip = r (1 − cos θ/2).
    area = 2 * math.pi * min(max(volume_l / store.volume_l, 0.0), 1.0)
    angle = math.pi + math.copysign(abs((area - math.pi) * 6) ** (1 / 3), area - math.pi) * 0.5
    for _ in range(40):
        slope = max(1 - math.cos(angle), 1e-9)
        angle = min(max(angle - (angle - math.sin(angle) - area) / slope, 0.0), 2 * math.pi)
    return store.height_m / 2 * (1 - math.cos(angle / 2))


def full_dip_m(store: Store) -> float:
    """Dip at which it overflows."""
    return store.height_m - store.overflow_down_m


def base_area_m2(store: Store) -> float:
    """Ground that one vessel covers as seen from above."""
    if store.shape == "lying":
        return store.height_m * length_m(store)
    return store.volume_l / 1000 / store.height_m


def footprint_m2(store: Store) -> float:
    """Ground that one vessel bears on: its base, or the cradle of a lying tank."""
    return base_area_m2(store) * (CRADLE if store.shape == "lying" else 1.0)


def length_m(store: Store) -> float:
    """Length of a lying tank, else its width."""
    if store.shape == "lying":
        return store.volume_l / 1000 / (math.pi / 4 * store.height_m**2)
    return width_m(store)


def width_m(store: Store) -> float:
    """How wide one vessel stands: a cylinder's diameter, a box's side as if square."""
    if store.shape == "lying":
        return store.height_m
    area = base_area_m2(store)
    return math.sqrt(area) if store.shape == "box" else math.sqrt(4 * area / math.pi)


def total_l(store: Store) -> float:
    """All the water the store holds when it is about to overflow."""
    return float(volume_at(store, full_dip_m(store))) * store.count


def dead_l(store: Store) -> float:
    """Water under the outlet, which never comes out."""
    return float(volume_at(store, store.outlet_m)) * store.count


def usable_l(store: Store) -> float:
    """What can come out of it: water above the outlet."""
    return total_l(store) - dead_l(store)


def base_z_m(store: Store) -> float:
    """Level of the vessels' base on the site's datum."""
    return store.ground_m + store.stand_m


def outlet_z_m(store: Store) -> float:
    """Level of the outlet on the site's datum."""
    return base_z_m(store) + store.outlet_m


def full_z_m(store: Store) -> float:
    """Level at which it overflows, on the site's datum."""
    return base_z_m(store) + full_dip_m(store)


def full_mass_kg(store: Store) -> float:
    """Water (1 kg a litre) and shells of the whole store."""
    return total_l(store) + store.shell_kg * store.count


def bearing_kpa(store: Store) -> float:
    """Pressure of a brim-full vessel on what it bears on."""
    return (store.volume_l + store.shell_kg) * GRAVITY / footprint_m2(store) / 1000


def slenderness(store: Store) -> float:
    """Height of stand and vessel over its width: over about 3 it tips easily."""
    return (store.stand_m + store.height_m) / width_m(store)
