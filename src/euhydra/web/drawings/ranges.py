"""A range on a line: what readings say, from where to where, and where the table stands."""

from __future__ import annotations

from markupsafe import Markup

from euhydra.web import svg

WIDE, TALL, EDGE = 320.0, 30.0, 10.0
ROOM = 0.15  # beside the ends


def range_of(title: str, low: float, best: float, high: float, table: float, now: float) -> Markup:
    """The range as a bar, its middle as a disc, the table as a tick, what is reckoned with as a
    ring.
    """
    ends = min(low, table, now), max(high, table, now)
    room = ROOM * max(ends[1] - ends[0], 1e-9)

    def x(value: float) -> float:
        return EDGE + (value - ends[0] + room) / (ends[1] - ends[0] + 2 * room) * (WIDE - 2 * EDGE)

    middle = TALL / 2
    return svg.svg(WIDE, TALL, title, [
        svg.path(f"M{EDGE} {middle}H{WIDE - EDGE}", "d-thin"),
        svg.rect(x(low), middle - 4, max(x(high) - x(low), 2.0), 8, "d-range", rx=4),
        svg.path(f"M{x(table):.1f} {middle - 11}V{middle + 11}", "d-table-at"),
        svg.el("circle", cx=x(now), cy=middle, r=7, class_="d-now-at"),
        svg.el("circle", cx=x(best), cy=middle, r=4.5, class_="d-best-at")])
