"""Catch: the storm strip, and a washing day in the drum."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from markupsafe import Markup

from euhydra.core.garden.model import Drain
from euhydra.core.stations import drums
from euhydra.core.stations.catch import STORM_RATES_MM_H
from euhydra.core.storage import storm
from euhydra.web import svg
from euhydra.web.sheet import Sheet
from euhydra.web.words import PART_WORDS

if TYPE_CHECKING:
    from euhydra.core.storage.filling import Filling

LEFT, RIGHT, MOST_MM_H = 300.0, 800.0, 150.0
MOST_PARTS = 9  # the first to give; the table has them all


def strip(sheet: Sheet) -> Markup:
    """What each part carries, as the rain rate that fills it; and how the barrels fill."""
    a = sheet.assessment
    found = storm.limits(sheet.garden, a.library, a.banks)
    tight = [limit for limit in found if limit.gives_at_mm_h <= MOST_MM_H]
    rows = found[:min(max(len(tight), 3), MOST_PARTS)]
    y0, step = 62.0, 25.0
    foot = y0 + step * len(rows) + 6
    parts = [svg.text(40, 24, "Rain rate at which each part is full: the shortest gives first",
                      "d-title")]
    inch = 25.0 if sheet.system == "metric" else 25.4
    for rate in (inch * i for i in range(int(MOST_MM_H / inch) + 1)):
        x = _x(rate)
        parts += [svg.path(f"M{x:.1f} {y0 - 16}V{foot:.1f}", "d-rule"),
                  svg.text(x, y0 - 20, sheet.show(rate, "rain"), "d-mute", "middle")]
    parts.append(svg.text(RIGHT, y0 - 36, "an hour", "d-mute", "end"))
    for i, limit in enumerate(rows):
        y = y0 + i * step
        end = _x(min(limit.gives_at_mm_h, MOST_MM_H))
        words = f"{PART_WORDS[limit.part]}, {limit.name}"
        parts += [svg.text(LEFT - 10, y + 13, words if len(words) < 42 else words[:41] + "…",
                           "d-name" if i == 0 else "d-lab", "end"),
                  svg.rect(LEFT, y + 1, end - LEFT, 15, "d-rain" if i else "d-care"),
                  svg.text(end + 6, y + 13, sheet.show(limit.gives_at_mm_h, "rain")
                           if limit.gives_at_mm_h <= MOST_MM_H else "more", "d-dim d-halo")]
    if len(found) > len(rows):
        foot += 18
        parts.append(svg.text(RIGHT, foot, f"{len(found) - len(rows)} more parts carry more",
                              "d-mute", "end"))
    parts.append(_fills(sheet, foot + 44))
    return svg.svg(850, foot + 44 + 40 * len(STORM_RATES_MM_H) + 20, "A storm, part by part", parts)


def _x(rate_mm_h: float) -> float:
    return LEFT + (RIGHT - LEFT) * rate_mm_h / MOST_MM_H


def _fills(sheet: Sheet, y: float) -> Markup:
    a = sheet.assessment
    bank = a.banks.holding(sheet.store) if sheet.store in a.banks.of_store else a.fullest_fed
    fills = {rate: a.storm_at(rate, bank) for rate in STORM_RATES_MM_H}
    longest = max((f.minutes_to_spill for f in fills.values()
                   if math.isfinite(f.minutes_to_spill)), default=1.0)
    parts = [svg.text(40, y - 8, f"From empty, {bank.name} spills after"
                      if len(bank.stores) == 1 else
                      "From empty, the first of the joined stores spills after", "d-title")]
    for i, (rate, f) in enumerate(fills.items()):
        top = y + 6 + i * 40
        spills = math.isfinite(f.minutes_to_spill)
        length = 330 * f.minutes_to_spill / longest if spills else 330
        took = _duration(sheet, f.minutes_to_spill) if spills else "not in six hours"
        parts += [svg.text(140, top + 15, f"{sheet.show(rate, 'rain')} an hour", "d-lab", "end"),
                  svg.rect(150, top + 2, length, 16, "d-rain"),
                  svg.text(158 + length, top + 15, took, "d-dim"),
                  *_shares(f, 640, top)]
        if f.minutes_to_level >= 1:
            after = f"level {_duration(sheet, f.minutes_to_level)} after"
            parts.append(svg.text(646 + 19 * min(len(f.shares), 10), top + 17, after, "d-mute"))
    parts.append(svg.text(640, y - 8, "how full each is then", "d-mute"))
    return svg.el("g", *parts)


def _shares(f: Filling, x: float, y: float) -> list[Markup]:
    """A small row of barrels, each as full as it is when the first one spills."""
    return [mark for i, share in enumerate(f.shares[:10]) for mark in (
        svg.rect(x + i * 19, y, 14, 26, "d-barrel"),
        svg.rect(x + i * 19 + 1, y + 1 + 24 * (1 - share), 12, 24 * share, "d-water"))]


def _duration(sheet: Sheet, minutes: float) -> str:
    return (sheet.show(minutes, "minutes") if minutes < 120
            else sheet.show(minutes / 60, "hours"))


def washing_day(sheet: Sheet, drain: Drain) -> Markup:
    """The drum's level through its busiest day and the next, minute by minute."""
    day = drums.busiest_day(sheet.assessment, drain)
    x0, y0, wide, tall = 70.0, 40.0, 720.0, 180.0
    top = max(drain.drum_l * 1.15, float(day.level_l.max()))

    def y(litres: float) -> float:
        return y0 + tall * (1 - litres / top)

    points = [(x0 + wide * 6 * i / len(day.level_l), y(float(v)))
              for i, v in enumerate(day.level_l[::6])]
    parts = [svg.text(x0, 22, f"G  {drain.name}: water in the drum on the busiest day", "d-title"),
             svg.path(f"M{x0} {y(drain.drum_l):.1f}h{wide}", "d-run"),
             svg.text(x0 + wide, y(drain.drum_l) - 5,
                      f"full, {sheet.show(drain.drum_l, 'volume')}", "d-mute", "end"),
             svg.path(f"M{x0} {y0 + tall}h{wide}", "d-ink", stroke_width=1.4),
             svg.line([(x0, y0 + tall), *points, (x0 + wide, y0 + tall)], "d-grey-fill")]
    for hour in range(0, 49, 6):
        x = x0 + wide * hour / 48
        parts += [svg.path(f"M{x:.1f} {y0 + tall}v5", "d-thin"),
                  svg.text(x, y0 + tall + 19, f"{hour % 24}:00", "d-mute", "middle")]
    if day.spilled_l > 0.05:
        parts.append(svg.text(x0 + 8, y(drain.drum_l) - 6,
                              f"{sheet.show(day.spilled_l, 'drop')} spill over", "d-name"))
    return svg.svg(850, 260, f"{drain.name}, the drum on washing day", parts)
