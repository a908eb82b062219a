"""Gutters: rain parted among their downspouts, and what runs over the edge."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from euhydra.core.garden.model import Downspout, Roof

Litres = NDArray[np.float64]
# Vertical conductors, (bore mm, L/h): 2 in 2,880 ft², 3 in 8,800 ft², 4 in 18,400 ft² of roof at
# 1 in/h, recalled from plumbing-code tables; 1 in on 1,000 ft² is 2,359.7 L.
CONDUCTORS = ((50.8, 2880 * 2.3597), (76.2, 8800 * 2.3597), (101.6, 18400 * 2.3597))
CONDUCTOR_POWER = 8 / 3  # capacity goes with bore to this power beyond the table (Wyly and Eaton)
GUTTER_WORST = 0.9  # of its nominal capacity, EN 12056-3, recalled
LITTLE_L = 1e-9


def gutter_l_h(width_mm: float) -> float:
    """What a level half-round gutter carries to its outlet: Q = 2.78e-5 A^1.25 L/s, A in mm².

    EN 12056-3, recalled, with its 0.9 for a gutter as laid.
    """
    area = math.pi / 8 * width_mm**2
    return GUTTER_WORST * 2.78e-5 * math.pow(area, 1.25) * 3600


def conductor_l_h(bore_mm: float) -> float:
    """What a vertical downspout carries: straight between the table's bores on log scales."""
    if bore_mm <= CONDUCTORS[0][0] or bore_mm >= CONDUCTORS[-1][0]:
        bore, flow = CONDUCTORS[0] if bore_mm <= CONDUCTORS[0][0] else CONDUCTORS[-1]
        return flow * math.pow(bore_mm / bore, CONDUCTOR_POWER)
    bores, flows = zip(*CONDUCTORS, strict=True)
    return math.exp(float(np.interp(math.log(bore_mm), np.log(bores), np.log(flows))))


def down_l_h(spout: Downspout) -> float:
    """What goes down a downspout at the most: its bore's, or what its restrictor lets through."""
    most = conductor_l_h(spout.bore_mm)
    return min(most, spout.restrictor_l_h) if spout.restrictor_l_h > 0 else most


def sharing(roofs: Iterable[Roof]) -> tuple[tuple[Roof, ...], ...]:
    """Roofs by the gutter that they share, each gutter's own roof first."""
    groups: dict[str, list[Roof]] = {}
    for roof in sorted(roofs, key=lambda r: bool(r.gutter_of)):
        groups.setdefault(roof.gutter_of or roof.id, []).append(roof)
    return tuple(map(tuple, groups.values()))


@dataclass(frozen=True)
class Parted:
    """One roof's water: down each of its gutter's downspouts, by (roof, downspout) id.

    ``unlisted`` goes where no downspout of the garden leads, ``over_edge`` over the gutter's edge.
    """

    down: dict[tuple[str, str], Litres]
    unlisted: Litres
    over_edge: Litres


def parted(roofs: Sequence[Roof], litres: Sequence[Litres], hours: float) -> list[Parted]:
    """The water of roofs that share a gutter, parted as it comes within so many hours.

    Each roof's water goes down its own downspouts by their shares. What one cannot take runs along
    the gutter, as much as that carries, to those that have room, then to a downspout that is not
    listed (where the shares leave some), then over the edge. By ``roofs``, arrays of any one shape.
    """
    spouts = [(roof, spout) for roof in roofs for spout in roof.downspouts]
    own = [water * spout.share for roof, water in zip(roofs, litres, strict=True)
           for spout in roof.downspouts]
    most = [down_l_h(spout) * hours for _, spout in spouts]
    taken = [np.minimum(water, cap) for water, cap in zip(own, most, strict=True)]
    held = [sum((o - t for (r, _), o, t in zip(spouts, own, taken, strict=True) if r is roof),
                np.zeros_like(water)) for roof, water in zip(roofs, litres, strict=True)]
    unlisted = [water * max(1 - sum(s.share for s in roof.downspouts), 0.0)
                for roof, water in zip(roofs, litres, strict=True)]
    along = np.minimum(sum(held), min(gutter_l_h(r.gutter_mm) for r in roofs) * hours)
    room = [cap - t for cap, t in zip(most, taken, strict=True)]
    fits = np.minimum(sum(room), along)
    lent = [np.divide(fits * r, sum(room), out=np.zeros_like(fits), where=sum(room) > LITTLE_L)
            for r in room]
    open_end = any(sum(s.share for s in roof.downspouts) < 1 - 1e-6 for roof in roofs)
    away = along - fits if open_end else np.zeros_like(along)
    total = np.maximum(sum(held), LITTLE_L)
    found = []
    for i, roof in enumerate(roofs):
        part = held[i] / total
        down = {(r.id, s.id): part * lent[n] + (taken[n] if r is roof else 0.0)
                for n, (r, s) in enumerate(spouts)}
        found.append(Parted(down, unlisted[i] + part * away, part * (sum(held) - fits - away)))
    return found
