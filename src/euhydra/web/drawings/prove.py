"""Prove: each plot's thirst through a year as a strip, and the days away on it."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
from markupsafe import Markup
from numpy.typing import NDArray

from euhydra.core import units
from euhydra.core.season.absence import Away, days_of
from euhydra.core.season.state import THIRSTY, WILTS
from euhydra.core.stations.place import MONTHS
from euhydra.core.stations.prove import level_l
from euhydra.web import svg
from euhydra.web.sheet import Sheet
from euhydra.web.words import held

LEFT, DAY, ROW = 170.0, 1.82, 30.0
RIGHT = LEFT + 365 * DAY
STARTS = (0, 31, 59, 90, 120, 151, 181, 212, 243, 273, 304, 334)
KINDS = ("d-fed", "d-care", "d-stop")  # has enough, thirsty, wilts


def strips(sheet: Sheet) -> Markup:
    """A typical year: rain, the stores, and each plot's days with enough and without."""
    a, season = sheet.assessment, sheet.assessment.season
    year, rows = season.typical_year, season.world.plots
    parts = [svg.text(20, 22, "A typical year, the timer as it is set", "d-title"),
             *months_across(34, 172 + ROW * len(rows) - 8, a.demand.shown_from)]
    begins = STARTS[a.demand.shown_from]
    rain, stored, use, fed = (np.roll(season.in_year(daily, year), -begins, axis=-1) for daily in (
        a.weather.rain_mm, level_l(a), season.world.use, season.fed))
    grows = np.roll(season.world.grows, -begins, axis=-1)
    parts += bars(sheet, rain, 44, 34, "d-rain", "R rain", "rain")
    if sheet.garden.stores:
        parts += bars(sheet, stored, 88, 34, "d-pale", f"{held(sheet.garden.stores)} stored",
                      "volume")
    parts += bars(sheet, use.sum(axis=0), 130, 30, "d-care-bar", "thirst of all", "daily")
    top = 172.0
    for i, plot in enumerate(rows):
        parts += _strip(season.world.name_of(plot), fed[i], grows[i], top + i * ROW)
    bottom = top + ROW * len(rows)
    return svg.svg(850, bottom + 58, "Thirst of each plot through a typical year",
                   [*parts, *_key(bottom + 42)])


def away_strip(sheet: Sheet, told: Away) -> Markup:
    """The share of years in which any plot is thirsty, by day: away on the days brushed over."""
    season = sheet.assessment.season
    chance = season.thirsty.any(axis=0).mean(axis=0)
    chance[days_of(told.first, told.days)] = told.chance
    top, tall = 40.0, 96.0
    x, wide = LEFT + told.first * DAY, told.days * DAY
    boxes = [(x, min(wide, RIGHT - x))]
    if x + wide > RIGHT:
        boxes.append((LEFT, x + wide - RIGHT))
    band = [svg.rect(at, top, size, tall, "d-away") for at, size in boxes]
    title, height = "The year, with the days away", top + tall + 44
    return svg.svg(850, height, title, interactive=True, children=[
        svg.text(20, 22, "Brush over the days you are away", "d-title"),
        *months_across(top - 6, top + tall),
        *bars(sheet, chance, top, tall, "d-care-bar", "years in which", "share"),
        svg.text(20, top + 30, "a plot is thirsty;", "d-lab"),
        svg.text(20, top + 46, "in the band: away", "d-lab"),
        svg.el("g", svg.rect(LEFT, top, 365 * DAY, tall, "d-brush"), *band, data_away="1",
               data_left=f"{LEFT:.1f}", data_day=f"{DAY}", data_top=f"{top}",
               data_tall=f"{tall}", tabindex="0", role="slider",
               aria_label="First day away, and with Shift the number of days",
               aria_valuemin="0", aria_valuemax="364", aria_valuenow=str(told.first),
               data_days=str(told.days),
               aria_valuetext=f"{told.days} days from {units.show_date(told.first)}"),
        svg.text(min(max(x + wide / 2, LEFT + 90), RIGHT - 90), top + tall + 34,
                 f"{told.days} days from {units.show_date(told.first)}", "d-name", "middle")])


def months_across(top: float, bottom: float, first: int = 0) -> list[Markup]:
    """The months of a year, from the ``first`` on, as lines from top to bottom, named below."""
    parts = []
    for m, start in enumerate(STARTS):
        x = LEFT + (start - STARTS[first]) % 365 * DAY
        parts += [svg.path(f"M{x:.1f} {top}V{bottom}", "d-rule"),
                  svg.text(x + 15 * DAY, bottom + 16, MONTHS[m][:3], "d-mute", "middle")]
    return parts


def bars(sheet: Sheet, values: NDArray[np.float64], top: float, tall: float, class_: str,
         name: str, kind: str = "") -> list[Markup]:
    """A bar a day, its name on the left, with what the tallest stands for where a kind is given."""
    most = max(float(values.max()), 1e-9)
    base = top + tall
    d = "".join(f"M{LEFT + i * DAY:.1f} {base:.1f}v{-v / most * tall:.1f}h{DAY}V{base:.1f}Z"
                for i, v in enumerate(values.tolist()) if v / most * tall > 0.3)
    parts = [svg.text(20, top + 14, name, "d-lab"), svg.path(d, class_)]
    if kind:
        parts.append(svg.text(LEFT - 8, top + 12, sheet.show(most, kind), "d-mute", "end"))
    return parts


def _strip(name: str, fed: NDArray[np.float64], grows: NDArray[np.bool_], y: float
           ) -> list[Markup]:
    kind = np.where(fed < WILTS, 2, np.where(fed < THIRSTY, 1, 0))
    kind = np.where(grows, kind, -1)
    edges = [0, *(np.flatnonzero(np.diff(kind)) + 1).tolist(), 365]
    parts = [svg.text(20, y + 19, name if len(name) <= 21 else name[:20] + "…", "d-name"),
             svg.path(f"M20 {y + ROW - 1:.1f}H{RIGHT:.1f}", "d-rule")]
    for first, last in pairwise(edges):
        k = int(kind[first])
        if k >= 0:
            tall = (10, 16, 22)[k]
            parts.append(svg.rect(LEFT + first * DAY, y + 14 - tall / 2, (last - first) * DAY,
                                  tall, KINDS[k]))
    return parts


def _key(y: float) -> list[Markup]:
    parts, x = [], LEFT
    for class_, words in zip(KINDS, ("has enough", "thirsty", "gets less than half"), strict=True):
        parts += [svg.rect(x, y - 9, 20, 11, class_), svg.text(x + 26, y + 1, words, "d-lab")]
        x += 150
    return parts
