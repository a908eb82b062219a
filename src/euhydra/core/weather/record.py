"""A daily weather record: whole calendar years as measured, gaps filled by a stated rule."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass, fields
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from euhydra.core.garden.model import MOST_RAIN_A_WET_DAY_MM, Climate
from euhydra.core.weather.eto import (
    USUAL_WIND_M_S,
    extraterrestrial_radiation,
    hargreaves,
    penman_monteith,
    radiation_from_sunshine,
    radiation_from_temperatures,
    saturation_kpa,
    vapour_from_humidity,
)
from euhydra.core.weather.generator import MONTH_LENGTHS, MONTH_OF_DAY, DailyWeather

Days = NDArray[np.float64]
WET_DAY_MM = 0.2  # a day with less counts as dry, from memory
OPTIONAL = ("humidity", "dewpoint_c", "wind_m_s", "radiation", "sunshine_h")


@dataclass(frozen=True, eq=False)
class Record:
    """Arrays of shape (years, 365); the leap day's rain is added to 28 February's.

    Rain in mm, low and high in °C, humidity in %, wind at 2 m in m/s, radiation in MJ/m²/day,
    sunshine in h. An optional column that was not measured is None, a day without it NaN.
    """

    first_year: int
    rain_mm: Days
    tmin_c: Days
    tmax_c: Days
    humidity: Days | None = None
    dewpoint_c: Days | None = None
    wind_m_s: Days | None = None
    radiation: Days | None = None
    sunshine_h: Days | None = None

    @property
    def years(self) -> int:
        """How many calendar years it holds."""
        return int(self.rain_mm.shape[0])

    @property
    def columns(self) -> dict[str, Days]:
        """The columns that were measured, by name."""
        named = {f.name: getattr(self, f.name) for f in fields(self) if f.name != "first_year"}
        return {name: column for name, column in named.items() if column is not None}

    @cached_property
    def id(self) -> str:
        """Sixteen letters that name its content."""
        sums = hashlib.sha256(str(self.first_year).encode())
        for name, column in self.columns.items():
            # A NaN has more than one pattern of bits, and a file does not keep a minus nought.
            plain = np.nan_to_num(column, nan=-9999.0) + 0.0
            sums.update(name.encode() + np.ascontiguousarray(plain).tobytes())
        return sums.hexdigest()[:16]

    @property
    def method(self) -> str:
        """How its ETo is reckoned: by Penman–Monteith as soon as more than heat was measured."""
        return "Penman–Monteith" if any(name in self.columns for name in OPTIONAL) else "Hargreaves"

    def weather(self, latitude_deg: float, altitude_m: float) -> DailyWeather:
        """The record as daily weather with its ETo."""
        eto = (self.penman_monteith(latitude_deg, altitude_m)
               if self.method != "Hargreaves" else self.hargreaves(latitude_deg))
        return DailyWeather(self.rain_mm, self.tmin_c, self.tmax_c, eto)

    def hargreaves(self, latitude_deg: float) -> Days:
        """ETo in mm/day from the temperatures alone (FAO-56 eq. 52)."""
        return hargreaves(self.tmin_c, self.tmax_c, _ra(latitude_deg))

    def penman_monteith(self, latitude_deg: float, altitude_m: float) -> Days:
        """ETo in mm/day by FAO-56 eq. 6; what was not measured is estimated as its ch. 3 says.

        Vapour from the dew point, else the humidity, else as if the night's low were the dew point
        (eq. 48); radiation, else sunshine, else from the temperatures (eq. 50); wind else 2 m/s.
        """
        day, ra = np.arange(1, 366), _ra(latitude_deg)
        vapour = saturation_kpa(self.tmin_c)
        if self.humidity is not None:
            vapour = _where_known(vapour_from_humidity(self.tmin_c, self.tmax_c, self.humidity),
                                  vapour)
        if self.dewpoint_c is not None:
            vapour = _where_known(saturation_kpa(self.dewpoint_c), vapour)
        sun = radiation_from_temperatures(self.tmin_c, self.tmax_c, ra, altitude_m)
        if self.sunshine_h is not None:
            sun = _where_known(radiation_from_sunshine(self.sunshine_h, latitude_deg, day), sun)
        if self.radiation is not None:
            sun = _where_known(self.radiation, sun)
        usual = np.full_like(self.tmin_c, USUAL_WIND_M_S)
        wind = usual if self.wind_m_s is None else _where_known(self.wind_m_s, usual)
        return penman_monteith(self.tmin_c, self.tmax_c, vapour, wind, sun, ra, altitude_m)

    def normals(self) -> Climate:
        """Twelve months of means, as a climate that may be typed over."""
        wet = [min(float(d), 28.0) for d in self._by_month(self.rain_mm >= WET_DAY_MM)]
        rain = [min(float(r), MOST_RAIN_A_WET_DAY_MM * wet[m]) if wet[m] > 0 else 0.0
                for m, r in enumerate(self._by_month(self.rain_mm))]
        low, high = (self._by_month(x) / MONTH_LENGTHS for x in (self.tmin_c, self.tmax_c))
        return Climate(rain_mm=_rounded(rain), wet_days=_rounded(wet), tmin_c=_rounded(low),
                       tmax_c=_rounded(high))

    def _by_month(self, daily: NDArray[np.generic]) -> Days:
        mean = daily.mean(axis=0)
        return np.array([mean[MONTH_OF_DAY == m].sum() for m in range(12)])


def _ra(latitude_deg: float) -> Days:
    return extraterrestrial_radiation(latitude_deg, np.arange(1, 366))


def _where_known(measured: Days, estimate: Days) -> Days:
    return np.where(np.isfinite(measured), measured, estimate)


def _rounded(months: list[float] | Days) -> tuple[float, ...]:
    return tuple(round(float(x), 2) for x in months)
