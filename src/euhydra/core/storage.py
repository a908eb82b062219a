"""How a store behaves day by day, its geometry and its weight."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import ArrayLike, NDArray

from euhydra.core.garden.model import Store

Array = NDArray[np.float64]
Rule = Literal["spillage", "before"]
GRAVITY = 9.80665


@dataclass(frozen=True)
class Balance:
    """Series of shape (days, sizes) in litres: used, spilled, level at day's end, and the size."""

    size_l: Array
    inflow_l: Array
    demand_l: Array
    used_l: Array
    spilled_l: Array
    level_l: Array

    @property
    def reliability(self) -> Array:
        """Share of the litres wanted that the store gave, by size; 1 where nothing is wanted."""
        wanted = float(self.demand_l.sum())
        if wanted == 0:
            return np.ones(len(self.size_l))
        return np.asarray(self.used_l.sum(axis=0) / wanted)

    @property
    def day_reliability(self) -> Array:
        """Share of the days with a need on which it was met in full, by size."""
        wanted = self.demand_l > 0
        if not wanted.any():
            return np.ones(len(self.size_l))
        return np.asarray((~self.short)[wanted].mean(axis=0))

    @property
    def unmet_l(self) -> Array:
        """Litres wanted and not given, by size."""
        return np.asarray(float(self.demand_l.sum()) - self.used_l.sum(axis=0))

    @property
    def short(self) -> NDArray[np.bool_]:
        """Days (rows) on which the store gave less than was wanted, by size."""
        return np.asarray(self.used_l < self.demand_l[:, None] - 1e-6)

    @property
    def overflow_share(self) -> Array:
        """Share of the inflow that spilled, by size; 0 where nothing flows in."""
        total = float(self.inflow_l.sum())
        return np.asarray(self.spilled_l.sum(axis=0) / total) if total else np.zeros(
            len(self.size_l))

    @property
    def longest_dry_run(self) -> NDArray[np.int64]:
        """Most days from a need unmet to the next need met, by size."""
        days = np.arange(len(self.demand_l))
        asked = np.maximum.accumulate(np.where(self.demand_l > 0, days, -1))
        dry = self.short[asked] & (asked >= 0)[:, None]  # a day without a need stays as it was
        wet = np.maximum.accumulate(np.where(dry, -1, days[:, None]), axis=0)
        return np.asarray(np.where(dry, days[:, None] - wet, 0).max(axis=0))


def balance(inflow_l: ArrayLike, demand_l: ArrayLike, sizes_l: ArrayLike, *,
            rule: Rule = "spillage", start_share: float = 0.5) -> Balance:
    """Behaviour model by day for every size at once.

    Yield after spillage (Jenkins et al. 1978; Fewkes & Butler 2000), the cautious rule: the day's
    rain comes and spills before the day's water is drawn from what stood there before,
    Y = min(D, V₋), V = min(V₋ + Q − Y, S − Y). ``rule="before"`` draws first from rain and store
    together. ``inflow_l`` and ``demand_l`` have shape (days,), ``sizes_l`` (sizes,), in litres.
    """
    inflow, demand = np.asarray(inflow_l, dtype=float), np.asarray(demand_l, dtype=float)
    sizes = np.asarray(sizes_l, dtype=float)
    level = sizes * start_share
    used = np.empty((len(inflow), len(sizes)))
    spilled, levels = np.empty_like(used), np.empty_like(used)
    for day, (come, want) in enumerate(zip(inflow, demand, strict=True)):
        if rule == "spillage":
            drawn = np.minimum(want, level)
            kept = np.minimum(level + come - drawn, sizes - drawn)
        else:
            drawn = np.minimum(want, level + come)
            kept = np.minimum(level + come - drawn, sizes)
        used[day], spilled[day], levels[day] = drawn, level + come - drawn - kept, kept
        level = kept
    return Balance(sizes, inflow, demand, used, spilled, levels)


def sequent_peak_l(inflow_l: ArrayLike, demand_l: ArrayLike) -> float:
    """The smallest store, full at the start, that never fails: the sequent peak (Thomas & Burden).

    K = max(0, K₋ + D − Q) by day; its highest value is the size. It is the smallest size that
    :func:`balance` meets every need with under ``rule="before"`` and ``start_share=1``.
    """
    lack = np.cumsum(np.asarray(demand_l, dtype=float) - np.asarray(inflow_l, dtype=float))
    fullest = np.minimum.accumulate(np.concatenate([[0.0], lack[:-1]]))
    return float(np.maximum(lack - fullest, 0.0).max(initial=0.0))


def five_percent_l(yield_year_l: float, demand_year_l: float) -> float:
    """5 % of a year's yield or of a year's demand, whichever is less.

    EN 16941-1 and BS 8515, intermediate approach, recalled.
    """
    return 0.05 * min(yield_year_l, demand_year_l)


def longest_dry_spell(rain_mm: Array) -> NDArray[np.int64]:
    """Longest run of days without rain in each year; shape (years, 365) -> (years,)."""
    days = np.arange(rain_mm.shape[1])
    last_wet = np.maximum.accumulate(np.where(rain_mm > 0, days, -1), axis=1)
    return np.asarray((days - last_wet).max(axis=1))


def base_area_m2(store: Store) -> float:
    """Ground that one barrel covers, as an upright cylinder or box."""
    return store.volume_l / 1000 / store.height_m


def diameter_m(store: Store) -> float:
    """Width of one barrel as an upright cylinder."""
    return math.sqrt(4 * base_area_m2(store) / math.pi)


def total_l(store: Store) -> float:
    """All the water the bank holds when full."""
    return store.volume_l * store.count


def usable_l(store: Store) -> float:
    """What can come out: water above the outlet. What is below it never does."""
    return total_l(store) * (1 - store.outlet_m / store.height_m)


def base_z_m(store: Store) -> float:
    """Level of the barrels' base on the site's datum."""
    return store.ground_m + store.stand_m


def outlet_z_m(store: Store) -> float:
    """Level of the outlet on the site's datum."""
    return base_z_m(store) + store.outlet_m


def water_z_m(store: Store, usable_share: float) -> float:
    """Level of the water when this share of the usable water is left."""
    return outlet_z_m(store) + usable_share * (store.height_m - store.outlet_m)


def full_mass_kg(store: Store) -> float:
    """Water (1 kg a litre) and shells of the whole bank."""
    return total_l(store) + store.shell_kg * store.count


def bearing_kpa(store: Store) -> float:
    """Pressure of a full barrel on its own footprint."""
    return (store.volume_l + store.shell_kg) * GRAVITY / base_area_m2(store) / 1000


def slenderness(store: Store) -> float:
    """Height of stand and barrel over the barrel's width: over about 3 it tips easily."""
    return (store.stand_m + store.height_m) / diameter_m(store)
