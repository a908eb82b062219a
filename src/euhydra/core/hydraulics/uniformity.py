"""How even a zone waters."""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike


def distribution_uniformity(flows: ArrayLike) -> float:
    """Low-quarter DU: mean of the lowest quarter over the mean of all; 0 when nothing flows."""
    sorted_flows = np.sort(np.asarray(flows, dtype=float))
    if sorted_flows.size == 0 or sorted_flows.mean() <= 0:
        return 0.0
    quarter = max(1, round(sorted_flows.size / 4))
    return float(sorted_flows[:quarter].mean() / sorted_flows.mean())


def emission_uniformity(flows: ArrayLike, cv: float, per_plant: float = 1.0) -> float:
    """EU as a share: (1 − 1.27 Cv/√n) q_min/q_avg (Keller & Karmeli 1974).

    ``cv`` is the outlets' manufacturing variation, ``per_plant`` the outlets that serve a plant.
    """
    q = np.asarray(flows, dtype=float)
    if q.size == 0 or q.mean() <= 0:
        return 0.0
    return float((1 - 1.27 * cv / np.sqrt(per_plant)) * q.min() / q.mean())


def uniformity_class(eu: float) -> str:
    """ASAE EP458's words (recalled): over 0.90 excellent, 0.80 good, 0.70 fair, else poor."""
    for floor, word in ((0.90, "excellent"), (0.80, "good"), (0.70, "fair")):
        if eu >= floor:
            return word
    return "poor"
