"""Pumps: a curve of points made continuous, and what power and suction come to."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

from euhydra.core.garden.pump_curves import check_curve
from euhydra.core.hydraulics.friction import GRAVITY, L_H_PER_M3_S

DENSITY = 1000.0
WATER_C = 20.0  # of the water that a pump draws, from memory
FLAT = 1e-6  # m per L/h: the least fall of a curve, so that it has one flow for each head


@dataclass(frozen=True)
class PowerCurve:
    """h = top − b qᶜ, as the public EPANET 2 manual makes of one or three points."""

    top_m: float
    b: float
    c: float

    def gain_and_fall(self, flow_l_h: float) -> tuple[float, float]:
        """Head added at a flow (not below 0), m, and how steeply it falls, m per L/h."""
        if flow_l_h <= 0:
            return self.top_m, FLAT
        drop = self.b * flow_l_h**self.c
        return self.top_m - drop - FLAT * flow_l_h, self.c * drop / flow_l_h + FLAT


@dataclass(frozen=True)
class LineCurve:
    """Straight between points, flows rising; past the last it falls on as steeply as before."""

    points: tuple[tuple[float, float], ...]

    def gain_and_fall(self, flow_l_h: float) -> tuple[float, float]:
        """Head added at a flow (not below 0), m, and how steeply it falls, m per L/h."""
        points = self.points
        i = next((i for i in range(1, len(points) - 1) if flow_l_h < points[i][0]),
                 len(points) - 1)
        (q0, h0), (q1, h1) = points[i - 1], points[i]
        fall = max((h0 - h1) / (q1 - q0), FLAT)
        return h0 - fall * (flow_l_h - q0), fall


Points = tuple[tuple[float, float], ...]


@lru_cache(maxsize=64)
def curve_of(points: Points) -> PowerCurve | LineCurve:
    """The curve through (L/h, m) points. Raises :class:`BadCurve`.

    One point, or three from no flow on, make a power curve as in the public EPANET 2 manual: one
    point stands for (0, 4/3 h), (q, h), (2q, 0). Any other number is joined by straight lines.
    """
    check_curve(points)
    if len(points) == 1:
        (q, h), = points
        return PowerCurve(4 / 3 * h, h / 3 / q**2, 2.0)
    if len(points) == 3 and points[0][0] == 0:
        (_, h0), (q1, h1), (q2, h2) = points
        power = math.log((h0 - h2) / (h0 - h1)) / math.log(q2 / q1)
        if 0 < power <= 20:
            return PowerCurve(h0, (h0 - h1) / q1**power, power)
    return LineCurve(points)


def most_flow_l_h(points: Points) -> float:
    """The flow at which the pump adds no more head."""
    low, high = 0.0, max(q for q, _ in points) * 4 + 1
    curve = curve_of(points)
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if curve.gain_and_fall(middle)[0] > 0 else (low, middle)
    return low


def water_power_w(flow_l_h: float, head_m: float) -> float:
    """Power that goes into the water: ρ g Q H."""
    return DENSITY * GRAVITY * flow_l_h / L_H_PER_M3_S * head_m


def atmosphere_m(altitude_m: float) -> float:
    """Weight of the air as metres of water: the standard atmosphere, 101.325 kPa at the sea."""
    kpa = 101.325 * float((1 - 2.25577e-5 * altitude_m) ** 5.25588)
    return kpa * 1000 / DENSITY / GRAVITY


def vapour_m(temperature_c: float) -> float:
    """Vapour pressure of water as metres of water: Tetens, as FAO-56 eq. 11."""
    return 0.6108 * math.exp(17.27 * temperature_c / (temperature_c + 237.3)) * 1000 / (
        DENSITY * GRAVITY)


def suction_left_m(altitude_m: float, temperature_c: float, lift_m: float, lost_m: float) -> float:
    """Head left at a pump's inlet over vapour (NPSH available): air − vapour − lift − losses.

    ``lift_m`` is the inlet's height over the water; below 0 when the water stands higher.
    """
    return atmosphere_m(altitude_m) - vapour_m(temperature_c) - lift_m - lost_m
