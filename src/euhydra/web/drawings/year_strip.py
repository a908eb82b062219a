"""The year under the garden's picture: rain, what is stored, each plot's runs and thirst, frost.

Days stand from the month that the garden's year is shown from; ``data-…`` tell the script where.
"""

from __future__ import annotations

from itertools import pairwise
from typing import Any

import numpy as np
from markupsafe import Markup
from numpy.typing import NDArray

from euhydra.core.daily.year import Year
from euhydra.core.season.state import SAME
from euhydra.core.stations.prove import drawn_banks
from euhydra.web import svg
from euhydra.web.drawings.prove import DAY, LEFT, RIGHT, STARTS, bars, months_across
from euhydra.web.sheet import Sheet
from euhydra.web.words import held

TOP, RAIN_TALL, STORED_TALL = 8.0, 20.0, 28.0
ROW, LEAST_ROW, ROWS_TALL = 14.0, 3.0, 130.0
NAMED_ROW = 10.0


def strip(sheet: Sheet, year: Year, day: int) -> Markup:
    """The whole year, with a line where the day is."""
    begins = STARTS[sheet.assessment.demand.shown_from]

    def shown(daily: NDArray[Any]) -> NDArray[Any]:
        return np.roll(daily, -begins, axis=-1)

    y = TOP
    parts = bars(sheet, shown(year.rain_mm), y, RAIN_TALL, "d-rain", "R rain")
    y += RAIN_TALL + 6
    if sheet.garden.stores:
        parts += bars(sheet, shown(year.level[drawn_banks(sheet.assessment)].sum(axis=0)), y,
                      STORED_TALL, "d-pale", f"{held(sheet.garden.stores)} stored")
        y += STORED_TALL + 6
    row = max(min(ROW, ROWS_TALL / max(len(year.plots), 1)), LEAST_ROW)
    came, used = year.given - year.grey > SAME, year.grey > SAME
    for p in range(len(year.plots)):
        parts += _row(year.season.world.names[p], shown(year.grows[p]), shown(year.thirsty[p]),
                      shown(came[p]), shown(used[p]), y + p * row, row)
    bottom = y + row * len(year.plots)
    parts.append(_frost(shown(year.frost), bottom))
    return svg.svg(
        850, bottom + 38, "The year: rain, stored water, runs and thirst of each plot", [
            *months_across(TOP, bottom + 4, sheet.assessment.demand.shown_from), *parts,
            *_key(bottom + 32, used=bool(used.any())),
            playhead(day, begins, bottom + 4)],
        data_strip="1", data_left=f"{LEFT:g}", data_day_wide=f"{DAY:g}")


def playhead(day: int, begins: int, bottom: float) -> Markup:
    """The line where the day is, which the script moves."""
    x = LEFT + (day - begins) % 365 * DAY
    return svg.el("g", svg.path(f"M0 2V{bottom:.1f}", "a-head"),
                  svg.path("M-6 0h12l-6 8Z", "a-head-top"), data_playhead="1",
                  transform=f"translate({x:.2f} 0)")


def _row(name: str, grows: NDArray[np.bool_], thirsty: NDArray[np.bool_], came: NDArray[np.bool_],
         used: NDArray[np.bool_], y: float, row: float) -> list[Markup]:
    """A plot's year: when it grows, when it is thirsty, a tick for each day it is watered, another
    where that is used water.
    """
    parts = [svg.text(LEFT - 8, y + row - 3, svg.clipped(name, 22), "d-small", "end")
             ] if row >= NAMED_ROW else []
    tall = row - min(5.0, row / 3)
    for on, class_ in ((grows, "a-grows"), (thirsty & grows, "a-dry")):
        d = "".join(f"M{LEFT + a * DAY:.1f} {y:.1f}h{(b - a) * DAY:.1f}v{tall:.1f}"
                    f"h{-(b - a) * DAY:.1f}Z" for a, b in stretches(on))
        if d:
            parts.append(svg.path(d, class_))
    for on, class_ in ((came, "a-tick"), (used, "a-tick a-used")):
        ticks = "".join(f"M{LEFT + (i + 0.5) * DAY:.1f} {y + tall:.1f}v{row - tall:.1f}"
                        for i in np.flatnonzero(on).tolist())
        if ticks:
            parts.append(svg.path(ticks, class_))
    return parts


def _key(y: float, *, used: bool) -> list[Markup]:
    """What the marks of a row mean."""
    parts = [svg.path(f"M{LEFT + 312} {y - 8}v8m4 -8v8m4 -8v8", "a-tick a-used"),
             svg.text(LEFT + 328, y, "G used water", "d-mute")] if used else []
    return [*parts,
            svg.rect(LEFT, y - 8, 16, 8, "a-grows"), svg.text(LEFT + 22, y, "grows", "d-mute"),
            svg.rect(LEFT + 74, y - 8, 16, 8, "a-dry"), svg.text(LEFT + 96, y, "thirsty", "d-mute"),
            svg.path(f"M{LEFT + 150} {y - 8}v8m4 -8v8m4 -8v8", "a-tick"),
            svg.text(LEFT + 166, y, "watered", "d-mute"),
            svg.path(f"M{LEFT + 226} {y - 4}h16", "a-frost"),
            svg.text(LEFT + 248, y, "frost", "d-mute")]


def stretches(on: NDArray[np.bool_]) -> list[tuple[int, int]]:
    """Where days that are on begin and end."""
    edges = [0, *(np.flatnonzero(np.diff(on.astype(int))) + 1).tolist(), len(on)]
    return [(a, b) for a, b in pairwise(edges) if on[a]]


def _frost(frost: NDArray[np.bool_], y: float) -> Markup:
    """A mark for each day of frost, under all."""
    d = "".join(f"M{LEFT + i * DAY:.1f} {y + 2:.1f}h{DAY:.1f}"
                for i in np.flatnonzero(frost).tolist())
    return svg.path(d or f"M{RIGHT:.1f} {y:.1f}h0", "a-frost")
