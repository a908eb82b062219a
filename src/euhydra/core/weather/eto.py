"""Extraterrestrial radiation and reference evapotranspiration (FAO-56)."""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray

SOLAR_CONSTANT = 0.0820  # MJ/m²/min, FAO-56 eq. 21
LATENT_HEAT = 2.45  # MJ/kg, FAO-56
USUAL_WIND_M_S = 2.0  # where none was measured, FAO-56 ch. 3

Array = NDArray[np.float64]


def extraterrestrial_radiation(latitude_deg: float, day: ArrayLike) -> Array:
    """Ra in MJ/m²/day on a horizontal plane at the top of the air.

    ``day`` is the day of the year, 1 for 1 January; any shape. Nothing in a polar night, and all
    day long where the sun does not set. Source: FAO-56 eq. 21 to 25.
    """
    j = np.asarray(day, dtype=float)
    phi = np.radians(latitude_deg)
    nearness = 1 + 0.033 * np.cos(2 * np.pi * j / 365)
    declination = 0.409 * np.sin(2 * np.pi * j / 365 - 1.39)
    sunset = sunset_angle(latitude_deg, j)
    return np.asarray(24 * 60 / np.pi * SOLAR_CONSTANT * nearness * (
        sunset * np.sin(phi) * np.sin(declination)
        + np.cos(phi) * np.cos(declination) * np.sin(sunset)))


def sunset_angle(latitude_deg: float, day: ArrayLike) -> Array:
    """Sunset hour angle in radians. Source: FAO-56 eq. 25."""
    j = np.asarray(day, dtype=float)
    declination = 0.409 * np.sin(2 * np.pi * j / 365 - 1.39)
    cosine = -np.tan(np.radians(latitude_deg)) * np.tan(declination)
    return np.asarray(np.arccos(np.clip(cosine, -1, 1)))


def day_length(latitude_deg: float, day: ArrayLike) -> Array:
    """Hours of daylight. Source: FAO-56 eq. 34."""
    return 24 / np.pi * sunset_angle(latitude_deg, day)


def daylight_h(latitude_deg: float) -> NDArray[np.float64]:
    """Hours from sunrise to sunset of every day of a year, (365,)."""
    return day_length(latitude_deg, np.arange(1, 366))


def hargreaves(tmin_c: ArrayLike, tmax_c: ArrayLike, ra: ArrayLike) -> Array:
    """Reference evapotranspiration ETo in mm/day from temperatures alone, never negative.

    ``ra`` is in MJ/m²/day. Source: Hargreaves & Samani 1985, as FAO-56 eq. 52.
    """
    low, high = np.asarray(tmin_c, dtype=float), np.asarray(tmax_c, dtype=float)
    spread = np.sqrt(np.maximum(high - low, 0))
    evaporation = np.asarray(ra, dtype=float) / LATENT_HEAT
    return np.asarray(np.maximum(0.0023 * ((low + high) / 2 + 17.8) * spread * evaporation, 0))


def clear_sky_radiation(ra: ArrayLike, altitude_m: float) -> Array:
    """Rso in MJ/m²/day under a clear sky. Source: FAO-56 eq. 37."""
    return (0.75 + 2e-5 * altitude_m) * np.asarray(ra, dtype=float)


def radiation_from_sunshine(sunshine_h: ArrayLike, latitude_deg: float, day: ArrayLike) -> Array:
    """Rs in MJ/m²/day from hours of bright sunshine. Source: Ångström, FAO-56 eq. 35."""
    ra, hours = extraterrestrial_radiation(latitude_deg, day), day_length(latitude_deg, day)
    share = np.clip(np.asarray(sunshine_h, dtype=float) / np.maximum(hours, 1e-6), 0, 1)
    return (0.25 + 0.50 * share) * ra


def radiation_from_temperatures(tmin_c: ArrayLike, tmax_c: ArrayLike, ra: ArrayLike,
                                altitude_m: float = 0.0) -> Array:
    """Rs in MJ/m²/day where it was not measured: kRs √(Tmax − Tmin) Ra, kRs 0.16 away from coasts.

    No more than a clear sky gives. Source: FAO-56 eq. 50.
    """
    spread = np.maximum(np.asarray(tmax_c, dtype=float) - np.asarray(tmin_c, dtype=float), 0)
    top = clear_sky_radiation(ra, altitude_m)
    return np.asarray(np.minimum(0.16 * np.sqrt(spread) * np.asarray(ra, dtype=float), top))


def saturation_kpa(temperature_c: ArrayLike) -> Array:
    """Saturation vapour pressure e° in kPa. Source: FAO-56 eq. 11."""
    t = np.asarray(temperature_c, dtype=float)
    return np.asarray(0.6108 * np.exp(17.27 * t / (t + 237.3)))


def vapour_from_humidity(tmin_c: ArrayLike, tmax_c: ArrayLike, humidity: ArrayLike) -> Array:
    """Actual vapour pressure in kPa from the day's mean relative humidity in %.

    Source: FAO-56 eq. 19.
    """
    mean = (saturation_kpa(tmin_c) + saturation_kpa(tmax_c)) / 2
    return np.asarray(np.asarray(humidity, dtype=float) / 100 * mean)


def wind_at_2_m(wind_m_s: ArrayLike, height_m: float) -> Array:
    """Wind at 2 m over grass from a gauge at another height. Source: FAO-56 eq. 47."""
    return np.asarray(np.asarray(wind_m_s, dtype=float) * 4.87 / np.log(67.8 * height_m - 5.42))


def penman_monteith(tmin_c: ArrayLike, tmax_c: ArrayLike, vapour_kpa: ArrayLike,
                    wind_m_s: ArrayLike, radiation: ArrayLike, ra: ArrayLike,
                    altitude_m: float = 0.0, ground_heat: ArrayLike = 0.0) -> Array:
    """Reference evapotranspiration ETo in mm/day by FAO-56 Penman–Monteith, never negative.

    Vapour pressure in kPa, wind at 2 m in m/s, solar radiation Rs, Ra and ground heat G in
    MJ/m²/day (G is 0 over a day, 0.14 × the change of the monthly mean over a month). Any shape.
    Source: FAO-56 eq. 6, with eq. 7, 8, 13, 38 to 40.
    """
    low, high = np.asarray(tmin_c, dtype=float), np.asarray(tmax_c, dtype=float)
    vapour, wind = np.asarray(vapour_kpa, dtype=float), np.asarray(wind_m_s, dtype=float)
    mean = (low + high) / 2
    slope = 4098 * saturation_kpa(mean) / (mean + 237.3) ** 2
    pressure = 101.3 * ((293 - 0.0065 * altitude_m) / 293) ** 5.26
    gamma = 0.665e-3 * pressure
    saturated = (saturation_kpa(low) + saturation_kpa(high)) / 2
    net = net_radiation(low, high, vapour, radiation, ra, altitude_m)
    lack = np.maximum(saturated - vapour, 0)
    top = (0.408 * slope * (net - np.asarray(ground_heat, dtype=float))
           + gamma * 900 / (mean + 273) * wind * lack)
    return np.asarray(np.maximum(top / (slope + gamma * (1 + 0.34 * wind)), 0))


def net_radiation(tmin_c: ArrayLike, tmax_c: ArrayLike, vapour_kpa: ArrayLike,
                  radiation: ArrayLike, ra: ArrayLike, altitude_m: float = 0.0) -> Array:
    """Rn in MJ/m²/day over grass: 0.77 Rs less the long waves that leave.

    Source: FAO-56 eq. 38 to 40; the Stefan–Boltzmann constant as there.
    """
    rs = np.asarray(radiation, dtype=float)
    clear = np.clip(rs / np.maximum(clear_sky_radiation(ra, altitude_m), 1e-6), 0.3, 1.0)
    warm = ((np.asarray(tmax_c, dtype=float) + 273.16) ** 4
            + (np.asarray(tmin_c, dtype=float) + 273.16) ** 4) / 2
    vapour = np.asarray(vapour_kpa, dtype=float)
    long_waves = 4.903e-9 * warm * (0.34 - 0.14 * np.sqrt(vapour)) * (1.35 * clear - 0.35)
    return np.asarray((1 - 0.23) * rs - long_waves)
