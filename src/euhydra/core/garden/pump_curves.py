"""What a pump's curve of points must be like."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise


class BadCurve(ValueError):
    """The points are no pump's curve; the message says why."""


OF_RUNOUT = (0.0, 0.3, 0.5, 0.7, 0.85, 1.0)


def curve_of_buckets(first: tuple[float, float], second: tuple[float, float]
                     ) -> list[tuple[float, float]]:
    """Points (L/h, m) of the curve through two bucket tests, each a flow at a height.

    H = H₀ − c Q², the usual shape of a centrifugal pump's curve (common practice), from no flow to
    no head. Raises :class:`BadCurve` where the higher bucket did not fill more slowly.
    """
    (less, high), (more, low) = sorted((first, second), key=lambda test: -test[1])
    if high - low < 1e-6:
        raise BadCurve("both tests are at one height: lift the hose's end for the second")
    if less >= more:
        raise BadCurve("the higher bucket filled no more slowly than the lower: no pump does that")
    fall = (high - low) / (more**2 - less**2)
    shut = high + fall * less**2
    runout = math.sqrt(shut / fall)
    return [(round(k * runout, 3), round(shut * (1 - k**2), 4)) for k in OF_RUNOUT]


def check_curve(points: Sequence[tuple[float, float]]) -> None:
    """Raise :class:`BadCurve` unless flows rise and heads fall, none below zero."""
    if not points:
        raise BadCurve("a pump's curve needs one point at least: a flow and the head at it")
    for flow, head in points:
        if not (math.isfinite(flow) and math.isfinite(head)) or flow < 0 or head < 0:
            raise BadCurve("flows and heads of a pump's curve are not below zero")
    if len(points) == 1 and (points[0][0] <= 0 or points[0][1] <= 0):
        raise BadCurve("a single point of a pump's curve has a flow and a head above zero")
    for (q0, h0), (q1, h1) in pairwise(points):
        if q1 <= q0 or h1 >= h0:
            raise BadCurve("along a pump's curve flows rise and heads fall: give its points from "
                           "no flow on")
