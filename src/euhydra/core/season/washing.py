"""Used water by day: what each basin and each plot on a drum gets of it."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from numpy.typing import NDArray

from euhydra.core.garden.model import Garden
from euhydra.core.hydraulics.drum_lines import DrumLines
from euhydra.core.supply.greywater import by_weekday, to_basins, weekdays
from euhydra.core.weather.generator import MONTH_OF_DAY

Array = NDArray[np.float64]


def washed_by_day(garden: Garden, drums: Mapping[str, DrumLines], runs: NDArray[np.bool_],
                  years: int, begins: int | None = None
                  ) -> tuple[dict[str, Array], dict[str, Array], Array]:
    """Litres by day to each basin, to each plot that a drum feeds, and all that is led to them.

    (years, 365) each. ``runs`` (365,) are the days without frost: outside them, and in months in
    which all of its taps are shut, a drum's water goes back to the sewer. ``begins`` is as in
    ``programme.runs``.
    """
    basins, total = to_basins(garden, years, begins)
    plots: dict[str, Array] = {}
    for lines in drums.values():
        comes = by_weekday(lines.drain)[weekdays(years, begins)]
        gets = lines.kept_l[MONTH_OF_DAY, weekdays(years, begins)]
        led = led_on(lines, runs)
        total += comes * led
        for plot in lines.zone.plots:
            share = np.array([month.shares.get(plot, 0.0) for month in lines.months])
            plots[plot] = gets * share[MONTH_OF_DAY] * led
    return basins, plots, total


def led_on(lines: DrumLines, runs: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """The days (365,) on which a drum's lines take its water; on others it goes to the sewer."""
    return np.asarray(runs & np.array([bool(m.shares) for m in lines.months])[MONTH_OF_DAY])
