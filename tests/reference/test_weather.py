"""Radiation, ETo and the generator against published examples, a library and open data."""

import math

import numpy as np
import pandas as pd
import pyet
import pytest
from vega_datasets import local_data

from euhydra.core.weather.eto import (
    day_length,
    extraterrestrial_radiation,
    hargreaves,
    penman_monteith,
    radiation_from_sunshine,
    radiation_from_temperatures,
    saturation_kpa,
    wind_at_2_m,
)
from euhydra.core.weather.generator import (
    MONTH_LENGTHS,
    MONTH_OF_DAY,
    daily_from_monthly,
    generate,
)
from gardens import climate_of


def test_ra_on_3_september_at_20_south():
    # FAO-56 example 8, recalled: 32.2 MJ/m²/day.
    assert float(extraterrestrial_radiation(-20, 246)) == pytest.approx(32.2, abs=0.05)


def test_day_length_on_3_september_at_20_south():
    # FAO-56 example 9, recalled: 11.7 hours.
    assert float(day_length(-20, 246)) == pytest.approx(11.7, abs=0.05)


def test_hargreaves_at_lyon_in_july():
    # FAO-56 example 20, recalled: 45°43' N, 15 July, 14.8 and 26.6 °C give 5.0 mm/day.
    ra = extraterrestrial_radiation(45 + 43 / 60, 196)
    assert float(hargreaves(14.8, 26.6, ra)) == pytest.approx(5.0, abs=0.05)


def test_hargreaves_equals_pyet_on_the_seattle_record():
    # Open data: daily Seattle weather of vega_datasets. Library: pyet. Both read, not recalled.
    # pyet puts λ at the day's temperature into the same formula where FAO-56 has 2.45, so the
    # ratio of the two is its λ over 2.45 and nothing else.
    record = local_data.seattle_weather().set_index("date")
    low, high = record["temp_min"], record["temp_max"]
    mean = (low + high) / 2
    theirs = pyet.hargreaves(mean, high, low, lat=math.radians(47.6))
    ours = hargreaves(low, high, extraterrestrial_radiation(47.6, record.index.dayofyear))
    latent = pyet.calc_lambda(mean)
    compared = pd.DataFrame({"ours": ours * 2.45 / latent, "theirs": theirs})
    compared = compared[compared["theirs"] > 0.1]
    assert len(compared) > 1400
    assert np.allclose(compared["ours"], compared["theirs"], rtol=2e-3)


def test_penman_monteith_at_bangkok_in_april():
    # FAO-56 example 17, recalled: monthly means at 13°44' N, 2 m; 34.8 and 25.6 °C, 2.85 kPa,
    # 2 m/s, 8.5 h of sunshine, March 29.2 °C: 5.72 mm/day.
    day = 105
    ra = extraterrestrial_radiation(13.73, day)
    sun = radiation_from_sunshine(8.5, 13.73, day)
    ground = 0.14 * ((34.8 + 25.6) / 2 - 29.2)
    eto = penman_monteith(25.6, 34.8, 2.85, 2.0, sun, ra, altitude_m=2, ground_heat=ground)
    assert float(eto) == pytest.approx(5.72, abs=0.02)


def test_penman_monteith_at_uccle_on_6_july():
    # FAO-56 example 18, recalled: 50°48' N, 100 m; 21.5 and 12.3 °C, RH 84 and 63 %, 2.78 m/s at
    # 10 m, 9.25 h of sunshine: 3.9 mm/day.
    vapour = (saturation_kpa(12.3) * 0.84 + saturation_kpa(21.5) * 0.63) / 2  # FAO-56 eq. 17
    ra = extraterrestrial_radiation(50.8, 187)
    sun = radiation_from_sunshine(9.25, 50.8, 187)
    wind = wind_at_2_m(2.78, 10)
    assert float(wind) == pytest.approx(2.078, abs=0.005)
    eto = penman_monteith(12.3, 21.5, vapour, wind, sun, ra, altitude_m=100)
    assert float(eto) == pytest.approx(3.9, abs=0.05)


def test_penman_monteith_equals_pyet_on_the_seattle_record():
    # Open data and library as above. Wind is measured; the vapour is taken from the night's low
    # (FAO-56 eq. 48) and the radiation from the temperatures (eq. 50), the same for both.
    seattle = local_data.seattle_weather().set_index("date")
    low, high, wind = (seattle[c] for c in ("temp_min", "temp_max", "wind"))
    ra = extraterrestrial_radiation(47.6, seattle.index.dayofyear)
    sun = radiation_from_temperatures(low, high, ra, 50)
    vapour = pd.Series(saturation_kpa(low), index=seattle.index)
    ours = penman_monteith(low, high, vapour, wind, sun, ra, 50)
    theirs = pyet.pm_fao56((low + high) / 2, wind, rs=pd.Series(sun, index=seattle.index),
                           elevation=50, lat=math.radians(47.6), tmax=high, tmin=low, ea=vapour)
    assert len(theirs) == 1461
    assert np.allclose(ours, theirs, atol=0.02)
    assert 1.5 < ours.mean() < 3.5


@pytest.mark.parametrize("key", ["ostermere", "oceanic", "desert", "wet-dry-tropics",
                                 "southern-temperate"])
def test_generated_years_return_the_normals(library, key):
    # Geng, Penning de Vries & Supit 1986, recalled: the chain's stationary wet share is f and the
    # gamma's mean is the normal. Each month's mean of 300 years lies within 4 standard errors.
    climate = climate_of(library, key)
    weather = generate(climate, library.climates[key].latitude_deg, 300, seed=7)
    for month in range(12):
        days = month == MONTH_OF_DAY
        totals = weather.rain_mm[:, days].sum(axis=1)
        error = totals.std() / math.sqrt(300)
        assert totals.mean() == pytest.approx(climate.rain_mm[month], abs=4 * error + 0.01)
        wet = (weather.rain_mm[:, days] > 0).sum(axis=1)
        assert wet.mean() == pytest.approx(climate.wet_days[month],
                                           abs=4 * wet.std() / math.sqrt(300) + 0.01)
        for series, normal in ((weather.tmin_c, climate.tmin_c), (weather.tmax_c, climate.tmax_c)):
            assert series[:, days].mean() == pytest.approx(normal[month], abs=0.25)


def test_wet_days_are_cooler(library):
    weather = generate(climate_of(library, "ostermere"), 41.3, 100, seed=1)
    july = MONTH_OF_DAY == 6
    wet = weather.rain_mm[:, july] > 0
    assert weather.tmax_c[:, july][wet].mean() < weather.tmax_c[:, july][~wet].mean() - 1


def test_smooth_year_keeps_monthly_means_exactly():
    monthly = np.array([6, 8, 13, 16, 21, 26, 30, 29, 25, 18, 11, 7.0])
    daily = daily_from_monthly(monthly)
    for month in range(12):
        assert daily[month == MONTH_OF_DAY].mean() == pytest.approx(monthly[month], abs=1e-9)
    assert np.abs(np.diff(daily)).max() < 1.0
    assert MONTH_LENGTHS.sum() == daily.size
