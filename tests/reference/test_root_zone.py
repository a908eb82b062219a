"""The season's root zone against pyfao56, an implementation of FAO-56 by its users (PyPI)."""

import datetime as dt

import numpy as np
import pandas as pd
import pyfao56
import pytest

from euhydra.core.demand.crop_water import kc_year
from euhydra.core.garden.base import day_of_year
from euhydra.core.season.simulate import run_season
from euhydra.core.weather.generator import generate
from euhydra.data import library
from gardens import climate_of
from worlds import world

LIBRARY = library()
YEARS, EVERY, DEPTH_MM = 3, 3, 6.0
LOAM = LIBRARY.soils["loam"]
WEATHER = generate(climate_of(LIBRARY, "ostermere"), 41.3, YEARS, 1)


def season_of(crop, planted):
    """A square metre of loam under rain and 6 mm every third day, with the crop's whole roots."""
    kc = kc_year(crop, planted)
    total = 1000 * LOAM.available * crop.root_m
    minutes = np.zeros((YEARS, 365, 4))
    minutes[:, (kc > 0) & (np.arange(365) % EVERY == 0), 0] = DEPTH_MM  # 60 L/h: 1 mm a minute
    return run_season(world(WEATHER.eto_mm * kc, WEATHER.rain_mm * (kc > 0), minutes, size=1e9,
                            total=total, ready=total * crop.p), start_share=1.0)


def theirs(crop, days, year, given_mm, lacked_mm, **more):
    """pyfao56's table of the same days, begun with the same soil, from the same weather."""
    start = dt.datetime(2001, 1, 1) + dt.timedelta(days=int(days[0]))
    keys = [(start + dt.timedelta(days=i)).strftime("%Y-%j") for i in range(len(days))]
    weather = pyfao56.Weather()
    weather.z, weather.lat, weather.wndht = 0.0, 41.3, 2.0
    nothing = np.nan
    weather.wdata = pd.DataFrame({
        "Srad": nothing, "Tmax": WEATHER.tmax_c[year, days], "Tmin": WEATHER.tmin_c[year, days],
        "Vapr": nothing, "Tdew": nothing, "RHmax": 90.0, "RHmin": 45.0, "Wndsp": 2.0,
        "Rain": WEATHER.rain_mm[year, days], "ETref": WEATHER.eto_mm[year, days], "MorP": "M"},
        index=keys)
    watered = [i for i in range(len(days)) if given_mm[i] > 0]
    irrigation = pyfao56.Irrigation()
    irrigation.idata = pd.DataFrame(
        {"Depth": given_mm[watered], "fw": more.pop("wetted", 1.0), "ieff": 100.0},
        index=[keys[i] for i in watered])
    kc = (crop.kc_ini, crop.kc_mid, crop.kc_end)
    names = dict(zip(("Kcbini", "Kcbmid", "Kcbend"), kc, strict=True))
    settings = {"Ze": 0.0, "REW": -1.0} | names | more  # no part for bare soil: a single Kc
    model = pyfao56.Model(keys[0], keys[-1], pyfao56.Parameters(
        Kcmini=kc[0], Kcmmid=kc[1], Kcmend=kc[2], Lini=int(crop.days_ini),
        Ldev=int(crop.days_dev), Lmid=int(crop.days_mid), Lend=int(crop.days_late), hini=0.1,
        hmax=crop.height_m, thetaFC=LOAM.field_capacity, thetaWP=LOAM.wilting_point,
        theta0=LOAM.field_capacity - lacked_mm / 1000 / crop.root_m, Zrini=crop.root_m,
        Zrmax=crop.root_m, pbase=crop.p, **settings), weather, irr=irrigation, cons_p=True)
    model.run()
    return {name: model.odata[name].astype(float).to_numpy()
            for name in ("ETc", "ETa", "Dr", "DP")}


@pytest.mark.parametrize(("key", "planted"), [("tomato", "05-05"), ("lettuce", "04-20"),
                                              ("squash", "05-15")])
def test_a_fixed_schedule_gives_pyfao56_s_uptake_depletion_and_percolation(key, planted):
    crop = LIBRARY.crops[key]
    season, first = season_of(crop, planted), day_of_year(planted)
    days = np.arange(first, first + int(crop.days))
    for year in range(YEARS):
        use, drunk, given, depletion = (x[0, year, days] for x in (
            season.world.use, season.drunk, season.given, season.depletion))
        lacked = float(season.depletion[0, year, first - 1])
        told = theirs(crop, days, year, given, lacked)
        passed = (given.sum() + WEATHER.rain_mm[year, days].sum() - drunk.sum()
                  + depletion[-1] - lacked)
        assert (drunk < use - 1e-6).sum() > 20  # there is stress to be agreed on
        assert use.sum() == pytest.approx(told["ETc"].sum(), rel=0.001)
        assert drunk.sum() == pytest.approx(told["ETa"].sum(), rel=0.025)
        assert np.sqrt(np.mean((depletion - told["Dr"]) ** 2)) < 3.5
        assert passed == pytest.approx(told["DP"].sum(), abs=5.0)


def test_a_single_kc_stays_near_the_dual_one_where_three_tenths_are_wetted():
    """FAO-56 chapter 7 beside chapter 6: beds under drip, Kcb of 0.15 at first, Kc less 0.05."""
    crop = LIBRARY.crops["tomato"]
    season, first = season_of(crop, "05-05"), day_of_year("05-05")
    days = np.arange(first, first + int(crop.days))
    for year in range(YEARS):
        told = theirs(crop, days, year, season.given[0, year, days],
                      float(season.depletion[0, year, first - 1]), wetted=0.3, Ze=0.1, REW=8.0,
                      Kcbini=0.15, Kcbmid=crop.kc_mid - 0.05, Kcbend=crop.kc_end - 0.05)
        assert season.drunk[0, year, days].sum() == pytest.approx(told["ETa"].sum(), rel=0.08)
