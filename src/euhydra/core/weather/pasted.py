"""Twelve months pasted from a table: a line a month, or a line a quantity."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from euhydra.core.parsing import BadEntry, cells_of
from euhydra.core.units import System
from euhydra.core.weather.columns import Column, columns_of, converted

MONTHS = ("jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec")
TABLES = {"rain": "rain_mm", "wetdays": "wet_days", "tmin": "tmin_c", "tmax": "tmax_c"}
IN_ORDER = ("rain", "wetdays", "tmin", "tmax")
SHOWN_UNITS = {"metric": {"rain": "mm", "tmin": "degC", "tmax": "degC"},
               "us": {"rain": "inch", "tmin": "degF", "tmax": "degF"}}
WANTED = ("Paste twelve lines, one a month, with rain, wet days, low and high in that order or "
          "under such heads; or a line for each of them with twelve numbers.")


def months_pasted(typed: str, system: System) -> tuple[tuple[str, tuple[float, ...]], ...]:
    """(table, twelve values in mm, days or °C) for each quantity found.

    A unit in a head counts, else the one that ``system`` shows. Raises :class:`BadEntry`.
    """
    rows = [[cell for cell in cells_of(line) if cell] for line in typed.splitlines()
            if line.strip()]
    if not rows:
        raise BadEntry(typed, f"Nothing pasted. {WANTED}")
    named = _upright(rows, typed) or _across(rows)
    if not named:
        raise BadEntry(typed, f"{len(rows)} lines were pasted, which are not twelve months. "
                              f"{WANTED}")
    return tuple((TABLES[column.holds], _values(column, cells, system, typed))
                 for column, cells in named)


def _upright(rows: list[list[str]], typed: str) -> list[tuple[Column, list[str]]] | None:
    """Months down the page: twelve lines, with or without a line of heads."""
    heads = rows[0] if len(rows) == 13 else None
    body = rows[1:] if heads else rows
    if len(body) != 12:
        return None
    labelled = all(_month(row[0]) is not None for row in body)
    if labelled:
        body = sorted(body, key=lambda row: _month(row[0]) or 0)
        body = [row[1:] for row in body]
        heads = heads[len(heads) - max(map(len, body)):] if heads else None
    width = {len(row) for row in body}
    if len(width) != 1:
        short = next(i for i, row in enumerate(body) if len(row) != max(width))
        raise BadEntry(typed, f"Month {short + 1} has {len(body[short])} numbers where others have "
                              f"{max(width)}. {WANTED}")
    columns = (list(columns_of(heads).values()) if heads else
               [Column(holds, i, holds) for i, holds in enumerate(IN_ORDER[:width.pop()])])
    return [(c, [row[c.at] for row in body]) for c in columns
            if c.holds in TABLES and c.at < len(body[0])]


def _across(rows: list[list[str]]) -> list[tuple[Column, list[str]]]:
    """Months across the page: a named line for each quantity."""
    found = []
    for row in rows:
        if len(row) < 13:
            continue
        head = " ".join(row[:-12])
        found += [(column, row[-12:]) for column in columns_of([head]).values()
                  if column.holds in TABLES]
    return found


def _month(cell: str) -> int | None:
    word = cell.strip().lower()
    if word.isdecimal() and 1 <= int(word) <= 12:
        return int(word)
    return next((i for i, m in enumerate(MONTHS, 1) if word.startswith(m)), None)


def _values(column: Column, cells: Sequence[str], system: System, typed: str
            ) -> tuple[float, ...]:
    numbers = []
    for i, cell in enumerate(cells):
        try:
            numbers.append(float(cell.replace("−", "-").replace(",", ".")))
        except ValueError:
            raise BadEntry(typed, f"{MONTHS[i].capitalize()}: “{cell[:20]}” is no number. "
                                  f"{WANTED}") from None
    unit = column.unit or SHOWN_UNITS[system].get(column.holds, "")
    known = Column(column.holds, column.at, column.head, unit)
    kept = converted(np.array(numbers), known)
    return tuple(round(float(x), 3) for x in kept)
