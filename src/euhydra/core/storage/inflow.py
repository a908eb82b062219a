"""The rain that roofs bring to the banks, and the days on which frost keeps it from them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from euhydra.core.storage.banks import Banks
from euhydra.core.supply import runoff

Days = NDArray[np.float64]


@dataclass(frozen=True, eq=False)
class Inflow:
    """What each roof yields, by its id, were no store ever out of use for frost: ``unwintered``.

    ``winters`` are the days of the year on which each bank is emptied for it, (banks, 365);
    ``days`` is the shape of what stands by day, (years, 365).
    """

    unwintered: Mapping[str, runoff.RoofYield]
    banks: Banks
    winters: NDArray[np.bool_]
    days: tuple[int, int]

    @cached_property
    def yields(self) -> Mapping[str, runoff.RoofYield]:
        """Litres by day from each roof, by roof id."""
        out = {store: self.winters[bank] for store, bank in self.banks.of_store.items()
               if self.winters[bank].any()}
        return {roof: runoff.wintered(told, out) if out else told
                for roof, told in self.unwintered.items()}

    @cached_property
    def by_bank_l(self) -> Days:
        """Litres by day that reach each bank, (banks, years, 365); one bank if there is none."""
        total = np.zeros((max(1, len(self.banks.banks)), *self.days))
        for roof in self.yields.values():
            for store, litres in roof.by_store.items():
                total[self.banks.of_store[store]] += litres
        return total

    @cached_property
    def total_l(self) -> Days:
        """Litres by day that reach any store."""
        return np.asarray(self.by_bank_l.sum(axis=0))


def winters_of(banks: Banks, timer_days: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """Days of the year on which each bank is emptied and out of use for frost, (banks, 365).

    ``timer_days`` are those on which what freezes may stand outside.
    """
    return np.array([~timer_days & (not bank.frost_proof) for bank in banks.banks]
                    or [np.zeros(365, dtype=bool)])
