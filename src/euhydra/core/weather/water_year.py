"""Water years: they begin where a garden's need has ended, so that no season is cut in two."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import ArrayLike, NDArray

LEAST = 0.01  # of the largest month's need, so near the least that it counts as the same


def first_month(need_by_month: ArrayLike) -> int:
    """The month (0 to 11) that begins a water year: the first of the longest run of least need.

    ``need_by_month`` has shape (12,). A garden without need has calendar years.
    """
    need = np.asarray(need_by_month, dtype=float)
    least = need <= need.min() + LEAST * need.max()
    if least.all():
        return 0
    runs = []
    for month in range(12):
        if least[month] and not least[month - 1]:
            long = next(n for n in range(1, 13) if not least[(month + n) % 12])
            runs.append((-long, month))
    return min(runs)[1]


def in_water_years(daily: NDArray[Any], begins: int) -> NDArray[Any]:
    """Days of calendar years (…, years, 365) as water years that begin on a day of the year.

    The first days of the first year, before it begins, end the last.
    """
    whole = daily.reshape(*daily.shape[:-2], -1)
    return np.roll(whole, -begins, axis=-1).reshape(daily.shape)
