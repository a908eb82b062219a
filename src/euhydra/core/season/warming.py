"""Have every compiled loop ready before anyone waits for it."""

from __future__ import annotations

import numpy as np

from euhydra.core import season


def warm() -> None:
    """Compile the loops, or read them from the disk: a season's, a storm's and a network's."""
    from euhydra.core.hydraulics.elimination import Elimination
    from euhydra.core.storage import filling

    season.warm()
    none, links = np.zeros(1), np.zeros(0)
    row = filling.Row(np.zeros((1, filling.DIPS)), none, none, none, none, links.astype(np.int64),
                      links.astype(np.int64), links, links, links, links)
    filling.fill(row, none.copy(), 1.0)
    filling.settle(row, none.copy())
    Elimination(np.array([0, 1]), np.array([0])).solve(np.ones(1), none)
