"""One zone's flows at the three levels of its water, solved together when one is asked for."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace
from functools import cached_property

from euhydra.core.hydraulics.refilling import Refill, pipe_litres, refill
from euhydra.core.hydraulics.zone_flow import ZoneFlow, solve_levels
from euhydra.core.hydraulics.zone_pipes import ZonePipes
from euhydra.core.library import Library

HALF_BLOCKED = 0.5  # of a filter's mesh shut, when a person first sees the flow fall


class Levels(Mapping[str, ZoneFlow]):
    """One zone solved with its source full, half and low: what its lines and those levels give.

    ``waters`` are those levels by name, m above the datum.
    """

    def __init__(self, pipes: ZonePipes, library: Library, waters: Mapping[str, float]) -> None:
        self.pipes, self.library, self.waters = pipes, library, waters
        self._under: dict[float, ZoneFlow] = {}

    def __getitem__(self, level: str) -> ZoneFlow:
        """The zone's flow at a level; levels under the same water are one flow."""
        return self._solved[self.waters[level]]

    @cached_property
    def _solved(self) -> dict[float, ZoneFlow]:
        waters = tuple(dict.fromkeys(self.waters.values()))
        return dict(zip(waters, self.under_each(waters), strict=True))

    def under(self, water_z_m: float) -> ZoneFlow:
        """The zone under any other water, solved once for each."""
        if water_z_m not in self._under:
            (self._under[water_z_m],) = self.under_each((water_z_m,))
        return self._under[water_z_m]

    def under_each(self, waters: tuple[float, ...]) -> tuple[ZoneFlow, ...]:
        """The zone under each of some waters."""
        return solve_levels(self.pipes, self.library, waters)

    def blocked(self, share: float) -> Levels:
        """The same with so much of its filter's mesh shut."""
        zone = self.pipes.zone.model_copy(update={"filter_blocked": share})
        return Levels(replace(self.pipes, zone=zone), self.library, self.waters)

    @cached_property
    def dirty(self) -> ZoneFlow:
        """The zone with its last water and half its filter's mesh shut, or as much as is now."""
        shut = max(HALF_BLOCKED, self.pipes.zone.filter_blocked)
        return self.blocked(shut).under(self.waters["low"])

    @cached_property
    def refill(self) -> Refill:
        """What drains from its lines after a run."""
        return refill(self.pipes, self.library, self["half"])

    @cached_property
    def pipe_litres(self) -> float:
        """Water that fills all of its empty pipes."""
        return pipe_litres(self.pipes, self.library)

    def __iter__(self) -> Iterator[str]:
        return iter(self.waters)

    def __len__(self) -> int:
        return len(self.waters)
