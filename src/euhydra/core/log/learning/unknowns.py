"""What is not known of a garden's water, as numbers that are standard normal before any reading."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
# Before anything is read, from memory: middle, and the spread of its logarithm.
THIRST = (1.0, 0.2)
RUNOFF = (1.0, 0.3)  # against the table's
LEAK_L = (3.0, 1.5)  # a day
DRAW = (1.0, 0.12)  # a zone's flow against the one that its runs are set by


@dataclass(frozen=True)
class Unknown:
    """One of them. ``kind`` is thirst, runoff, leak or draw; ``at`` the number of its bank or zone.

    It is ``middle`` × exp(``spread`` × z) for a standard normal z, ``most`` at the most.
    """

    kind: str
    at: int
    middle: float
    spread: float
    most: float = np.inf

    def values(self, z: Array) -> Array:
        """The number itself, of each z."""
        return np.asarray(np.minimum(self.middle * np.exp(self.spread * z), self.most))

    @property
    def before(self) -> tuple[float, float]:
        """Its 90 % range before anything is read."""
        low, high = self.values(np.array([-1.645, 1.645]))
        return float(low), float(high)


def of_kind(unknowns: Sequence[Unknown], values: Array, kind: str) -> list[tuple[int, Array]]:
    """The numbers of a kind with where they are, of values (S, N)."""
    return [(u.at, values[:, i]) for i, u in enumerate(unknowns) if u.kind == kind]
