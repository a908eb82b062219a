"""What each part of a reckoning is worked out from: when that is equal, so is the part."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from euhydra.core.garden.model import Garden, Zone
from euhydra.core.hydraulics import zone_flow
from euhydra.core.storage import outlet_z_m

if TYPE_CHECKING:
    from euhydra.core.assessment.water_years import WaterYears


def sky(r: WaterYears) -> tuple[object, ...]:
    """What the weather comes from."""
    site = r.garden.site
    return (site.climate, site.latitude_deg, site.altitude_m, site.seed, site.years,
            site.reckon_with, r.record and r.record.id)


def frosts(r: WaterYears) -> tuple[object, ...]:
    """When it is put out and in for frost."""
    return r.garden.site.last_frost, r.garden.site.first_frost


def pipes(r: WaterYears) -> tuple[object, ...]:
    """What the flows in all zones come from."""
    g = r.garden
    return (g.stores, g.taps, g.joints, g.lifts, g.plots, g.nodes, g.lines, g.fittings, g.outlets,
            g.zones, g.timer)


def held(r: WaterYears) -> tuple[object, ...]:
    """What the banks come from: the stores, their joints, and which of them are drawn from."""
    g = r.garden
    return g.stores, g.joints, {g.source_of(plot) for plot in g.plots}


def zone_pipes(garden: Garden, zone: Zone) -> tuple[object, ...]:
    """All that one zone's flow comes from: its pipes, and the water that stands before them.

    Of a store that is the levels at its outlet, however many barrels hold it.
    """
    lines = [line for line in garden.lines if line.zone == zone.id]
    ids, nodes = {line.id for line in lines}, {n for x in lines for n in (x.start, x.end)}
    store = next((s for s in garden.stores if s.id == zone.source), None)
    return (zone, garden.timer, garden.tap_of(zone.source), garden.lift_on(zone.source),
            garden.site.altitude_m, zone_flow.zone_levels(garden, zone),
            outlet_z_m(store) if store else 0.0, lines,
            [n for n in garden.nodes if n.id in nodes],
            [f for f in garden.fittings if f.line in ids],
            [o for o in garden.outlets if o.line in ids],
            [garden.plot(p) for p in zone.plots])


BASIS: dict[str, Callable[[WaterYears], tuple[object, ...]]] = {
    "weather": sky, "thirsts": lambda r: (*sky(r), r.garden.plots, r.garden.crops),
    "grey_thirsts": lambda r: (*sky(r), r.garden.drains, r.garden.crops),
    "flows": pipes,
    "wetted": lambda r: (r.garden.plots, r.garden.lines, r.garden.outlets, r.garden.crops),
    "valve": pipes, "banks": held,
    "_storms": lambda r: (*held(r), r.garden.roofs),
    "roof_yields": lambda r: (*sky(r), r.garden.roofs),
    "yields": lambda r: (*sky(r), r.garden.roofs, *held(r), *frosts(r)),
    "winters": lambda r: (*held(r), *frosts(r)),
}


