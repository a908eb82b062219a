"""A case opened: what can be seen of a zone or a bank, what may be wrong there, how it stands."""

from __future__ import annotations

import numpy as np

from euhydra.core import storage
from euhydra.core.advise.diagnosing.bank_faults import bank_signs, bank_suspects
from euhydra.core.advise.diagnosing.found import Sign, Suspects
from euhydra.core.advise.diagnosing.pipework import Pipework
from euhydra.core.advise.diagnosing.signs import signs_of
from euhydra.core.advise.diagnosing.zone_faults import zone_suspects
from euhydra.core.garden.model import Zone
from euhydra.core.results.results import Results
from euhydra.core.storage import Bank

LEAST_SHARE, EMPTY_M = 0.1, 0.05  # of its water; a dip under that says that it is empty


def cases_of(r: Results) -> dict[str, str]:
    """The names of all that can be looked into, by id: zones with lines, banks."""
    laid = {line.zone for line in r.garden.lines}
    found = {zone.id: zone.name for zone in r.garden.zones if zone.id in laid}
    return found | {bank.id: bank.name for bank in r.banks.banks}


def signs_at(r: Results, of: str) -> tuple[Sign, ...]:
    """What can be seen of one of ``cases_of``. Raises KeyError."""
    zone = _zone(r, of)
    return signs_of(Pipework(r, zone, 0.5)) if zone else bank_signs(r, _bank(r, of))


def suspects_at(r: Results, of: str, share: float, month: int) -> Suspects:
    """What may be wrong with one of ``cases_of`` in a month (0 to 11). Raises KeyError.

    With a ``share`` of its source's usable water left.
    """
    zone = _zone(r, of)
    share = min(max(share, LEAST_SHARE), 1.0)
    return (zone_suspects(r, zone, share, month) if zone else
            bank_suspects(r, _bank(r, of), share, month))


def share_by_dip(r: Results, of: str, dip_m: float) -> float | None:
    """What share of its source's water is left where it stands so high over the outlet; None where
    a stick does not tell, or all but nothing is left.
    """
    zone = _zone(r, of)
    if zone is None or zone.source not in r.banks.of_store or dip_m <= EMPTY_M:
        return None
    bank = r.banks.holding(zone.source)
    levels, litres = bank.curve
    store = r.garden.store_of(zone.source)
    left = float(np.interp(storage.outlet_z_m(store) + dip_m, levels, litres))
    return left / bank.usable_l if bank.usable_l > 0 else None


def _zone(r: Results, of: str) -> Zone | None:
    return next((z for z in r.garden.zones if z.id == of), None)


def _bank(r: Results, of: str) -> Bank:
    return r.banks.holding(of)
