"""Read a daily weather file: any order of columns, any unit; faults by their line number."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field

from euhydra.core.weather.columns import Column, columns_of
from euhydra.core.weather.eto import wind_at_2_m
from euhydra.core.weather.gaps import Filled, whole_years
from euhydra.core.weather.lines import (
    BadWeather,
    DayOrder,
    Lines,
    Refused,
    day_order,
    decimal_comma,
    require,
    rows_of,
)
from euhydra.core.weather.record import Record

REFUSED_KEPT = 200
TOLD_EVERY = 1000
KEPT_AS = {"rain": "rain_mm", "tmin": "tmin_c", "tmax": "tmax_c", "humidity": "humidity",
           "dewpoint": "dewpoint_c", "wind": "wind_m_s", "radiation": "radiation",
           "sunshine": "sunshine_h"}


@dataclass(frozen=True)
class Read:
    """What a file gave: the record, how its columns were understood, what was refused or filled."""

    record: Record
    columns: tuple[Column, ...]
    day_order: str
    lines: int
    refused: tuple[Refused, ...]
    refused_count: int
    filled: Filled


@dataclass(frozen=True)
class Choices:
    """What a person says of a file that does not say it: units, order of dates, height of the wind.

    Weather stations measure the wind at 10 m; it is kept as it would be at 2 m (FAO-56 eq. 47).
    """

    units: Mapping[str, str] = field(default_factory=dict)
    day_order: DayOrder = ""
    wind_height_m: float = 10.0


def read_weather(text: str, choices: Choices | None = None) -> Read:
    """The record in a CSV text. Raises :class:`BadWeather`."""
    return finish(reading(text, choices or Choices()))


def finish(steps: Iterator[float | Read]) -> Read:
    """Run a reading to its end, its progress unheard."""
    for step in steps:
        if isinstance(step, Read):
            return step
    raise BadWeather("The file ended before it was read.")


def reading(text: str, choices: Choices) -> Iterator[float | Read]:
    """Read a file step by step: shares done from 0 to 1, and last what was read."""
    rows, heads, first_line = rows_of(text)
    columns = columns_of(heads)
    require(columns, heads)
    taken = Lines(columns, decimal_comma(rows))
    for i, row in enumerate(rows):
        if i % TOLD_EVERY == 0:
            yield i / len(rows) * 0.8
        taken.take(first_line + i, row)
    order = day_order([d for _, d, _ in taken.found], choices.day_order, columns)
    yield 0.85
    kept = taken.kept(order, choices.units)
    if "wind" in kept.values:
        kept.values["wind"] = wind_at_2_m(kept.values["wind"], choices.wind_height_m)
    yield 0.95
    filled = whole_years(kept.days, {KEPT_AS[holds]: x for holds, x in kept.values.items()})
    if filled is None:
        raise BadWeather("No calendar year in the file has 300 days or more with rain, low and "
                         f"high. {len(kept.days)} days were read" + (
                             f"; {len(taken.refused)} lines were refused, the first, line "
                             f"{taken.refused[0].line}: {taken.refused[0].why}"
                             if taken.refused else "") + ".")
    refused = sorted(taken.refused, key=lambda r: r.line)
    yield Read(filled.record, tuple(kept.columns.values()), order, len(rows),
               tuple(refused[:REFUSED_KEPT]), len(refused), filled)
