"""Timers: where each hangs with its valves and hoses, its face as set, how a dial works."""

from __future__ import annotations

import math

from markupsafe import Markup

from euhydra.core.garden.base import WEEK
from euhydra.core.garden.model import Source, Standpipe, Zone
from euhydra.core.garden.model import Timer as OwnTimer
from euhydra.core.layout.heads import Hanging, hanging_on
from euhydra.core.library import Timer
from euhydra.core.schedule.rhythm import rhythm
from euhydra.core.schedule.settings import Setting
from euhydra.core.stations.place import MONTHS
from euhydra.web import svg
from euhydra.web.drawings.pieces import pipe_class
from euhydra.web.sheet import Sheet

WIDTH, LEFT, BOX, TALL, ROW, GAP = 850, 66.0, 252.0, 44.0, 26.0, 12.0


def hung(sheet: Sheet) -> Markup:
    """Every source with what hangs on it: timers, valves for the hand, and the zones behind."""
    parts: list[Markup] = []
    boxes: dict[str, list[float]] = {timer.id: [] for timer in sheet.garden.timers}
    y = 24.0
    for source in sheet.garden.sources:
        hanging = hanging_on(sheet.garden, sheet.assessment.library, source.id)
        if hanging:
            parts.append(svg.text(20, y, f"On {svg.clipped(source.name, 60)}", "d-title"))
            parts.append(svg.text(WIDTH - 20, y, f"as set in {MONTHS[sheet.shown_month]}",
                                  "d-mute", "end"))
            drawn, y = _of_source(sheet, source, hanging, y + 16, boxes)
            parts += drawn
            y += 30
    idle = [t for t in sheet.garden.timers if not sheet.garden.zones_of(t)]
    if idle:
        parts.append(svg.text(20, y, "Hung nowhere yet", "d-title"))
        y += 16 + TALL / 2
    for timer in idle:
        parts.append(_box(sheet, timer, y))
        boxes[timer.id].append(y)
        y += TALL + GAP
    parts += [_touched(sheet, timer, boxes[timer.id]) for timer in sheet.garden.timers]
    return svg.svg(WIDTH, max(y - 16, 60), "What hangs on each source, and which zones each opens",
                   parts, interactive=True)


def _touched(sheet: Sheet, timer: OwnTimer, middles: list[float]) -> Markup:
    """What picks a timer, over each of those that it stands for."""
    words = f"{timer.name}: its measures"
    return svg.el("a", svg.el("title", words), *(
        svg.rect(LEFT + 22, y - TALL / 2, BOX, TALL, "d-pick", rx=6) for y in middles),
        href=f"/g/{sheet.garden.id}/time?view=timers&sel=timers/{timer.id}", aria_label=words)


def _of_source(sheet: Sheet, source: Source, hanging: tuple[Hanging, ...], top: float,
               boxes: dict[str, list[float]]) -> tuple[list[Markup], float]:
    parts, y, middles = [], top, []
    pipe = pipe_class(sheet.garden, source.id)
    for one in hanging:
        tall = max(TALL, ROW * len(one.zones))
        middle = y + tall / 2
        middles.append(middle)
        if one.timer:
            boxes[one.timer.id].append(middle)
        parts += [svg.path(f"M{LEFT} {middle:.1f}h22", pipe), _device(sheet, one, middle),
                  *_behind(sheet, one, middle, pipe)]
        y += tall + GAP
    at = middles[0]
    stem = (svg.path(f"M22 {at - 14:.1f}h18v28M31 {at - 14:.1f}v-8M22 {at - 22:.1f}h18", "d-ink",
                     stroke_width=3) if isinstance(source, Standpipe) else
            svg.rect(20, at - 22, 30, 44, "d-barrel", rx=3))
    return [svg.path(f"M50 {at:.1f}H{LEFT}V{middles[-1]:.1f}", pipe), stem, *parts], y


def _device(sheet: Sheet, one: Hanging, middle: float) -> Markup:
    x, y = LEFT + 22, middle - TALL / 2
    if one.timer is None:
        words = ("a valve, opened by hand" if one.zones[0].timed
                 else "a valve that stands open")
        return svg.el("g", svg.rect(x, y + 6, BOX, TALL - 12, "d-panel", rx=4),
                      svg.text(x + 14, middle + 5, words, "d-lab"))
    return _box(sheet, one.timer, middle)


def _box(sheet: Sheet, timer: OwnTimer, middle: float) -> Markup:
    """A timer; the one picked has an edge of ink."""
    x, y, row = LEFT + 22, middle - TALL / 2, sheet.assessment.library.timers[timer.kind]
    return svg.el(
        "g", svg.rect(x, y, BOX, TALL, "d-barrel" if timer.id == sheet.chosen("timers")
                      else "d-panel", rx=6),
        _glyph(row, x + 24, middle),
        svg.text(x + 48, y + 19, svg.clipped(timer.name, 26), "d-name"),
        svg.text(x + 48, y + 36, svg.clipped(row.name, 32), "d-mute"))


def _glyph(row: Timer, x: float, y: float) -> Markup:
    """A knob for a dial, a little screen for what has a clock."""
    if not row.weekdays:
        return svg.el("g", svg.el("circle", cx=x, cy=y, r=13, class_="d-hand"),
                      svg.path(f"M{x:.1f} {y:.1f}l7 -8", "d-ink", stroke_width=2.5))
    return svg.el("g", svg.rect(x - 14, y - 12, 28, 24, "d-hand", rx=3),
                  svg.path(f"M{x - 8:.1f} {y - 4:.1f}h16M{x - 8:.1f} {y + 3:.1f}h10", "d-ink",
                           stroke_width=2))


def _behind(sheet: Sheet, one: Hanging, middle: float, pipe: str) -> list[Markup]:
    """The zones behind it, each on its valve; those that are moved on loose hoses."""
    parts = []
    top = middle - ROW * (len(one.zones) - 1) / 2
    from_x = LEFT + 22 + BOX
    to_x = from_x + 60
    for i, zone in enumerate(one.zones):
        y = top + i * ROW
        parts += [svg.path(
            f"M{from_x:.1f} {middle:.1f}C{from_x + 34:.1f} {middle:.1f} {to_x - 34:.1f} {y:.1f} "
            f"{to_x:.1f} {y:.1f}", "d-over" if one.moved else pipe),
            svg.text(to_x + 8, y + 5, svg.clipped(zone.name, 28), "d-lab"),
            svg.text(WIDTH - 20, y + 5, _set_to(sheet, zone), "d-mute", "end")]
    return parts


def _set_to(sheet: Sheet, zone: Zone) -> str:
    """How a zone is set in the month shown, or that it stands open."""
    if not zone.timed:
        return ("as it comes" if sheet.garden.drum_of(zone.source) else "float valves shut it")
    setting = sheet.assessment.schedule.setting_in(zone.id, sheet.shown_month)
    return f"{rhythm(setting)}, {setting.minutes} min" if setting else "off"


def card(sheet: Sheet, zones: list[tuple[Zone, Setting | None]]) -> Markup:
    """The faces of a timer as they are set on one card."""
    height = 30 + 178 * math.ceil(len(zones) / 2)
    return svg.svg(WIDTH, height, "The timer's settings", faces(sheet, zones, 24))


def faces(sheet: Sheet, rows: list[tuple[Zone, Setting | None]], top: float) -> list[Markup]:
    """The face of each zone's timer as it is set."""
    parts = []
    for i, (zone, setting) in enumerate(rows):
        row = sheet.assessment.schedule.row(zone)
        x, y = 20 + (i % 2) * 420, top + (i // 2) * 178
        parts.append(svg.text(x, y, svg.clipped(zone.name, 46), "d-name"))
        if setting is None:
            parts.append(svg.text(x, y + 20, "shut, valve off", "d-mute"))
        elif row.weekdays:
            parts += _weekday_face(sheet, setting, x, y + 14)
        else:
            parts += _dial_face(sheet, row, setting, x, y)
    return parts


def _dial_face(sheet: Sheet, row: Timer, setting: Setting, x: float, y: float) -> list[Markup]:
    """Two knobs; of a hose that is moved the left one stands at a day, and the days are named."""
    every = 24 if setting.weekdays else setting.every_h
    return [_dial(x + 75, y + 86, "every", "h", row.every_hours, every),
            _dial(x + 235, y + 86, "for", "min", row.minutes, setting.minutes),
            *([svg.text(x + 310, y + 50, rhythm(setting), "d-lab")] if setting.weekdays else []),
            svg.text(x + 310, y + 82, _left_over(sheet, setting), "d-mute"),
            svg.text(x + 310, y + 98, "a week", "d-mute")]


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
        angle = math.radians(135 + 270 * i / max(len(marks) - 1, 1))
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


def how_a_dial_works(sheet: Sheet) -> Markup:
    """The splitter's lever in line and across, and the dial's lamp and button."""
    parts = [svg.text(20, 26, "The splitter before it, and the dial", "d-title")]
    for x, turned, words in ((120, False, "in line: open"), (300, True, "across: shut")):
        parts += [svg.path(f"M{x} 60V176", "d-pipe", stroke_width=10),
                  svg.el("circle", cx=x, cy=118, r=18, class_="d-barrel"),
                  svg.path(f"M{x - 46} 118h92" if turned else f"M{x} 72v92", "d-ink",
                           stroke_width=7),
                  svg.text(x, 200, words, "d-name", "middle")]
    row = next(iter(t for t in sheet.assessment.library.timers.values() if t.style == "dial"))
    parts += [svg.rect(420, 44, 410, 150, "d-panel", rx=10),
              _dial(500, 110, "every", "h", row.every_hours, 24),
              _dial(650, 110, "for", "min", row.minutes, 15),
              svg.el("circle", cx=780, cy=80, r=7, class_="d-ok"),
              svg.text(780, 104, "lamp", "d-mute", "middle"),
              svg.el("circle", cx=780, cy=138, r=12, class_="d-hand"),
              svg.text(780, 168, "button", "d-mute", "middle")]
    return svg.svg(WIDTH, 212, "A splitter's lever in line and across; a dial with lamp and button",
                   parts)
