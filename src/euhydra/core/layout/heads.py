"""What hangs on a source's outlet: each timer with its zones, and what is opened by hand."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from euhydra.core.garden.model import Fitting, Garden, Timer, Zone
from euhydra.core.library import Library


@dataclass(frozen=True)
class Hanging:
    """One thing on an outlet: a timer with the zones that it opens, or a valve for one zone."""

    zones: tuple[Zone, ...]
    timer: Timer | None

    @property
    def moved(self) -> bool:
        """Whether its zones' hoses are moved by hand, so that they share all of its head."""
        return bool(self.timer and self.timer.moved)

    @property
    def heads(self) -> int:
        """How often what stands behind its valve is there: once a valve."""
        return 1 if self.moved else len(self.zones)

    @property
    def splits(self) -> bool:
        """Whether two hoses hang on it behind a splitter of their own."""
        return bool(self.timer and self.timer.hoses > 1 and len(self.zones) > 1)


def hanging_on(garden: Garden, library: Library, source: str,
               zones: Iterable[Zone] | None = None) -> tuple[Hanging, ...]:
    """All that hangs on a source, in the order of its zones; the garden's where none are given."""
    mine = [z for z in (garden.zones if zones is None else zones) if z.source == source]
    found: dict[tuple[str, int], list[Zone]] = {}
    for zone in mine:
        timer = garden.timer_of(zone)
        if timer is None:
            found[zone.id, 0] = [zone]
            continue
        before = sum(z.timer == zone.timer and z.timed for z in mine[:mine.index(zone)])
        one = 0 if timer.moved else before // library.timers[timer.kind].valves
        found.setdefault((timer.id, one), []).append(zone)
    return tuple(Hanging(tuple(group), garden.timer_of(group[0])) for group in found.values())


def fitting_name(garden: Garden, library: Library, fitting: Fitting) -> str:
    """What a fitting is called: a timer by the kind of its zone's, any other by its row."""
    if fitting.kind != "timer":
        return library.fittings[fitting.kind].name
    zone_id = next(line.zone for line in garden.lines if line.id == fitting.line)
    return library.timers[garden.timer_kind(next(
        z for z in garden.zones if z.id == zone_id))].name


def nothing_waits(garden: Garden) -> str:
    """Why nothing in a garden waits for a timer."""
    why = [*(["float valves keep it wet"] if garden.float_zones else []),
           *(["a drum empties by itself"] if garden.drums else [])]
    return f"Nothing here waits for a timer: {' and '.join(why)}."
