"""Drippers to a pot, so that one run serves big pots and small ones alike."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from euhydra.core.garden.plot_forms import MOST_DRIPPERS

WITHIN = 0.1  # of the best served every pot is to get, less than this share apart


@dataclass(frozen=True)
class Served:
    """A row of like pots: how many, drippers in each now, what a run gives over what is wanted."""

    pots: int
    each: int
    share: float

    def at(self, each: int) -> float:
        """The share with so many drippers in each, the pressure taken to stay as it is."""
        return self.share * each / self.each


def apart(shares: list[float]) -> float:
    """How much less the worst served gets than the best, as a share of the best; 0 for one."""
    return 1 - min(shares) / max(shares) if shares and max(shares) > 0 else 0.0


def fewest_even(rows: Mapping[str, Served], most: int = MOST_DRIPPERS) -> dict[str, int] | None:
    """The fewest drippers in all that bring every row within a tenth of the best served.

    None where no number up to ``most`` a pot does. Exact: the worst served row of the best answer
    stands at one of its own shares, so every such share is tried as the least of all.
    """
    best: dict[str, int] | None = None
    least_drippers = math.inf
    for floor in {row.at(n) for row in rows.values() for n in range(1, most + 1)}:
        each = {key: max(1, math.ceil(floor / row.at(1) - 1e-9)) for key, row in rows.items()}
        shares = [rows[key].at(n) for key, n in each.items()]
        drippers = sum(rows[key].pots * n for key, n in each.items())
        if max(each.values()) <= most and apart(shares) <= WITHIN and drippers < least_drippers:
            best, least_drippers = each, drippers
    return best
