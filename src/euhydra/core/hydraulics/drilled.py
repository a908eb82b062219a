"""A pipe drilled with holes along it, its end closed or open: what comes out of each hole.

Where water runs fast past a sharp-edged hole, less of it turns out through it. The law is that of
Rawn, Bowerman & Brooks (1960) for the ports of a manifold, recalled: q = Cd a √(2 g E), with
Cd = 0.63 − 0.58 (v²/2g) / E, E the total head in the pipe there and v its speed past the hole. So a
closed pipe, in which water slows down, gives more towards its end, and one that is open gives
little anywhere near its start.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

from scipy.optimize import brentq

from euhydra.core.hydraulics.friction import GRAVITY, L_H_PER_M3_S, head_loss

STILL, PAST = 0.63, 0.58  # Cd past still water, and what speed takes of it
DRILLS_MM = tuple(round(0.8 + 0.1 * i, 1) for i in range(53))  # 0.8 to 6.0 mm
LEAST_SHARE = -500.0  # natural logarithm of the head left at the end over that at the inlet
END_K = 2.0  # an open end lies in the soil or turns up, from memory


@dataclass(frozen=True)
class DrilledPipe:
    """Holes of ``bores_mm`` every ``apart_m``, the first ``lead_m`` from the inlet.

    ``end_k`` is what the open end loses over its speed: it lies in the soil, or turns up.
    """

    bore_mm: float
    bores_mm: tuple[float, ...]
    apart_m: float
    lead_m: float
    open_end: bool = False
    end_k: float = END_K

    @property
    def area_m2(self) -> float:
        """Section of the pipe."""
        return math.pi / 4 * (self.bore_mm / 1000) ** 2


@dataclass(frozen=True)
class DrilledFlow:
    """Flow of each hole and out of the end, L/h; total head at each hole, and its coefficient."""

    holes_l_h: tuple[float, ...]
    end_l_h: float
    heads_m: tuple[float, ...]
    coefficients: tuple[float, ...] = ()

    @property
    def total_l_h(self) -> float:
        """All that goes in."""
        return sum(self.holes_l_h) + self.end_l_h

    @property
    def evenness(self) -> float:
        """Least hole over mean hole."""
        mean = sum(self.holes_l_h) / len(self.holes_l_h)
        return min(self.holes_l_h) / mean if mean > 0 else 0.0


def hole_coefficient(speed_head_m: float, total_head_m: float) -> float:
    """Cd of a sharp-edged hole past which water runs, none below 0."""
    return max(STILL - PAST * speed_head_m / total_head_m, 0.0) if total_head_m > 0 else 0.0


def along_pipe(pipe: DrilledPipe, inlet_m: float) -> DrilledFlow:
    """What a drilled pipe gives under a total head at its inlet.

    The head at its far end is sought, however little of it is left: the pipe is marched from there,
    where the flow is known, to the inlet.
    """
    if inlet_m <= 0:
        return marched(pipe, 0.0)[0]
    n = len(pipe.bores_mm)
    if n > 1 and marched(pipe, inlet_m * math.exp(LEAST_SHARE))[1] > inlet_m:
        return _dry_beyond(pipe, inlet_m, n // 2)
    share = brentq(lambda x: math.log(marched(pipe, inlet_m * math.exp(x))[1] / inlet_m),
                   LEAST_SHARE, 0.0, xtol=1e-9)
    return marched(pipe, inlet_m * math.exp(share))[0]


def _dry_beyond(pipe: DrilledPipe, inlet_m: float, near: int) -> DrilledFlow:
    """What a pipe gives whose water is spent long before its end: by its near holes alone."""
    found = along_pipe(replace(pipe, bores_mm=pipe.bores_mm[:near], open_end=False), inlet_m)
    rest = len(pipe.bores_mm) - near
    return DrilledFlow(found.holes_l_h + (0.0,) * rest, 0.0, found.heads_m + (0.0,) * rest,
                       found.coefficients + (STILL,) * rest)


def marched(pipe: DrilledPipe, end_m: float) -> tuple[DrilledFlow, float]:
    """The flow with so much total head at the last hole, and the head that takes at the inlet."""
    area, head = pipe.area_m2, end_m
    # an open end passes all of its head as speed
    flow = math.sqrt(2 * GRAVITY * end_m / (1 + pipe.end_k)) * area * L_H_PER_M3_S if (
        pipe.open_end) else 0.0
    end, holes, heads, coefficients = flow, [], [], []
    for i, bore in enumerate(reversed(pipe.bores_mm)):
        speed_head = (flow / L_H_PER_M3_S / area) ** 2 / (2 * GRAVITY)
        hole = math.pi / 4 * (bore / 1000) ** 2
        cd = hole_coefficient(speed_head, head)
        q = cd * hole * math.sqrt(2 * GRAVITY * max(head, 0.0)) * L_H_PER_M3_S
        coefficients.append(cd)
        holes.append(q)
        heads.append(head)
        flow += q
        length = pipe.lead_m if i == len(pipe.bores_mm) - 1 else pipe.apart_m
        head += float(head_loss(flow, length, pipe.bore_mm))
    return DrilledFlow(tuple(holes[::-1]), end, tuple(heads[::-1]), tuple(coefficients[::-1])), head


def evened(pipe: DrilledPipe, inlet_m: float, drills_mm: Sequence[float] = DRILLS_MM
           ) -> DrilledPipe:
    """The same pipe, its end as it is, with holes so sized that all give about the same.

    Each is taken up or down to the nearest drill; the mean hole keeps its size. Where water runs
    past too fast to turn out at all, no drill is found: the widest is told.
    """
    mean = sum(pipe.bores_mm) / len(pipe.bores_mm)
    exact = pipe
    for _ in range(12):
        flows = along_pipe(exact, inlet_m).holes_l_h
        wanted = sum(flows) / len(flows)
        sizes = [b * math.sqrt(wanted / q) if q > 0 else b * 1.5
                 for b, q in zip(exact.bores_mm, flows, strict=True)]
        scale = mean / (sum(sizes) / len(sizes))
        exact = replace(pipe, bores_mm=tuple(min(s * scale, 2 * drills_mm[-1]) for s in sizes))
    return replace(pipe, bores_mm=tuple(nearest(s, drills_mm) for s in exact.bores_mm))


def nearest(bore_mm: float, drills_mm: Sequence[float] = DRILLS_MM) -> float:
    """The drill that is nearest to a bore."""
    return min(drills_mm, key=lambda d: abs(d - bore_mm))


def by_thirds(pipe: DrilledPipe, drills_mm: Sequence[float] = DRILLS_MM) -> DrilledPipe:
    """A pipe with one drill for each third of its holes: the nearest to their mean."""
    n = len(pipe.bores_mm)
    cuts = [round(n * i / 3) for i in range(4)]
    thirds = [pipe.bores_mm[low:high] for low, high in pairwise(cuts) if high > low]
    return replace(pipe, bores_mm=tuple(
        drill for third in thirds
        for drill in [nearest(sum(third) / len(third), drills_mm)] * len(third)))
