"""Whether what is joined fits: hose thread, pipe thread and barb, end to end, and pipe by size."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass

from euhydra.core.garden.model import Garden, Zone
from euhydra.core.layout.heads import fitting_name, hanging_on
from euhydra.core.library import Library

NAMES = {"hose-m": "hose thread, male", "hose-f": "hose thread, female",
         "pipe-m": "pipe thread, male", "pipe-f": "pipe thread, female", "barb": "barb"}
MATES = {"hose-m": "hose-f", "hose-f": "hose-m", "pipe-m": "pipe-f", "pipe-f": "pipe-m",
         "barb": "barb"}
TAP_END, PUMP_END, TIMER_ENDS = "hose-m", "pipe-m", ("hose-f", "hose-m")  # common practice


@dataclass(frozen=True)
class HeadPart:
    """A component of a head assembly: its name, what it is there for, and its two ends.

    An end is a key of ``NAMES``; "" where nothing is screwed on.
    """

    name: str
    role: str
    inlet: str = ""
    outlet: str = ""


def adapter(outlet: str, inlet: str) -> HeadPart | None:
    """What joins an outlet to an inlet that does not take it; None where they fit as they are."""
    if not outlet or not inlet or MATES[outlet] == inlet:
        return None
    ends = MATES[outlet], MATES[inlet]
    return HeadPart(f"Adapter, {NAMES[ends[0]]}, to {NAMES[ends[1]]}", "thread", *ends)


def head_assembly(garden: Garden, library: Library, zone: Zone) -> tuple[HeadPart, ...]:
    """What stands between the source and the zone's pipe, in order, with the adapters it wants."""
    found: list[HeadPart] = []
    end = TAP_END if garden.tap_of(zone.source) else ""
    for part in _components(garden, library, zone):
        between = adapter(end, part.inlet)
        found += [between, part] if between else [part]
        end = part.outlet
    return tuple(found)


def _components(garden: Garden, library: Library, zone: Zone) -> list[HeadPart]:
    first = next(line for line in garden.lines if line.zone == zone.id)
    fittings = sorted((f for f in garden.fittings if f.line == first.id), key=lambda f: f.order)
    parts = []
    for fitting in (f for f in fittings if f.order < 50):
        if fitting.kind == "timer":
            parts.append(HeadPart(fitting_name(garden, library, fitting), "timer", *TIMER_ENDS))
        else:
            kind = library.fittings[fitting.kind]
            parts.append(HeadPart(kind.name, kind.role, kind.inlet, kind.outlet))
    lift = garden.lift_on(zone.source)
    if lift is not None:
        before = sum(part.role == "inlet" for part in parts)
        parts.insert(before, HeadPart(library.pumps[lift.kind].name, "pump", "", PUMP_END))
    return parts


def own_head(garden: Garden, library: Library, zone: Zone) -> tuple[HeadPart, ...]:
    """What of its head a zone does not share: all of it for its source's first zone.

    For the first of another timer what comes behind the splitter; for one on another valve of a
    timer what comes behind that; for a hose that is moved what joins it to its pipe.
    """
    head = head_assembly(garden, library, zone)
    hanging = hanging_on(garden, library, zone.source)
    mine = next(h for h in hanging if zone.id in [z.id for z in h.zones])
    roles = [part.role for part in head]
    if zone.id == mine.zones[0].id:
        return head if mine is hanging[0] else head[roles.index("splitter") + 1:]
    return head[-1:] if mine.moved else head[roles.index("timer") + 1:]


def reducers(garden: Garden, library: Library) -> Counter[tuple[int, int]]:
    """How often a pipe goes on as one of another size, by the two sizes in mm.

    Small tubes are punched into a pipe's wall with a barb of their own.
    """
    size = {line.id: round(library.tubes[line.tube].size_mm) for line in garden.lines
            if line.role != "quarter-inch"}
    comes = {line.end: size[line.id] for line in garden.lines if line.id in size}
    return Counter((comes[line.start], size[line.id]) for line in garden.lines
                   if line.id in size and comes.get(line.start, size[line.id]) != size[line.id])
