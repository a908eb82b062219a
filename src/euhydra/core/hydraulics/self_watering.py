"""Self-watering rows: how long a reservoir lasts, and how many plants a float box carries."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from euhydra.core.demand.crop_water import PlotThirst
from euhydra.core.demand.wicking import PEAK_HOUR, free_water_l
from euhydra.core.garden.model import Wicking
from euhydra.core.hydraulics.friction import head_loss
from euhydra.core.library import Crop

LEAST_WATER_M = 0.02  # under this the wick's foot stands dry, from memory
NARROWED = 0.8  # of a tube's bore is left when mix and roots have come into it, from memory
# Plants that one float box carries whatever the tube, by their thirst; common practice, no source.
A_BOX_CARRIES = {"fruiting": 6}
A_BOX_CARRIES_MODEST = 13
BUCKETS_A_GUTTER = 9  # common practice
TANK_UP_M = 0.15  # common practice


@dataclass(frozen=True)
class Chain:
    """How many plants a float box carries down a chain: by its tubes, and by what trades say.

    ``drop_m`` is the fall of water along the row as it is.
    """

    by_tube: int
    by_trade: int
    drop_m: float

    @property
    def carries(self) -> int:
        """The smaller of the two."""
        return min(self.by_tube, self.by_trade)

    @property
    def tube_decides(self) -> bool:
        """Whether it is the tubes that carry no more."""
        return self.by_tube < self.by_trade


@dataclass(frozen=True)
class Reservoir:
    """A row of self-watering vessels in its hottest week.

    ``held_l`` is free water in gutter or buckets; ``each_l_day`` one plant's thirst;
    ``days_cut_off`` how long the row lasts with nothing coming in; ``chain`` how many in a chain
    are still wetted before the last one starves; ``feed_ml`` the feed for all the free water.
    """

    held_l: float
    each_l_day: float
    days_cut_off: float
    chain: Chain
    feed_ml: float


def reservoir(row: Wicking, thirst: PlotThirst, crop: Crop) -> Reservoir:
    """How a self-watering row of a crop fares in the week in which it drinks most."""
    a_day = thirst.hottest_week_l
    each = a_day / row.count
    free = free_water_l(row)
    wick = thirst.raw_l
    return Reservoir(free, each, (free + wick) / a_day if a_day > 0 else math.inf,
                     chain(row, each, crop), free * row.feed_ml_l)


def chain(row: Wicking, each_l_day: float, crop: Crop, most: int = 200) -> Chain:
    """How many plants a float box carries down a chain, and the fall of water along this row.

    In the hottest hour every tube, narrowed by mix and roots, passes what all beyond it drink. The
    losses add up along the chain; the last plant starves when the water that the float keeps, less
    that, no longer covers the wick's foot. Buckets in a row pass water through each other: whatever
    the tube, six thirsty or thirteen modest plants are the most (common practice).
    """
    peak_l_h = each_l_day * PEAK_HOUR
    passes = peak_l_h * np.arange(1, most + 1)
    fallen = np.cumsum(head_loss(passes, row.diameter_m + row.apart_m,
                                 row.tube_mm * NARROWED))
    room = max(row.water_m - LEAST_WATER_M, 0.0)
    return Chain(int((fallen <= room).sum()),
                 A_BOX_CARRIES.get(crop.thirst, A_BOX_CARRIES_MODEST), float(fallen[row.count - 1]))
