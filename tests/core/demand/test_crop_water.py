"""Crop coefficients, root zones and need: worked by hand."""

from dataclasses import replace

import numpy as np
import pytest

from euhydra.core.demand.crop_water import kc_year, plot_thirst, refills
from euhydra.core.garden.model import Bed, Planting, Point
from euhydra.core.weather.generator import generate
from gardens import climate_of
from worlds import holding


def test_kc_rises_stays_and_falls(library):
    # FAO-56 Tables 11 and 12, recalled: tomato 30/40/45/30 days, Kc 0.6, 1.15, 0.8.
    kc = kc_year(library.crops["tomato"], "05-01")
    start = 120
    assert kc[start - 1] == 0
    assert kc[start] == pytest.approx(0.6)
    assert kc[start + 30] == pytest.approx(0.6)
    assert kc[start + 50] == pytest.approx((0.6 + 1.15) / 2)
    assert kc[start + 100] == pytest.approx(1.15)
    assert kc[start + 144] == pytest.approx(1.15 - 0.35 * 29 / 30)
    assert kc[start + 145] == 0


def test_a_season_may_run_over_new_year(library):
    kc = kc_year(library.crops["tomato"], "11-01")
    assert kc[304] > 0
    assert kc[10] > 0
    assert kc[150] == 0


def test_root_zone_balance_by_hand():
    # FAO-56 eq. 85 in litres, refilled every other day: rain covers day 2 and fills up on day 4.
    use = np.zeros((1, 365))
    rain = np.zeros((1, 365))
    use[0, :5] = 5
    rain[0, 1], rain[0, 4] = 3, 20
    season = np.arange(365) < 6
    given_l = refills(use, rain, season, 2, holding(100.0))
    # Day 0: 5 given. Days 1 and 2: 5 − 3 + 5 = 7. Days 3 and 4: 5, then rain leaves none. Day 6 is
    # out of season.
    assert given_l[0, :7].tolist() == [5, 0, 7, 0, 0, 0, 0]


def test_a_year_starts_as_the_one_before_ended():
    use = np.full((2, 365), 1.0)
    season = np.ones(365, dtype=bool)
    given_l = refills(use, np.zeros_like(use), season, 3, holding(1000.0, years=2))
    assert given_l.sum(axis=1).tolist() == pytest.approx([365, 365], abs=1)


def test_need_is_what_the_crop_uses_less_rain(library):
    weather = generate(climate_of(library, "ostermere"), 41.3, 5, 1)
    bed = Bed(id="b", name="b", corner=Point(x_m=0, y_m=0), length_m=2, width_m=1,
              plantings=(Planting(id="p", crop="tomato", planted="05-08"),))
    thirst = plot_thirst(bed, library, weather)
    july = weather.eto_mm[:, 181:212].mean() * thirst.kc[181:212].mean() * 2
    assert thirst.use_by_month[6] == pytest.approx(july, rel=0.02)
    dry = plot_thirst(bed, library, replace(weather, rain_mm=np.zeros_like(weather.rain_mm)))
    assert 0.6 * july < thirst.net_by_month[6] < 0.97 * dry.net_by_month[6]
    # What rain spares is some of what falls on the bed, and no more than that.
    spared = dry.net_l.sum() - thirst.net_l.sum()
    assert 0.05 * thirst.use_l.sum() < spared < weather.rain_mm.sum() * 2














