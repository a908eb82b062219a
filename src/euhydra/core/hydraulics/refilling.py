"""What drains out of a zone's lines after a run, where it goes, and what the next run fills again.

Once the valve is shut no air comes in at the top: what stands above the lowest open outlet runs out
there, and the rest stays. The next run fills that part first; what it takes leaves the store and
arrives at the low outlets when that run ends. So a run gives all that leaves the store.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field

from euhydra.core.garden.model import Line
from euhydra.core.hydraulics.zone_flow import ZoneFlow
from euhydra.core.hydraulics.zone_pipes import ZonePipes
from euhydra.core.library import Library

HOLDS = "check-valve"
AS_LOW_M = 0.02  # outlets that lie no higher than this over the lowest share what drains


@dataclass(frozen=True)
class Refill:
    """Litres that drain after each run, and the share of them that lands on each plot."""

    litres: float = 0.0
    lands: dict[str, float] = field(default_factory=dict)

    def credit_l(self, flow: ZoneFlow) -> dict[str, float]:
        """What each plot gets of a run over its flow times the run's minutes; adds up to nothing.

        All plots go without while the lines fill, and the low ones get what drains.
        """
        total = flow.flow_l_h
        if total <= 1e-6:
            return dict.fromkeys({o.plot for o in flow.outlets}, 0.0)
        return {plot: self.litres * (self.lands.get(plot, 0.0) - flow.plot_flow_l_h(plot) / total)
                for plot in {o.plot for o in flow.outlets}}


def refill(pipes: ZonePipes, library: Library, flow: ZoneFlow) -> Refill:
    """What drains from a zone's lines after a run.

    Nothing where a check valve holds them full (common practice), or where nothing flows.
    """
    holds = any(f.kind == HOLDS for f in pipes.fittings)
    if holds or not flow.outlets:
        return Refill()
    level = {n.id: n.z_m for n in pipes.nodes}
    lowest = min(o.z_m for o in flow.outlets)
    litres = sum(_above(library, line, level[line.start], level[line.end], lowest)
                 for line in pipes.lines)
    low = [o for o in flow.outlets if o.z_m <= lowest + AS_LOW_M]
    many = sum(o.each for o in low)
    lands: dict[str, float] = {}
    for o in low:
        lands[o.plot] = lands.get(o.plot, 0.0) + o.each / many
    return Refill(litres, lands)


def _above(library: Library, line: Line, start_m: float, end_m: float, lowest_m: float) -> float:
    """Litres in the part of a line, laid straight, that lies over a level."""
    high, low = max(start_m, end_m), min(start_m, end_m)
    share = (1.0 if low >= lowest_m + 1e-9 else 0.0 if high <= lowest_m + 1e-9
             else (high - lowest_m) / (high - low))
    return share * line_litres(library, line)


def line_litres(library: Library, line: Line) -> float:
    """Water that fills a line."""
    bore_m = library.tubes[line.tube].bore_mm / 1000
    return math.pi / 4 * bore_m**2 * line.length_m * 1000


def pipe_litres(pipes: ZonePipes, library: Library) -> float:
    """Water that fills all of a zone's empty pipes."""
    return sum(line_litres(library, line) for line in pipes.lines)


def fill_minutes(flow_l_h: float, pipe_l: float) -> float:
    """Time to fill so much of a zone's pipes at its flow; infinite when nothing flows."""
    return 60 * pipe_l / flow_l_h if flow_l_h > 1e-6 else math.inf
