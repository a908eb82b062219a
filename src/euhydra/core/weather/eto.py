"""Extraterrestrial radiation and reference evapotranspiration (FAO-56)."""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray

SOLAR_CONSTANT = 0.0820  # MJ/m²/min, FAO-56 eq. 21
LATENT_HEAT = 2.45  # MJ/kg, FAO-56


def extraterrestrial_radiation(latitude_deg: float, day: ArrayLike) -> NDArray[np.float64]:
    """Ra in MJ/m²/day on a horizontal plane at the top of the air.

    ``day`` is the day of the year, 1 for 1 January; any shape. Latitude from −66 to 66°, inside
    which the sun rises and sets every day. Source: FAO-56 eq. 21 to 25.
    """
    j = np.asarray(day, dtype=float)
    phi = np.radians(latitude_deg)
    nearness = 1 + 0.033 * np.cos(2 * np.pi * j / 365)
    declination = 0.409 * np.sin(2 * np.pi * j / 365 - 1.39)
    sunset = sunset_angle(latitude_deg, j)
    return np.asarray(24 * 60 / np.pi * SOLAR_CONSTANT * nearness * (
        sunset * np.sin(phi) * np.sin(declination)
        + np.cos(phi) * np.cos(declination) * np.sin(sunset)))


def sunset_angle(latitude_deg: float, day: ArrayLike) -> NDArray[np.float64]:
    """Sunset hour angle in radians. Source: FAO-56 eq. 25."""
    j = np.asarray(day, dtype=float)
    declination = 0.409 * np.sin(2 * np.pi * j / 365 - 1.39)
    cosine = -np.tan(np.radians(latitude_deg)) * np.tan(declination)
    return np.asarray(np.arccos(np.clip(cosine, -1, 1)))


def day_length(latitude_deg: float, day: ArrayLike) -> NDArray[np.float64]:
    """Hours of daylight. Source: FAO-56 eq. 34."""
    return 24 / np.pi * sunset_angle(latitude_deg, day)


def hargreaves(tmin_c: ArrayLike, tmax_c: ArrayLike, ra: ArrayLike) -> NDArray[np.float64]:
    """Reference evapotranspiration ETo in mm/day from temperatures alone, never negative.

    ``ra`` is in MJ/m²/day. Source: Hargreaves & Samani 1985, as FAO-56 eq. 52.
    """
    low, high = np.asarray(tmin_c, dtype=float), np.asarray(tmax_c, dtype=float)
    spread = np.sqrt(np.maximum(high - low, 0))
    evaporation = np.asarray(ra, dtype=float) / LATENT_HEAT
    return np.asarray(np.maximum(0.0023 * ((low + high) / 2 + 17.8) * spread * evaporation, 0))
