"""What holds the water of a source: a bank of stores, or a drain's drum by itself."""

from __future__ import annotations

from euhydra.core.garden.model import Garden
from euhydra.core.storage.banks import Bank, banks_of
from euhydra.core.storage.vessel import outlet_z_m


def bank_of(garden: Garden, source: str) -> Bank:
    """The bank that a store belongs to, or that a drain's drum is. Raises KeyError."""
    if drain := garden.drum_of(source):
        return Bank((drain.drum,), (0.0,), outlet_z_m(drain.drum))
    return banks_of(garden).holding(source)
