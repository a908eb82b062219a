"""What each kind of link asks of the water: head lost (m) at a flow (L/h), and the slope of that.

Every law rises strictly with the flow, also backwards through what lets nothing back, so that a
network of them has one solution and Newton's method finds it.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from euhydra.core.hydraulics.emitters import LAWS, STEEP
from euhydra.core.hydraulics.friction import (
    GRAVITY,
    L_H_PER_M3_S,
    PLASTIC_ROUGHNESS_MM,
    joining_cubic,
    kinematic_viscosity,
    kv_resistance,
)
from euhydra.core.hydraulics.network import Emitter, Loss, Pipe, Pump
from euhydra.core.hydraulics.pumps import curve_of

Array = NDArray[np.float64]
TINY = 1e-9  # m per L/h, so that a law with next to no loss still has a slope
ALL_BUT_SHUT = 1e7  # m per (L/h)²: 40 m of head push 2 mL/h through it
SEEP_L_H = 1e-3  # below it a component loses in step with the flow: its slope is never nil


class PipeLaw:
    """Darcy–Weisbach and local losses for all pipes at once, with its exact slope."""

    def __init__(self, pipes: Sequence[Pipe], temperature_c: float) -> None:
        bore_m = np.array([p.bore_mm for p in pipes], dtype=float) / 1000
        length = np.array([p.length_m for p in pipes], dtype=float)
        k = np.array([p.k for p in pipes], dtype=float)
        nu = kinematic_viscosity(temperature_c)
        self.re = 4 / (np.pi * bore_m * nu) / L_H_PER_M3_S
        speed_head = 8 / (np.pi**2 * GRAVITY * bore_m**4) / L_H_PER_M3_S**2
        self.friction = speed_head * length / bore_m
        self.local = speed_head * k
        self.laminar = 128 * nu * length / (np.pi * GRAVITY * bore_m**4) / L_H_PER_M3_S
        self.rough = PLASTIC_ROUGHNESS_MM / 1000 / bore_m
        self.cubic = joining_cubic(self.rough)
        self.one_way = np.array([p.one_way for p in pipes], dtype=bool)

    def __call__(self, flow: Array) -> tuple[Array, Array]:
        """Loss and slope of each pipe."""
        size = np.abs(flow)
        loss, slope = self.laminar * size, self.laminar.copy()
        fast = np.flatnonzero(size * self.re > 2000)
        if fast.size:
            loss[fast], slope[fast] = self._fast(fast, size[fast])
        loss = np.copysign(loss + self.local * size**2 + TINY * size, flow)
        slope = slope + 2 * self.local * size + TINY
        back = self.one_way & (flow < 0)
        if back.any():
            loss, slope = np.where(back, STEEP * flow, loss), np.where(back, STEEP, slope)
        return loss, slope

    def _fast(self, i: NDArray[np.intp], size: Array) -> tuple[Array, Array]:
        re = size * self.re[i]
        x1, x2, x3, x4 = (x[i] for x in self.cubic)
        r = np.minimum(re / 2000, 2.0)
        f, df = x1 + r * (x2 + r * (x3 + r * x4)), (x2 + r * (2 * x3 + 3 * r * x4)) / 2000
        far = re >= 4000
        if far.any():
            y = self.rough[i][far] / 3.7 + 5.74 / re[far] ** 0.9
            log_y = np.log10(y)
            f[far] = 0.25 / log_y**2
            df[far] = -0.5 / log_y**3 / (y * np.log(10)) * (-0.9 * 5.74 / re[far] ** 1.9)
        loss = self.friction[i] * f * size**2
        return loss, self.friction[i] * (2 * f * size + df * self.re[i] * size**2)


class LossLaw:
    """Components of Kv; those that let nothing back are all but shut to it."""

    def __init__(self, losses: Sequence[Loss]) -> None:
        clogged = np.array([x.clogged for x in losses], dtype=float)
        self.resistance = np.minimum(
            kv_resistance(np.array([x.kv for x in losses], dtype=float)) * clogged, ALL_BUT_SHUT)
        self.one_way = np.array([x.one_way for x in losses], dtype=bool)

    def __call__(self, flow: Array) -> tuple[Array, Array]:
        """Loss and slope of each component."""
        size = np.abs(flow)
        back = self.one_way & (flow < 0)
        seep = self.resistance * SEEP_L_H + TINY
        loss = self.resistance * flow * size + seep * flow
        slope = 2 * self.resistance * size + seep
        return np.where(back, STEEP * flow, loss), np.where(back, STEEP, slope)


class PumpLaw:
    """Pumps add head: their loss is their gain turned about; none runs backwards."""

    def __init__(self, pumps: Sequence[Pump]) -> None:
        self.curves = [curve_of(p.points) for p in pumps]

    def __call__(self, flow: Array) -> tuple[Array, Array]:
        """Loss (below 0) and slope of each pump."""
        loss, slope = np.empty_like(flow), np.empty_like(flow)
        for i, (curve, q) in enumerate(zip(self.curves, flow.tolist(), strict=True)):
            gain, fall = curve.gain_and_fall(max(q, 0.0))
            loss[i], slope[i] = (-gain, fall) if q >= 0 else (STEEP * q - gain, STEEP)
        return loss, slope


class EmitterLaw:
    """Outlets into the air; the flow is that of all like outlets at the node."""

    def __init__(self, emitters: Sequence[Emitter]) -> None:
        self.count = np.array([e.count for e in emitters], dtype=float)
        ids = [id(e.kind) for e in emitters]  # thousands of outlets are of few kinds
        kinds = [e.kind for e in dict(zip(ids, emitters, strict=True)).values()]
        number = {id(kind): i for i, kind in enumerate(kinds)}
        of = np.array([number[i] for i in ids], dtype=np.intp)
        figures = np.array([(x.k, x.x, x.opens_m) for x in kinds], dtype=float).reshape(-1, 3)[of]
        self.k = figures[:, 0]
        self.laws = []
        for name in dict.fromkeys(kind.law for kind in kinds):
            own = np.flatnonzero(np.array([kind.law == name for kind in kinds])[of])
            self.laws.append((LAWS[name].head, own, tuple(np.ascontiguousarray(figures[own].T))))

    def __call__(self, flow: Array) -> tuple[Array, Array]:
        """Head that drives each, and slope."""
        each = flow / self.count
        if len(self.laws) == 1:
            (law, _, figures), = self.laws
            head, slope = law(each, *figures)
            return head, slope / self.count
        head, slope = np.empty_like(flow), np.empty_like(flow)
        for law, own, figures in self.laws:
            head[own], slope[own] = law(each[own], *figures)
        return head, slope / self.count
