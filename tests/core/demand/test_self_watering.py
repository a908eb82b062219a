"""Rows that water themselves: their tubes, what a float box carries, what a reservoir lasts."""

import math

import pytest

from euhydra.core.demand import crop_water, wicking
from euhydra.core.garden.model import Planting, Point, Wicking
from euhydra.core.hydraulics import self_watering
from worlds import steady


def chain(crop="tomato", **changes):
    base = {"id": "c", "name": "c", "kind": "chain", "corner": Point(x_m=0, y_m=0), "count": 6,
            "water_m": 0.04, "plantings": (Planting(id="p1", crop=crop, planted="05-01"),)}
    return Wicking(**(base | changes))


def test_water_in_a_chain_falls_by_hagen_poiseuille(library):
    # Two tubes of 4 mm, 0.4 m long, laminar: h = 128 ν L Q / (π g d⁴), each with what lies beyond.
    row = chain(count=2)
    each = 24.0
    q = each * wicking.PEAK_HOUR / 3.6e6
    nu = 1.792e-6 / (1 + 0.0337 * 15 + 0.000221 * 225)
    one = 128 * nu * 0.4 * q / (math.pi * 9.80665 * (0.004 * self_watering.NARROWED)**4)
    told = self_watering.chain(row, each, library.crops["tomato"])
    assert told.drop_m == pytest.approx(one * (1 + 2), rel=1e-6)
    room = 0.04 - self_watering.LEAST_WATER_M
    n = next(n for n in range(1, 50) if one * n * (n + 1) / 2 > room) - 1
    assert told.by_tube == n


def test_a_wider_tube_and_a_smaller_thirst_carry_more(library):
    tomato = library.crops["tomato"]
    for more, fewer in (((chain(tube_mm=6.0), 4.5), (chain(), 4.5)),
                        ((chain(), 1.0), (chain(), 4.5))):
        carried = [self_watering.chain(*row, tomato).by_tube for row in (more, fewer)]
        assert carried[0] > carried[1]


def test_no_float_box_carries_37_tomatoes(library):
    """Common practice, no source: six thirsty or thirteen modest plants to a box, at any bore."""
    wide = chain(tube_mm=16.0)
    tomatoes, lettuces = (self_watering.chain(wide, 3.0, library.crops[c])
                          for c in ("tomato", "lettuce"))
    assert tomatoes.by_tube > 13
    assert (tomatoes.carries, lettuces.carries) == (6, 13)
    assert not tomatoes.tube_decides
    thin = self_watering.chain(chain(tube_mm=3.0), 6.0, library.crops["tomato"])
    assert thin.tube_decides
    assert thin.carries < 6


def test_a_reservoir_s_days_follow_from_what_it_holds(library):
    row = chain(kind="gutter", count=8, water_m=0.05)
    t = crop_water.plot_thirst(row, library, steady())
    state = self_watering.reservoir(row, t, library.crops["tomato"])
    gutter = 0.125 * 0.05 * row.length_m * wicking.GUTTER_FULL * 1000
    assert state.held_l == pytest.approx(gutter)
    assert state.days_cut_off == pytest.approx((gutter + t.raw_l) / t.hottest_week_l)
    assert state.feed_ml == pytest.approx(4.0 * state.held_l)
