"""What to write on valves, barrels, hoses and beds, and where the sign is due."""

from __future__ import annotations

from dataclasses import dataclass

from euhydra.core.garden.model import Bed, Drain, Garden, Zone
from euhydra.core.layout.zoning import LINT_FILTER
from euhydra.core.library import Library
from euhydra.core.statements.figures import Amount, Phrase, quoted, say

NOT_FOR_DRINKING = "Not for drinking"
GREY_WATER = "Laundry water: not for drinking, not on leaves or roots that are eaten"


@dataclass(frozen=True)
class Label:
    """A label to print. ``about`` is the id of what it hangs on; ``sign`` the words of its sign.

    ``hangs_on`` is one of valve, barrel or tank, drain, soaker, bed.
    """

    hangs_on: str
    about: str
    title: str
    line: Phrase
    sign: str = ""


def labels(garden: Garden, library: Library) -> tuple[Label, ...]:
    """Every label of a garden: its valves, its stores, what comes indoors in winter, its plots.

    Water from a roof or a well is signed at the store and at every valve that it leaves by; water
    from the mains is not. Common practice; local code may ask for more, or for its own sign.
    """
    found = [_valve(garden, zone) for zone in garden.zones]
    for store in garden.stores:
        words = "{n} of {v}" if store.count > 1 else "{v}"
        found.append(Label(garden.vessel, store.id, store.name, say(
            words + ", {w} of water. Lid shut, screens whole.", n=Amount(store.count, "count"),
            v=Amount(store.volume_l, "volume"), w=Amount(store.volume_l, "mass", 0)),
            NOT_FOR_DRINKING))
    for drain in garden.drains:
        if drain.school == "drum":
            found.append(Label("drain", drain.id, drain.name, say(
                "{v}, empty within a day. Lint out of its filter every {d}.",
                v=Amount(drain.drum_l, "volume"), d=Amount(_wash_days(garden, library, drain),
                                                           "days")), GREY_WATER))
        else:
            found.append(Label("drain", drain.id, f"{drain.name}: way back to the sewer", Phrase(
                "Turn it when the ground is wet, when somebody is ill, and for bleach."),
                GREY_WATER))
    for plot in garden.plots:
        soaker = isinstance(plot, Bed) and library.methods[plot.method].indoors == "yes"
        if soaker and plot.watered == "lines":
            lies = sum(x.length_m for x in garden.lines if x.plot == plot.id)
            found.append(Label("soaker", plot.id, f"Soaker of {plot.name}", say(
                "{m} in all. Indoors over winter.", m=Amount(lies, "length"))))
    return (*found, *(Label("bed", plot.id, plot.name, Phrase(_opens(garden, plot.id)))
                      for plot in garden.plots))


def _wash_days(garden: Garden, library: Library, drain: Drain) -> float:
    """How often the filter on a drum's lines is washed; of one to come the usual lint filter's."""
    key = next((z.filter for z in garden.zones if z.source == drain.id), LINT_FILTER)
    return library.fittings[key].wash_days


def _valve(garden: Garden, zone: Zone) -> Label:
    tap = garden.tap_of(zone.source)
    source = tap.name if tap else garden.store_of(zone.source).name
    waters = ", ".join(garden.plot(p).name for p in zone.plots)
    return Label("valve", zone.id, zone.name,
                 say(quoted(f"From {source}. Waters {waters}.")),
                 "" if garden.on_mains(zone.source) else
                 GREY_WATER if garden.drum_of(zone.source) else NOT_FOR_DRINKING)


def _opens(garden: Garden, plot: str) -> str:
    for zone in garden.zones:
        if plot in zone.plots:
            return quoted(f"Valve {zone.name}.")
    return "By hand."
