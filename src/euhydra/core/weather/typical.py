"""A typical year by the hour, as EPW and TMY3 files give it: its twelve months.

Such a year is put together from months of several years, so it is no record of days that followed
each other: its lows and highs, and its rain where the file has any, become the months of the site.
EPW: EnergyPlus Auxiliary Programs, "EPW data dictionary"; TMY3: NREL/TP-581-43156, both recalled.
"""

from __future__ import annotations

import csv
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from euhydra.core.weather.generator import MONTH_LENGTHS
from euhydra.core.weather.record import WET_DAY_MM

HOURS = 8760
EPW_HEADS, EPW_MONTH, EPW_DAY, EPW_DRY_BULB, EPW_RAIN = 8, 1, 2, 6, 33
EPW_NO_HEAT, EPW_NO_RAIN = 99.9, 999.0
TMY3_DATE, TMY3_DRY_BULB, TMY3_RAIN = "Date (MM/DD/YYYY)", "Dry-bulb (C)", "Lprecip depth (mm)"
TMY3_NOTHING = -9900.0
RAINS_MM = 1.0  # a file whose year has less holds no rain
MOST_WET = 28.0


class BadYear(ValueError):
    """The file is not a whole typical year; the message says why."""


@dataclass(frozen=True)
class TypicalYear:
    """The months of a typical year; ``tables`` by the names of a climate, without rain if none."""

    service: str
    tables: tuple[tuple[str, tuple[float, ...]], ...]

    @property
    def lacks_rain(self) -> bool:
        """Whether the file holds no rain."""
        return all(name != "rain_mm" for name, _ in self.tables)


def typical_year(text: str) -> TypicalYear | None:
    """The months of an EPW or TMY3 file; None for any other. Raises :class:`BadYear`."""
    lines = text.lstrip("\ufeff").splitlines()
    if lines and lines[0].startswith("LOCATION,"):
        rows = [row for row in csv.reader(lines[EPW_HEADS:]) if len(row) > EPW_DRY_BULB]
        return _months("EPW", [row[EPW_MONTH] for row in rows], [row[EPW_DAY] for row in rows],
                       [row[EPW_DRY_BULB] for row in rows],
                       [row[EPW_RAIN] if len(row) > EPW_RAIN else "" for row in rows])
    if len(lines) > 1 and TMY3_DRY_BULB in lines[1]:
        table = [row for row in csv.DictReader(lines[1:]) if row.get(TMY3_DATE)]
        dates = [row[TMY3_DATE].split("/") for row in table]
        return _months("TMY3", [d[0] for d in dates], [d[1] if len(d) > 1 else "" for d in dates],
                       [row[TMY3_DRY_BULB] for row in table],
                       [row.get(TMY3_RAIN) or "" for row in table])
    return None


def _months(service: str, month: list[str], day: list[str], heat: list[str], rain: list[str]
            ) -> TypicalYear:
    if len(heat) < HOURS:
        raise BadYear(f"The {service} file holds {len(heat)} hours of weather; a year has {HOURS}.")
    at = np.array([_number(m, 0) for m in month]) * 100 + np.array([_number(d, 0) for d in day])
    hot, wet = _numbers(heat), _numbers(rain)
    hot[(hot >= EPW_NO_HEAT) | (hot <= TMY3_NOTHING)] = np.nan
    wet[(wet >= EPW_NO_RAIN) | (wet < 0)] = np.nan
    days = [np.flatnonzero(at == d) for d in np.unique(at)]
    months = np.array([int(at[hours[0]]) // 100 for hours in days])
    if set(months) != set(range(1, 13)) or any(np.isnan(hot[hours]).all() for hours in days):
        raise BadYear(f"The {service} file does not hold a temperature for every day of twelve "
                      "months.")
    low, high = (np.array([f(hot[hours]) for hours in days]) for f in (np.nanmin, np.nanmax))
    tables = {"tmin_c": _means(low, months), "tmax_c": _means(high, months)}
    fell = np.array([np.nansum(wet[hours]) for hours in days])
    if fell.sum() >= RAINS_MM:
        wets = _means(fell >= WET_DAY_MM, months) * MONTH_LENGTHS
        tables["rain_mm"] = _means(fell, months) * MONTH_LENGTHS
        tables["wet_days"] = np.minimum(wets, MOST_WET)
    return TypicalYear(service, tuple((name, tuple(round(float(x), 2) for x in values))
                                      for name, values in tables.items()))


def _means(daily: NDArray[np.generic], months: NDArray[np.int64]) -> NDArray[np.float64]:
    return np.array([daily[months == m].mean() for m in range(1, 13)])


def _numbers(cells: list[str]) -> NDArray[np.float64]:
    return np.array([_number(cell, float("nan")) for cell in cells])


def _number(cell: str, otherwise: float) -> float:
    try:
        return float(cell)
    except ValueError:
        return otherwise
