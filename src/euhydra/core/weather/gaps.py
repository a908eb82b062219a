"""Whole calendar years from the days that were measured, and the rule that fills the gaps."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from euhydra.core.weather.record import Record

LEAST_DAYS = 300
SHORT_GAP = 3
RULE = (f"Years with {LEAST_DAYS} days or more are kept. A gap of up to {SHORT_GAP} days in the "
        "temperatures is bridged by a straight line; any other missing day, and all missing rain, "
        "is taken from the same day of the nearest year that has it.")
Columns = dict[str, np.ndarray]


@dataclass(frozen=True)
class Gap:
    """A run of days without a value in some needed column."""

    start: dt.date
    days: int


@dataclass(frozen=True)
class Filled:
    """A record without gaps, the gaps it had, and the years of the file that were left out."""

    record: Record
    gaps: tuple[Gap, ...]
    left_out: tuple[int, ...]

    @property
    def filled_days(self) -> int:
        """Days that had no full measurement."""
        return sum(gap.days for gap in self.gaps)


def whole_years(days: Sequence[dt.date], columns: Mapping[str, np.ndarray]) -> Filled | None:
    """The record of every year with enough days; None when there is no such year.

    ``columns`` holds one value a day, NaN where it was not measured, under the names of
    :class:`Record`. Rain, low and high are filled; other columns keep their gaps.
    """
    if not days:
        return None
    first, last = min(days).year, max(days).year
    if last - first > 400:
        first = last - 400
    table = {name: np.full((last - first + 1, 365), np.nan) for name in columns}
    _place(table, days, columns, first)
    needed = ("rain_mm", "tmin_c", "tmax_c")
    whole = np.all([np.isfinite(table[name]) for name in needed], axis=0)
    keep = whole.sum(axis=1) >= LEAST_DAYS
    if not keep.any():
        return None
    # Years side by side must follow on from each other: the longest run of kept years.
    start, stop = _longest_run(keep)
    years = {name: column[start:stop] for name, column in table.items()
             if np.isfinite(column[start:stop]).any()}
    gaps = _gaps(~whole[start:stop], first + start)
    for name in needed:
        if name != "rain_mm":
            years[name] = _bridged(years[name])
        years[name] = _borrowed(years[name])
    years["tmax_c"] = np.maximum(years["tmax_c"], years["tmin_c"])
    record = Record(first_year=first + start, **years)
    measured = sorted({day.year for day in days})
    return Filled(record, gaps, tuple(y for y in measured
                                      if not first + start <= y < first + stop))


def _place(table: Columns, days: Sequence[dt.date], columns: Mapping[str, np.ndarray],
           first: int) -> None:
    for i, day in enumerate(days):
        row = day.year - first
        if row < 0:
            continue
        if (day.month, day.day) == (2, 29):
            leap = columns["rain_mm"][i]
            if np.isfinite(leap):
                table["rain_mm"][row, 58] = np.nansum([table["rain_mm"][row, 58], leap])
            continue
        at = dt.date(2001, day.month, day.day).timetuple().tm_yday - 1
        for name, column in columns.items():
            if at == 58 and name == "rain_mm" and np.isfinite(table[name][row, at]):
                table[name][row, at] += np.nan_to_num(column[i])
            else:
                table[name][row, at] = column[i]


def _longest_run(keep: np.ndarray) -> tuple[int, int]:
    best, start = (0, 0), None
    for i, kept in enumerate([*keep.tolist(), False]):
        if kept and start is None:
            start = i
        elif not kept and start is not None:
            best = max(best, (start, i), key=lambda run: run[1] - run[0])
            start = None
    return best


def _gaps(missing: np.ndarray, first_year: int) -> tuple[Gap, ...]:
    flat = np.concatenate([[False], missing.ravel(), [False]])
    starts = np.flatnonzero(flat[1:] & ~flat[:-1])
    stops = np.flatnonzero(~flat[1:] & flat[:-1])
    return tuple(Gap(_day(int(a), first_year), int(b - a))
                 for a, b in zip(starts, stops, strict=True))


def _day(index: int, first_year: int) -> dt.date:
    plain = dt.date(2001, 1, 1) + dt.timedelta(days=index % 365)
    return plain.replace(year=first_year + index // 365)


def _bridged(column: np.ndarray) -> np.ndarray:
    """Gaps of a few days filled by a straight line between the days beside them."""
    flat = column.ravel().copy()
    known = np.flatnonzero(np.isfinite(flat))
    line = np.interp(np.arange(flat.size), known, flat[known])
    for before, after in pairwise(known):
        if 1 < after - before <= SHORT_GAP + 1:
            flat[before:after] = line[before:after]
    return flat.reshape(column.shape)


def _borrowed(column: np.ndarray) -> np.ndarray:
    """Days still missing, from the same day of the nearest year; of the nearest day if none has."""
    filled = column.copy()
    for year, day in zip(*np.nonzero(~np.isfinite(column)), strict=True):
        having = np.flatnonzero(np.isfinite(column[:, day]))
        if having.size:
            filled[year, day] = column[having[np.argmin(np.abs(having - year))], day]
        else:
            known = np.flatnonzero(np.isfinite(column[year]))
            filled[year, day] = column[year, known[np.argmin(np.abs(known - day))]]
    return filled
