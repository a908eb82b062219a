"""Roofs: what runs off, what the first flush takes, what reaches the stores."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays

from euhydra.core.assessment.assess import assess
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Point, Roof
from euhydra.core.supply.runoff import first_flush, roof_yields
from gardens import poured


def test_first_flush_takes_once_per_event():
    ran_off = np.array([0, 6, 10, 0, 3, 0, 0, 25.0])
    assert first_flush(ran_off, 10).tolist() == [0, 6, 4, 0, 3, 0, 0, 10]
    assert first_flush(np.array([10.0, 0, 8]), 10).tolist() == [10, 0, 8], "whole after a dry day"


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
