"""What each plot needs, by day and month: FAO-56 crop coefficients and a root-zone balance."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import ArrayLike, NDArray

from euhydra.core.demand import adjustments, plants, soil
from euhydra.core.demand.soil import Ground
from euhydra.core.garden.model import (
    AnyPlot,
    Bed,
    Holder,
    Planting,
    Wicking,
    day_of_year,
)
from euhydra.core.library import Crop, Library
from euhydra.core.weather.generator import MONTH_LENGTHS, MONTH_OF_DAY, DailyWeather

Array = NDArray[np.float64]
DAYLIGHT_H = 13.0
STAGES = ("first growth", "growing", "full grown", "ripening")


@dataclass(frozen=True, eq=False)
class PlotThirst:
    """One plot's water. Arrays by day have shape (years, 365), by month (12,).

    ``net_l`` is what has to be given on watering days after rain; ``use_l`` is what the crop uses,
    ``rain_l`` what falls on its ``ground``, of which full-grown roots draw ``raw_l`` easily at the
    height of summer.
    A plot that is ``always_on`` takes what it uses from its own reservoir; one of ``seedlings`` has
    no roots to bridge a day.
    """

    plot: str
    potted: bool
    area_m2: float
    kc: Array
    use_l: Array
    net_l: Array
    raw_l: float
    interval_days: int
    peak_use_l: float
    ground: Ground
    rain_l: Array
    always_on: bool = False
    seedlings: bool = False

    @cached_property
    def net_by_month(self) -> Array:
        """Mean litres a day to be given, by month."""
        return _monthly(self.net_l)

    @cached_property
    def use_by_month(self) -> Array:
        """Mean litres a day the crop uses, by month."""
        return _monthly(self.use_l)

    @cached_property
    def raw_by_month(self) -> Array:
        """What the roots of a month draw easily, litres, mean of its days in season (12,).

        Out of season that of full-grown roots.
        """
        grows = self.kc > 0
        days = [grows & (m == MONTH_OF_DAY) for m in range(12)]
        return np.array([self.ground.ready_l[:, on].mean() if on.any() else self.raw_l
                         for on in days])

    def net_in_season(self, month: int) -> float:
        """Mean litres a day to be given on the days of a month in season; 0 where there is none."""
        return self._net_in_season[month]

    def use_in_season(self, month: int) -> float:
        """Mean litres a day the crop uses on those days."""
        return self._use_in_season[month]

    @cached_property
    def _net_in_season(self) -> list[float]:
        return self._in_season(self.net_l)

    @cached_property
    def _use_in_season(self) -> list[float]:
        return self._in_season(self.use_l)

    def _in_season(self, daily: Array) -> list[float]:
        """The mean over the days in season of each month (12,)."""
        months = [(self.kc > 0) & (m == MONTH_OF_DAY) for m in range(12)]
        return [float(daily[:, days].mean()) if days.any() else 0.0 for days in months]

    @property
    def waterings_a_day(self) -> int:
        """How often the root zone must be filled on a day of peak use; 1 or more."""
        return max(1, math.ceil(self.peak_use_l / self.raw_l - 1e-9)) if self.raw_l else 1

    @cached_property
    def net_by_week(self) -> Array:
        """Mean litres a day to be given in each day and the six before it (years, 365)."""
        return _weekly(self.net_l)

    @property
    def hottest_week_l(self) -> float:
        """Litres a day to be given in the thirstiest seven days of a year, mean of the years."""
        return float(self.net_by_week.max(axis=1).mean())

    def about(self, day: int) -> float:
        """Litres a day to be given about a day of the year (0 to 364): a week's mean."""
        return float(self.net_by_week[:, (day + 3) % 365].mean())


def _monthly(daily: Array) -> Array:
    sums = np.stack([daily[:, MONTH_OF_DAY == m].sum(axis=1) for m in range(12)])
    return np.asarray(sums.mean(axis=1) / MONTH_LENGTHS)


def _weekly(daily: Array) -> Array:
    """The mean of each day and the six before it, the year taken round."""
    total = np.cumsum(np.concatenate([daily[:, -7:], daily], axis=1), axis=1)
    return np.asarray((total[:, 7:] - total[:, :-7]) / 7)


def kc_year(crop: Crop, planted: str) -> Array:
    """Kc for each of 365 days, 0 outside the season. FAO-56 fig. 34: level, rise, level, fall."""
    return _by_stage(crop, planted, crop.kc_ini, crop.kc_mid, crop.kc_end)


def kcb_year(crop: Crop, planted: str) -> Array:
    """The part of Kc that goes through the leaves: what FAO-56 chapter 7 leaves of it, recalled.

    0.15 at first, then Kc less 0.05.
    """
    return _by_stage(crop, planted, min(adjustments.BARE, crop.kc_ini),
                     max(crop.kc_mid - 0.05, 0.1), max(crop.kc_end - 0.05, 0.1))


def _by_stage(crop: Crop, planted: str, ini: float, mid: float, end: float) -> Array:
    since = (np.arange(365) - day_of_year(planted)) % 365
    days, values = [0.0], [ini]
    for length, until in ((crop.days_ini, ini), (crop.days_dev, mid), (crop.days_mid, mid),
                          (crop.days_late, end)):
        days.append(days[-1] + length)
        values.append(until)
    return np.where(since < crop.days, np.interp(since, days, values), 0.0)


def stage_on(crop: Crop, planted: str, day: int) -> str:
    """The crop's stage on a day of the year (0 to 364); "" out of its season."""
    since, at = (day - day_of_year(planted)) % 365, 0.0
    for name, length in zip(STAGES, (crop.days_ini, crop.days_dev, crop.days_mid, crop.days_late),
                            strict=True):
        at += length
        if since < at:
            return name
    return ""


def planting_kc(plot: AnyPlot, planting: Planting, library: Library) -> Array:
    """Kc of one planting by day: as tabled, with its mulch and how thick it stands."""
    crop = library.crops[planting.crop]
    cover = plants.cover(plot, planting, library) if isinstance(plot, Bed) else 1.0
    return adjustments.with_habits(
        kc_year(crop, planting.planted), kcb_year(crop, planting.planted),
        adjustments.MULCH_STOPS[plot.mulch], adjustments.density_factor(cover, crop.height_m))


def plot_thirst(plot: AnyPlot, library: Library, weather: DailyWeather,
                daylight_h: ArrayLike = DAYLIGHT_H, own: float = 1.0) -> PlotThirst:
    """Daily root-zone balance of one plot, refilled every ``interval_days`` in the season.

    FAO-56 eq. 85 in the form Dr = Dr₋ + ETc − P, never under zero (the rest passes below), Dr
    brought to zero on watering days. What crops and bare soil take is ``own`` times as much as by
    the tables, where a garden's readings taught that. Pots and towers are reckoned without rain:
    leaves shed it.
    """
    area = plants.leaf_area_m2(plot, library)
    kc = sum((planting_kc(plot, p, library) * p.share for p in plot.plantings), np.zeros(365))
    air = own * weather.eto_mm * adjustments.air_factor(plot, daylight_h)
    use = air * kc * area
    peak = float(_monthly(use).max())
    ground = soil.ground(plot, library, use, air, adjustments.MULCH_STOPS[plot.mulch])
    stores = [soil.root_store_l(plot, p, library, peak / area) for p in plot.plantings]
    raw = sum(r for _, r in stores)
    potted, always_on = isinstance(plot, Holder), isinstance(plot, Wicking)
    interval = 1 if potted or raw < 2 * peak else 2
    rained = not potted and plot.cover == "open"
    rain = weather.water_mm * area if rained else np.zeros_like(use)
    net = use if always_on else refills(use, rain, kc > 0, interval, ground)
    return PlotThirst(plot.id, potted, area, np.asarray(kc), use, net, raw, interval, peak,
                      ground, rain, always_on, plot.seedlings)


def refills(use_l: Array, rain_l: Array, in_season: NDArray[np.bool_], interval_days: int,
            ground: Ground) -> Array:
    """Litres that refill the root zone on each watering day; shape (years, 365).

    Years run one after another: each starts with the soil that the year before it left.
    """
    from euhydra.core.demand import roots  # what compiles its loop is slow to load

    given = np.zeros_like(use_l)
    roots.refill_years(use_l, ground.bare_l, rain_l, ground.caught_l, ground.hold_l,
                       ground.ready_l, ground.full_l, in_season, interval_days, given)
    return given


def own_measure_l_day(plot: AnyPlot, area_m2: float, flow_l_h: float = 0.0) -> float:
    """What the gardener says they give, as litres a day; 0 when they say nothing.

    1 mm on 1 m² is 1 L; a depth a week is a seventh of it a day; minutes give what flows in them.
    """
    return (plot.own_l_day or plot.own_mm_week * area_m2 / 7
            or plot.own_min_day / 60 * flow_l_h)
