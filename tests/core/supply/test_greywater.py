"""Used water: the drum through its day, worked by hand, and what must hold for any drum."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from euhydra.core.assessment.assess import assess
from euhydra.core.garden.model import Basin, Drain, Point
from euhydra.core.season.absence import season_away
from euhydra.core.supply import greywater
from euhydra.core.supply.greywater import Leaves


def laundry(**changes):
    return Drain.model_validate({
        "id": "d", "name": "Laundry", "at": Point(x_m=0, y_m=0), "litres_a_use": 60,
        "use_min": 10, "uses": (3, 0, 0, 1, 0, 0, 0), "school": "drum", "drum_l": 200} | changes)


def steady(rate, *, pumped=False, dead=0.0):
    return Leaves(rate, rate, rate, dead, pumped)


def test_a_week_and_the_busiest_day():
    assert greywater.week_l(laundry()) == 240
    assert greywater.peak_day_l(laundry()) == 180


def test_a_drum_without_a_way_out_spills_what_does_not_fit():
    # Three loads of 60 L into 100 L, draining 1 L/h: 180 less 100, less what three hours drain.
    day = greywater.drum_day(laundry(drum_l=100), steady(1))
    assert day.came_l == 180
    assert day.spilled_l == pytest.approx(78, abs=2.5)
    assert day.held_h == float("inf")


def test_a_float_pump_leaves_what_it_cannot_reach():
    # A drum of 200 L, 10 L out of reach: the float is up 30 L over that. While 25 L/min go out 6
    # come in, so that a start takes 30 × 25 / 19 L: four starts for 180 L, and 20 L are left.
    day = greywater.drum_day(laundry(), steady(1500, pumped=True, dead=10))
    assert day.starts == 4
    assert day.spilled_l == 0
    assert 10 <= day.left_l <= 10 + greywater.FLOAT_RISES * 200


def test_a_float_s_starts_go_by_the_time_to_fill_and_to_empty():
    # 600 L/h in for an hour and 1000 L/h out, 30 L between: up in 3 min, down at 400 L/h in 4.5.
    day = greywater.drum_day(laundry(litres_a_use=400, use_min=40, uses=(1, 0, 0, 0, 0, 0, 0)),
                             steady(1000, pumped=True))
    assert day.starts == pytest.approx(40 / 7.5, abs=1)


def test_a_way_out_too_slow_holds_past_a_day_and_what_copes_does_not():
    slow = laundry(uses=(4, 0, 0, 0, 0, 0, 0))
    assert greywater.drum_day(slow, steady(4)).held_h > greywater.HELD_H
    copes = greywater.rate_that_copes_l_h(slow, steady(4))
    cured = greywater.drum_day(slow, steady(copes))
    assert cured.spilled_l == 0
    assert cured.held_h <= greywater.HELD_H


@settings(deadline=None, max_examples=40)
@given(st.floats(20, 400), st.integers(0, 10), st.floats(20, 600), st.floats(1, 3000),
       st.floats(0, 0.5), st.booleans())
def test_a_drum_makes_no_water_and_a_faster_way_out_never_spills_more(litres, uses, drum, rate,
                                                                       dead, pumped):
    drain = laundry(litres_a_use=litres, uses=(uses, 0, 0, 0, 0, 0, 0), drum_l=drum)
    day = greywater.drum_day(drain, steady(rate, pumped=pumped, dead=dead * drum))
    assert day.spilled_l + day.left_l <= day.came_l + dead * drum + 1e-6
    assert (day.level_l <= drum + 1e-9).all()
    assert day.came_l == pytest.approx(litres * uses)
    faster = greywater.drum_day(drain, steady(2 * rate, pumped=pumped, dead=dead * drum))
    assert faster.spilled_l <= day.spilled_l + 1e-6


def test_a_basin_holds_a_load_between_its_chips():
    basin = Basin(id="b", name="Fig", corner=Point(x_m=0, y_m=0), length_m=1.5, width_m=1.0,
                  depth_m=0.3)
    # 0.45 m³ of chips with 40 % of room: 180 L.
    assert greywater.basin_room_l(basin) == pytest.approx(180)


def test_washing_days_water_the_basins_by_their_area_and_no_other_days(kiln):
    drain = kiln.garden.drains[0].model_copy(update={
        "school": "basins", "uses": (2, 0, 0, 0, 1, 0, 0), "litres_a_use": 60.0})
    garden = kiln.garden.model_copy(update={"drains": (drain,)})
    by_ground, comes = greywater.to_basins(garden, 2)
    assert comes[0, :8].tolist() == [120, 0, 0, 0, 60, 0, 0, 120]
    assert comes[1, 6 - 1] == 0  # the second year begins on a Tuesday
    assert comes[1, 6] == 120
    assert sum(by_ground.values()) == pytest.approx(comes)
    areas = [b.length_m * b.width_m for b in drain.basins]
    for (_, litres), area in zip(by_ground.items(), areas, strict=True):
        assert litres[0, 0] == pytest.approx(120 * area / sum(areas))


def test_more_washing_leaves_the_basins_thirsty_less_often(kiln):
    def thirsty(uses):
        drain = kiln.garden.drains[0].model_copy(update={"uses": uses})
        season = assess(kiln.garden.model_copy(update={"drains": (drain,)}),
                        kiln.library).season
        return season.thirsty_days[-len(drain.basins):].sum()

    none, own, most = thirsty((0,) * 7), thirsty(kiln.garden.drains[0].uses), thirsty((4,) * 7)
    assert none > own >= most


def test_nobody_washes_while_away(kiln):
    away = season_away(kiln.season_inputs, kiln.season, 200, 14)
    assert kiln.season.used[:, 200:214].sum() > 0
    assert away.used.sum() == 0
