"""What is seen when something is wrong, what it mostly means, what to do: common practice."""

from __future__ import annotations

from dataclasses import dataclass

from euhydra.core.garden.model import Bed, Garden, Wicking


@dataclass(frozen=True)
class Trouble:
    """One line of the table. ``where`` names what a garden must have for it to come up."""

    seen: str
    means: str
    do: str
    where: str = ""


TROUBLES = (
    Trouble("No water from a barrel", "the timer's valve wants pressure that a barrel has not, or "
            "air stands in a high loop of pipe", "Push says what the valve needs. Lay the pipe "
            "without a hump, or open an end until the air is out.", "store"),
    Trouble("The first bed is wet and the last one dry", "the nearest outlets take the head",
            "Open the nearest valve least: Push, Balance. Shorter runs, or a wider header."),
    Trouble("Outlets spit and hiss", "air comes with the water: the barrel is nearly empty, or a "
            "joint on the suction side draws air", "Look at the water's level; tighten the joints "
            "before the pump.", "store"),
    Trouble("The pump hums and moves no water", "it has lost its priming, or its foot is blocked",
            "Pull the plug. Fill pump and suction hose with water, rinse the foot valve, look for "
            "a joint that draws air.", "pump"),
    Trouble("The drum overflows on washing day", "it empties slower than loads come, or lint "
            "blocks its filter", "Rinse the filter, wash on two days, or a float pump: "
            "Catch reckons which.", "drain"),
    Trouble("A float valve never shuts", "grit under its seat, or the float rubs on the wall",
            "Shut the feed, rinse the seat, free the float; a filter ahead of it.", "wicking"),
    Trouble("Green water, slime in the lines", "light reaches the water", "A dark barrel or a "
            "cover; rinse the lines from end to end.", "store"),
    Trouble("Flies or mosquitoes about the barrel", "an opening without a screen, an unused hole",
            "A screen on every opening, lids tight; empty saucers and gutters that stand full.",
            "store"),
    Trouble("A soaker or a hose has split", "more pressure than it bears, or a frost",
            "Cut the split out and join it with a coupling. From a tap: a regulator. In winter: "
            "indoors."),
    Trouble("Tape or emitters give less every week", "lint, lime or soil in their paths",
            "Rinse the filter, open the flush ends for five minutes, then read the flow again and "
            "log it."),
    Trouble("A bed is wet at one end after the run", "the pipes drain through the lowest outlets",
            "Nothing where it is little; else feed the row from its upper end.", "bed"),
    Trouble("The timer did not open", "a flat battery, a valve that sticks, or a delay still on",
            "Fresh batteries; look for the delay; open it by hand once and listen."),
)


def troubles_of(garden: Garden) -> tuple[Trouble, ...]:
    """Those that can come up in this garden."""
    there = {"": True, "store": bool(garden.stores), "pump": bool(garden.lifts),
             "drain": any(d.school == "drum" for d in garden.drains),
             "wicking": any(isinstance(p, Wicking) for p in garden.plots),
             "bed": any(isinstance(p, Bed) for p in garden.plots)}
    return tuple(t for t in TROUBLES if there[t.where])
