"""The flows of all zones: as solved at three levels, at any share of the water, and as read off."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from functools import cached_property

from euhydra.core.garden.model import Garden, Zone
from euhydra.core.hydraulics.levels import Levels
from euhydra.core.hydraulics.refilling import Refill, fill_minutes
from euhydra.core.hydraulics.surfaces import SHARES, level_at
from euhydra.core.hydraulics.timer_valve import ValveState, hardest, valve_states
from euhydra.core.hydraulics.zone_flow import ZoneFlow
from euhydra.core.hydraulics.zone_pipes import Drinks
from euhydra.core.library import Library

LEVEL_OF_SHARE = {share: level for level, share in SHARES.items()}


class Flows(Mapping[str, Levels]):
    """Each zone of a garden with its source full, half and low: ``flows[zone][level]``.

    ``drinks`` is what each self-watering row takes in its hottest hour, L/h by plot id.
    """

    def __init__(self, garden: Garden, library: Library, levels: Mapping[str, Levels],
                 drinks: Drinks) -> None:
        self.garden, self.library, self._levels, self.drinks = garden, library, levels, drinks

    def __getitem__(self, zone_id: str) -> Levels:
        """A zone's flows at the three levels. Raises KeyError."""
        return self._levels[zone_id]

    def __iter__(self) -> Iterator[str]:
        return iter(self._levels)

    def __len__(self) -> int:
        return len(self._levels)

    def with_share(self, zone: Zone, share: float) -> ZoneFlow:
        """One zone solved with a share of its source's usable water left."""
        named = LEVEL_OF_SHARE.get(share)
        if named or self.garden.tap_of(zone.source):
            return self[zone.id][named or "full"]
        return self[zone.id].under(level_at(self.garden, zone.source, share))

    def read_share(self, zone: Zone) -> float:
        """The zone's flow as it was read off over the one solved; 1 where none was read."""
        if zone.read_l_h <= 0:
            return 1.0
        solved = self.with_share(zone, round(zone.read_at, 2)).flow_l_h
        return zone.read_l_h / solved if solved > 1e-6 else 1.0

    def run_flow_l_h(self, zone: Zone) -> float:
        """What runs are set by: the zone's flow with half the water, put right by its reading."""
        return self[zone.id]["half"].flow_l_h * self.read_share(zone)

    def fill_minutes(self, zone: Zone) -> float:
        """Minutes to fill the zone's empty pipes at its flow with half the water."""
        return fill_minutes(self.run_flow_l_h(zone), self[zone.id].pipe_litres)

    @cached_property
    def _valves(self) -> tuple[ValveState, ...]:
        return valve_states(self.garden, self.library)

    @property
    def valve(self) -> ValveState:
        """The timer's valve that is hardest to open."""
        return hardest(self._valves)

    @cached_property
    def shut(self) -> frozenset[str]:
        """The zones whose valve lacks the pressure to open, by id."""
        return frozenset(v.zone for v in self._valves if not v.opens)

    @property
    def opens(self) -> bool:
        """Whether any valve opens, or none has to."""
        timed = self.garden.timed_zones
        return not timed or len(self.shut) < len(timed)

    @cached_property
    def refills(self) -> dict[str, Refill]:
        """What drains from each zone's lines after a run, by zone id."""
        return {zone.id: self[zone.id].refill for zone in self.garden.zones}
