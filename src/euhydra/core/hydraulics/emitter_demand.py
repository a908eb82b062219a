"""Every outlet's flow against its wish: its share of what its plot drinks."""

from __future__ import annotations

from dataclasses import dataclass

from euhydra.core.demand.demand import Demand
from euhydra.core.garden.model import Zone
from euhydra.core.hydraulics.flows import Flows
from euhydra.core.hydraulics.zone_flow import OutletFlow, ZoneFlow

TOO_LITTLE, TOO_MUCH = 0.9, 1.3  # of its wish: outside of these it is told; from memory


@dataclass(frozen=True)
class Wish:
    """An outlet, and the flow at which it would give its share in the zone's run.

    ``share`` is its flow over that wish.
    """

    outlet: OutletFlow
    wish_l_h: float

    @property
    def share(self) -> float:
        """Flow over wish; 1 where nothing is wished."""
        return self.outlet.flow_l_h / self.wish_l_h if self.wish_l_h > 0 else 1.0

    @property
    def verdict(self) -> str:
        """``starved`` under its least head, else ``little``, ``right`` or ``much``."""
        if self.outlet.head_m < self.outlet.least_head_m:
            return "starved"
        return ("little" if self.share < TOO_LITTLE else "much" if self.share > TOO_MUCH
                else "right")


def every_wish(demand: Demand, flows: Flows, share: float) -> dict[str, Wish]:
    """All outlets of a garden by emitter, with a share of the usable water in the stores."""
    return {w.outlet.emitter: w for zone in flows.garden.zones
            for w in wishes(demand, zone, flows.with_share(zone, share))}


def wishes(demand: Demand, zone: Zone, flow: ZoneFlow) -> tuple[Wish, ...]:
    """Each outlet of a zone, in the peak month.

    The zone runs until its thirstiest plot has its litres; a plot's litres are shared evenly among
    its outlets. What a float valve fills is never wished for at a rate.
    """
    month = demand.peak_month
    need = {p: float(demand.thirsts[p].net_by_month[month]) for p in zone.plots}
    outlets = [o for o in flow.outlets if not o.open_end]
    count = {p: sum(o.each for o in outlets if o.plot == p) for p in zone.plots}
    gives = {p: flow.plot_flow_l_h(p) for p in zone.plots}
    hours = max((need[p] / gives[p] for p in zone.plots if gives[p] > 1e-6 and need[p] > 0),
                default=0.0)
    return tuple(Wish(o, need[o.plot] * o.each / count[o.plot] / hours
                      if hours > 0 and zone.timed else 0.0) for o in outlets)
