"""What each plot needs, by day and month: FAO-56 crop coefficients and a root-zone balance."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from euhydra.core.garden.model import Bed, Planting, Pots, day_of_year
from euhydra.core.library import Crop, Library
from euhydra.core.weather.generator import MONTH_LENGTHS, MONTH_OF_DAY, DailyWeather

Array = NDArray[np.float64]
POT_CANOPY = 1.5  # least leaf area over the pot's own mouth, from memory
POT_OUTGROWN = 2.0  # leaves reach the plant's spacing, at most so many pot widths, from memory
POT_EXPOSURE = 1.2  # warm sides and wind all round, from memory
POT_FILL = 0.9  # a pot is not filled to its rim, from memory


@dataclass(frozen=True)
class PlotThirst:
    """One plot's water. Arrays by day have shape (years, 365), by month (12,).

    ``net_l`` is what has to be given on watering days after rain; ``use_l`` is what the crop uses.
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

    @property
    def net_by_month(self) -> Array:
        """Mean litres a day to be given, by month."""
        return _monthly(self.net_l)

    @property
    def use_by_month(self) -> Array:
        """Mean litres a day the crop uses, by month."""
        return _monthly(self.use_l)

    @property
    def waterings_a_day(self) -> int:
        """How often the root zone must be filled on a day of peak use; 1 or more."""
        return max(1, math.ceil(self.peak_use_l / self.raw_l - 1e-9)) if self.raw_l else 1


def _monthly(daily: Array) -> Array:
    sums = np.stack([daily[:, MONTH_OF_DAY == m].sum(axis=1) for m in range(12)])
    return np.asarray(sums.mean(axis=1) / MONTH_LENGTHS)


def kc_year(crop: Crop, planted: str) -> Array:
    """Kc for each of 365 days, 0 outside the season. FAO-56 fig. 34: level, rise, level, fall."""
    since = (np.arange(365) - day_of_year(planted)) % 365
    days, values = [0.0], [crop.kc_ini]
    for length, end in ((crop.days_ini, crop.kc_ini), (crop.days_dev, crop.kc_mid),
                        (crop.days_mid, crop.kc_mid), (crop.days_late, crop.kc_end)):
        days.append(days[-1] + length)
        values.append(end)
    return np.where(since < crop.days, np.interp(since, days, values), 0.0)


def plot_area_m2(plot: Bed | Pots, library: Library) -> float:
    """Ground a bed covers, or the leaf area of a row of pots.

    A potted plant's leaves are as wide as its usual spacing, within POT_CANOPY and POT_OUTGROWN.
    """
    if isinstance(plot, Bed):
        return plot.length_m * plot.width_m
    main = max(plot.plantings, key=lambda p: p.share)
    wide = min(library.crops[main.crop].spacing_m, POT_OUTGROWN * plot.diameter_m)
    return plot.count * math.pi / 4 * max(wide**2, POT_CANOPY * plot.diameter_m**2)


def root_store_l(plot: Bed | Pots, planting: Planting, library: Library) -> tuple[float, float]:
    """Total and readily available water of a planting's root zone, litres, at an ETc of 5 mm/day.

    Beds: 1000 (θFC − θWP) Zr per m² (FAO-56 eq. 82, 83). Pots: mix volume × available share.
    """
    soil, crop = library.soils[plot.soil], library.crops[planting.crop]
    if isinstance(plot, Bed):
        area = plot_area_m2(plot, library)
        total = 1000 * soil.available * crop.root_m * area * planting.share
    else:
        total = pot_mix_l(plot) * soil.available * planting.share
    return total, total * crop.p


def pot_mix_l(plot: Pots) -> float:
    """Litres of mix in the whole row, as upright cylinders."""
    one = math.pi / 4 * plot.diameter_m**2 * plot.height_m * 1000 * POT_FILL
    return plot.count * one


def plot_thirst(plot: Bed | Pots, library: Library, weather: DailyWeather) -> PlotThirst:
    """Daily root-zone balance of one plot, refilled every ``interval_days`` in the season.

    FAO-56 eq. 85 in the form Dr = Dr₋ + ETc − P, never under zero (the rest percolates), Dr
    brought to zero on watering days. Pots are reckoned without rain: leaves shed it.
    """
    area, exposure = plot_area_m2(plot, library), POT_EXPOSURE if isinstance(plot, Pots) else 1.0
    kc = sum((kc_year(library.crops[p.crop], p.planted) * p.share for p in plot.plantings),
             np.zeros(365))
    use = weather.eto_mm * kc * area * exposure
    raw = sum(root_store_l(plot, p, library)[1] for p in plot.plantings)
    peak = float(_monthly(use).max())
    interval = 1 if isinstance(plot, Pots) or raw < 2 * peak else 2
    rain = weather.rain_mm * area if isinstance(plot, Bed) else np.zeros_like(use)
    total = sum(root_store_l(plot, p, library)[0] for p in plot.plantings)
    net = refills(use, rain, kc > 0, interval, total)
    return PlotThirst(plot.id, isinstance(plot, Pots), area, np.asarray(kc), use, net, raw,
                      interval, peak)


def refills(use_l: Array, rain_l: Array, in_season: NDArray[np.bool_], interval_days: int,
            total_l: float) -> Array:
    """Litres that refill the root zone on each watering day; shape (years, 365).

    Years run one after another: each starts with the depletion that the year before it ended
    with (found by a first pass).
    """
    years = use_l.shape[0]
    start = np.zeros(years)
    given = np.zeros_like(use_l)
    for _ in range(2):
        depletion = start
        for day in range(365):
            depletion = np.clip(depletion + use_l[:, day] - rain_l[:, day], 0, total_l)
            if in_season[day] and day % interval_days == 0:
                given[:, day] = depletion
                depletion = np.zeros(years)
            else:
                given[:, day] = 0
        start = np.concatenate([depletion[:1], depletion[:-1]])
    return given
