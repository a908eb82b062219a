"""How much stands in the stores: from the last dip to today, and on without rain, with a band."""

from __future__ import annotations

import datetime as dt

import numpy as np
from markupsafe import Markup

from euhydra.core.log.now import Now
from euhydra.web import svg
from euhydra.web.sheet import Sheet

WIDE, TOP, TALL, SIDE = 340.0, 20.0, 58.0, 6.0
LEAST_SHARE = 0.01  # of what the stores hold; less is no line to draw
LEAST_AHEAD, MOST_AHEAD, MOST_BACK, PAST_DRY = 7, 30, 14, 2  # days shown
LABEL_WIDE = 46.0


def stores_ahead(sheet: Sheet, now: Now, today: dt.date, title: str) -> Markup:
    """The line and its band; nothing where nothing stands or will, or nothing grows."""
    world = sheet.assessment.season.world
    whole = sum(bank.usable_l for bank in sheet.assessment.banks.banks)
    if not sheet.garden.stores or whole <= 0 or not world.grows[:, now.day].any():
        return Markup("")
    dips = [d for d in now.dipped if d is not None]
    back = min(max(dips, default=0), MOST_BACK)
    held = now.levels.sum(axis=0)[back::-1]
    low, middle, high = np.percentile(now.ahead.sum(axis=0)[now.alike], (10, 50, 90), axis=0)
    on = _days_on(now)
    if max(held.max(), high[:on].max()) < LEAST_SHARE * whole:
        return Markup("")
    step = (WIDE - 2 * SIDE) / (back + on)

    def at(day: int, litres: float) -> tuple[float, float]:
        return SIDE + day * step, TOP + TALL * (1 - min(litres / whole, 1.0))

    past = [at(n, float(v)) for n, v in enumerate(held)]
    lines = [[past[-1], *(at(back + n + 1, float(v)) for n, v in enumerate(each[:on]))]
             for each in (low, middle, high)]
    band = "M" + "L".join(f"{x:.1f} {y:.1f}" for x, y in [*lines[2], *lines[0][::-1]]) + "Z"
    here = SIDE + back * step
    parts = [svg.path(f"M0 {TOP + TALL}H{WIDE}", "d-rule"), svg.path(band, "a-band"),
             svg.line(past, "a-line"), svg.line(lines[1], "a-line ahead"),
             svg.path(f"M{here:.1f} {TOP - 6}V{TOP + TALL + 6}", "a-head"),
             svg.text(min(max(here, 18), WIDE - 18), TOP - 10, "today", "d-mute", "middle")]
    for since in sorted(set(dips)):
        if since <= back:
            x, y = past[back - since]
            parts.append(svg.el("circle", cx=f"{x:.1f}", cy=f"{y:.1f}", r=4, class_="a-dip"))
    if back * step > LABEL_WIDE and 0 < min(dips) <= back:
        x = max(past[back - min(dips)][0], LABEL_WIDE / 4)
        parts.append(svg.text(x, TOP - 10, "dip", "d-mute", "middle"))
    parts += _dry(now, today, back, on, step)
    return svg.svg(WIDE, TOP + TALL + 24, title, parts)


def _days_on(now: Now) -> int:
    left = now.days_left
    return min(max(left[2] + PAST_DRY, LEAST_AHEAD), MOST_AHEAD) if left else MOST_AHEAD


def _dry(now: Now, today: dt.date, back: int, on: int, step: float) -> list[Markup]:
    """The day on which the middle of the years fails, where it is drawn."""
    left = now.days_left
    if left is None or not 1 < left[1] <= on:
        return []
    x = SIDE + (back + left[1] - 1) * step
    date = today + dt.timedelta(days=left[1] - 1)
    name = f"{date:%A}" if left[1] <= LEAST_AHEAD else f"{date.day} {date:%b}"
    return [svg.text(min(max(x, LABEL_WIDE / 2), WIDE - LABEL_WIDE / 2), TOP + TALL + 20, name,
                     "d-mute", "middle")]
