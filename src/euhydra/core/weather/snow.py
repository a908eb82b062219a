"""Snow: what falls in frost lies until it melts."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
MELTS_MM_K_DAY = 3.0  # degree-days, recalled


def melted(fell_mm: Array, tmin_c: Array, tmax_c: Array) -> Array:
    """Water that reaches roof and ground each day, mm; shapes (years, 365), year after year.

    What falls on a day whose mean is under 0 °C is snow; it lies, and of it melts 3 mm for each
    degree of a day's mean over 0 °C (degree-day method, recalled). None lies before the first day.
    """
    mean = ((tmin_c + tmax_c) / 2).ravel()
    if not ((mean < 0) & (fell_mm.ravel() > 0)).any():
        return fell_mm
    lies, water = 0.0, []
    for fell, warm in zip(fell_mm.ravel().tolist(), mean.tolist(), strict=True):
        if warm < 0:
            lies += fell
            water.append(0.0)
        else:
            melts = min(lies, MELTS_MM_K_DAY * warm)
            lies -= melts
            water.append(fell + melts)
    return np.array(water).reshape(fell_mm.shape)
