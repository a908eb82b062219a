"""Whether the lines of a garden's file can be reckoned: joined to one source a zone."""

from __future__ import annotations

from collections.abc import Iterable

from euhydra.core.garden.model import Garden, Line, Zone

MOST_LINES = 4000
MOST_OUTLETS = 20000


class Unsound(ValueError):
    """The lines do not hold together; the message says which zone and why."""


def require_sound(garden: Garden) -> None:
    """Raise :class:`Unsound` unless every plot is watered by one zone's lines."""
    if len(garden.lines) > MOST_LINES or sum(o.points for o in garden.outlets) > MOST_OUTLETS:
        raise Unsound(f"There are more than {MOST_LINES} lines or {MOST_OUTLETS} outlets, the most "
                      "that can be reckoned.")
    zoned = [plot for zone in garden.zones for plot in zone.plots]
    for plot in garden.plots:
        if zoned.count(plot.id) != 1:
            raise Unsound(f"{plot.name} stands in {zoned.count(plot.id)} zones, not in one.")
    for zone in garden.zones:
        lines = [line for line in garden.lines if line.zone == zone.id]
        _require_joined(zone, lines)
        _require_outlets(garden, zone, {line.id for line in lines})


def _require_joined(zone: Zone, lines: list[Line]) -> None:
    ends = {line.end for line in lines}
    sources = {line.start for line in lines} - ends
    if len(sources) != 1:
        raise Unsound(f"The zone “{zone.name}” has {len(sources)} starting joints, not one.")
    reached = set(sources)
    for _ in lines:
        reached |= {line.end for line in lines if line.start in reached}
        if len(reached) == len(ends) + 1:
            return
    raise Unsound(f"In the zone “{zone.name}” not every line is joined to the store.")


def _require_outlets(garden: Garden, zone: Zone, lines: Iterable[str]) -> None:
    watered = {o.plot for o in garden.outlets if o.line in lines}
    for plot in zone.plots:
        if plot not in watered:
            raise Unsound(f"In the zone “{zone.name}” no outlet waters {garden.plot(plot).name}.")
    if strangers := watered - set(zone.plots):
        raise Unsound(f"The zone “{zone.name}” waters {sorted(strangers)[0]}, which is not its "
                      "own.")
