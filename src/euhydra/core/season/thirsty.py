"""Which plots went thirsty, the thirstiest first."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

if TYPE_CHECKING:
    from euhydra.core.assessment.reckoning import Reckoning


def thirst_of(r: Reckoning, *, by_washing: bool = False) -> list[tuple[str, float]]:
    """Each plot's thirsty days in the middle year, the thirstiest first.

    Ground that only a laundry waters is among them where ``by_washing`` says so.
    """
    days = np.median(r.season.thirsty_days, axis=1).tolist()
    found = [(plot, d) for plot, d in zip(r.season.world.plots, days, strict=True)
             if by_washing or plot not in r.grey_thirsts]
    return sorted(found, key=lambda p: -p[1])
