"""What a garden comes to, in the figures that changes are weighed by."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from euhydra.core.construction.parts import PartLine
from euhydra.core.results.results import Results
from euhydra.core.season.spared import PRICE_M3, minutes_a_year
from euhydra.core.season.thirsty import MANY_DAYS

COUNTED_YEARS = 10  # over which tap water is paid for


@dataclass(frozen=True)
class Weighed:
    """A garden's figures. ``thirst`` thirsty days a year of all plots together, ``worst`` those of
    the thirstiest plot by year, ``over`` the mean of what each plot has over MANY_DAYS a year,
    ``tap_l`` a year, ``hand_h`` a year of carrying, ``lasts`` days that full stores last without
    rain, ``bought`` what its change costs, ``hours`` the work of making it.
    """

    thirst: float
    worst: tuple[float, ...]
    over: float
    tap_l: float
    hand_h: float
    lasts: int
    bought: float = 0.0
    hours: float = 0.0
    changes: int = 0

    @property
    def sure(self) -> float:
        """The share of years in which no plot is thirsty on more than MANY_DAYS."""
        return sum(days <= MANY_DAYS for days in self.worst) / len(self.worst)

    @property
    def water_cost(self) -> float:
        """What the tap's water costs in a year."""
        return self.tap_l / 1000 * PRICE_M3

    @property
    def money(self) -> float:
        """What is bought, and the tap's water of COUNTED_YEARS."""
        return self.bought + COUNTED_YEARS * self.water_cost


def weighed(r: Results, bought: float = 0.0, hours: float = 0.0, changes: int = 0, *,
            without_rain: bool = True) -> Weighed:
    """The figures of a garden, for what its changes cost.

    How long stores last ``without_rain`` is reckoned where it is asked for, else 0.
    """
    season = r.season
    mine = np.array([plot not in r.demand.grey_thirsts for plot in season.world.plots], dtype=bool)
    days = season.thirsty_days[mine] if mine.any() else np.zeros((1, r.years))
    return Weighed(
        thirst=float(days.sum(axis=0).mean()), worst=tuple(days.max(axis=0).tolist()),
        over=float(np.maximum(days - MANY_DAYS, 0.0).sum(axis=0).mean()),
        tap_l=season.a_year(season.tap), hand_h=minutes_a_year(season, r.schedule) / 60,
        lasts=r.lasts.dry if without_rain and r.garden.stores else 0,
        bought=bought, hours=hours, changes=changes)


def more_to_buy(before: Sequence[PartLine], after: Sequence[PartLine]) -> float:
    """What has to be bought for the one list that the other does not have yet.

    Nothing is given back for parts that are no longer needed.
    """
    there: dict[tuple[str, str, float], float] = defaultdict(float)
    for part in before:
        there[part.id, part.name, part.price] += part.cost
    return sum(max(part.cost - there[part.id, part.name, part.price], 0.0) for part in after
               if part.need == "must")


def spread(r: Results, most: int) -> tuple[int, ...]:
    """Years that stand for all: by their thirst, the middle one of so many equal parts each."""
    if r.years <= most:
        return ()
    order = np.argsort(r.season.thirsty_days.sum(axis=0), kind="stable")
    picked = order[((np.arange(most) + 0.5) / most * r.years).astype(int)]
    return tuple(sorted(int(y) for y in picked))
