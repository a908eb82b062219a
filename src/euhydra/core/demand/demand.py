"""What a garden's plots need, together: by day, by month, and where its water year begins."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from euhydra.core.demand.crop_water import PlotThirst
from euhydra.core.garden.base import DAYS_BEFORE_MONTH
from euhydra.core.weather import water_year
from euhydra.core.weather.generator import MONTH_OF_DAY

Array = NDArray[np.float64]


@dataclass(frozen=True, eq=False)
class Demand:
    """Each plot's thirst by its id, and that of ground which used water is led to, by its key.

    ``drinks`` is what each self-watering row takes in its hottest hour, L/h by plot id;
    ``days`` the shape of what stands by day, (years, 365).
    """

    thirsts: Mapping[str, PlotThirst]
    grey_thirsts: Mapping[str, PlotThirst]
    drinks: Mapping[str, float]
    days: tuple[int, int]

    @cached_property
    def need_l(self) -> Array:
        """Litres by day that all plots need after rain, (years, 365)."""
        return sum((t.net_l for t in self.thirsts.values()), np.zeros(self.days))

    @cached_property
    def need_by_month(self) -> Array:
        """Litres a day that all plots need after rain, by month (12,)."""
        return np.asarray(np.sum([t.net_by_month for t in self.thirsts.values()], axis=0))

    @property
    def peak_month(self) -> int:
        """The month with the largest need."""
        return int(np.argmax(self.need_by_month))

    @cached_property
    def year_begins(self) -> int:
        """The day of the year (0 to 364) on which a water year of this garden begins."""
        return int(DAYS_BEFORE_MONTH[self.year_begins_in])

    @cached_property
    def year_begins_in(self) -> int:
        """The month (0 to 11) in which it begins: the first of the longest without growth, if any.

        Else the first of those with the least need.
        """
        grows = sum((t.kc > 0 for t in self.thirsts.values()), np.zeros(365))
        by_month = np.array([grows[MONTH_OF_DAY == m].any() for m in range(12)], dtype=float)
        return water_year.first_month(self.need_by_month if by_month.all() else by_month)

    @property
    def shown_from(self) -> int:
        """The month in which a drawing of the year begins: January, where that cuts no season."""
        cut = any(t.kc[0] > 0 and t.kc[-1] > 0 for t in self.thirsts.values())
        return self.year_begins_in if cut else 0
