"""Rain by day out of a weather file, of years that are not over too: no low and high are needed."""

from __future__ import annotations

import datetime as dt

import numpy as np

from euhydra.core.weather.columns import columns_of
from euhydra.core.weather.lines import (
    NOUNS,
    BadWeather,
    Lines,
    Refused,
    day_order,
    decimal_comma,
    require,
    rows_of,
)
from euhydra.core.weather.services import known


def rain_by_day(text: str) -> tuple[dict[dt.date, float], tuple[Refused, ...]]:
    """The mm of each day that was measured, in the order of days, and the lines not taken.

    The unit of the rain stands in its head: a few days do not tell millimetres from inches, as the
    wettest day of years does. Raises :class:`BadWeather`.
    """
    service = known(text)
    rows, heads, first_line = rows_of(service.table if service else text)
    columns = {holds: column for holds, column in columns_of(heads).items()
               if holds == "rain" or holds not in NOUNS}
    require(columns, heads, needed=("rain",))
    if not columns["rain"].known_by:
        raise BadWeather(f"“{columns['rain'].head[:30]}” does not say its unit. Name the column "
                         "“rain (mm)” or “rain (in)”.")
    taken = Lines(columns, decimal_comma(rows))
    for i, row in enumerate(rows):
        taken.take(first_line + i, row)
    kept = taken.kept(day_order([d for _, d, _ in taken.found], "", columns), {})
    fell = {day: float(mm) for day, mm in zip(kept.days, kept.values["rain"], strict=True)
            if np.isfinite(mm)}
    return dict(sorted(fell.items())), tuple(sorted(taken.refused, key=lambda r: r.line))
