"""What gives when the stores do not: wells first, for what comes back into them, then taps."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from euhydra.core.garden.model import Garden, Well
from euhydra.core.storage import Bank, Banks

Days = NDArray[np.float64]


@dataclass(frozen=True)
class Backups:
    """Litres by day. What the stores did not give = wells + taps + lacking."""

    well_l: Days
    tap_l: Days
    lacking_l: Days


def well_day_l(well: Well) -> float:
    """Litres that a well gives day after day: what recovers in 24 h.

    In the hours it is drawn from it can give what stands in it and what comes in meanwhile; it
    recovers for the rest of the day, and never gives more than that returns.
    """
    in_hours = well.standing_l + well.recovery_l_h * well.hours
    return min(in_hours, well.recovery_l_h * 24)


def feeding(banks: Banks, bank: int) -> set[int]:
    """A bank and all those that feed it, straight or by way of others."""
    found = {bank}
    for _ in banks.feeds:
        found |= {a for a, b in banks.feeds if b in found}
    return found


def shared_l(garden: Garden, bank: Bank, drawn_l: float) -> float:
    """What of a day's draw on a bank wells give before it, each its share as far as it goes."""
    stores = {store.id for store in bank.stores}
    gives = sum(min(well.share * drawn_l, well_day_l(well)) for well in garden.wells
                if well.tops_up in stores)
    return min(gives, drawn_l)


def back_up_of(garden: Garden, banks: Banks, bank: int, unmet_l: Days,
               shared: Days | float = 0.0) -> Backups:
    """Who fills in for a bank; ``unmet_l`` may have any shape, as ``shared``, what wells gave.

    Rain is used first, then a well that tops the bank up, then a tap through its air gap. What
    tops up one bank also reaches those that it feeds through a float valve.
    """
    stores = {store.id for b in feeding(banks, bank) for store in banks.banks[b].stores}
    gives = sum(well_day_l(w) for w in garden.wells if w.tops_up in stores)
    drawn = np.minimum(unmet_l, np.maximum(gives - shared, 0.0))
    rest, none = unmet_l - drawn, np.zeros_like(unmet_l)
    tapped = any(t.tops_up in stores for t in garden.taps)
    return Backups(drawn + shared, rest if tapped else none, none if tapped else rest)
