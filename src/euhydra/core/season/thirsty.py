"""Which plots went thirsty, the thirstiest first."""

from __future__ import annotations

import numpy as np

from euhydra.core.demand.demand import Demand
from euhydra.core.season.state import Season

MANY_DAYS = 7  # a plot that is thirsty on more of them in a year lacks water, from memory


def thirst_of(season: Season, demand: Demand, *, by_washing: bool = False
              ) -> list[tuple[str, float]]:
    """Each plot's thirsty days in the middle year, the thirstiest first.

    Ground that only a laundry waters is among them where ``by_washing`` says so.
    """
    days = np.median(season.thirsty_days, axis=1).tolist()
    found = [(plot, d) for plot, d in zip(season.world.plots, days, strict=True)
             if by_washing or plot not in demand.grey_thirsts]
    return sorted(found, key=lambda p: -p[1])
