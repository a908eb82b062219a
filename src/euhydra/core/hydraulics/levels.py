"""Zones' flows at the three levels of their water, each solved when it is first asked for."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from functools import cached_property

from euhydra.core.garden.model import Garden, Zone
from euhydra.core.hydraulics import zone_flow
from euhydra.core.hydraulics.assemble import Drinks
from euhydra.core.library import Library


class Levels(Mapping[str, zone_flow.ZoneFlow]):
    """One zone solved with its source full, half and low."""

    def __init__(self, garden: Garden, library: Library, zone: Zone, drinks: Drinks) -> None:
        self._of, self._drinks = (garden, library, zone), drinks
        self._water = zone_flow.zone_levels(garden, zone)
        self._solved: dict[str, zone_flow.ZoneFlow] = {}

    def __getitem__(self, level: str) -> zone_flow.ZoneFlow:
        """The zone's flow at a level; levels under the same water are one flow."""
        if level not in self._solved:
            water = self._water[level]
            same = next((f for name, f in self._solved.items() if self._water[name] == water), None)
            self._solved[level] = same or zone_flow.solve_zone(*self._of, water, self._drinks)
        return self._solved[level]

    @cached_property
    def dirty(self) -> zone_flow.ZoneFlow:
        """The zone with its last water and half its filter's mesh shut, or as much as is now."""
        return zone_flow.with_dirt(*self._of, self._drinks)

    def __iter__(self) -> Iterator[str]:
        return iter(self._water)

    def __len__(self) -> int:
        return len(self._water)
