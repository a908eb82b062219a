"""Daily weather for any number of years from twelve months of normals and a seed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray
from scipy.signal import lfilter

from euhydra.core.garden.model import Climate
from euhydra.core.weather.eto import extraterrestrial_radiation, hargreaves
from euhydra.core.weather.snow import melted

MONTH_LENGTHS = np.array([31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31])
MONTH_OF_DAY = np.repeat(np.arange(12), MONTH_LENGTHS)
LEAST_RAIN_MM = 0.05  # a month with less is dry
RESIDUAL_SD_C = 2.5  # day-to-day scatter of temperature, from memory
RESIDUAL_MEMORY = 0.65  # lag-one autocorrelation, from memory
WET_DAY_COOLING_C = 2.5  # drop of the high on a wet day, from memory


@dataclass(frozen=True, eq=False)
class DailyWeather:
    """Arrays of shape (years, 365): rain mm, low and high °C, ETo mm/day."""

    rain_mm: NDArray[np.float64]
    tmin_c: NDArray[np.float64]
    tmax_c: NDArray[np.float64]
    eto_mm: NDArray[np.float64]

    @cached_property
    def water_mm(self) -> NDArray[np.float64]:
        """Rain and melting snow by day, mm, (years, 365)."""
        return melted(self.rain_mm, self.tmin_c, self.tmax_c)

    def only(self, which: Sequence[int]) -> DailyWeather:
        """Some of its years alone, in the order given."""
        at = list(which)
        return DailyWeather(self.rain_mm[at], self.tmin_c[at], self.tmax_c[at], self.eto_mm[at])

    @property
    def years(self) -> int:
        """Number of years."""
        return int(self.rain_mm.shape[0])


def generate(climate: Climate, latitude_deg: float, years: int, seed: int) -> DailyWeather:
    """``years`` of daily weather whose monthly means return the normals.

    Wet and dry days follow a two-state Markov chain with gamma amounts (Geng, Penning de Vries &
    Supit 1986): P(W|D) = 0.75 f, P(W|W) = 0.25 + P(W|D). Temperatures are normals plus an
    autocorrelated residual, the high cooler on wet days. Years have 365 days.
    """
    rng = np.random.default_rng(seed)
    rain = _rain(climate, years, rng)
    wet_share = (np.array(climate.wet_days) / MONTH_LENGTHS)[MONTH_OF_DAY]
    cooling = WET_DAY_COOLING_C * np.where(rain > 0, -(1 - wet_share), wet_share)
    residual = _residuals(years, rng)
    low = daily_from_monthly(np.array(climate.tmin_c)) + residual[0]
    high = daily_from_monthly(np.array(climate.tmax_c)) + residual[1] + cooling
    middle = (low + high) / 2
    half = np.maximum(high - low, 0.5) / 2
    ra = extraterrestrial_radiation(latitude_deg, np.arange(1, 366))
    return DailyWeather(rain, middle - half, middle + half,
                        hargreaves(middle - half, middle + half, ra))


def daily_from_monthly(monthly: NDArray[np.float64]) -> NDArray[np.float64]:
    """A smooth year of 365 values whose monthly means are exactly ``monthly`` (shape 12).

    Straight lines run between mid-months; the mid-month values are solved for so that each
    month's mean comes out right.
    """
    centres = np.cumsum(MONTH_LENGTHS) - MONTH_LENGTHS / 2
    days = np.arange(365) + 0.5
    at = np.concatenate([[centres[-1] - 365], centres, [centres[0] + 365]])
    weights = np.stack([np.interp(days, at, unit[[11, *range(12), 0]])
                        for unit in np.eye(12)], axis=1)
    means = np.stack([weights[MONTH_OF_DAY == m].mean(axis=0) for m in range(12)])
    return np.asarray(weights @ np.linalg.solve(means, monthly))


def _rain(climate: Climate, years: int, rng: np.random.Generator) -> NDArray[np.float64]:
    normals, wet_days = np.array(climate.rain_mm), np.array(climate.wet_days)
    wet_share = np.where(normals >= LEAST_RAIN_MM, wet_days / MONTH_LENGTHS, 0.0)
    wet_after_dry = 0.75 * wet_share
    wet_after_wet = 0.25 * (wet_share > 0) + wet_after_dry
    mean = np.divide(normals, wet_days, out=np.ones(12), where=wet_share > 0)
    scale = np.maximum(-2.16 + 1.83 * mean, 0.5 * mean)
    chance = rng.random((years * 365,))
    wet = np.zeros(years * 365, dtype=bool)
    before = bool(chance[0] < wet_share[0])
    for i, month in enumerate(np.tile(MONTH_OF_DAY, years)):
        before = bool(chance[i] < (wet_after_wet[month] if before else wet_after_dry[month]))
        wet[i] = before
    amount = rng.gamma((mean / scale)[MONTH_OF_DAY], scale[MONTH_OF_DAY], (years, 365))
    return np.where(wet.reshape(years, 365), amount, 0.0)


def _residuals(years: int, rng: np.random.Generator) -> NDArray[np.float64]:
    """Shape (2, years, 365): one stream for the low, one for the high, alike by half."""
    shocks = rng.standard_normal((3, years * 365)) * np.sqrt(1 - RESIDUAL_MEMORY**2)
    streams = lfilter([1.0], [1.0, -RESIDUAL_MEMORY], shocks, axis=1)
    both = np.sqrt(0.5) * (streams[:2] + streams[2]) * RESIDUAL_SD_C
    return np.asarray(both.reshape(2, years, 365))
