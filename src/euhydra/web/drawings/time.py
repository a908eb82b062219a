"""Time: the week as bands of water, and the face of the person's own kind of timer."""

from __future__ import annotations

import math

from markupsafe import Markup

from euhydra.core.garden.base import WEEK
from euhydra.core.season.programme import start_hours
from euhydra.core.stations.place import MONTHS
from euhydra.web import svg
from euhydra.web.drawings.timers import faces
from euhydra.web.sheet import Sheet


def week(sheet: Sheet) -> Markup:
    """Seven days of 24 hours with each zone's runs, and a face for each zone's setting."""
    a, month = sheet.assessment, sheet.shown_month
    rows = [(zone, a.schedule.setting_in(zone.id, month)) for zone in a.garden.timed_zones]
    left, day, top, tall = 170.0, 94.0, 62.0, 34.0
    parts = [svg.text(20, 26, f"A week in {MONTHS[month]}", "d-title"),
             svg.text(left + 7 * day, 26, "each column is a day from midnight", "d-mute", "end")]
    bottom = top + len(rows) * tall
    for i, name in enumerate(WEEK):
        x = left + i * day
        parts += [svg.text(x + day / 2, top - 8, name, "d-lab", "middle"),
                  svg.path(f"M{x:.1f} {top}V{bottom}", "d-rule")]
    starts = a.schedule.first_hours
    for i, (zone, setting) in enumerate(rows):
        y = top + i * tall
        parts += [svg.text(20, y + 21, svg.clipped(zone.name, 21), "d-name"),
                  svg.path(f"M20 {y + tall}H{left + 7 * day}", "d-rule")]
        if setting is None:
            parts.append(svg.text(left + 8, y + 21, "no water this month", "d-mute"))
            continue
        parts += [svg.rect(left + at / 24 * day, y + 7, max(setting.minutes / 1440 * day, 1.6),
                           tall - 14, "d-rain")
                  for at in start_hours(setting, starts[zone.id, month])]
    parts += faces(sheet, rows, bottom + 44)
    height = bottom + 44 + 178 * math.ceil(len(rows) / 2)
    return svg.svg(850, height, f"The week's runs in {MONTHS[month]} and the timer's settings",
                   parts)
