"""Plots watered with cans or a hose: how often, how much, and what work that is."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from euhydra.core.demand.crop_water import PlotThirst
from euhydra.core.garden.model import AnyPlot, Garden
from euhydra.core.garden.timers import BY_HAND
from euhydra.core.library import Library
from euhydra.core.schedule import timing
from euhydra.core.schedule.settings import Setting, settings
from euhydra.core.weather.generator import MONTH_OF_DAY

CAN_L = 10.0  # common practice
CAN_MIN = 2.5  # to fill a can, carry and pour it, from memory
HOSE_L_H = 900.0  # of a hose that nobody has measured: 10 L in 40 s, from memory
AT_H = 7.0  # before work, from memory
MOST_A_TIME = 240  # cans or minutes


@dataclass(frozen=True)
class HandFlow:
    """What a hand gives: a can a minute of the setting, or a hose's flow; all of it lands."""

    flow_l_h: float
    low_quarter: float = 1.0

    def plot_flow_l_h(self, plot_id: str) -> float:
        """The one plot gets all of it."""
        return self.flow_l_h


@dataclass(frozen=True, eq=False)
class HandWatering:
    """A plot that is left to cans of ``can_l`` (0: a hose) with its settings through the year.

    A setting's minutes are cans where it is watered with cans. ``days`` are those of the year on
    which it grows (365,).
    """

    plot: AnyPlot
    source: str
    flow_l_h: float
    can_l: float
    settings: tuple[Setting, ...]
    days: NDArray[np.bool_]

    def setting_in(self, month: int) -> Setting | None:
        """Its setting in a month; None when it needs no water then."""
        return next((s for s in self.settings if s.month == month), None)

    def litres(self, setting: Setting) -> float:
        """Litres of one watering."""
        return setting.minutes / 60 * self.flow_l_h

    def a_day_l(self, month: int) -> float:
        """Litres a day in a month, the mean of its weeks."""
        setting = self.setting_in(month)
        return self.litres(setting) * setting.runs_a_week / 7 if setting else 0.0

    def a_week_min(self, month: int) -> float:
        """Minutes by hand a week in a month."""
        setting = self.setting_in(month)
        return self.work_min(setting) * setting.runs_a_week if setting else 0.0

    def work_min(self, setting: Setting) -> float:
        """Minutes by hand of one watering."""
        return setting.minutes * (CAN_MIN * self.can_l / CAN_L if self.can_l else 1.0)


def hose_l_h(garden: Garden, source: str = "") -> float:
    """The flow of a hose: of the source where it is a tap, else of the garden's first tap."""
    tap = garden.tap_of(source) or next(iter(garden.taps), None)
    return 3600 * tap.bucket_l / tap.bucket_s if tap else HOSE_L_H


def hand_watering(garden: Garden, library: Library, plot: AnyPlot, thirst: PlotThirst,
                  own_l_day: float) -> HandWatering:
    """How a plot is watered with cans or a hose; by its gardener's own measure where that runs it.

    Whole cans or minutes, as seldom as its roots bridge or its gardener wishes.
    """
    source = garden.source_of(plot)
    can_l = garden.today.can_l if plot.watered == "can" else 0.0
    flow = HandFlow(60 * can_l if can_l else hose_l_h(garden, source))
    own = {plot.id: own_l_day} if plot.run_by == "own" and own_l_day > 0 else {}
    needs = timing.month_needs(flow, [thirst], garden.longer, every_days=garden.every_days,
                               own_l_day=own)
    row = replace(library.timers[BY_HAND], minutes=(1, MOST_A_TIME), step_min=1)
    days = thirst.kc > 0
    return HandWatering(plot, source, flow.flow_l_h, can_l, settings(row, tuple(
        n for n in needs if days[n.month == MONTH_OF_DAY].any()), flow.flow_l_h), days)
