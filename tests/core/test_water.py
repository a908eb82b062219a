"""Catch, storage and thirst: hand-worked examples and what must hold for any water."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays

from euhydra.core.assessment.assess import assess
from euhydra.core.demand.crop_water import kc_year, plot_thirst, refills
from euhydra.core.editing.edits import SetValue
from euhydra.core.editing.fields import CORNER_WORDS
from euhydra.core.garden.model import Bed, Planting, Point, Roof
from euhydra.core.parsing import BadEntry, parse_pairs
from euhydra.core.supply.runoff import first_flush, roof_yields
from euhydra.core.weather.generator import generate
from gardens import climate_of, poured
from worlds import holding


def test_first_flush_takes_once_per_event():
    ran_off = np.array([0, 6, 10, 0, 3, 0, 0, 25.0])
    assert first_flush(ran_off, 10).tolist() == [0, 6, 4, 0, 3, 0, 0, 10]


def test_first_flush_runs_on_over_new_year():
    two_years = np.array([[0, 8.0], [8.0, 0]])
    assert first_flush(two_years, 10).tolist() == [[0, 8], [2, 0]]


@given(arrays(float, 30, elements=st.floats(0, 80)), st.floats(0, 5), st.floats(0.05, 1))
def test_every_litre_on_the_roof_goes_somewhere(library_rain, flush_mm, share):
    from euhydra.data import library

    roof = Roof.model_validate({
        "id": "r", "name": "r", "corner": Point(x_m=0, y_m=0), "width_m": 6, "depth_m": 4,
        "material": "tile", "first_flush_mm": flush_mm,
        "downspouts": [{"id": "d", "name": "d", "share": share, "to": "s"}]})
    y = roof_yields(library_rain, (roof,), library())["r"]
    assert np.allclose(y.fell_l, y.lost_l + y.flushed_l + y.over_l + y.astray_l + y.caught_l)
    for part in (y.lost_l, y.flushed_l, y.astray_l, y.caught_l):
        assert (part >= -1e-9).all()


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


def test_a_bigger_roof_never_lowers_reliability(library):
    shares = []
    garden = poured(library)
    for width in (2.0, 4.0, 8.0):
        a = assess(SetValue("roofs/roof/width_m", width).apply(garden, library), library)
        shares.append(a.season.rain_share)
    assert shares == sorted(shares)


def test_an_outline_has_its_polygon_s_area(library):
    # An L of 4 × 3 less 2 × 2 by hand: 8 m².
    garden = poured(library)
    for corners, area in ((((0, 0), (4, 0), (4, 1), (2, 1), (2, 3), (0, 3)), 8.0), ((), 15.0)):
        outline = tuple(Point(x_m=x, y_m=y) for x, y in corners)
        roof = SetValue("roofs/roof/outline", outline).apply(garden, library).roofs[0]
        assert roof.area_m2 == pytest.approx(area)


def test_a_flush_is_owed_by_the_dry_days_before_it():
    # Ten litres owed after five dry days: two litres a dry day; a wet day owes nothing more.
    ran_off = np.array([20.0, 0, 20, 0, 0, 0, 0, 0, 20])
    assert first_flush(ran_off, 10, 5).tolist() == [10, 0, 2, 0, 0, 0, 0, 0, 10]


def test_a_guard_and_a_restrictor_take_their_part(library):
    garden = poured(library)
    roof = SetValue("roofs/roof/guard", "fine-mesh").apply(garden, library).roofs[0]
    rain = np.array([0.0, 20.0])
    free = roof_yields(rain, garden.roofs, library)["roof"]
    meshed = roof_yields(rain, (roof,), library)["roof"]
    flush = 15 * garden.roofs[0].first_flush_mm
    assert free.caught_l[1] == pytest.approx(20 * 15 * 0.95 - flush)
    assert meshed.caught_l[1] == pytest.approx(20 * 15 * 0.95 * 0.95 - flush)
    held = SetValue("roofs/roof/downspouts/d1/restrictor_l_h", 20.0).apply(garden, library)
    restricted = roof_yields(rain, held.roofs, library)["roof"]
    assert restricted.caught_l[1] == pytest.approx(20 * 6)
    assert restricted.over_l[1] == pytest.approx(free.caught_l[1] - 120)


def corners(typed, system):
    return parse_pairs(typed, ("length", "length"), system, CORNER_WORDS)


@pytest.mark.parametrize(("typed", "says"), [("0,0; 4", "not a corner"), ("a, b", "not a number"),
                                             ("0,0; 1,1,1", "not a corner")])
def test_corners_that_cannot_be_read_are_refused_in_words(typed, says):
    with pytest.raises(BadEntry, match=says):
        corners(typed, "metric")


def test_corners_take_any_unit():
    assert corners("0, 0; 10 ft, 0; 3 m, 2; ", "metric") == [
        (0, 0), (pytest.approx(3.048), 0), (3, 2)]
    assert corners("1, 0", "us")[0][0] == pytest.approx(0.3048)
