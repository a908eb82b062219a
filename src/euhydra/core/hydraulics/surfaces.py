"""The water surfaces that push a zone: full, half and low."""

from __future__ import annotations

from euhydra.core import storage
from euhydra.core.garden.model import Garden, Store, Zone
from euhydra.core.units import head_m

LAST_WATER_M = 0.05  # water above the outlet at the lowest level reckoned
SHARES = {"full": 1.0, "half": 0.5, "low": 0.0}  # of the usable water, at the levels reckoned


def zone_levels(garden: Garden, zone: Zone) -> dict[str, float]:
    """The three levels of the surface that pushes a zone; of a tap all three are the same.

    A tap pushes as a surface as high as its static pressure lifts water; its supply curve and its
    regulator stand in the network.
    """
    tap = garden.tap_of(zone.source)
    if tap is None:
        return water_levels(garden, zone.source)
    level = tap.ground_m + tap.height_m + head_m(tap.static_kpa)
    return dict.fromkeys(SHARES, level)


def last_water_m(garden: Garden, store_id: str) -> float:
    """Water over a store's outlet at the lowest level reckoned; with a pump what it leaves."""
    lift = garden.lift_on(store_id)
    return lift.reserve_m if lift else LAST_WATER_M


def water_levels(garden: Garden, store_id: str = "") -> dict[str, float]:
    """The three water levels of a store's bank: full, half its usable water, and the last of it.

    The first store's when none is named.
    """
    store = garden.store_of(store_id) if store_id else garden.store
    bank, low = _bank_and_last(garden, store)
    return {name: _level(bank, low, share) for name, share in SHARES.items()}


def level_at(garden: Garden, store_id: str, share: float) -> float:
    """The water level of a store's bank with a share of its usable water, no lower than the last.

    Levels of full and half water do not go below that either.
    """
    return _level(*_bank_and_last(garden, garden.store_of(store_id)), share)


def _bank_and_last(garden: Garden, store: Store) -> tuple[storage.Bank, float]:
    return (storage.bank_of(garden, store.id),
            storage.outlet_z_m(store) + last_water_m(garden, store.id))


def _level(bank: storage.Bank, low: float, share: float) -> float:
    if share <= 0:
        return low
    return max(bank.full_z_m if share >= 1 else bank.level_z_m(share * bank.usable_l), low)
