"""Keep: a year of the log, each thing read or done on its day, the timer's changes across all."""

from __future__ import annotations

import datetime as dt

import numpy as np
from markupsafe import Markup

from euhydra.core.log.entries import KINDS, Entry, felt, in_lane, things_of
from euhydra.core.log.levels import Followed, followed
from euhydra.core.storage import Bank
from euhydra.web import svg
from euhydra.web.drawings.prove import DAY, LEFT, RIGHT, bars, months_across
from euhydra.web.sheet import Sheet
from euhydra.web.words import held

LANE, TALL = 30.0, 60.0
MOST_LANES = 10


def timeline(sheet: Sheet, year: int, today: dt.date) -> Markup:
    """One lane for each thing that was read, and for each kind of work."""
    entries = [e for e in sheet.assessment.log if e.day.year == year]
    y, lanes = 62.0, []
    lanes += _rain(sheet, entries, y)
    y += TALL
    for bank in sheet.assessment.banks.banks[:4]:
        last = min(today, dt.date(year, 12, 31))
        if told := followed(sheet.assessment, bank, entries, dt.date(year, 1, 1), last):
            lanes += _level(sheet, bank, told, y)
            y += TALL
    for zone in sheet.garden.zones:
        if read := [e for e in in_lane(entries, "flow") if e.about == zone.id]:
            solved = sheet.assessment.flows[zone.id]["half"].flow_l_h
            lanes += _flow(sheet, zone.name, solved, read, y)
            y += TALL
    feels = in_lane(entries, "felt")
    plots = [p for p in sheet.garden.plots if any(e.about == p.id for e in feels)]
    for plot in plots[:MOST_LANES]:
        lanes += _feel(plot.name, [e for e in feels if e.about == plot.id], y)
        y += LANE
    if len(plots) > MOST_LANES:
        more = f"and {len(plots) - MOST_LANES} more in the log"
        lanes.append(svg.text(20, y + 18, more, "d-mute"))
        y += LANE
    for kind in KINDS:
        if mine := [e for e in in_lane(entries, "done") if e.kind == kind]:
            lanes += _done(sheet, kind, mine, y)
            y += LANE
    bottom = y + 6
    across = _changes(sheet, in_lane(entries, "across"), bottom)
    return svg.svg(850, bottom + 62, f"The log of {year}", [
        svg.text(20, 22, f"{year}, as it was logged", "d-title"),
        *months_across(44, bottom), *lanes, *across, *_key(bottom + 46)])


def _x(day: dt.date) -> float:
    return LEFT + min((day - dt.date(day.year, 1, 1)).days, 364) * DAY + DAY / 2


def _rain(sheet: Sheet, entries: list[Entry], y: float) -> list[Markup]:
    fell = np.zeros(365)
    for e in in_lane(entries, "rain"):
        fell[min(e.day.timetuple().tm_yday - 1, 364)] += e.value or 0.0
    if not fell.any():
        return [svg.text(20, y + 14, "R rain", "d-lab"),
                svg.text(LEFT + 6, y + 14, "none logged", "d-mute")]
    return bars(sheet, fell, y, TALL - 20, "d-rain", "R rain", "rain")


def _level(sheet: Sheet, bank: Bank, told: Followed, y: float) -> list[Markup]:
    tall, name = TALL - 16, f"{held(bank.stores)} {svg.clipped(bank.name, 16)}"

    def at(litres: float) -> float:
        return y + tall * (1 - litres / max(bank.usable_l, 1e-9))

    x0 = _x(told.first)
    line = [(x0 + i * DAY, at(v)) for i, v in enumerate(told.level_l.tolist())]
    dips = [svg.el("circle", svg.el("title", sheet.show(litres, "volume")), cx=x0 + day * DAY,
                   cy=at(litres), r=4, class_="d-white") for day, litres in told.dips]
    return [svg.text(20, y + 14, name, "d-lab"),
            svg.text(LEFT - 8, y + 14, sheet.show(bank.usable_l, "volume"), "d-mute", "end"),
            svg.path(f"M{LEFT} {y:.1f}H{RIGHT:.1f}M{LEFT} {y + tall:.1f}H{RIGHT:.1f}", "d-rule"),
            svg.line(line, "d-hose"), *dips]


def _flow(sheet: Sheet, name: str, solved: float, read: list[Entry], y: float) -> list[Markup]:
    tall = TALL - 16
    most = max([solved, *(e.value or 0.0 for e in read)], default=1.0) * 1.1 or 1.0

    def at(flow: float) -> float:
        return y + tall * (1 - flow / most)

    dots = [svg.el("circle", svg.el("title", sheet.show(e.value or 0.0, "flow")), cx=_x(e.day),
                   cy=at(e.value or 0.0), r=4, class_="d-white") for e in read]
    return [svg.text(20, y + 14, svg.clipped(name, 16), "d-lab"),
            svg.text(20, y + 30, "jug or meter", "d-mute"),
            svg.path(f"M{LEFT} {at(solved):.1f}H{RIGHT:.1f}", "d-ghost"),
            svg.text(LEFT + 6, at(solved) + 14, sheet.show(solved, "flow"), "d-mute"),
            svg.line([(_x(e.day), at(e.value or 0.0)) for e in read], "d-thin"), *dots]


def _feel(name: str, entries: list[Entry], y: float) -> list[Markup]:
    return [svg.text(20, y + 18, svg.clipped(name, 24), "d-lab"),
            svg.path(f"M{LEFT} {y + 14:.1f}H{RIGHT:.1f}", "d-rule"),
            *(_felt(_x(e.day), y + 14, felt(e), f"{KINDS[e.kind].label}: {e.word}")
              for e in entries)]


def _felt(x: float, y: float, feels: str, words: str) -> Markup:
    title = svg.el("title", words)
    if feels == "dry":
        return svg.el("path", title, d=f"M{x:.1f} {y - 6:.1f}l6 11h-12Z", class_="d-care")
    if feels == "wet":
        return svg.el("rect", title, x=x - 5, y=y - 5, width=10, height=10, class_="d-rain")
    return svg.el("circle", title, cx=x, cy=y, r=4.5, class_="d-ok")


def _done(sheet: Sheet, kind: str, entries: list[Entry], y: float) -> list[Markup]:
    things = things_of(sheet.garden, KINDS[kind].about)
    marks = [svg.el("path", svg.el("title", f"{things.get(e.about, '')} {e.note}".strip()
                                   or KINDS[kind].label),
                    d=f"M{_x(e.day):.1f} {y + 8:.1f}l5 6l-5 6l-5 -6Z", class_="d-ink")
             for e in entries]
    return [svg.text(20, y + 18, KINDS[kind].label, "d-lab"),
            svg.path(f"M{LEFT} {y + 14:.1f}H{RIGHT:.1f}", "d-rule"), *marks]


def _changes(sheet: Sheet, entries: list[Entry], bottom: float) -> list[Markup]:
    """A line across for each change; names that would run into each other take turns in height."""
    things, parts, free = things_of(sheet.garden, "zone"), [], [0.0, 0.0]
    for e in sorted(entries, key=lambda e: e.day):
        x, name = _x(e.day), f"{svg.clipped(things.get(e.about, 'timer'), 18)} changed"
        parts.append(svg.path(f"M{x:.1f} 48V{bottom:.1f}", "d-run", stroke_dasharray="2 3"))
        row = next((i for i in (0, 1) if x > free[i]), None)
        if row is not None:
            end = x > RIGHT - 130
            parts.append(svg.text(x - 4 if end else x + 4, 42 - 14 * row, name, "d-mute",
                                  "end" if end else None))
            free[row] = x + 7.0 * len(name)
    return parts


def _key(y: float) -> list[Markup]:
    return [_felt(LEFT, y - 4, "dry", "too dry"), svg.text(LEFT + 12, y, "too dry", "d-lab"),
            _felt(LEFT + 90, y - 4, "right", "right"), svg.text(LEFT + 102, y, "right", "d-lab"),
            _felt(LEFT + 160, y - 4, "wet", "too wet"), svg.text(LEFT + 172, y, "too wet", "d-lab"),
            svg.el("circle", cx=LEFT + 254, cy=y - 4, r=4, class_="d-white"),
            svg.text(LEFT + 264, y, "as read", "d-lab"),
            svg.path(f"M{LEFT + 330} {y - 4}h22", "d-hose"),
            svg.text(LEFT + 358, y, "as the log has it follow", "d-lab"),
            svg.path(f"M{LEFT + 530} {y - 4}h22", "d-ghost"),
            svg.text(LEFT + 558, y, "as solved", "d-lab")]
