"""How much an outlet lets by at a head, and the head that drives a flow."""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray

from euhydra.core.library import OutletKind

Array = NDArray[np.float64]
STEEP = 1e4  # m per L/h: stands for "shut" and "flat" so that a law stays invertible
STRAIGHT = 1e-3  # under this share of k the law is a straight line, so that its slope is never 0


def outlet_flow(kind: OutletKind, head_m: ArrayLike) -> Array:
    """L/h at a head in m: q = k·hˣ, nothing below no head.

    A compensating kind passes k as soon as it opens, and as an orifice before that.
    """
    h = np.maximum(np.asarray(head_m, dtype=float), 0.0)
    if kind.opens_m > 0:
        return np.asarray(kind.k * np.minimum(1.0, np.sqrt(h / kind.opens_m)))
    return np.asarray(kind.k * h**kind.x)


def driving_head(flow_l_h: Array, k: Array, x: Array, opens_m: Array) -> tuple[Array, Array]:
    """Head in m that drives each flow, and its slope in m per L/h; all shapes equal.

    The inverse of :func:`outlet_flow`, made strictly rising so that Newton's method can use it:
    no flow back through an outlet, and a compensating one is all but flat.
    """
    compensating = opens_m > 0
    power = np.where(compensating, 2.0, 1 / np.where(compensating, 1.0, x))
    scale = np.where(compensating, opens_m, 1.0)
    share = np.maximum(flow_l_h, 0.0) / k
    inside = np.maximum(np.where(compensating, np.minimum(share, 1.0), share), STRAIGHT)
    straight = share < STRAIGHT
    head = scale * inside**power
    slope = head * np.where(straight, 1 / STRAIGHT, power / inside) / k
    head = np.where(straight, head * share / STRAIGHT, head)
    past = compensating & (share > 1)
    head = np.where(past, scale + (share - 1) * k * STEEP, head)
    slope = np.where(past, STEEP, slope)
    back = flow_l_h < 0
    return np.where(back, STEEP * flow_l_h, head), np.where(back, STEEP, slope)
