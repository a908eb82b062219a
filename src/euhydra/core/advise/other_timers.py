"""Timers of another style or valve in place of a garden's own, as an edit to offer."""

from __future__ import annotations

from collections.abc import Collection

from euhydra.core.editing.edits import Edit, Together
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Garden, Timer
from euhydra.core.library import Library


def timers_opening(garden: Garden, zones: Collection[str]) -> list[Timer]:
    """The timers that open some of these zones, by id."""
    return [t for t in garden.timers if any(z.id in zones for z in garden.zones_of(t))]


def other_timers(garden: Garden, library: Library, zones: Collection[str], *,
                 style: str | None = None, valve: str | None = None) -> Edit | None:
    """The edit that gives the timers of these zones another style or valve.

    None where they have it already, or the table has no such timer.
    """
    edits = tuple(SetValue(f"timers/{timer.id}/kind", other)
                  for timer in timers_opening(garden, zones)
                  if (other := library.timer_like(timer.kind, style=style, valve=valve))
                  != timer.kind)
    if not edits:
        return None
    return edits[0] if len(edits) == 1 else Together(edits)
