"""Troubles that no reading of water tells apart: what each mostly means, what to do.

Common practice. What is wrong with lines, valves, pumps and stores is found in ``diagnosing``.
"""

from __future__ import annotations

from dataclasses import dataclass

from euhydra.core.garden.model import Bed, Garden


@dataclass(frozen=True)
class Trouble:
    """One line of the table. ``where`` names what a garden must have for it to come up."""

    seen: str
    means: str
    do: str
    where: str = ""


TROUBLES = (
    Trouble("Green water, slime in the lines", "light reaches the water", "Darken or cover what "
            "holds it; rinse the lines from end to end.", "store"),
    Trouble("Flies or mosquitoes about the water", "an opening without a screen, an unused hole",
            "A screen on every opening, lids tight; empty saucers and gutters that stand full.",
            "store"),
    Trouble("A drum that smells", "water that stood longer than a day",
            "Run it out the same day; rinse the drum and its filter.", "drain"),
    Trouble("A bed is wet at one end after the run", "the pipes drain through the lowest outlets",
            "Nothing where it is little; else feed the row from its upper end.", "bed"),
    Trouble("White crusts on mix and pots", "salts of feed, of softened or of hard water stay as "
            "it dries", "Water well from above until it runs through, each month or two."),
)


def troubles_of(garden: Garden) -> tuple[Trouble, ...]:
    """Those that can come up in this garden."""
    there = {"": True, "store": bool(garden.stores),
             "drain": any(d.school == "drum" for d in garden.drains),
             "bed": any(isinstance(p, Bed) for p in garden.plots)}
    return tuple(t for t in TROUBLES if there[t.where])
