"""How cold water warms on its way through a line that lies in the air."""

from __future__ import annotations

import math

from euhydra.core.hydraulics.network import Pipe
from euhydra.core.hydraulics.zone_flow import ZoneFlow, way_to

AIR_W_M2_K = 15.0  # from a pipe's outside to still, mild air and the ground, from memory
HEAT_J_KG_K = 4186.0
WALL_MM = 2.4  # both walls of a polyethylene pipe, from memory
STILL_L_H = 0.01


def pipe_end_c(water_c: float, air_c: float, length_m: float, outside_mm: float,
               flow_l_h: float) -> float:
    """Temperature at a pipe's end, °C: what lacks to the air's shrinks by exp(−UA ÷ ṁc).

    A heat exchanger with one side at rest (Incropera and DeWitt, eq. 8.45a, recalled). Sun is left
    out, so that what comes is no colder than this by day.
    """
    if flow_l_h < STILL_L_H:
        return air_c
    exchange = AIR_W_M2_K * math.pi * outside_mm / 1000 * length_m
    return air_c + (water_c - air_c) * math.exp(-exchange / (flow_l_h / 3600 * HEAT_J_KG_K))


def arrives_c(flow: ZoneFlow, node: str, water_c: float, air_c: float) -> tuple[float, float]:
    """What reaches a node of a zone's network: its temperature, °C, and the pipe it passed, m."""
    passed = 0.0
    for join in way_to(flow, node):
        if isinstance(join, Pipe):
            water_c = pipe_end_c(water_c, air_c, join.length_m, join.bore_mm + WALL_MM,
                                 abs(flow.solution.flow_l_h[join.id]))
            passed += join.length_m
    return water_c, passed
