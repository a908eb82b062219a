"""How much an outlet lets by at a head, and the head that drives a flow."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from euhydra.core.library import OutletKind

Array = NDArray[np.float64]
STEEP = 1e4  # m per L/h: stands for "shut" and "flat" so that a law stays invertible
STRAIGHT = 1e-3  # under this share of k the law is a straight line, so that its slope is never 0


@dataclass(frozen=True)
class OutletLaw:
    """What outlets give, by a kind's figures (k, x, opens_m); arrays of equal shapes.

    ``flow`` is L/h at a head in m, nothing below no head. ``head`` is its inverse: the head in m
    that drives each flow, and its slope in m per L/h, made strictly rising, also backwards (see
    ``STEEP``), so that Newton's method can use it.
    """

    flow: Callable[[Array, Array, Array, Array], Array]
    head: Callable[[Array, Array, Array, Array], tuple[Array, Array]]


def outlet_flow(kind: OutletKind, head_m: ArrayLike) -> Array:
    """L/h at a head in m, by the kind's own law; nothing below no head."""
    h = np.maximum(np.asarray(head_m, dtype=float), 0.0)
    own = (np.full_like(h, figure) for figure in (kind.k, kind.x, kind.opens_m))
    return np.asarray(LAWS[kind.law].flow(h, *own))


def head_for(kind: OutletKind, flow_l_h: float) -> float:
    """The head in m that drives a flow in L/h out of a kind: the inverse of its own law."""
    own = (np.full(1, figure) for figure in (kind.k, kind.x, kind.opens_m))
    return float(LAWS[kind.law].head(np.array([flow_l_h]), *own)[0][0])


def power_flow(head_m: Array, k: Array, x: Array, opens_m: Array) -> Array:
    """L/h at a head in m: q = k·hˣ.

    A compensating kind passes k as soon as it opens, and as an orifice before that.
    """
    opening = np.minimum(1.0, np.sqrt(head_m / np.where(opens_m > 0, opens_m, 1.0)))
    return np.asarray(k * np.where(opens_m > 0, opening, head_m**x))


def driving_head(flow_l_h: Array, k: Array, x: Array, opens_m: Array) -> tuple[Array, Array]:
    """Head in m that drives each flow, and its slope in m per L/h; all shapes equal.

    The inverse of :func:`power_flow`, made strictly rising so that Newton's method can use it:
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


LAWS = {"power": OutletLaw(power_flow, driving_head)}
