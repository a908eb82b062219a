"""Rules for how large a store should be."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

Array = NDArray[np.float64]


@dataclass(frozen=True)
class SizingRule:
    """A rule of thumb: the usable litres it asks for, and the share of the need they would give.

    Where no size could keep the rule, size and barrels are infinite, and the share is what the
    largest store could give.
    """

    key: str
    size_l: float
    barrels: float
    reliability: float


def sequent_peak_l(inflow_l: ArrayLike, demand_l: ArrayLike) -> float:
    """The smallest store, full at the start, that never fails: the sequent peak (Thomas & Burden).

    K = max(0, K₋ + D − Q) by step; its highest value is the size. Within a step water may be drawn
    from what comes in it.
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
    """Longest run of days without rain in each year; shape (years, 365) -> (years,).

    Years follow on each other: a run over New Year counts whole in the year that it goes on into.
    """
    days = np.arange(rain_mm.size)
    last_wet = np.maximum.accumulate(np.where(rain_mm.ravel() > 0, days, -1))
    return np.asarray((days - last_wet).reshape(rain_mm.shape).max(axis=1))
