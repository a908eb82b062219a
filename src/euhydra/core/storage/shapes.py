"""The shapes of vessels: a record each, which its water, its footing and its drawing follow."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
CRADLE = 0.5  # of a lying tank's width that its cradle bears on, from memory


@dataclass(frozen=True)
class VesselShape:
    """A shape, all of whose sizes follow from a vessel's litres and its height.

    ``filled`` is the share of its litres at a share of its height, ``dip`` the inverse.
    ``length_m`` and ``width_m`` are of the ground it covers, from (m³, height in m); it bears on
    the share ``bears`` of that. ``words`` name it in a list, ``sold_as`` in the parts. Drawn from
    above it is ``seen`` as a disc or a box; from the side its corners are rounded by ``corner_px``,
    or as far as they go where that is infinite; ``lidded`` where a lid lies on it.
    """

    words: str
    sold_as: str
    filled: Callable[[Array], Array]
    dip: Callable[[float], float]
    length_m: Callable[[float, float], float]
    width_m: Callable[[float, float], float]
    seen: str
    corner_px: float
    lidded: bool = True
    bears: float = 1.0
    footing_note: str = ""


def _upright(share: Array) -> Array:
    return share


def _segment(share: Array) -> Array:
    """The part of a circle's area under a share of its height."""
    up = np.clip(1 - 2 * share, -1, 1)
    return np.asarray((np.arccos(up) - up * np.sqrt(1 - up**2)) / math.pi)


def _segment_dip(filled: float) -> float:
    """The inverse, by Newton on the area in radians: a = θ − sin θ, dip = r (1 − cos θ/2)."""
    area = 2 * math.pi * filled
    angle = math.pi + math.copysign(abs((area - math.pi) * 6) ** (1 / 3), area - math.pi) * 0.5
    for _ in range(40):
        slope = max(1 - math.cos(angle), 1e-9)
        angle = min(max(angle - (angle - math.sin(angle) - area) / slope, 0.0), 2 * math.pi)
    return (1 - math.cos(angle / 2)) / 2


def _diameter(m3: float, height_m: float) -> float:
    return math.sqrt(4 * m3 / height_m / math.pi)


def _side(m3: float, height_m: float) -> float:
    return math.sqrt(m3 / height_m)


SHAPES = {
    "upright": VesselShape("upright cylinder", "Barrel", _upright, float, _diameter, _diameter,
                           "disc", 5.0),
    "box": VesselShape("box or tote", "Tote", _upright, float, _side, _side, "box", 1.0),
    "lying": VesselShape("lying cylinder", "Lying tank", _segment, _segment_dip,
                         lambda m3, height_m: m3 / (math.pi / 4 * height_m**2),
                         lambda _, height_m: height_m, "box", math.inf, lidded=False, bears=CRADLE,
                         footing_note="half of a lying tank's width, from memory"),
}
