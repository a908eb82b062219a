"""A crop of the gardener's own, for what the tables do not hold."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from euhydra.core.garden.base import Thing, measure


class OwnCrop(Thing):
    """What the gardener knows of a plant: FAO-56 coefficients, stages in days, roots, spacing."""

    season: Literal["warm", "cool"] = Field("warm", title="season")
    thirst: Literal["leafy", "fruiting", "woody"] = Field("fruiting", title="waters like")
    kc_ini: float = measure("Kc at first", "ratio", 0.05, 1.4, 0.5)
    kc_mid: float = measure("Kc full grown", "ratio", 0.1, 1.4, 1.0)
    kc_end: float = measure("Kc at the end", "ratio", 0.05, 1.4, 0.8)
    days_ini: float = measure("days to first cover", "days", 1, 200, 25)
    days_dev: float = measure("days growing", "days", 1, 200, 35)
    days_mid: float = measure("days full grown", "days", 1, 330, 50)
    days_late: float = measure("days ripening", "days", 1, 200, 20)
    root_m: float = measure("root depth", "length", 0.05, 3, 0.6)
    p: float = measure("share roots can draw unharmed", "share", 0.1, 0.8, 0.4)
    spacing_m: float = measure("plant spacing", "small", 0.02, 10, 0.3)
    canopy_m: float = measure("full-grown width", "small", 0.02, 12, 0.3)
    height_m: float = measure("full-grown height", "length", 0.03, 12, 0.5)
    edible_raw: Literal["no", "leaf", "root", "fruit"] = Field("no", title="eaten raw")
