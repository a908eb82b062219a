"""Whether the timers' valves open on what stands before them."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from euhydra.core import storage
from euhydra.core.garden.model import Garden
from euhydra.core.hydraulics.assemble import curve_points
from euhydra.core.hydraulics.pumps import curve_of
from euhydra.core.hydraulics.surfaces import water_levels
from euhydra.core.library import Library
from euhydra.core.units import pressure_kpa


@dataclass(frozen=True)
class ValveState:
    """What a timer's valve gets with the barrels full, against what it needs to open.

    ``zone`` is that which it opens.
    """

    gets_kpa: float
    needs_kpa: float
    source: str = ""
    zone: str = ""

    @property
    def opens(self) -> bool:
        """Whether it opens at all."""
        return self.gets_kpa >= self.needs_kpa


def valve_gets_kpa(garden: Garden, library: Library, source: str) -> float:
    """What a timer on a source gets at the most, nothing flowing.

    On a store's outlet the water above it, and a pump's push; on a tap its static pressure.
    """
    if (tap := garden.tap_of(source)) is not None:
        return tap.static_kpa
    store, lift = garden.store_of(source), garden.lift_on(source)
    pushed = curve_of(curve_points(lift, library)).gain_and_fall(0.0)[0] if lift else 0.0
    over = water_levels(garden, store.id)["full"] - storage.outlet_z_m(store)
    return pressure_kpa(max(over + pushed, 0.0))


def valve_states(garden: Garden, library: Library) -> tuple[ValveState, ...]:
    """The valve of each zone that is timed; one opened by hand wants for nothing."""
    return tuple(ValveState(valve_gets_kpa(garden, library, zone.source),
                            library.timers[garden.timer_kind(zone)].opens_kpa, zone.source, zone.id)
                 for zone in garden.timed_zones)


def hardest(valves: Iterable[ValveState]) -> ValveState:
    """The valve that lacks most of what it needs, or has least over it.

    Where nothing is timed no valve wants for anything.
    """
    return min(valves, key=lambda v: (v.gets_kpa - v.needs_kpa, v.gets_kpa),
               default=ValveState(0.0, 0.0))
