"""The lines of a daily weather file: in any order of columns, any unit; faults by line number."""

from __future__ import annotations

import csv
import datetime as dt
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from euhydra.core.weather.columns import SHOWN, UNITS, Column, converted, with_units

MISSING = {"", "na", "n/a", "nan", "null", "none", "-", "--", "m", "-9999", "-9999.0", "-999",
           "-99.9", "9999", "-99"}
MOST_LINES = 100_000
# Lowest and highest that a day can bear, in the unit kept: past the records of the earth.
BOUNDS = {"rain": (0.0, 1900.0), "tmin": (-90.0, 60.0), "tmax": (-90.0, 60.0),
          "humidity": (0.0, 100.0), "dewpoint": (-90.0, 40.0), "wind": (0.0, 75.0),
          "radiation": (0.0, 45.0), "sunshine": (0.0, 24.0)}
NOUNS = {"rain": "rain", "tmin": "low", "tmax": "high", "humidity": "humidity",
         "dewpoint": "dew point", "wind": "wind", "radiation": "radiation",
         "sunshine": "sunshine"}
NEEDED = {"rain": "rain", "tmin": "the day's low", "tmax": "the day's high"}
DayOrder = Literal["", "ymd", "dmy", "mdy"]


class BadWeather(ValueError):
    """The file cannot be read as daily weather; the message says why and what is needed."""


@dataclass(frozen=True)
class Refused:
    """A line that was not taken, and why."""

    line: int
    why: str


@dataclass(frozen=True)
class Kept:
    """Days in the order of their lines, their values by column, and how the columns are known."""

    days: list[dt.date]
    values: dict[str, np.ndarray]
    columns: dict[str, Column]


class Lines:
    """The lines of a file as they are taken: dates as typed, values as numbers."""

    def __init__(self, columns: dict[str, Column], decimal_comma: bool) -> None:
        self.columns, self.comma = columns, decimal_comma
        self.measured = [holds for holds in columns if holds in NOUNS]
        self.found: list[tuple[int, tuple[str, ...], list[float]]] = []
        self.refused: list[Refused] = []
        self.at_line: list[int] = []

    def take(self, line: int, row: Sequence[str]) -> None:
        """Take one line, or note why not."""
        if not any(cell.strip() for cell in row):
            return
        widest = max(c.at for c in self.columns.values())
        if len(row) <= widest:
            self._refuse(line, f"it has {len(row)} columns, the head has more")
            return
        numbers = []
        for holds in self.measured:
            cell = row[self.columns[holds].at].strip()
            number = self._number(holds, cell)
            if number is None:
                self._refuse(line, f"“{cell[:30]}” is no number for {NOUNS[holds]}")
                return
            numbers.append(number)
        self.found.append((line, self._date(row), numbers))

    def _date(self, row: Sequence[str]) -> tuple[str, ...]:
        if "date" in self.columns:
            return (row[self.columns["date"].at].strip(),)
        return tuple(row[self.columns[part].at].strip() for part in
                     ("year", "month", "dayofmonth"))

    def _number(self, holds: str, cell: str) -> float | None:
        if cell.lower() in MISSING:
            return float("nan")
        if holds == "rain" and cell.lower() in ("t", "tr", "trace"):
            return 0.0
        try:
            value = float(cell.replace(",", ".") if self.comma else cell)
        except ValueError:
            return None
        return value if np.isfinite(value) else None

    def dated(self, order: str) -> tuple[list[dt.date], dict[str, np.ndarray]]:
        """Days and values of the lines whose date is one, the first of each day only."""
        days, rows, seen = [], [], dict[dt.date, int]()
        for line, typed, numbers in self.found:
            day = _as_date(typed, order)
            if day is None:
                self._refuse(line, f"“{' '.join(typed)[:30]}” is not a day")
            elif day in seen:
                self._refuse(line, f"{day.isoformat()} stands already in line {seen[day]}")
            else:
                seen[day] = line
                days.append(day)
                rows.append(numbers)
                self.at_line.append(line)
        table = np.array(rows, dtype=float).reshape(len(rows), len(self.measured))
        return days, {holds: table[:, i] for i, holds in enumerate(self.measured)}

    def kept(self, order: str, units: Mapping[str, str]) -> Kept:
        """What the lines hold in the units kept, of the days that can be."""
        days, typed = self.dated(order)
        known = with_units(self.columns, typed, dict(units))
        kept = {holds: converted(typed[holds], known[holds]) for holds in typed}
        sound = self.checked(typed, kept, known)
        return Kept([d for d, ok in zip(days, sound, strict=True) if ok],
                    {holds: column[sound] for holds, column in kept.items()}, known)

    def checked(self, typed: dict[str, np.ndarray], kept: dict[str, np.ndarray],
                columns: dict[str, Column]) -> np.ndarray:
        """Which days can be: each value within what the earth bears, low no higher than high.

        ``typed`` holds the values as they stand in the file, ``kept`` in the unit kept.
        """
        sound = np.ones(len(self.at_line), dtype=bool)
        for holds, column in kept.items():
            low, high = BOUNDS[holds]
            for i in np.flatnonzero(sound & ((column < low) | (column > high))):
                unit = SHOWN.get(UNITS[holds][0], UNITS[holds][0])
                self._refuse(self.at_line[i], f"{NOUNS[holds]} of {typed[holds][i]:g} "
                             f"{columns[holds].unit_shown} cannot be; {low:g} to {high:g} {unit} "
                             "can")
                sound[i] = False
        if not {"tmin", "tmax"} <= set(kept):
            return sound
        for i in np.flatnonzero(sound & (kept["tmin"] > kept["tmax"])):
            self._refuse(self.at_line[i], f"its low, {kept['tmin'][i]:.1f} °C, is over its high, "
                         f"{kept['tmax'][i]:.1f} °C")
            sound[i] = False
        return sound

    def _refuse(self, line: int, why: str) -> None:
        self.refused.append(Refused(line, why))


def rows_of(text: str) -> tuple[list[list[str]], list[str], int]:
    """The data rows, the heads, and the line number of the first row."""
    lines = text.removeprefix("\ufeff").splitlines()
    if len(lines) > MOST_LINES:
        raise BadWeather(f"The file has {len(lines)} lines; {MOST_LINES} is the most, which is "
                         "over 270 years of days.")
    top = next((i for i, line in enumerate(lines)
                if line.strip() and not line.lstrip().startswith("#")), None)
    if top is None:
        raise BadWeather("The file is empty. It needs a line of column names, and a line a day.")
    mark = max(",;\t|", key=lines[top].count)
    if not lines[top].count(mark):
        raise BadWeather(f"The first line, “{lines[top][:60]}”, has one column only. Columns are "
                         "parted by commas, semicolons or tabs, and the first line names them.")
    try:
        heads = next(csv.reader([lines[top]], delimiter=mark))
        rows = [next(csv.reader([line], delimiter=mark), []) for line in lines[top + 1:]]
    except csv.Error as error:
        raise BadWeather(f"The file is not a table: {error}.") from None
    return rows, heads, top + 2


def require(columns: dict[str, Column], heads: Sequence[str],
            needed: Sequence[str] = ("rain", "tmin", "tmax")) -> None:
    """Raises :class:`BadWeather` where a column that is needed is not there."""
    dated = "date" in columns or {"year", "month", "dayofmonth"} <= set(columns)
    lacking = [noun for noun, there in (
        ("a date", dated), *((NEEDED[holds], holds in columns) for holds in needed)) if not there]
    if lacking:
        named = ", ".join(f"“{h.strip()[:30]}”" for h in heads[:12])
        raise BadWeather(f"No column was found for {' and '.join(lacking)}. The columns are "
                         f"{named}. Name them {', '.join(['date', *needed[:-1]])} and "
                         f"{needed[-1]}, with the unit in brackets if you like: “rain (mm)”.")


def decimal_comma(rows: list[list[str]]) -> bool:
    """Whether numbers are written with a comma for the point."""
    cells = [cell for row in rows[:200] for cell in row]
    return any(re.fullmatch(r"\s*-?\d+,\d+\s*", cell) for cell in cells)


def day_order(dates: list[tuple[str, ...]], chosen: str, columns: dict[str, Column]) -> str:
    """The order of day, month and year: as chosen, or as the dates themselves tell."""
    if "date" not in columns:
        return "ymd"
    parts = [_numbers(typed[0]) for typed in dates]
    if all(p is None or p[0] > 31 for p in parts):
        return "ymd"
    if chosen:
        return chosen
    firsts, seconds = ({p[i] for p in parts if p} for i in (0, 1))
    if max(firsts, default=0) > 12:
        return "dmy"
    if max(seconds, default=0) > 12:
        return "mdy"
    raise BadWeather(f"The dates, such as “{dates[0][0][:20]}”, do not tell day from month. Choose "
                     "the order of dates where you are asked for it, or write them as 2026-07-31.")


def _numbers(typed: str) -> tuple[int, int, int] | None:
    text = typed.split("T")[0].split(" ")[0]
    if re.fullmatch(r"\d{8}", text):
        return int(text[:4]), int(text[4:6]), int(text[6:])
    parts = re.findall(r"\d+", text)
    if len(parts) != 3 or any(len(p) > 4 for p in parts):
        return None
    one, two, three = map(int, parts)
    return one, two, three


def _as_date(typed: tuple[str, ...], order: str) -> dt.date | None:
    numbers = _numbers("-".join(typed))
    if numbers is None:
        return None
    at = dict(zip(order, numbers, strict=True))
    try:
        return dt.date(at["y"], at["m"], at["d"]) if at["y"] > 1000 else None
    except ValueError:
        return None
