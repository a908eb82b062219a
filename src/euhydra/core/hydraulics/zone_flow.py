"""What one open zone's outlets give under a water level."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

from euhydra.core.garden.model import Garden, Zone
from euhydra.core.hydraulics import stops
from euhydra.core.hydraulics.assemble import zone_network
from euhydra.core.hydraulics.network import Join, Network, Solution
from euhydra.core.hydraulics.solver import solve_under
from euhydra.core.hydraulics.uniformity import distribution_uniformity, emission_uniformity
from euhydra.core.hydraulics.zone_pipes import NOTHING, Drinks, ZonePipes, pipes_of
from euhydra.core.library import Library


@dataclass(frozen=True)
class OutletFlow:
    """One place along a line: its flow (all outlets there) and its head over its own level.

    One that is an ``open_end`` is no outlet to be counted: a pipe's far end, left open.
    """

    emitter: str
    plot: str
    z_m: float
    flow_l_h: float
    head_m: float
    least_head_m: float
    cv: float
    each: int
    open_end: bool = False


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


def solve_zone(garden: Garden, library: Library, zone: Zone, water_z_m: float,
               drinks: Drinks = NOTHING) -> ZoneFlow:
    """Every outlet's flow in one open zone of a garden under one water level."""
    return solve_levels(pipes_of(garden, zone, drinks), library, (water_z_m,))[0]


def solve_levels(pipes: ZonePipes, library: Library, waters: Sequence[float]
                 ) -> tuple[ZoneFlow, ...]:
    """Every outlet's flow in one open zone, under each of some water levels (m above the datum).

    What stands on float valves is solved in its hottest hour.

    Nothing comes past a crest of the pipe that stands over the water, nor out of a pump that lacks
    suction head: such outlets give nothing, under a head that is less than none by what lacks.
    """
    network = zone_network(pipes, library, 0.0)
    under = [{} if pipes.pushed else stops.over_the_water(network, z) for z in waters]
    whole = iter(solve_under(network, [z for z, lacks in zip(waters, under, strict=True)
                                       if not lacks]))
    return tuple(_told(pipes, library, network, z, lacks, _rest(network, z, lacks) if lacks
                       else next(whole)) for z, lacks in zip(waters, under, strict=True))


def _rest(network: Network, water_z_m: float, lacks: Mapping[str, float]) -> Solution:
    """What flows where some emitters stand past a crest over the water."""
    left = tuple(e for e in network.emitters if e.id not in lacks)
    return solve_under(replace(network, emitters=left), [water_z_m])[0]


def _told(pipes: ZonePipes, library: Library, network: Network, water_z_m: float,
          lacks: Mapping[str, float], solution: Solution) -> ZoneFlow:
    """A solution by its outlets, those at rest that nothing comes to."""
    if short := stops.lacks_suction_m(pipes, library, water_z_m, solution):
        lacks = dict.fromkeys((e.id for e in network.emitters), short)
    if lacks:
        solution = replace(solution, flow_l_h={**solution.flow_l_h, **dict.fromkeys(lacks, 0.0)})
    levels = {n.id: n.z_m for n in network.nodes}
    plots = {run.id: run.plot for run in pipes.outlets}
    outlets = tuple(OutletFlow(
        emitter=e.id, plot=plots[e.id.rsplit(":", 1)[0]], z_m=levels[e.node],
        flow_l_h=solution.flow_l_h[e.id],
        head_m=-lacks[e.id] if e.id in lacks else solution.head_m[e.node] - levels[e.node],
        least_head_m=e.kind.least_head_m, cv=e.kind.cv, each=e.count,
        open_end=e.kind.seeps == "end") for e in network.emitters)
    return ZoneFlow(pipes.zone.id, water_z_m, network.under(water_z_m), solution, outlets,
                    max(lacks.values(), default=0))


def between(low: float, half: float, full: float, share: float) -> float:
    """A flow at a share of the usable water, on straight lines between the three solved."""
    share = min(max(share, 0.0), 1.0)
    return low + (half - low) * 2 * share if share < 0.5 else half + (full - half) * (2 * share - 1)


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
