"""Stores that a person fills: how often, how much each time, and what that is in a year."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from euhydra.core.season.state import SAME, Season
from euhydra.core.storage import Banks
from euhydra.core.weather.generator import MONTH_LENGTHS, MONTH_OF_DAY


@dataclass(frozen=True)
class Carrying:
    """A bank that is filled by hand: ``every_days`` in ``month`` (0 to 11), when that is oftenest.

    ``each_l`` is carried at a time, ``times`` and ``litres`` in a mean year. A bank that is never
    filled has no times and stands at infinity days.
    """

    bank: int
    name: str
    month: int
    every_days: float
    each_l: float
    times: float
    litres: float


def fillings(season: Season, banks: Banks) -> tuple[Carrying, ...]:
    """How every bank fares that is filled by hand, over all years, the timer as it is set."""
    return tuple(_filling(season, banks, i)
                 for i, at in enumerate(season.world.filled_at) if at > 0)


def _filling(season: Season, banks: Banks, bank: int) -> Carrying:
    poured, years = season.poured[bank], season.years
    filled = poured > SAME
    by_month = np.array([filled[:, m == MONTH_OF_DAY].sum() for m in range(12)])
    month = int(np.argmax(by_month / MONTH_LENGTHS))
    times = int(filled.sum())
    every = MONTH_LENGTHS[month] * years / by_month[month] if times else np.inf
    return Carrying(bank, banks.banks[bank].name, month, float(every),
                   float(poured.sum()) / times if times else 0.0, times / years,
                   float(poured.sum()) / years)
