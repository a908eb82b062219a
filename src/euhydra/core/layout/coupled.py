"""Soaker hoses that go on from bed to bed: the next one's is coupled to the last one's end."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from euhydra.core.garden.model import Bed, Garden, Zone
from euhydra.core.layout.rows import joined_as, rows_of
from euhydra.core.layout.zoning import stands_with
from euhydra.core.library import Library


def coupled(garden: Garden, library: Library, zone: Zone) -> dict[str, str]:
    """For each bed of a zone whose hose goes on from another's: that other one."""
    found: dict[str, str] = {}
    for plot_id in zone.plots:
        bed = garden.plot(plot_id)
        if isinstance(bed, Bed) and bed.after and not why_apart(garden, library, bed) and (
                bed.after in zone.plots and bed.after not in found.values()):
            found[bed.id] = bed.after
    return found


def in_turn(plots: Sequence[str], after: Mapping[str, str]) -> list[str]:
    """The plots of a zone, each behind the one that its hose goes on from."""
    left, done = list(plots), list[str]()
    while left:
        ready = [p for p in left if after.get(p) not in left]
        done += ready
        left = [p for p in left if p not in ready]
    return done


def why_apart(garden: Garden, library: Library, bed: Bed) -> str:
    """Why a bed's hose cannot go on from that of the one before it; "" where it can."""
    before = next((p for p in garden.plots if p.id == bed.after), None)
    if not isinstance(before, Bed):
        return "that is no bed of this garden"
    if stands_with(garden, bed).id == bed.id:
        return f"“{before.name}” does not open with it"
    for one in (before, bed):
        if library.methods[one.method].lies != "s-curve" or one.watered != "lines":
            return f"“{one.name}” has no soaker hose"
        if joined_as(one, rows_of(one, library), library) != "s-curve":
            return f"the hose of “{one.name}” does not lie in one run"
    return ""
