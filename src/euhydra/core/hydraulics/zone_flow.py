"""Push: what the water's own height does in each zone, and what would cure a lack of it."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from euhydra.core import storage
from euhydra.core.garden.model import Garden, Line, Zone
from euhydra.core.hydraulics import stops
from euhydra.core.hydraulics.assemble import NOTHING, Drinks, curve_points, zone_network
from euhydra.core.hydraulics.network import Join, Network, Solution
from euhydra.core.hydraulics.pumps import curve_of
from euhydra.core.hydraulics.solver import solve
from euhydra.core.hydraulics.uniformity import distribution_uniformity, emission_uniformity
from euhydra.core.library import Library
from euhydra.core.units import head_m, pressure_kpa

LAST_WATER_M = 0.05  # water above the outlet at the lowest level reckoned
HALF_BLOCKED = 0.5  # of a filter's mesh shut, when a person first sees the flow fall
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
    stopped_m: float = 0.0  # how far a crest stands over the water, or what suction lacks

    @cached_property
    def flow_l_h(self) -> float:
        """All that leaves the zone."""
        return sum(o.flow_l_h for o in self.outlets)

    def plot_flow_l_h(self, plot_id: str) -> float:
        """What one plot gets."""
        return self._by_plot.get(plot_id, 0.0)

    @cached_property
    def _by_plot(self) -> dict[str, float]:
        found: dict[str, float] = {}
        for outlet in self.outlets:
            found[outlet.plot] = found.get(outlet.plot, 0.0) + outlet.flow_l_h
        return found

    @cached_property
    def springs(self) -> frozenset[str]:
        """The nodes that water comes from."""
        return frozenset(n.id for n in self.network.nodes if n.fixed_head_m is not None)

    @cached_property
    def worst(self) -> OutletFlow:
        """The outlet with the least head to spare."""
        return min(self.outlets, key=lambda o: o.head_m - o.least_head_m)

    @cached_property
    def short_m(self) -> float:
        """Head that the worst outlet lacks; 0 when every outlet meters its water."""
        return max(0.0, self.worst.least_head_m - self.worst.head_m)

    @cached_property
    def evenness(self) -> float:
        """Emission uniformity as a share (Keller & Karmeli 1974)."""
        each = [o.flow_l_h / o.each for o in self.outlets]
        return emission_uniformity(each, self.worst.cv)

    @cached_property
    def low_quarter(self) -> float:
        """Low-quarter distribution uniformity."""
        return distribution_uniformity([o.flow_l_h / o.each for o in self.outlets])

    @cached_property
    def into(self) -> dict[str, tuple[float, Join, str]]:
        """The link that brings each node most of its water, with its flow and its other end."""
        found: dict[str, tuple[float, Join, str]] = {}
        for join in self.network.joins:
            q = self.solution.flow_l_h[join.id]
            ways = [(join.end, join.start, q)] + ([(join.start, join.end, -q)] if q < 0 else [])
            for end, other, comes in ways:
                if end not in found or comes > found[end][0]:
                    found[end] = comes, join, other
        return found

    @cached_property
    def standing_m(self) -> float:
        """Height of the water over the worst outlet, nothing flowing."""
        return self.water_z_m - self.worst.z_m

    @cached_property
    def lost_m(self) -> float:
        """Head lost on the way to the worst outlet."""
        return self.standing_m - self.worst.head_m


@dataclass(frozen=True)
class ValveState:
    """What the timer's valve gets with the barrels full, against what it needs to open."""

    gets_kpa: float
    needs_kpa: float
    source: str = ""

    @property
    def opens(self) -> bool:
        """Whether it opens at all."""
        return self.gets_kpa >= self.needs_kpa


def solve_zone(garden: Garden, library: Library, zone: Zone, water_z_m: float,
               drinks: Drinks = NOTHING) -> ZoneFlow:
    """Every outlet's flow in one open zone under one water level.

    What stands on float valves is solved in its hottest hour, of which ``drinks`` tells.

    Nothing comes past a crest of the pipe that stands over the water, nor out of a pump that lacks
    suction head: such outlets give nothing, under a head that is less than none by what lacks.
    """
    network = zone_network(garden, library, zone, water_z_m, drinks)
    pushed = bool(garden.tap_of(zone.source) or garden.lift_on(zone.source))
    lacks = {} if pushed else stops.over_the_water(network, water_z_m)
    solution = solve(replace(network, emitters=tuple(
        e for e in network.emitters if e.id not in lacks)) if lacks else network)
    if short := stops.lacks_suction_m(garden, library, zone, water_z_m, solution):
        lacks = dict.fromkeys((e.id for e in network.emitters), short)
    if lacks:
        solution = replace(solution, flow_l_h={**solution.flow_l_h, **dict.fromkeys(lacks, 0.0)})
    levels = {n.id: n.z_m for n in network.nodes}
    plots = {run.id: run.plot for run in garden.outlets}
    outlets = tuple(OutletFlow(
        emitter=e.id, plot=plots[e.id.rsplit(":", 1)[0]], z_m=levels[e.node],
        flow_l_h=solution.flow_l_h[e.id],
        head_m=-lacks[e.id] if e.id in lacks else solution.head_m[e.node] - levels[e.node],
        least_head_m=e.kind.least_head_m, cv=e.kind.cv, each=e.count) for e in network.emitters)
    return ZoneFlow(zone.id, water_z_m, network, solution, outlets, max(lacks.values(), default=0))


def between(low: float, half: float, full: float, share: float) -> float:
    """A flow at a share of the usable water, on straight lines between the three solved."""
    share = min(max(share, 0.0), 1.0)
    return low + (half - low) * 2 * share if share < 0.5 else half + (full - half) * (2 * share - 1)


def with_dirt(garden: Garden, library: Library, zone: Zone, drinks: Drinks = NOTHING
              ) -> ZoneFlow:
    """The zone with its last water and half its filter's mesh shut, or as much as is shut now."""
    dirty = zone.model_copy(update={"filter_blocked": max(HALF_BLOCKED, zone.filter_blocked)})
    return solve_zone(garden, library, dirty, zone_levels(garden, zone)["low"], drinks)


def zone_levels(garden: Garden, zone: Zone) -> dict[str, float]:
    """The three levels of the surface that pushes a zone; of a tap all three are the same.

    A tap pushes as a surface as high as its static pressure lifts water; its supply curve and its
    regulator stand in the network.
    """
    tap = garden.tap_of(zone.source)
    if tap is None:
        return water_levels(garden, zone.source)
    level = tap.ground_m + tap.height_m + head_m(tap.static_kpa)
    return dict.fromkeys(("full", "half", "low"), level)


def last_water_m(garden: Garden, store_id: str) -> float:
    """Water over a store's outlet at the lowest level reckoned; with a pump what it leaves."""
    lift = garden.lift_on(store_id)
    return lift.reserve_m if lift else LAST_WATER_M


def water_levels(garden: Garden, store_id: str = "") -> dict[str, float]:
    """The three water levels of a store's bank: full, half its usable water, and the last of it.

    The first store's when none is named.
    """
    store = garden.store_of(store_id) if store_id else garden.store
    return {name: level_at(garden, store.id, share)
            for name, share in (("full", 1.0), ("half", HALF), ("low", 0.0))}


def level_at(garden: Garden, store_id: str, share: float) -> float:
    """The water level of a store's bank with a share of its usable water, no lower than the last.

    Levels of full and half water do not go below that either.
    """
    store = garden.store_of(store_id)
    bank = storage.banks_of(garden).holding(store.id)
    low = storage.outlet_z_m(store) + last_water_m(garden, store.id)
    if share <= 0:
        return low
    return max(bank.full_z_m if share >= 1 else bank.level_z_m(share * bank.usable_l), low)


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


def valve_state(garden: Garden, library: Library) -> ValveState:
    """The timer's valve on the source that gives it least, of those whose zones are timed.

    Where nothing is timed no valve wants for anything.
    """
    needs = library.timers[garden.timer].opens_kpa
    timed = {zone.source for zone in garden.zones if zone.timed}
    gets, source = min(((valve_gets_kpa(garden, library, s), s) for s in timed),
                       default=(needs, ""))
    return ValveState(gets, needs, source)


def way_to(flow: ZoneFlow, node: str) -> list[Join]:
    """The links that water takes from the source to a node, the first first.

    In a loop it is the way that brings most of the water.
    """
    into, course = flow.into, []
    seen = set(flow.springs)
    while node in into and node not in seen:
        seen.add(node)
        _, join, node = into[node]
        course.append(join)
    return course[::-1]


CURED_M = 1e-6


def stand_that_cures(garden: Garden, library: Library, zone: Zone, most_m: float,
                     drinks: Drinks = NOTHING, step_m: float = 0.05) -> float | None:
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
        if _short_at_stand(garden, library, zone, float(steps[middle] * step_m),
                           drinks) <= CURED_M:
            high = middle
        else:
            low = middle + 1
    return None if low == len(steps) else round(float(steps[low] * step_m), 3)


def stand_that_cures_all(garden: Garden, library: Library, zones: Iterable[Zone], most_m: float,
                         drinks: Drinks = NOTHING) -> float | None:
    """The lowest stand at which every one of some zones of a store is cured; None if none does.

    A zone that is cured by what the others need is not searched for.
    """
    found: float | None = None
    for zone in zones:
        if found is not None and _short_at_stand(garden, library, zone, found, drinks) <= CURED_M:
            continue
        needed = stand_that_cures(garden, library, zone, most_m, drinks)
        if needed is None:
            return None
        found = max(found or 0.0, needed)
    return found


def _short_at_stand(garden: Garden, library: Library, zone: Zone, stand_m: float,
                    drinks: Drinks) -> float:
    raised = _raised(garden, zone, stand_m)
    return solve_zone(raised, library, zone, water_levels(raised, zone.source)["low"],
                      drinks).short_m


def _raised(garden: Garden, zone: Zone, stand_m: float) -> Garden:
    """The garden with a zone's store on another stand and its pipes as they lie.

    As the edit makes it, without laying every line anew: only where the zone's pipe leaves the
    store moves.
    """
    store = garden.store_of(zone.source)
    source = next(line.start for line in garden.lines if line.zone == zone.id)
    level = {n.id: n.z_m for n in garden.nodes}
    up = level[source] + stand_m - store.stand_m

    def length_m(line: Line) -> float:
        fell = level[line.end] - level[source]
        along = math.sqrt(max(line.length_m**2 - fell**2, 0.0))
        return round(math.hypot(along, level[line.end] - up), 4)

    return garden.model_copy(update={
        "stores": tuple(s.model_copy(update={"stand_m": stand_m}) if s.id == store.id else s
                        for s in garden.stores),
        "nodes": tuple(n.model_copy(update={"z_m": round(up, 4)}) if n.id == source else n
                       for n in garden.nodes),
        "lines": tuple(x.model_copy(update={"length_m": length_m(x)}) if x.start == source else x
                       for x in garden.lines)})


