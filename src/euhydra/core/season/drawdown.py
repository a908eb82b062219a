"""Water through one watering: a tank that falls while its zones run one after another.

Quasi-steady: each zone is solved at a few water levels, and its flows follow the level between
them, minute by minute.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from euhydra.core.garden.model import Store, Zone
from euhydra.core.hydraulics import surfaces
from euhydra.core.hydraulics.levels import Levels
from euhydra.core.schedule.schedule import Schedule
from euhydra.core.season.inputs import SeasonInputs

LEVELS = 7
STEP_MIN = 0.5
MOST_MIN = 24 * 60.0


@dataclass(frozen=True)
class PlotGets:
    """What one plot gets in one watering, against what it wants of it."""

    zone: str
    plot: str
    litres: float
    wanted_l: float

    @property
    def share(self) -> float:
        """Litres got over litres wanted; 1 where nothing is wanted."""
        return self.litres / self.wanted_l if self.wanted_l > 0 else 1.0


@dataclass(frozen=True)
class Watering:
    """One watering of a store's timed zones: minute by minute, and what each plot got of it.

    ``minutes``, ``left_l`` and ``flow_l_h`` have one value a step; ``ran_dry`` says whether the
    store came to its last water before the end.
    """

    store: str
    minutes: NDArray[np.float64]
    left_l: NDArray[np.float64]
    flow_l_h: NDArray[np.float64]
    plots: tuple[PlotGets, ...]
    ends: tuple[tuple[str, float], ...]
    ran_dry: bool

    @property
    def took_min(self) -> float:
        """From the first valve's opening to the last one's closing."""
        return float(self.minutes[-1]) if self.minutes.size else 0.0

    @property
    def worst(self) -> PlotGets:
        """The plot that falls shortest of its wish."""
        return min(self.plots, key=lambda p: p.share)


def one_watering(inputs: SeasonInputs, store: Store, month: int, start: float = 1.0
                 ) -> Watering | None:
    """A month's watering as the timer is set, from a share of the usable water on.

    None where no zone of the store runs in that month.
    """
    schedule, every = inputs.schedule, inputs.flows
    zones = [(z, m) for z in schedule.zones if z.source == store.id
             and (m := _minutes(schedule, z, month)) > 0]
    if not zones:
        return None
    bank = inputs.banks.holding(store.id)
    low = surfaces.level_at(inputs.garden, store.id, 0.0)
    left, clock = bank.usable_l * start, 0.0
    times, lefts, flows = [0.0], [left], [0.0]
    gets: dict[tuple[str, str], float] = {}
    ends: list[tuple[str, float]] = []
    for zone, minutes in zones:
        by_level = _flows(every[zone.id], zone, low, bank.full_z_m)
        end = clock + minutes
        while clock < end - 1e-9 and left > 1e-9:
            step = min(STEP_MIN, end - clock)
            rate = by_level.at(bank.level_z_m(left))
            step = min(step, 60 * left / rate.sum()) if rate.sum() > 0 else step
            for plot, flow in zip(zone.plots, rate.tolist(), strict=True):
                gets[zone.id, plot] = gets.get((zone.id, plot), 0.0) + flow * step / 60
            left, clock = left - float(rate.sum()) * step / 60, clock + max(step, 1e-6)
            times.append(clock)
            lefts.append(left)
            flows.append(float(rate.sum()))
        ends.append((zone.id, clock))
        for plot, litres in every[zone.id].refill.credit_l(every[zone.id]["half"]).items():
            gets[zone.id, plot] = max(gets.get((zone.id, plot), 0.0) + litres, 0.0)
    wanted = {(z.id, p): _wanted(inputs, z, p, month) for z, _ in zones for p in z.plots}
    return Watering(store.id, np.array(times), np.array(lefts), np.array(flows), tuple(
        PlotGets(z, p, gets.get((z, p), 0.0), want) for (z, p), want in wanted.items()),
        tuple(ends), left <= 1e-6)


@dataclass(frozen=True)
class _ByLevel:
    levels: NDArray[np.float64]
    flows: NDArray[np.float64]  # (levels, plots)

    def at(self, level_m: float) -> NDArray[np.float64]:
        """L/h to each plot at a water level."""
        return np.array([np.interp(level_m, self.levels, column) for column in self.flows.T])


def _flows(levels_of: Levels, zone: Zone, low_m: float, full_m: float) -> _ByLevel:
    levels = np.linspace(low_m, max(full_m, low_m + 1e-3), LEVELS)
    solved = levels_of.under_each(tuple(levels.tolist()))
    return _ByLevel(levels, np.array([[f.plot_flow_l_h(p) for p in zone.plots] for f in solved]))


def _minutes(schedule: Schedule, zone: Zone, month: int) -> float:
    """Minutes of one run as set in a month; 0 where it does not run, a day at most."""
    setting = schedule.setting_in(zone.id, month)
    if setting is None or not math.isfinite(setting.minutes):
        return 0.0
    return min(float(setting.minutes), MOST_MIN)


def _wanted(inputs: SeasonInputs, zone: Zone, plot: str, month: int) -> float:
    """Litres that a plot wants of each run."""
    setting = inputs.schedule.setting_in(zone.id, month)
    runs_a_week = setting.runs_a_week if setting else 0.0
    return inputs.demand.thirsts[plot].net_in_season(month) * 7 / max(runs_a_week, 1e-9)
