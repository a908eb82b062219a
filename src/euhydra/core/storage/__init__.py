"""Store: vessels and their shapes, banks that share a level, sizing rules."""

from euhydra.core.storage.banks import Bank, Banks, banks_of, drawn_from
from euhydra.core.storage.drums import bank_of
from euhydra.core.storage.shapes import SHAPES
from euhydra.core.storage.sizing import (
    SizingRule,
    five_percent_l,
    longest_dry_spell,
    sequent_peak_l,
)
from euhydra.core.storage.vessel import (
    base_area_m2,
    base_z_m,
    bearing_kpa,
    dead_l,
    dip_at,
    footprint_m2,
    full_dip_m,
    full_mass_kg,
    full_z_m,
    length_m,
    outlet_z_m,
    slenderness,
    total_l,
    usable_l,
    volume_at,
    width_m,
)

__all__ = ["SHAPES", "Bank", "Banks", "SizingRule", "bank_of", "banks_of", "base_area_m2",
           "base_z_m", "bearing_kpa", "dead_l", "dip_at", "drawn_from", "five_percent_l",
           "footprint_m2", "full_dip_m", "full_mass_kg", "full_z_m", "length_m",
           "longest_dry_spell", "outlet_z_m", "sequent_peak_l", "slenderness", "total_l",
           "usable_l", "volume_at", "width_m"]
