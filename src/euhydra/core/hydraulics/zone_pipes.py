"""All that one zone's flow comes from: its lines, and what stands before them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from euhydra.core import storage
from euhydra.core.garden.model import (
    AnyPlot,
    Fitting,
    Garden,
    Lift,
    Line,
    Node,
    Outlet,
    Standpipe,
    Zone,
)

Drinks = Mapping[str, float]  # L/h in the hottest hour of each self-watering row, by its id
NOTHING: Drinks = {}


@dataclass(frozen=True)
class ZonePipes:
    """One zone's lines with what they hang on; what is equal flows alike under the same water.

    Of its store that is the level of the outlet, ``outlet_z_m`` (of a tap 0), however many barrels
    hold the water; of the site its altitude, where a pump draws (else 0). ``timer`` is the
    kind of what opens it, a key of the library.
    """

    zone: Zone
    timer: str
    tap: Standpipe | None
    lift: Lift | None
    outlet_z_m: float
    altitude_m: float
    lines: tuple[Line, ...]
    nodes: tuple[Node, ...]
    fittings: tuple[Fitting, ...]
    outlets: tuple[Outlet, ...]
    plots: tuple[AnyPlot, ...]
    drinks: tuple[tuple[str, float], ...]

    @property
    def pushed(self) -> bool:
        """Whether a tap or a pump stands before it, not the water's own height alone."""
        return bool(self.tap or self.lift)

    def plot(self, plot_id: str) -> AnyPlot:
        """One of its plots. Raises StopIteration."""
        return next(p for p in self.plots if p.id == plot_id)


def pipes_of(garden: Garden, zone: Zone, drinks: Drinks = NOTHING,
             shut: frozenset[str] = frozenset()) -> ZonePipes:
    """A zone's pipes as a garden has them; ``drinks`` of its rows on float valves.

    Without the lines of the plots whose taps are ``shut``.
    """
    lines = tuple(line for line in garden.lines if line.zone == zone.id and line.plot not in shut)
    ids = {line.id for line in lines}
    joints = {n for line in lines for n in (line.start, line.end)}
    store = next((s for s in garden.vessels if s.id == zone.source), None)
    lift = garden.lift_on(zone.source)
    return ZonePipes(
        zone, garden.timer_kind(zone), garden.tap_of(zone.source), lift,
        storage.outlet_z_m(store) if store else 0.0, garden.site.altitude_m if lift else 0.0, lines,
        tuple(n for n in garden.nodes if n.id in joints),
        tuple(f for f in garden.fittings if f.line in ids),
        tuple(o for o in garden.outlets if o.line in ids),
        tuple(garden.plot(p) for p in zone.plots),
        tuple((p, drinks[p]) for p in zone.plots if p in drinks))
