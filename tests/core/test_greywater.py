"""Used water: the drum through its day, worked by hand, and what must hold for any drum."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from euhydra.core import greywater
from euhydra.core.garden.model import Basin, Drain, Point


def laundry(**changes):
    return Drain.model_validate({
        "id": "d", "name": "Laundry", "at": Point(x_m=0, y_m=0), "litres_a_use": 60,
        "use_min": 10, "uses": (3, 0, 0, 1, 0, 0, 0), "school": "drum", "drum_l": 200,
        "empties_by": "pump", "empties_l_h": 1500} | changes)


def test_a_week_and_the_busiest_day():
    assert greywater.week_l(laundry()) == 240
    assert greywater.peak_day_l(laundry()) == 180


def test_a_drum_without_a_way_out_spills_what_does_not_fit():
    # Three loads of 60 L into 100 L, draining 1 L/h: 180 less 100, less what three hours drain.
    day = greywater.drum_day(laundry(drum_l=100, empties_l_h=1, empties_by="soaker"))
    assert day.came_l == 180
    assert day.spilled_l == pytest.approx(78, abs=2.5)
    assert day.held_h == float("inf")


def test_a_float_pump_starts_once_a_load_and_leaves_its_puddle():
    # A drum of 200 L: the float is up at 40 L and down at 10 L; a load of 60 L passes it once.
    day = greywater.drum_day(laundry())
    assert day.starts == 3
    assert day.spilled_l == 0
    assert 0 <= day.left_l <= greywater.PUMP_STARTS * 200


def test_a_soaker_too_slow_holds_past_a_day_and_a_pump_cures_it():
    slow = laundry(empties_by="soaker", empties_l_h=15, uses=(4, 0, 0, 0, 0, 0, 0))
    assert greywater.drum_day(slow).held_h > greywater.HELD_H
    copes = greywater.pump_that_copes_l_h(slow)
    cured = slow.model_copy(update={"empties_by": "pump", "empties_l_h": copes})
    assert greywater.drum_day(cured).spilled_l == 0
    assert greywater.drum_day(cured).held_h <= greywater.HELD_H


@settings(deadline=None, max_examples=40)
@given(st.floats(20, 400), st.integers(0, 10), st.floats(20, 600), st.floats(1, 3000),
       st.sampled_from(["pump", "soaker"]))
def test_a_drum_makes_no_water_and_a_faster_way_out_never_spills_more(litres, uses, drum, rate,
                                                                       by):
    drain = laundry(litres_a_use=litres, uses=(uses, 0, 0, 0, 0, 0, 0), drum_l=drum,
                    empties_l_h=rate, empties_by=by)
    day = greywater.drum_day(drain)
    assert day.spilled_l + day.left_l <= day.came_l + 1e-6
    assert (day.level_l <= drum + 1e-9).all()
    assert day.came_l == pytest.approx(litres * uses)
    faster = greywater.drum_day(drain.model_copy(update={"empties_l_h": rate * 2}))
    assert faster.spilled_l <= day.spilled_l + 1e-6


def test_a_basin_holds_a_load_between_its_chips():
    basin = Basin(id="b", name="Fig", corner=Point(x_m=0, y_m=0), length_m=1.5, width_m=1.0,
                  depth_m=0.3)
    # 0.45 m³ of chips with 40 % of room: 180 L.
    assert greywater.basin_room_l(basin) == pytest.approx(180)
    assert greywater.as_bed(basin, "loam").length_m == 1.5
