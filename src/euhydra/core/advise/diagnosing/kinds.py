"""What goes wrong in gardens that water themselves: how common, how it is cured, with what.

How common each is, against the others, is from memory; the cures are common practice.
"""

from __future__ import annotations

from dataclasses import dataclass

MAINS = ("Behind the shut-off and the backflow preventer this is yours to do. The house's own "
         "supply, and anything before the backflow preventer, is for licensed hands.")
POWER = ("Pull the plug before you touch the pump. Its cable, socket and residual-current device "
         "are for a licensed electrician.")
LADDER = "Work at a gutter from a ladder that stands firm and is held, never alone."
GREY = "Wear gloves: laundry water is not clean. Wash your hands."


@dataclass(frozen=True)
class FaultKind:
    """A kind of fault. ``words`` say it of a thing ``{of}``; ``often`` is how common it is.

    ``parts`` are named as a shop would, ``{size}`` where the pipe's own belongs; ``logs`` is the
    kind of entry that says it was mended.
    """

    words: str
    often: float
    cure: str
    parts: str = ""
    caution: str = ""
    logs: str = "repair"


KINDS: dict[str, FaultKind] = {
    "filter": FaultKind(
        "the filter of {of} is blocked", 10, "Shut the water, take the filter's mesh out, rinse it "
        "from its clean side and put it back; then log the rinse.", "a spare mesh, if it is torn",
        logs="filter"),
    "end-clogged": FaultKind(
        "the outlets at the end of {of} are clogged", 5, "Open the flush end and let it run until "
        "clear. Punch new outlets in beside those that stay shut, and plug the old holes.",
        "outlets; hole plugs"),
    "all-clogged": FaultKind(
        "the outlets of {of} are clogged throughout", 4, "Open the flush ends for five minutes, "
        "rinse the filter, soak what comes out in vinegar. What stays shut is changed for new.",
        "outlets; hole plugs"),
    "kink": FaultKind(
        "a pipe is kinked or squashed {of}", 6, "Walk along it and lift it: straighten the bend, "
        "take the weight off. Where it keeps folding put an elbow in.", "an elbow, {size}"),
    "leak": FaultKind(
        "water leaks {of}", 6, "Look for the wet place. Push the pipe further on to its barb; plug "
        "the hole of an outlet that came out.", "a hole plug or a coupling, {size}"),
    "split": FaultKind(
        "a pipe or hose has split, or its end plug is off, {of}", 3, "Shut the water. Cut the "
        "split out and join the ends with a coupling; put the end plug back.",
        "a coupling, {size}; an end plug"),
    "half-open": FaultKind(
        "a valve of {of} is half shut", 4, "Lever in line is open, across is shut: open the "
        "shut-off valve and the tap fully; work the timer's valve by hand a few times.", ""),
    "stuck-shut": FaultKind(
        "the valve of {of} is stuck shut", 3, "Open it by hand once and listen. Take it apart, "
        "rinse grit and lime out, see that its membrane is whole.", "a valve or timer, if it is "
        "worn"),
    "stuck-open": FaultKind(
        "the valve of {of} does not shut", 3, "Shut the tap before it. Take the valve apart, rinse "
        "the seat and the membrane: grit keeps it open.", "a valve or timer, if it is worn"),
    "battery": FaultKind(
        "the timer of {of} has no power: a flat battery", 7, "Put fresh batteries in, set the hour "
        "and the runs again as the card says, and open it by hand once.", "batteries",
        logs="battery"),
    "set-short": FaultKind(
        "the timer of {of} is set for less than it should be", 4, "Set it as its card says; see "
        "that no delay is still on.", "", logs="note"),
    "set-long": FaultKind(
        "the timer of {of} is set for more than it should be", 3, "Set it as its card says.", "",
        logs="note"),
    "air": FaultKind(
        "air stands in the pipe of {of}", 4, "Open the far end until water comes without air; lay "
        "the pipe without a hump, rising or falling all the way.", ""),
    "prime": FaultKind(
        "the pump of {of} has lost its water", 5, "Pull the plug. Fill pump and suction hose with "
        "water, rinse the strainer, look for a joint that draws air.", "a foot valve, if it lets "
        "water back", POWER),
    "pump-dead": FaultKind(
        "the pump of {of} has no power, or its float keeps it off", 4, "Look at plug and "
        "residual-current device; lift the float by hand, and free it where it hangs on the wall.",
        "", POWER),
    "pump-on": FaultKind(
        "the float of the pump of {of} does not let it stop", 2, "Pull the plug. Free the float: "
        "its cable must hang without touching the wall.", "", POWER),
    "low-pressure": FaultKind(
        "{of} has less pressure than was reckoned with", 3, "Measure it: bucket and seconds, on "
        "Catch. A tap not fully open, a second draw at the same time, a worn pump.", "", MAINS),
    "high-pressure": FaultKind(
        "{of} has more pressure than was reckoned with", 2, "See that the regulator is there, the "
        "right one, and stands behind the timer in the flow's direction.",
        "a pressure regulator", MAINS),
    "empty": FaultKind(
        "hardly any water is left for {of}", 6, "Fill it, or wait until water comes again; Prove "
        "tells how long it lasts and what would make it last longer.", "", logs="note"),
    "grown": FaultKind(
        "the plants of {of} want more than they did: they have grown, or it is hotter", 5,
        "Give the plot its true plants on Grow, or let its zone run longer on Time.", "",
        logs="note"),
    "float-shut": FaultKind(
        "the float valve of {of} sticks shut", 5, "Shut the feed, take the valve out, rinse grit "
        "out of its seat, free the float.", "a float valve, if it is worn"),
    "float-open": FaultKind(
        "the float valve of {of} does not shut", 4, "Shut the feed, rinse the seat, free the "
        "float where it rubs on the wall; a filter ahead of it keeps grit away.",
        "a float valve, if it is worn"),
    "loads": FaultKind(
        "more runs into the drum of {of} than was reckoned with", 5, "Wash on more days, or tell "
        "Catch the true loads.", "", logs="note"),
    "tank-leak": FaultKind(
        "{of} leaks, or its spigot drips", 5, "Look under it and at the spigot. Turn the "
        "gasket's nut a quarter on; else a new gasket, soap helps it in.", "a gasket"),
    "evaporation": FaultKind(
        "{of} stands open and its water evaporates", 2, "Put its lid and screens back on: they "
        "keep flies out too.", "a lid or a screen"),
    "neighbour": FaultKind(
        "somebody else draws water from {of}", 2, "Tie the spigot, or put a lock on it, and ask.",
        "a spigot that locks", logs="note"),
    "gutter": FaultKind(
        "the gutter of {of} is blocked", 7, "Take the leaves out, rinse it towards the downspout, "
        "look through the guard.", "a gutter guard, if there is none", LADDER),
    "diverter": FaultKind(
        "the diverter of {of} is capped, frozen or choked", 5, "Take the winter cap off, let ice "
        "melt by itself, rinse the hose that leads on.", ""),
    "siphon": FaultKind(
        "{of} no longer joins the levels", 5, "A siphon: fill it with water from end to end and "
        "keep both ends under water. A link: rinse it.", "hose clamps, if it draws air"),
    "feed-shut": FaultKind(
        "the float valve of {of} sticks shut", 4, "Rinse its seat and free its float.",
        "a float valve, if it is worn"),
    "feed-open": FaultKind(
        "the float valve of {of} does not shut", 3, "Rinse its seat and free its float: what it "
        "lets in spills.", "a float valve, if it is worn"),
    "fine": FaultKind(
        "nothing is wrong with {of}: it does what was reckoned", 2, "Leave it. If plants still "
        "fare badly, feel the soil two days after a run.", "", logs="note"),
}
