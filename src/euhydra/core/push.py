"""Push: what the water's own height does in each zone, and what would cure a lack of it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from euhydra.core import storage, supply
from euhydra.core.garden.edits import SetValue
from euhydra.core.garden.model import Garden, Tap, Zone
from euhydra.core.hydraulics.build import zone_network
from euhydra.core.hydraulics.network import Network, Solution, solve
from euhydra.core.hydraulics.uniformity import distribution_uniformity, emission_uniformity
from euhydra.core.library import Library
from euhydra.core.units import head_m, pressure_kpa

LAST_WATER_M = 0.05  # water above the outlet at the lowest level reckoned
HALF = 0.5


@dataclass(frozen=True)
class OutletFlow:
    """One place along a line: its flow (all outlets there) and its head over its own level."""

    emitter: str
    plot: str
    z_m: float
    flow_l_h: float
    head_m: float
    least_head_m: float
    cv: float
    each: int


@dataclass(frozen=True)
class ZoneFlow:
    """A zone solved at one water level."""

    zone: str
    water_z_m: float
    network: Network
    solution: Solution
    outlets: tuple[OutletFlow, ...]

    @property
    def flow_l_h(self) -> float:
        """All that leaves the zone."""
        return sum(o.flow_l_h for o in self.outlets)

    def plot_flow_l_h(self, plot_id: str) -> float:
        """What one plot gets."""
        return sum(o.flow_l_h for o in self.outlets if o.plot == plot_id)

    @property
    def worst(self) -> OutletFlow:
        """The outlet with the least head to spare."""
        return min(self.outlets, key=lambda o: o.head_m - o.least_head_m)

    @property
    def short_m(self) -> float:
        """Head that the worst outlet lacks; 0 when every outlet meters its water."""
        return max(0.0, self.worst.least_head_m - self.worst.head_m)

    @property
    def evenness(self) -> float:
        """Emission uniformity as a share (Keller & Karmeli 1974)."""
        each = [o.flow_l_h / o.each for o in self.outlets]
        return emission_uniformity(each, self.worst.cv)

    @property
    def low_quarter(self) -> float:
        """Low-quarter distribution uniformity."""
        return distribution_uniformity([o.flow_l_h / o.each for o in self.outlets])

    @property
    def standing_m(self) -> float:
        """Height of the water over the worst outlet, nothing flowing."""
        return self.water_z_m - self.worst.z_m

    @property
    def lost_m(self) -> float:
        """Head lost on the way to the worst outlet."""
        return self.standing_m - self.worst.head_m


@dataclass(frozen=True)
class ValveState:
    """What the timer's valve gets with the barrels full, against what it needs to open."""

    gets_kpa: float
    needs_kpa: float

    @property
    def opens(self) -> bool:
        """Whether it opens at all."""
        return self.gets_kpa >= self.needs_kpa


def solve_zone(garden: Garden, library: Library, zone: Zone, water_z_m: float) -> ZoneFlow:
    """Every outlet's flow in one open zone under one water level."""
    network = zone_network(garden, library, zone, water_z_m)
    solution = solve(network)
    levels = {n.id: n.z_m for n in network.nodes}
    plots = {run.id: run.plot for run in garden.outlets}
    outlets = tuple(OutletFlow(
        emitter=e.id, plot=plots[e.id.rsplit(":", 1)[0]], z_m=levels[e.node],
        flow_l_h=solution.flow_l_h[e.id], head_m=solution.head_m[e.node] - levels[e.node],
        least_head_m=e.kind.least_head_m, cv=e.kind.cv, each=e.count) for e in network.emitters)
    return ZoneFlow(zone.id, water_z_m, network, solution, outlets)


def zone_levels(garden: Garden, library: Library, zone: Zone) -> dict[str, float]:
    """The three levels of the surface that pushes a zone; of a tap all three are the same.

    A tap pushes as a surface as high as the pressure that is left after its regulator.
    """
    tap = garden.tap_of(zone.source)
    if tap is None:
        return water_levels(garden, zone.source)
    level = tap.ground_m + tap.height_m + tap_head_m(garden, library, zone, tap)
    return dict.fromkeys(("full", "half", "low"), level)


def tap_head_m(garden: Garden, library: Library, zone: Zone, tap: Tap) -> float:
    """Head that a zone gets from a tap: the regulator's, or less where the tap cannot hold that.

    Then the flow that the zone takes and the pressure that the tap's supply curve leaves at that
    flow are brought together by halving.
    """
    level = tap.ground_m + tap.height_m
    static = head_m(tap.static_kpa)
    top = min(static, head_m(tap.regulator_kpa)) if tap.regulator_kpa > 0 else static

    def left(head: float) -> float:
        flow = solve_zone(garden, library, zone, level + head).flow_l_h
        return head_m(supply.pressure_kpa(tap, flow))

    if left(top) >= top:
        return top
    low, high = 0.0, top
    for _ in range(16):
        middle = (low + high) / 2
        low, high = (middle, high) if left(middle) >= middle else (low, middle)
    return low


def water_levels(garden: Garden, store_id: str = "") -> dict[str, float]:
    """The three water levels of a store's bank: full, half its usable water, and the last of it.

    The first store's when none is named.
    """
    store = garden.store_of(store_id) if store_id else garden.store
    bank = storage.banks_of(garden).holding(store.id)
    return {"full": bank.full_z_m, "half": bank.level_z_m(HALF * bank.usable_l),
            "low": storage.outlet_z_m(store) + LAST_WATER_M}


def valve_state(garden: Garden, library: Library) -> ValveState:
    """The timer hangs on a store's outlet: it gets the water above it, at most.

    Of several stores that lines draw from, the one that gives least.
    """
    heads = [water_levels(garden, store)["full"] - storage.outlet_z_m(garden.store_of(store))
             for store in storage.drawn_from(garden)]
    heads += [head_m(tap.static_kpa) for tap in garden.taps
              if tap.id in {zone.source for zone in garden.zones}]
    return ValveState(pressure_kpa(max(min(heads), 0.0)), library.timers[garden.timer].opens_kpa)


def stand_that_cures(garden: Garden, library: Library, zone: Zone, most_m: float,
                     step_m: float = 0.05) -> float | None:
    """The lowest stand, in steps, at which the zone's last water still reaches every outlet.

    None when even ``most_m`` does not. More head never gives less flow, so halving finds it.
    """
    if garden.tap_of(zone.source):
        return None
    stand_m = garden.store_of(zone.source).stand_m
    steps = np.arange(np.ceil(stand_m / step_m + 1e-9), most_m / step_m + 1e-9)
    low, high = 0, len(steps)
    while low < high:
        middle = (low + high) // 2
        if _short_at_stand(garden, library, zone, float(steps[middle] * step_m)) <= 1e-6:
            high = middle
        else:
            low = middle + 1
    return None if low == len(steps) else round(float(steps[low] * step_m), 3)


def _short_at_stand(garden: Garden, library: Library, zone: Zone, stand_m: float) -> float:
    raised = stand_edit(zone.source, stand_m).apply(garden, library)
    return solve_zone(raised, library, zone, water_levels(raised, zone.source)["low"]).short_m


def stand_edit(store: str, stand_m: float) -> SetValue:
    """The edit that puts a store on a stand of another height."""
    return SetValue(f"stores/{store}/stand_m", stand_m)


def pump_lift_m(garden: Garden, library: Library, zone: Zone) -> tuple[float, float]:
    """Head in m that a pump must add for outlets at 10 m, and the flow in L/h at that.

    Reckoned by lifting the water surface: the zone at its lowest water level with so much more.
    """
    wanted = 10.0
    low = zone_levels(garden, library, zone)["low"]
    added = wanted
    for _ in range(4):
        flow = solve_zone(garden, library, zone, low + added)
        added += wanted - min(o.head_m for o in flow.outlets)
    return added, flow.flow_l_h
