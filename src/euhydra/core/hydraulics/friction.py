"""Loss of head along a pipe by Darcy–Weisbach, from laminar to turbulent flow."""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray

GRAVITY = 9.80665
PLASTIC_ROUGHNESS_MM = 0.0015
L_H_PER_M3_S = 3.6e6

Array = NDArray[np.float64]


def kinematic_viscosity(temperature_c: float) -> float:
    """Of water, in m²/s: Poiseuille's formula (recalled), 1.02e-6 at 20 °C."""
    return 1.792e-6 / (1 + 0.0337 * temperature_c + 0.000221 * temperature_c**2)


def reynolds(flow_l_h: ArrayLike, bore_mm: ArrayLike, temperature_c: float = 15.0) -> Array:
    """Re = 4Q/(πDν); any shape."""
    q = np.abs(np.asarray(flow_l_h, dtype=float)) / L_H_PER_M3_S
    d = np.asarray(bore_mm, dtype=float) / 1000
    return np.asarray(4 * q / (np.pi * d * kinematic_viscosity(temperature_c)))


def friction_factor(re: ArrayLike, relative_roughness: ArrayLike) -> Array:
    """Darcy friction factor: 64/Re to Re 2000, Swamee–Jain from 4000, Dunlop's cubic between.

    The join is the one described in the public EPANET 2 manual (Rossman 2000, appendix D).
    ``re`` must be above 0.
    """
    re, rough = np.broadcast_arrays(np.asarray(re, dtype=float), relative_roughness)
    x1, x2, x3, x4 = joining_cubic(rough)
    r = re / 2000
    cubic = x1 + r * (x2 + r * (x3 + r * x4))
    y = rough / 3.7 + 5.74 / np.maximum(re, 1.0) ** 0.9
    return np.asarray(np.select([re <= 2000, re < 4000], [64 / re, cubic], 0.25 / np.log10(y) ** 2))


def joining_cubic(relative_roughness: ArrayLike) -> tuple[Array, Array, Array, Array]:
    """Coefficients of Dunlop's cubic in Re/2000, between laminar and turbulent flow."""
    y2 = np.asarray(relative_roughness, dtype=float) / 3.7 + 5.74 / 4000**0.9
    y3 = -0.86859 * np.log(y2)
    fa = y3**-2
    fb = fa * (2 - 0.00514215 / (y2 * y3))
    return (np.asarray(7 * fa - fb), np.asarray(0.128 - 17 * fa + 2.5 * fb),
            np.asarray(-0.128 + 13 * fa - 2 * fb), np.asarray(0.032 - 3 * fa + 0.5 * fb))


def head_loss(flow_l_h: ArrayLike, length_m: ArrayLike, bore_mm: ArrayLike, k: ArrayLike = 0.0,
              temperature_c: float = 15.0,
              roughness_mm: float = PLASTIC_ROUGHNESS_MM) -> Array:
    """Head lost in m, with the sign of the flow: (f·L/D + K) v²/2g. Any broadcastable shapes."""
    q = np.asarray(flow_l_h, dtype=float)
    d = np.asarray(bore_mm, dtype=float) / 1000
    speed = velocity(q, bore_mm)
    re = np.maximum(reynolds(q, bore_mm, temperature_c), 1e-9)
    f = friction_factor(re, roughness_mm / 1000 / d)
    loss = (f * np.asarray(length_m) / d + np.asarray(k)) * speed**2 / (2 * GRAVITY)
    return np.asarray(np.sign(q) * loss)


def velocity(flow_l_h: ArrayLike, bore_mm: ArrayLike) -> Array:
    """Mean speed in m/s, never negative."""
    area = np.pi / 4 * (np.asarray(bore_mm, dtype=float) / 1000) ** 2
    return np.asarray(np.abs(np.asarray(flow_l_h, dtype=float)) / L_H_PER_M3_S / area)


def kv_resistance(kv: ArrayLike) -> Array:
    """M of head per (L/h)² for a component of Kv m³/h at 1 bar: h = 10.197 (Q/Kv)²."""
    return np.asarray(1e5 / (1000 * GRAVITY) / (1000 * np.asarray(kv, dtype=float)) ** 2)


def christiansen(outlets: int, m: float = 1.852) -> float:
    """Share of a pipe's full-flow loss that remains when ``outlets`` even outlets draw it off.

    Christiansen 1942: F = 1/(m+1) + 1/(2N) + √(m−1)/(6N²).
    """
    return 1 / (m + 1) + 1 / (2 * outlets) + float(np.sqrt(m - 1)) / (6 * outlets**2)
