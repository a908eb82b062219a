"""Hand valves: how far shut a loss coefficient asks them to be. Weisbach's tables, recalled."""

from __future__ import annotations

import math

import numpy as np

from euhydra.core.hydraulics.drilled import DRILLS_MM, STILL
from euhydra.core.hydraulics.friction import GRAVITY, L_H_PER_M3_S

BAR_M = 10.197  # of water
# A cock in a round pipe: degrees shut, K. Weisbach, as reprinted in handbooks; recalled.
COCK_DEG = (0, 5, 10, 15, 20, 25, 30, 35, 40, 45, 50, 55, 60, 65)
COCK_K = (0.05, 0.05, 0.29, 0.75, 1.56, 3.10, 5.47, 9.68, 17.3, 31.2, 52.6, 106, 206, 486)
# A gate in a round pipe: eighths shut, K. The same source.
GATE_EIGHTHS = (0, 1, 2, 3, 4, 5, 6, 7)
GATE_K = (0.05, 0.07, 0.26, 0.81, 2.06, 5.52, 17.0, 97.8)


def lever_deg(k: float) -> float | None:
    """Degrees that a ball valve's lever is turned from in line, towards across, for a K.

    None beyond the table: there a hair's breadth of the lever changes all.
    """
    if k > COCK_K[-1]:
        return None
    return float(np.interp(math.log(max(k, COCK_K[1])), np.log(COCK_K[1:]), COCK_DEG[1:]))


def gate_open_eighths(k: float) -> float | None:
    """How many eighths of its way a gate or screw valve stands open for a K.

    None beyond the table.
    """
    if k > GATE_K[-1]:
        return None
    return 8 - float(np.interp(math.log(max(k, GATE_K[0])), np.log(GATE_K), GATE_EIGHTHS))


def k_of(lost_m: float, flow_l_h: float, bore_mm: float) -> float:
    """Loss coefficient on the speed in a bore of a component that loses so much head."""
    speed = flow_l_h / L_H_PER_M3_S / (math.pi / 4 * (bore_mm / 1000) ** 2)
    return 2 * GRAVITY * lost_m / speed**2 if speed > 0 else 0.0


def restrictor_mm(lost_m: float, flow_l_h: float) -> float:
    """Bore of the hole in a plug that loses so much head at a flow, to the nearest drill.

    Water that stands still before it: q = Cd a √(2 g h), Cd as for a drilled pipe.
    """
    area = flow_l_h / L_H_PER_M3_S / (STILL * math.sqrt(2 * GRAVITY * lost_m))
    return min(DRILLS_MM, key=lambda mm: abs(mm - 1000 * math.sqrt(4 * area / math.pi)))


def restrictor_kv(bore_mm: float) -> float:
    """Kv of such a hole."""
    area = math.pi / 4 * (bore_mm / 1000) ** 2
    return STILL * area * math.sqrt(2 * GRAVITY * BAR_M) * 3600


def kv_of(lost_m: float, flow_l_h: float) -> float:
    """Kv (m³/h at 1 bar) of a component that loses so much head at a flow."""
    return flow_l_h / 1000 * math.sqrt(BAR_M / lost_m) if lost_m > 0 else math.inf
