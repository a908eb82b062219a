"""Used water: the drum through its day, worked by hand, and what must hold for any drum."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from euhydra.core.assessment.assess import assess
from euhydra.core.garden.model import Basin, Drain, Point
from euhydra.core.season.absence import season_away
from euhydra.core.supply import greywater


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


def test_washing_days_water_the_basins_by_their_area_and_no_other_days(kiln):
    drain = kiln.garden.drains[0].model_copy(update={
        "school": "basins", "uses": (2, 0, 0, 0, 1, 0, 0), "litres_a_use": 60.0})
    garden = kiln.garden.model_copy(update={"drains": (drain,)})
    by_ground, comes = greywater.grey_by_day(garden, 2)
    assert comes[0, :8].tolist() == [120, 0, 0, 0, 60, 0, 0, 120]
    assert comes[1, 6 - 1] == 0  # the second year begins on a Tuesday
    assert comes[1, 6] == 120
    assert sum(by_ground.values()) == pytest.approx(comes)
    areas = [b.length_m * b.width_m for b in drain.basins]
    for (_, litres), area in zip(by_ground.items(), areas, strict=True):
        assert litres[0, 0] == pytest.approx(120 * area / sum(areas))


def test_a_small_drum_s_ground_gets_what_it_does_not_spill(kiln):
    drain = kiln.garden.drains[0].model_copy(update={
        "school": "drum", "uses": (4, 0, 0, 0, 0, 0, 0), "drum_l": 40.0,
        "empties_by": "soaker", "empties_l_h": 20.0})
    garden = kiln.garden.model_copy(update={"drains": (drain,)})
    by_ground, comes = greywater.grey_by_day(garden, 1)
    (litres,) = by_ground.values()
    spilled = greywater.drum_day(drain).spilled_l
    assert spilled > 0
    assert litres[0, 0] == pytest.approx(comes[0, 0] - spilled)
    season = assess(garden, kiln.library).season
    assert season.spilled.sum() > kiln.season.spilled.sum()


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
