"""Whether the lines of a garden can be reckoned: joined to one source a zone, and not too many."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterable

from euhydra.core.garden.lines import MOST_LINES
from euhydra.core.garden.model import Garden, Line, Wicking, Zone

MOST_OUTLETS = 20000
# That a garden may grow to: up to these, each page of it answers while a person waits.
MOST_GROWN_LINES, MOST_GROWN_OUTLETS = 1200, 8000


class Unsound(ValueError):
    """The lines do not hold together; the message says which zone and why."""


def require_sound(garden: Garden) -> None:
    """Raise :class:`Unsound` unless every plot is watered by one zone's lines."""
    _require_few(garden)
    zoned = Counter(plot for zone in garden.zones for plot in zone.plots)
    if len(garden.hand_plots) == len(garden.plots):
        raise Unsound("Nothing would be left to lay: every plot would be watered with cans or a "
                      "hose. Leave one at least on its lines.")
    for plot in garden.plots:
        if plot.watered != "lines":
            if isinstance(plot, Wicking):
                raise Unsound(f"{plot.name} is filled through its float valve, not with cans or a "
                              "hose. Give it a tank of its own, filled by hand, on Store.")
            if zoned[plot.id]:
                raise Unsound(f"{plot.name} is watered by hand and stands in a zone.")
            continue
        if zoned[plot.id] != 1:
            raise Unsound(f"{plot.name} stands in {zoned[plot.id]} zones, not in one.")
    lines: dict[str, list[Line]] = defaultdict(list)
    for line in garden.lines:
        lines[line.zone].append(line)
    zone_of = {line.id: line.zone for line in garden.lines}
    watered: dict[str, set[str]] = defaultdict(set)
    for run in garden.outlets:
        watered[zone_of[run.line]].add(run.plot)
    for zone in garden.zones:
        _require_joined(zone, lines[zone.id])
        _require_outlets(garden, zone, watered[zone.id])


def require_not_grown(garden: Garden, before: Garden | None) -> None:
    """Raise :class:`Unsound` where a garden grows past what its pages answer for at once.

    One that was kept larger than that may be edited, as long as it grows no larger.
    """
    was = _sizes(before) if before else {}
    for what, count in _sizes(garden).items():
        most = MOST_GROWN_LINES if what == "lines" else MOST_GROWN_OUTLETS
        if count > max(most, was.get(what, 0)):
            raise too_many(f"{count:,}", most, what)


def _sizes(garden: Garden) -> dict[str, int]:
    return {"lines": len(garden.lines), "outlets": sum(run.points for run in garden.outlets)}


def _require_few(garden: Garden) -> None:
    for what, count in _sizes(garden).items():
        most = MOST_LINES if what == "lines" else MOST_OUTLETS
        if count > most:
            raise too_many(f"{count:,}", most, what)


def too_many(count: str, most: int, what: str) -> Unsound:
    """What is said where a garden is larger than what can be reckoned."""
    return Unsound(f"That makes {count} {what}; {most:,} are the most that can be reckoned. Make "
                   "the garden smaller, plant wider, or part it in two.")


def _require_joined(zone: Zone, lines: list[Line]) -> None:
    ends = {line.end for line in lines}
    sources = {line.start for line in lines} - ends
    if len(sources) != 1:
        raise Unsound(f"The zone “{zone.name}” has {len(sources)} starting joints, not one.")
    onward: dict[str, list[str]] = defaultdict(list)
    for line in lines:
        onward[line.start].append(line.end)
    reached, at = set(sources), list(sources)
    while at:
        fresh = [node for node in onward[at.pop()] if node not in reached]
        reached.update(fresh)
        at += fresh
    if len(reached) != len(ends) + 1:
        raise Unsound(f"In the zone “{zone.name}” not every line is joined to the store.")


def _require_outlets(garden: Garden, zone: Zone, watered: Iterable[str]) -> None:
    for plot in zone.plots:
        if plot not in watered:
            raise Unsound(f"In the zone “{zone.name}” no outlet waters {garden.plot(plot).name}.")
    if strangers := set(watered) - set(zone.plots):
        raise Unsound(f"The zone “{zone.name}” waters {sorted(strangers)[0]}, which is not its "
                      "own.")
