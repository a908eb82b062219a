"""Daily weather as GHCN-Daily gives it, brought into the columns that are read.

Three dresses of one record: the fixed-width ``.dly`` file of a station, the CSV of its bare lines,
and the CSV with a column for each element (readme of GHCN-Daily, NOAA NCEI, recalled). Values are
whole tenths of mm, °C and m/s, sunshine in minutes; a value that failed a check of quality counts
as not measured.
"""

from __future__ import annotations

import csv
import re
from collections import defaultdict
from collections.abc import Iterable, Iterator
from dataclasses import dataclass

# Per element: the head that it is read under, and what of that unit one of its own is.
ELEMENTS = {"PRCP": ("rain (mm)", 0.1), "TMIN": ("tmin (C)", 0.1), "TMAX": ("tmax (C)", 0.1),
            "AWND": ("wind (m/s)", 0.1), "TSUN": ("sunshine (min)", 1.0),
            "ADPT": ("dewpoint (C)", 0.1), "RHAV": ("humidity", 1.0)}
NEEDED = {"PRCP": "rain", "TMIN": "the day's low", "TMAX": "the day's high"}
NOTHING = -9999
DLY = re.compile(r"[A-Z]{2}[A-Z0-9]{9}\d{6}[A-Z]{4}")
BARE = re.compile(r"[A-Z]{2}[A-Z0-9]{9},\d{8},[A-Z]{4},")
DAYS_A_LINE = 31


@dataclass(frozen=True)
class Known:
    """A file in a service's dress: which it is, and the same as a plain table of days."""

    service: str
    table: str
    lacks: tuple[str, ...]


def known(text: str) -> Known | None:
    """The table in a file that is one of GHCN-Daily's; None for any other."""
    first = text.lstrip("\ufeff\n\r ").partition("\n")[0].strip()
    if DLY.match(first):
        return _table("GHCN-Daily, .dly", _of_dly(text.splitlines()))
    if BARE.match(first):
        return _table("GHCN-Daily, a line a value", _of_bare(text.splitlines()))
    heads = {head.strip().strip('"') for head in first.split(",")}
    if {"STATION", "DATE"} <= heads and any(h.endswith("_ATTRIBUTES") for h in heads):
        return _of_columns(text)
    return None


Value = tuple[str, str, int]  # day as ISO, element, its value


def _of_dly(lines: Iterable[str]) -> Iterator[Value]:
    """A month a line: station, year, month, element, then value and three flags a day."""
    for line in lines:
        if not DLY.match(line) or (element := line[17:21]) not in ELEMENTS:
            continue
        for day in range(DAYS_A_LINE):
            at = 21 + 8 * day
            cell, flaw = line[at:at + 5].strip(), line[at + 6:at + 7].strip()
            if re.fullmatch(r"-?\d+", cell) and int(cell) != NOTHING and not flaw:
                yield f"{line[11:15]}-{line[15:17]}-{day + 1:02d}", element, int(cell)


def _of_bare(lines: Iterable[str]) -> Iterator[Value]:
    """A value a line: station, day, element, value, then flags of measure, quality and source."""
    for line in lines:
        cells = line.split(",")
        if len(cells) < 4 or cells[2] not in ELEMENTS or (len(cells) > 5 and cells[5].strip()):
            continue
        if re.fullmatch(r"-?\d+", cells[3].strip()) and int(cells[3]) != NOTHING:
            yield f"{cells[1][:4]}-{cells[1][4:6]}-{cells[1][6:8]}", cells[2], int(cells[3])


def _of_columns(text: str) -> Known | None:
    """A day a line, each element with its flags in a column of its own: ``measure,quality,source``.

    Orders of the same service come in °C and mm or °F and inches: with points somewhere, and read
    by their heads like any other table.
    """
    rows = list(csv.DictReader(text.lstrip("\ufeff").splitlines()))
    found = list[Value]()
    for row in rows:
        for element in ELEMENTS:
            cell = (row.get(element) or "").strip()
            if "." in cell:
                return None
            flaw = ([*(row.get(f"{element}_ATTRIBUTES") or "").split(","), ""])[1].strip()
            if re.fullmatch(r"-?\d+", cell) and int(cell) != NOTHING and not flaw:
                found.append(((row.get("DATE") or "").strip(), element, int(cell)))
    return _table("GHCN-Daily, a column an element", found)


def _table(service: str, values: Iterable[Value]) -> Known:
    days: dict[str, dict[str, int]] = defaultdict(dict)
    for day, element, value in values:
        days[day][element] = value
    there = [e for e in ELEMENTS if any(e in day for day in days.values())]
    lines = [",".join(["date", *(ELEMENTS[e][0] for e in there)])]
    for day in sorted(days):
        lines.append(",".join([day, *(f"{days[day][e] * ELEMENTS[e][1]:.1f}" if e in days[day]
                                      else "" for e in there)]))
    return Known(service, "\n".join(lines),
                 tuple(noun for element, noun in NEEDED.items() if element not in there))
