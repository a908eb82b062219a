"""A thing's own year: a plot's roots and water, a store's level, a line's flow."""

from __future__ import annotations

import numpy as np
from markupsafe import Markup
from numpy.typing import NDArray

from euhydra.core.daily.year import LEAST_L, Year
from euhydra.core.garden.model import Zone
from euhydra.web import svg
from euhydra.web.drawings.prove import DAY, LEFT, RIGHT, STARTS, bars, months_across
from euhydra.web.drawings.year_strip import playhead, stretches
from euhydra.web.sheet import Sheet

TALL, BARS_TALL, TOP = 78.0, 30.0, 10.0


def of_plot(sheet: Sheet, year: Year, p: int, day: int) -> Markup:
    """What is left in a plot's roots through the year, when it is thirsty, what comes to it."""
    begins = STARTS[sheet.assessment.demand.shown_from]
    left, thirsty, given = (np.roll(x, -begins) for x in (
        year.left[p], year.thirsty[p] & year.grows[p], year.given[p]))
    dry = "".join(f"M{LEFT + a * DAY:.1f} {TOP}h{(b - a) * DAY:.1f}v{TALL}h{-(b - a) * DAY:.1f}Z"
                  for a, b in stretches(thirsty))
    parts = [svg.path(dry, "a-dry-band")] if dry else []
    parts += [svg.text(LEFT - 8, TOP + 10, "100 %", "d-mute", "end"),
              svg.text(LEFT - 8, TOP + TALL, "0 %", "d-mute", "end"),
              svg.text(20, TOP + 14, "left in its roots", "d-lab"),
              svg.path(_line(left, _been(year, begins)), "a-line")]
    parts += bars(sheet, given, TOP + TALL + 8, BARS_TALL, "d-rain", "water it gets", "volume")
    return _whole(sheet, parts, TOP + TALL + 8 + BARS_TALL, day, begins,
                  f"The year of {year.season.world.names[p]}")


def of_bank(sheet: Sheet, year: Year, n: int, day: int) -> Markup:
    """How much stands in a bank through the year, and the rain that comes to it."""
    begins = STARTS[sheet.assessment.demand.shown_from]
    bank = sheet.assessment.banks.banks[n]
    level, caught = (np.roll(x, -begins) for x in (year.level[n], year.caught[n]))
    share = level / max(bank.usable_l, 1e-9)
    line = _line(share, _been(year, begins))
    parts = [svg.path(_under(share), "d-pale"), svg.path(line, "a-line"),
             svg.text(20, TOP + 14, "stands in it", "d-lab"),
             svg.text(LEFT - 8, TOP + 10, sheet.show(bank.usable_l, "volume"), "d-mute", "end"),
             svg.text(LEFT - 8, TOP + TALL, sheet.show(0, "volume"), "d-mute", "end")]
    parts += bars(sheet, caught, TOP + TALL + 8, BARS_TALL, "d-rain", "rain that comes", "volume")
    return _whole(sheet, parts, TOP + TALL + 8 + BARS_TALL, day, begins,
                  f"The year of {bank.name}")


def of_zone(sheet: Sheet, year: Year, zone: Zone, day: int) -> Markup:
    """What flows through a zone's line when it runs, how much comes in a day, days it was short."""
    begins = STARTS[sheet.assessment.demand.shown_from]
    flow, short = np.zeros(365), np.zeros(365, dtype=bool)
    for run in year.runs:
        if run.of == zone.id:
            flow[run.day] = run.flow_l_h if run.litres >= LEAST_L else 0.0
            short[run.day] |= run.lacking > LEAST_L
    flow, came = (np.roll(x, -begins) for x in (flow, year.came_to(zone)))
    short = np.roll(short, -begins)
    most = max(float(flow.max()), 1e-9)
    lacked = "".join(f"M{LEFT + a * DAY:.1f} {TOP}h{(b - a) * DAY:.1f}v{TALL}h{-(b - a) * DAY:.1f}Z"
                     for a, b in stretches(short))
    runs = "".join(f"M{LEFT + (i + 0.5) * DAY:.1f} {TOP + TALL}V{TOP + TALL * (1 - v / most):.1f}"
                   for i, v in enumerate(flow.tolist()) if v > 0)
    parts = [svg.path(lacked, "a-dry-band")] if lacked else []
    y = TOP
    if zone.timed:
        parts += [svg.text(20, TOP + 14, "flow, running", "d-lab"),
                  svg.text(LEFT - 8, TOP + TALL, sheet.show(0, "flow"), "d-mute", "end")]
        y += TALL + 8
    if runs:
        parts += [svg.text(LEFT - 8, TOP + 28, sheet.show(most, "flow"), "d-mute", "end"),
                  svg.path(runs, "a-line")]
    water = "d-grey" if sheet.garden.drum_of(zone.source) else "d-rain"
    parts += bars(sheet, came, y, BARS_TALL, water, "water it brings", "volume")
    return _whole(sheet, parts, y + BARS_TALL, day, begins, f"The year of {zone.name}")


def _been(year: Year, begins: int) -> NDArray[np.bool_]:
    """Which days of a year have been, as they are drawn."""
    return np.roll([year.has(day) for day in range(365)], -begins)


def _line(share: NDArray[np.float64], been: NDArray[np.bool_]) -> str:
    """A line through the days that have been."""
    return "".join("M" + "L".join(_points(share)[a:b]) for a, b in stretches(been) if b - a > 1)


def _under(share: NDArray[np.float64]) -> str:
    """The ground under a line, which is nothing where nothing stands."""
    return f"M{'L'.join(_points(share))}V{TOP + TALL}H{LEFT + DAY / 2:.1f}Z"


def _points(share: NDArray[np.float64]) -> list[str]:
    return [f"{LEFT + (i + 0.5) * DAY:.1f} {TOP + TALL * (1 - v):.1f}"
            for i, v in enumerate(np.clip(share, 0, 1).tolist())]


def _whole(sheet: Sheet, parts: list[Markup], bottom: float, day: int, begins: int, title: str
           ) -> Markup:
    base = [svg.path(f"M{LEFT} {TOP + TALL}H{RIGHT}", "d-rule")] if bottom > TOP + TALL else []
    return svg.svg(850, bottom + 22, title, [
        *base, *months_across(TOP, bottom + 4, sheet.assessment.demand.shown_from), *parts,
        playhead(day, begins, bottom + 4)])
