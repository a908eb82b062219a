"""What a pump's curve of points must be like."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise


class BadCurve(ValueError):
    """The points are no pump's curve; the message says why."""


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
