"""What a drain's drum gives through its lines: how fast it empties, and each plot's share."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from euhydra.core.garden.base import YEAR
from euhydra.core.garden.model import Drain, Garden, Zone
from euhydra.core.hydraulics.levels import Levels
from euhydra.core.hydraulics.surfaces import level_at
from euhydra.core.storage import volume_at
from euhydra.core.supply.greywater import Leaves, kept_by_weekday

SHUT = Leaves(0.0, 0.0, 0.0, 0.0, pumped=False)  # every tap shut: led back to the sewer


@dataclass(frozen=True)
class DrumMonth:
    """A drum's lines in a month: how fast they empty it, and each plot's share of that.

    Plots whose taps are shut are not among them; with none the water goes back to the sewer.
    """

    leaves: Leaves
    shares: Mapping[str, float]


@dataclass(frozen=True)
class DrumLines:
    """A drain's drum with its zone's lines, by month."""

    drain: Drain
    zone: Zone
    months: tuple[DrumMonth, ...]

    @cached_property
    def kept_l(self) -> NDArray[np.float64]:
        """Litres a day that they get, by month and weekday from Monday (12, 7): what comes, less
        what the drum spills; none in a month in which all taps are shut.
        """
        return np.array([kept_by_weekday(self.drain, month.leaves) * bool(month.shares)
                         for month in self.months])


def shut_in(garden: Garden, zone: Zone, month: int) -> frozenset[str]:
    """The plots of a drum's zone whose taps are shut in a month (0 to 11)."""
    plots = (garden.plot(p) for p in zone.plots)
    return frozenset(p.id for p in plots if p.open_in and YEAR[month] not in p.open_in)


def drum_lines(garden: Garden, drain: Drain, zone: Zone,
               solved: Callable[[frozenset[str]], Levels]) -> DrumLines:
    """A drum's lines by month; ``solved`` gives its zone's flows with some plots' taps shut."""
    def month(shut: frozenset[str]) -> DrumMonth:
        if len(shut) == len(zone.plots):
            return DrumMonth(SHUT, {})
        levels = solved(shut)
        half = levels["half"]
        return DrumMonth(
            Leaves(levels["full"].flow_l_h, half.flow_l_h, levels["low"].flow_l_h,
                   dead_l(garden, drain), garden.lift_on(drain.id) is not None),
            {p: half.plot_flow_l_h(p) / half.flow_l_h if half.flow_l_h > 1e-9 else 0.0
             for p in zone.plots if p not in shut})

    by_shut = {shut: month(shut) for shut in {shut_in(garden, zone, m) for m in range(12)}}
    return DrumLines(drain, zone, tuple(by_shut[shut_in(garden, zone, m)] for m in range(12)))


def dead_l(garden: Garden, drain: Drain) -> float:
    """Litres that stay in a drum: under its outlet, or under what its pump leaves over that."""
    drum, lift = drain.drum, garden.lift_on(drain.id)
    bottom = (level_at(garden, drain.id, 0.0) - drum.ground_m - drum.stand_m if lift
              else drum.outlet_m)
    return min(float(volume_at(drum, max(bottom, 0.0))), drain.drum_l)
