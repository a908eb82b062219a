"""What a season runs on, as arrays, and what it leaves behind.

P plots, B banks, Y years, side by side. Litres unless a name says otherwise.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
THIRSTY, WILTS = 0.8, 0.5  # share of what it would drink that a crop gets, from memory


@dataclass(frozen=True)
class World:
    """Everything that does not change while the days run.

    ``bank`` is each plot's bank (−1: a tap feeds it), ``flow_l_h`` (P, 3) its flow with the last
    water, half and all of it, ``works`` the share of its water that reaches its driest quarter,
    ``minutes`` (Z, Y, 365, 4) the wetting of each zone and ``zone`` each plot's; ``always_on``
    rows drink from ``reservoir`` litres of their own; ``use``, ``rain`` and ``grey``, the used
    water that is led to a plot (P, Y, 365). ``drained`` (Y, 365) is all used water that comes.
    The ground that a laundry waters stands among the plots.
    """

    plots: tuple[str, ...]
    names: tuple[str, ...]
    bank: NDArray[np.intp]
    zone: NDArray[np.intp]
    flow_l_h: Array
    works: Array
    minutes: Array
    always_on: NDArray[np.bool_]
    reservoir: Array
    total: Array
    ready: Array
    use: Array
    rain: Array
    grey: Array
    drained: Array
    size: Array
    inflow: Array
    over_to: tuple[int, ...]
    feeds: tuple[tuple[int, int], ...]
    well: Array
    tapped: NDArray[np.bool_]

    def name_of(self, plot: str) -> str:
        """What a plot is called."""
        return self.names[self.plots.index(plot)]


@dataclass(frozen=True)
class Season:
    """Every day of the garden as it was set.

    (P, Y, 365): ``given`` to each plot, ``wasted`` of it past its roots, ``drunk`` by its crop,
    ``fed`` the least share of its thirst that a crop got in the day, ``lacking`` what the run
    would have given and no source had, ``depletion`` and ``reservoir`` at day's end. (B, Y, 365):
    ``level`` at day's end. (Y, 365): ``spilled``, ``well``, ``tap``, ``used`` water. ``start`` and
    ``end`` (B, Y) are the banks' levels.
    """

    world: World
    given: Array
    wasted: Array
    drunk: Array
    fed: Array
    lacking: Array
    depletion: Array
    reservoir: Array
    level: Array
    spilled: Array
    well: Array
    tap: Array
    used: Array
    start: Array
    end: Array

    @property
    def years(self) -> int:
        """How many years were run."""
        return int(self.given.shape[1])

    @cached_property
    def thirsty(self) -> NDArray[np.bool_]:
        """Days on which a plot got less than THIRSTY of what it would drink, (P, Y, 365)."""
        return np.asarray(self.fed < THIRSTY)

    @property
    def thirsty_days(self) -> Array:
        """Such days a year, by plot and year, (P, Y)."""
        return np.asarray(self.thirsty.sum(axis=2), dtype=float)

    @cached_property
    def typical_year(self) -> int:
        """The year whose thirsty days, all plots together, are nearest their median."""
        days = self.thirsty_days.sum(axis=0)
        return int(np.argmin(np.abs(days - np.median(days))))

    @cached_property
    def ledger(self) -> dict[str, float]:
        """Litres of all years: start + rain + well + tap + used = given + spilled + end."""
        return {"start": float(self.start.sum()), "rain": float(self.world.inflow.sum()),
                "well": float(self.well.sum()), "tap": float(self.tap.sum()),
                "used": float(self.used.sum()),
                "given": float(self.given.sum()), "spilled": float(self.spilled.sum()),
                "end": float(self.end.sum())}
