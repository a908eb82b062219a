"""What each plot of a zone gets of what it wants, in a month and over the years."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from euhydra.core.garden.model import Zone
from euhydra.core.schedule import timing

if TYPE_CHECKING:
    from euhydra.core.results.results import Results


def shares(r: Results, zone: Zone, month: int) -> dict[str, float]:
    """What each plot of a zone gets of what it wants, run as long as the thirstiest asks."""
    need = r.schedule.needs[zone.id][month]
    minutes = need.run_min(1.0)
    return {p.plot: need.gets_l(p.plot, minutes) / p.wanted_l_day for p in need.plots
            if p.wanted_l_day > timing.LEAST_NEED_L_DAY and math.isfinite(minutes)}


def year_shares(r: Results, zone: Zone) -> dict[str, float]:
    """What is opened for each plot of a zone in all years, over what it wants of its zone."""
    season, works = r.season, timing.efficiency(r.flows[zone.id]["half"])
    asked = dict(zip(season.world.plots, season.asked_by_plot.tolist(), strict=True))
    wanted = {plot: float(r.demand.thirsts[plot].net_l.sum()) / works for plot in zone.plots}
    return {plot: asked[plot] / litres for plot, litres in wanted.items()
            if litres > timing.LEAST_NEED_L_DAY}
