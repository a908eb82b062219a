"""What can be had for how much: each garden that was weighed and leads, as a point to open."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from markupsafe import Markup

from euhydra.web import svg

WIDE, TALL, LEFT, TOP, RIGHT, FOOT = 640.0, 250.0, 74.0, 26.0, 24.0, 46.0


@dataclass(frozen=True)
class Point:
    """A garden: what it costs, how it is seen, its words, where it opens."""

    cost: float
    seen: float
    words: str
    address: str
    chosen: bool = False


def front(points: Sequence[Point], stands: Point, title: str, across: tuple[str, str, str],
          up: tuple[str, str, str]) -> Markup:
    """Points by cost from left to right and by what is seen upwards, beside the garden as it is.

    ``across`` and ``up`` name an axis and show its least and its most.
    """
    costs, seens = [p.cost for p in (stands, *points)], [p.seen for p in (stands, *points)]
    low, high = min(costs), max(costs)
    most = max(*seens, 1e-9)

    def at(p: Point) -> tuple[float, float]:
        x = (p.cost - low) / max(high - low, 1e-9)
        return (LEFT + 12 + x * (WIDE - LEFT - RIGHT - 24),
                TOP + (1 - p.seen / most) * (TALL - TOP - FOOT))

    base = TALL - FOOT
    parts = [svg.path(f"M{LEFT} {TOP - 10}V{base}H{WIDE - RIGHT}", "d-rule"),
             svg.text(LEFT - 8, TOP + 4, up[2], "d-mute", "end"),
             svg.text(LEFT - 8, base - 2, up[1], "d-mute", "end"),
             svg.text(LEFT, TOP - 14, up[0], "d-lab"),
             svg.text(LEFT + 12, base + 16, across[1], "d-mute", "middle"),
             svg.text(WIDE - RIGHT - 12, base + 16, across[2], "d-mute", "middle"),
             svg.text((LEFT + WIDE - RIGHT) / 2, TALL - 8, across[0], "d-lab", "middle"),
             svg.line(places := [at(p) for p in points], "d-front"),
             *_as_it_is(*at(stands), stands.words, places)]
    parts += [svg.el("a", svg.el("circle", cx=f"{x:.1f}", cy=f"{y:.1f}", r=13, class_="d-touch"),
                     svg.el("circle", cx=f"{x:.1f}", cy=f"{y:.1f}", r=8 if p.chosen else 5.5,
                            class_="d-point on" if p.chosen else "d-point"),
                     href=p.address, aria_label=p.words,
                     aria_current="true" if p.chosen else None)
              for p, (x, y) in zip(points, places, strict=True)]
    return svg.svg(WIDE, TALL, title, parts, interactive=True)


def _as_it_is(x: float, y: float, words: str, points: Sequence[tuple[float, float]]
              ) -> list[Markup]:
    """A cross: nothing to open there; its words beside it, or under it where a point stands."""
    beside = all(abs(a - x - 40) > 42 or abs(b - y) > 18 for a, b in points)
    return [svg.path(f"M{x - 5:.1f} {y - 5:.1f}l10 10m0 -10l-10 10", "d-thin"),
            svg.text(*((x + 12, y + 5) if beside else (x - 5, y + 22)), words, "d-mute d-halo")]
