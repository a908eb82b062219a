"""One store by itself: its shape from volume to dip, its levels, its weight and its footing.

A store is a bank of like vessels; ``volume_l`` and ``height_m`` of one fix every other size.
Heights named ``dip_m`` are of the water over the vessel's base.
"""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import ArrayLike, NDArray

from euhydra.core.garden.model import Store
from euhydra.core.storage.shapes import SHAPES

Array = NDArray[np.float64]
GRAVITY = 9.80665


def volume_at(store: Store, dip_m: ArrayLike) -> Array:
    """Litres in one vessel at a dip, up to its brim; any shape."""
    dip = np.clip(np.asarray(dip_m, dtype=float), 0, store.height_m)
    return np.asarray(store.volume_l * SHAPES[store.shape].filled(dip / store.height_m))


def dip_at(store: Store, volume_l: float) -> float:
    """The dip at which one vessel holds so much; the inverse of :func:`volume_at`."""
    share = min(max(volume_l / store.volume_l, 0.0), 1.0)
    return store.height_m * SHAPES[store.shape].dip(share)


def full_dip_m(store: Store) -> float:
    """Dip at which it overflows."""
    return store.height_m - store.overflow_down_m


def base_area_m2(store: Store) -> float:
    """Ground that one vessel covers as seen from above."""
    area = length_m(store) * width_m(store)
    return area * math.pi / 4 if SHAPES[store.shape].seen == "disc" else area


def footprint_m2(store: Store) -> float:
    """Ground that one vessel bears on: its base, or the cradle of a lying tank."""
    return base_area_m2(store) * SHAPES[store.shape].bears


def length_m(store: Store) -> float:
    """Length of a lying tank, else its width."""
    return SHAPES[store.shape].length_m(store.volume_l / 1000, store.height_m)


def width_m(store: Store) -> float:
    """How wide one vessel stands: a cylinder's diameter, a box's side as if square."""
    return SHAPES[store.shape].width_m(store.volume_l / 1000, store.height_m)


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
