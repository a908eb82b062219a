"""Which banks a garden's wells give to, and how much, as the season runs them.

A well that feeds lines itself stands as a bank that holds nothing, behind those of the stores.
"""

from __future__ import annotations

from dataclasses import dataclass

from euhydra.core.garden.model import Garden
from euhydra.core.storage import Banks
from euhydra.core.storage.top_up import feeding, well_day_l


@dataclass(frozen=True)
class WellDraws:
    """``day_l`` of each well; ``to`` are (well, bank) with the ``shares`` of each draw it gives.

    ``shafts`` is the bank that a well which feeds lines itself stands as, by its id.
    """

    day_l: tuple[float, ...]
    to: tuple[tuple[int, int], ...]
    shares: tuple[float, ...]
    shafts: dict[str, int]


def well_draws(garden: Garden, banks: Banks) -> WellDraws:
    """All wells of a garden, in their order: each gives to its store's bank and what that feeds."""
    behind = max(len(banks.banks), 1)
    shafts = {
        well.id: behind + i for i, well in enumerate(w for w in garden.wells if not w.tops_up)
    }
    found: list[tuple[int, int, float]] = []
    for i, well in enumerate(garden.wells):
        if not well.tops_up:
            found.append((i, shafts[well.id], 0.0))
            continue
        own = banks.of_store[well.tops_up]
        found += [
            (i, b, well.share if b == own else 0.0)
            for b in range(len(banks.banks))
            if own in feeding(banks, b)
        ]
    return WellDraws(
        tuple(well_day_l(well) for well in garden.wells),
        tuple((i, b) for i, b, _ in found),
        tuple(s for *_, s in found),
        shafts,
    )
