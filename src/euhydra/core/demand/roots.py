"""A root zone from day to day, compiled: what rain stays, what roots draw, how they grow.

Litres of a whole plot. ``depletion`` is what the root zone lacks of full, ``below`` what the soil
lacks between the roots and their full depth; ``hold`` is what the day's root zone holds.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from euhydra.core.numerics.compiled import compiled, written_in

Array = NDArray[np.float64]
Flags = NDArray[np.bool_]


@written_in
def effective_rain(rain: float, caught: float, lacking: float) -> float:
    """What of a day's rain stays in the root zone: less what leaves and mulch catch, up to full.

    The rest of what reaches the ground passes below the roots.
    """
    return min(max(rain - caught, 0.0), lacking)


@written_in
def stress(depletion: float, hold: float, ready: float) -> float:
    """The share of its thirst that a crop still draws: Ks of FAO-56 eq. 84; Kr of bare soil."""
    return min(max((hold - depletion) / max(hold - ready, 1e-9), 0.0), 1.0)


@written_in
def grown(depletion: float, below: float, was: float, now: float, full: float
          ) -> tuple[float, float]:
    """What root zone and soil below lack after the roots' hold went from ``was`` to ``now``.

    Roots that grow reach soil as it stands; where they end, what they lack stays in the ground.
    """
    if now > was:
        moved = below * (now - was) / max(full - was, 1e-9)
    elif now < was:
        moved = -depletion * (1 - now / was)
    else:
        moved = 0.0
    return depletion + moved, below - moved


@compiled
def refill_years(use: Array, bare: Array, rain: Array, caught: Array, hold: Array, ready: Array,
                 full: float, grows: Flags, interval: int, given: Array) -> None:
    """Fill ``given`` (years, 365) with what refills one plot's root zone on its watering days.

    Those are every ``interval``-th day of the year on which it grows, at the day's end. The last
    year goes before the first, so that the soil begins as it leaves it.
    """
    depletion, below = 0.0, 0.0
    for turn in range(-1, len(use)):
        y = turn if turn >= 0 else len(use) - 1
        for i in range(365):
            depletion, below = grown(depletion, below, hold[i - 1], hold[i], full)
            takes = use[y, i] + bare[y, i]
            drawn = takes * stress(depletion, hold[i], ready[y, i])
            depletion = min(depletion + drawn, hold[i])
            stays = effective_rain(rain[y, i], caught[i], depletion)
            below = max(below - max(rain[y, i] - caught[i] - stays, 0.0), 0.0)
            depletion -= stays
            given[y, i] = 0.0
            if grows[i] and i % interval == 0:
                given[y, i] = depletion
                depletion = 0.0
