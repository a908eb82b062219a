"""What a zone's pipe and source carry, and what its plots ask of them together."""

from __future__ import annotations

import math
from collections.abc import Sequence

from euhydra.core import storage
from euhydra.core.garden.model import Garden, Zone
from euhydra.core.hydraulics.assemble import curve_points, outlet_kind
from euhydra.core.hydraulics.emitters import outlet_flow
from euhydra.core.hydraulics.pumps import curve_of
from euhydra.core.library import Library
from euhydra.core.supply import mains
from euhydra.core.units import head_m

FASTEST_M_S = 1.5  # above it pipes hammer and lose head, common practice
HALF_INCH_L_H = 750.0  # 200 US gallons an hour, common practice
HALF_PUSH = 0.5  # of its shut-off head: a pump gives little past that, from memory


def pipe_carries_l_h(library: Library, tube: str) -> float:
    """The most that a supply pipe is to carry."""
    bore_m = library.tubes[tube].bore_mm / 1000
    most = FASTEST_M_S * math.pi / 4 * bore_m**2 * 3600 * 1000
    return min(most, HALF_INCH_L_H) if tube == "poly-16" else most


def carries_l_h(garden: Garden, library: Library, source: str, tube: str) -> float:
    """The most that a zone of this source and supply pipe is to draw."""
    pipe, tap = pipe_carries_l_h(library, tube), garden.tap_of(source)
    if tap is not None:
        return min(pipe, mains.design_l_h(tap))
    lift = garden.lift_on(source)
    if lift is None:
        return pipe
    curve = curve_of(curve_points(lift, library))
    low, high = 0.0, pipe
    if curve.gain_and_fall(high)[0] >= HALF_PUSH * curve.gain_and_fall(0.0)[0]:
        return pipe
    for _ in range(30):
        middle = (low + high) / 2
        weak = curve.gain_and_fall(middle)[0] < HALF_PUSH * curve.gain_and_fall(0.0)[0]
        low, high = (low, middle) if weak else (middle, high)
    return low


def asked_l_h(garden: Garden, library: Library, zone: Zone, carried_l_h: float
              ) -> dict[str, float]:
    """What the outlets of a zone's plots would give with no loss on the way, L/h by plot.

    ``carried_l_h`` is the flow at which a tap or a pump is taken to push. The garden is one that
    is laid already.
    """
    surface = _surface_m(garden, library, zone.source, carried_l_h)
    ends = {line.id: line.end for line in garden.lines if line.zone == zone.id}
    level = {node.id: node.z_m for node in garden.nodes}
    bores = {line.id: library.tubes[line.tube].bore_mm for line in garden.lines}
    found: dict[str, float] = {}
    for run in garden.outlets:
        if run.line not in ends:
            continue
        head = surface - level[ends[run.line]]
        each = float(outlet_flow(
            outlet_kind(garden.plot(run.plot), library, run, bore_mm=bores[run.line]),
            max(head, 0.0)))
        found[run.plot] = found.get(run.plot, 0.0) + each * run.points * run.each
    return found


def _surface_m(garden: Garden, library: Library, source: str, flow_l_h: float) -> float:
    """How high the source's water would stand in an open pipe at a flow."""
    tap, lift = garden.tap_of(source), garden.lift_on(source)
    if tap is not None:
        kpa = mains.pressure_kpa(tap, flow_l_h)
        held = min(kpa, tap.regulator_kpa) if tap.regulator_kpa > 0 else kpa
        return tap.ground_m + tap.height_m + head_m(held)
    full = storage.bank_of(garden, source).full_z_m
    if lift is None:
        return full
    pushed = curve_of(curve_points(lift, library)).gain_and_fall(flow_l_h)[0]
    return full + (min(pushed, head_m(lift.regulator_kpa)) if lift.regulator_kpa > 0 else pushed)


def parted(plots: Sequence[str], asked: dict[str, float], most_l_h: float) -> list[list[str]]:
    """Plots in their order in as few parts as the flow allows, and those as even as may be.

    One that asks for more than there is stands alone.
    """
    fewest = len(_filled(plots, asked, most_l_h))
    low, high = 0.0, most_l_h
    for _ in range(30):
        middle = (low + high) / 2
        low, high = ((low, middle) if len(_filled(plots, asked, middle)) <= fewest
                     else (middle, high))
    return _filled(plots, asked, high)


def _filled(plots: Sequence[str], asked: dict[str, float], most_l_h: float) -> list[list[str]]:
    """Part after part filled up to the flow."""
    found: list[list[str]] = []
    total = math.inf
    for plot in plots:
        flow = asked.get(plot, 0.0)
        if total + flow > most_l_h + 1e-6:
            found.append([])
            total = 0.0
        found[-1].append(plot)
        total += flow
    return found
