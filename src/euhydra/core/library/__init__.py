"""The trade tables the core reckons with, as values. The files stand in ``euhydra/data``."""

from euhydra.core.library.kits import Kit, KitCare, KitHole, KitPart, KitStep
from euhydra.core.library.rows import (
    Climate,
    Crop,
    FittingKind,
    GreySchool,
    Guard,
    OutletKind,
    Part,
    PumpKind,
    RoofMaterial,
    Row,
    Soil,
    Timer,
    Tube,
    WateringMethod,
)
from euhydra.core.library.tables import Library

__all__ = [
    "Climate", "Crop", "FittingKind", "GreySchool", "Guard", "Kit", "KitCare",
    "KitHole", "KitPart", "KitStep", "Library", "OutletKind", "Part",
    "PumpKind", "RoofMaterial", "Row", "Soil", "Timer", "Tube", "WateringMethod",
]
