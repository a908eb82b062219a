"""Time: the week as bands of water, and the face of the person's own kind of timer."""

from __future__ import annotations

import math

from markupsafe import Markup

from euhydra.core.garden.model import Zone
from euhydra.core.schedule.rhythm import rhythm
from euhydra.core.schedule.timing import WEEK, Setting
from euhydra.core.season.programme import start_hours
from euhydra.core.stations.place import MONTHS
from euhydra.web import svg
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
    parts += _faces(sheet, rows, bottom + 44)
    height = bottom + 44 + 178 * math.ceil(len(rows) / 2)
    return svg.svg(850, height, f"The week's runs in {MONTHS[month]} and the timer's settings",
                   parts)


def card(sheet: Sheet, zones: list[tuple[Zone, Setting | None]]) -> Markup:
    """The faces of the timer as they are set on one card."""
    height = 30 + 178 * math.ceil(len(zones) / 2)
    return svg.svg(850, height, "The timer's settings", _faces(sheet, zones, 24))


def _faces(sheet: Sheet, rows: list[tuple[Zone, Setting | None]], top: float) -> list[Markup]:
    timer = sheet.assessment.library.timers[sheet.garden.timer]
    parts = []
    for i, (zone, setting) in enumerate(rows):
        x, y = 20 + (i % 2) * 420, top + (i // 2) * 178
        parts.append(svg.text(x, y, svg.clipped(zone.name, 46), "d-name"))
        if setting is None:
            parts.append(svg.text(x, y + 20, "shut, valve off", "d-mute"))
        elif timer.weekdays:
            parts += _weekday_face(sheet, setting, x, y + 14)
        else:
            parts.append(_dial(x + 75, y + 86, "every", "h", timer.every_hours, setting.every_h))
            parts.append(_dial(x + 235, y + 86, "for", "min", timer.minutes, setting.minutes))
            parts.append(svg.text(x + 310, y + 82, _left_over(sheet, setting), "d-mute"))
            parts.append(svg.text(x + 310, y + 98, "a week", "d-mute"))
    return parts


def _left_over(sheet: Sheet, setting: Setting) -> str:
    if not math.isfinite(setting.left_over_l_week):
        return "no flow"
    litres = sheet.show(abs(setting.left_over_l_week), "drop")
    return f"{litres} {'over' if setting.left_over_l_week >= 0 else 'short'}"


def _dial(cx: float, cy: float, word: str, unit: str, marks: tuple[int, ...], chosen: int
          ) -> Markup:
    """A knob with its marks over three quarters of a turn, the pointer on the one to set."""
    parts = [svg.el("circle", cx=cx, cy=cy, r=38, class_="d-white"),
             svg.text(cx, cy + 66, f"{word} {chosen} {unit}", "d-name", "middle")]
    for i, value in enumerate(marks):
        angle = math.radians(135 + 270 * i / (len(marks) - 1))
        c, s = math.cos(angle), math.sin(angle)
        here = value == chosen
        parts += [svg.path(f"M{cx + 38 * c:.1f} {cy + 38 * s:.1f}L{cx + 43 * c:.1f} "
                           f"{cy + 43 * s:.1f}", "d-thin"),
                  svg.text(cx + 54 * c, cy + 54 * s + 4, str(value),
                           "d-dim" if here else "d-mute", "middle")]
        if here:
            parts.append(svg.path(f"M{cx:.1f} {cy:.1f}L{cx + 33 * c:.1f} {cy + 33 * s:.1f}",
                                  "d-run", stroke_width=4))
    return svg.el("g", *parts)


def _weekday_face(sheet: Sheet, setting: Setting, x: float, y: float) -> list[Markup]:
    parts = []
    for i, name in enumerate(WEEK):
        on = name in setting.weekdays
        parts += [svg.rect(x + i * 48, y, 42, 30, "d-rain" if on else "d-white"),
                  svg.text(x + i * 48 + 21, y + 20, name, "d-on" if on else "d-lab", "middle")]
    starts = "one start" if setting.starts_a_day == 1 else f"{setting.starts_a_day} starts a day"
    parts += [svg.text(x, y + 54, f"{setting.minutes} min, {starts}", "d-title"),
              svg.text(x, y + 74, f"{_left_over(sheet, setting)} a week", "d-mute"),
              svg.text(x, y + 92, rhythm(setting), "d-mute")]
    return parts
