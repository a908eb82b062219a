"""How a garden was watered before anything was laid: what a plan spares is told against it."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from euhydra.core.garden.base import Part, measure

# What counts of each way that a garden may be watered.
MEASURES_OF = {"new": (), "can": ("cans", "can_l"), "hose": ("hose_min",),
               "timer": ("timer_min", "every_days")}


class Today(Part):
    """The way it is watered until now, and what that takes on a day of high summer.

    Only the measures of that way count: ``cans`` of ``can_l``, minutes with the hose, or a timer's
    run of ``timer_min`` every so many days.
    """

    way: Literal["new", "can", "hose", "timer"] = Field("new", title="watered until now")
    cans: int = measure("cans a day", "count", 0, 300, 6)
    can_l: float = measure("a can holds", "volume", 0.5, 30, 10.0)
    hose_min: float = measure("minutes with the hose a day", "minutes", 0, 600, 20)
    timer_min: float = measure("the timer runs", "minutes", 0, 720, 20)
    every_days: float = measure("every so many days", "days", 0.25, 14, 1.0)
