"""Water that is too much: rain gardens, wet ground, marking out, backups."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from euhydra.core.assessment.assess import assess
from euhydra.core.construction import setting_out
from euhydra.core.editing.edits import Add
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Joint, Point, Well, WetArea
from euhydra.core.hydraulics import drainage
from euhydra.core.storage import banks_of, storm
from euhydra.core.storage.top_up import back_up_of, well_day_l
from gardens import poured


def wet(**changes):
    return WetArea.model_validate({
        "id": "w", "name": "Wet", "corner": Point(x_m=0, y_m=0), "length_m": 10, "width_m": 9,
        "flood_m": 0.1, "months": 2, "soil": "clay", "fall_m": 0.0, "outfall_m": 100,
        "drain_days": 2} | changes)


def test_a_rain_garden_by_hand():
    # 300 L into a hollow of 15 cm on loam that soaks 15 mm in the hour: 300 ÷ 165 mm.
    assert drainage.rain_garden_m2(300, 0.15, 15) == pytest.approx(1.818, abs=1e-3)


def test_what_spills_is_what_is_led_there_and_what_spills_into_it(library):
    garden = Add("store").apply(poured(library), library)
    garden = garden.model_copy(update={"joints": (Joint(
        id="j-1", name="Chain", kind="overflow", a="barrels", b="store-1"),)})
    assert storm.spills(garden, library, banks_of(garden))[1].area_m2 == pytest.approx(15 * 0.95)
    assert assess(garden, library).banks.over_to == (1, -1)


def test_wet_ground_takes_a_drain_where_there_is_fall_and_a_pump_where_not(library):
    # 90 m² under 10 cm: 9,000 L, to go in two days: 187.5 L/h.
    sloping = drainage.wet_plan(wet(fall_m=1.0), library)
    assert (sloping.way, sloping.stands_l) == ("drain", pytest.approx(9000))
    assert sloping.flow_l_h == pytest.approx(187.5)
    flat = drainage.wet_plan(wet(), library)
    assert flat.way == "pump"
    assert flat.gravel_m3 == pytest.approx(9.0)
    # 375 L/h would do; the smallest pump gives 1,000. Q·T/4: that for 6 minutes, over 4.
    assert flat.flow_l_h == 1000
    assert flat.sump_l == pytest.approx(1000 * 0.1 / 4)
    assert flat.head_m > flat.lift_m == pytest.approx(drainage.SUMP_DEPTH_M)
    uphill = drainage.wet_plan(wet(fall_m=-2.0), library)
    assert uphill.lift_m == pytest.approx(drainage.SUMP_DEPTH_M + 2)
    assert drainage.wet_plan(wet(soil="sand", months=0.5), library).way == "soaks"


@given(st.floats(0.005, 0.1), st.sampled_from(drainage.DRAIN_BORES_MM))
def test_more_fall_or_a_wider_drain_carries_more(slope, bore):
    flow = drainage.full_pipe_l_h(bore, slope)
    assert drainage.full_pipe_l_h(bore, slope * 2) == pytest.approx(flow * 2**0.5)
    assert drainage.full_pipe_l_h(bore * 1.1, slope) > flow


def test_marks_are_level_across_and_five_centimetres_below(library):
    garden = poured(library)
    top = garden.store.stand_m + garden.store.height_m
    found = {m.what: m for m in setting_out.marks(garden, garden.store)}
    assert found["level with the barrel's top"].over_ground_m == pytest.approx(top)
    drill = found["drill for the diverter"]
    assert drill.over_ground_m == pytest.approx(top - 0.05)
    assert drill.drill_mm == 40
    outlet = found["lower outlet, for the lines"]
    assert outlet.over_base_m == pytest.approx(garden.store.outlet_m)
    assert outlet.over_ground_m == pytest.approx(garden.store.stand_m + garden.store.outlet_m)
    assert "link to the next" in found
    assert "upper outlet, for a hose" not in found


def test_a_step_between_downspout_and_barrel_is_in_the_marks(library):
    garden = Add("spot").apply(poured(library), library)
    garden = SetValue("site/spots/spot-1/at/x_m", 0.0).apply(garden, library)
    garden = SetValue("site/spots/spot-1/level_m", 0.9).apply(garden, library)
    found = {m.what: m for m in setting_out.marks(garden, garden.store)}
    store = garden.store
    assert found["level with the barrel's top"].over_ground_m == pytest.approx(
        store.ground_m + store.stand_m + store.height_m - 0.9)


def test_a_barrel_over_the_gutter_is_found_out(library):
    garden = poured(library)
    assert setting_out.over_gutter_m(garden, garden.store) < 0
    low = SetValue("roofs/roof/eave_m", 1.0).apply(garden, library)
    assert setting_out.over_gutter_m(low, low.store) == pytest.approx(
        low.store.stand_m + low.store.height_m - 1.0)


def a_well(**changes):
    return Well.model_validate({"id": "well-1", "name": "Well", "at": Point(x_m=0, y_m=0),
                                "tops_up": "barrels", "recovery_l_h": 20, "standing_l": 100,
                                "hours": 4} | changes)


def test_a_well_gives_what_returns_or_what_its_hours_reach():
    assert well_day_l(a_well()) == 100 + 80
    assert well_day_l(a_well(standing_l=1000)) == 480
    assert well_day_l(a_well(recovery_l_h=0)) == 0


def test_rain_then_well_then_tap(library):
    garden = poured(library, tap=True).model_copy(update={"wells": (a_well(),)})
    given_l = back_up_of(garden, banks_of(garden), 0, np.array([0.0, 50.0, 500.0]))
    assert given_l.well_l.tolist() == [0, 50, 180]
    assert given_l.tap_l.tolist() == [0, 0, 320]
    assert given_l.lacking_l.sum() == 0


def test_a_float_valve_passes_the_tap_on_and_an_overflow_does_not(library):
    garden = Add("store").apply(poured(library, tap=True), library)
    for kind, lacking in (("float", 0.0), ("overflow", 30.0)):
        joined = garden.model_copy(update={"joints": (Joint(
            id="j-1", name="Joint", kind=kind, a="barrels", b="store-1"),)})
        banks = banks_of(joined)
        found = back_up_of(joined, banks, banks.of_store["store-1"], np.array([30.0]))
        assert found.lacking_l.sum() == lacking


def test_a_tap_alone_feeds_its_lines_and_all_books_close(library):
    garden = poured(library, tap=True)
    garden = SetValue("taps/tap/tops_up", "").apply(garden, library)
    garden = SetValue("plots/pots-1/fed_by", "tap").apply(garden, library)
    a = assess(garden, library)
    season = a.season
    fed = season.world.bank < 0
    assert season.given[fed].sum() == pytest.approx(season.tap.sum())
    assert season.tap.sum() > 0
    assert season.rain.sum() + season.tap.sum() + season.lacking.sum() == pytest.approx(
        season.asked.sum())
    zone = next(z for z in garden.zones if z.source == "tap")
    level = garden.taps[0].ground_m + garden.taps[0].height_m
    flow = a.flows[zone.id]["full"]
    assert flow.water_z_m == pytest.approx(level + garden.taps[0].static_kpa / 9.80665, abs=0.01)
    # The regulator holds 170 kPa: no outlet gets more than 17.34 m over the tap.
    assert max(o.z_m + o.head_m for o in flow.outlets) < level + 170 / 9.80665
    weak = SetValue("taps/tap/bucket_s", 1200.0).apply(
        SetValue("taps/tap/bucket_l", 1.0).apply(garden, library), library)
    held = assess(weak, library).flows[zone.id]["full"]
    assert held.flow_l_h < 3.1  # a litre in twenty minutes is all that it can give


def test_a_bank_spills_at_its_lowest_rim_all_that_was_led_to_any_of_it(library):
    garden = poured(library)
    for _ in range(2):
        garden = Add("store").apply(garden, library)
    # The roof fills the first; a siphon joins the second, whose lower rim spills to the third.
    garden = SetValue("stores/store-1/stand_m", 0.1).apply(garden, library)
    garden = garden.model_copy(update={"joints": (
        Joint(id="j-1", name="Siphon", kind="siphon", a="barrels", b="store-1"),
        Joint(id="j-2", name="Chain", kind="overflow", a="store-1", b="store-2"))})
    found = storm.spills(garden, library, banks_of(garden))
    assert [(s.store.id, s.out) for s in found] == [("store-1", False), ("store-2", True)]
    assert [s.area_m2 for s in found] == pytest.approx([15 * 0.95] * 2)
    names = {x.name for x in storm.limits(garden, library, banks_of(garden))
             if x.part == "overflow"}
    assert names == {"Store 1", "Store 2"}


def test_an_overflow_runs_out_faster_from_a_higher_rim(library):
    low = poured(library, stand_m=0.0).store
    high = poured(library, stand_m=0.6).store
    assert 0 < drainage.outflow_m_s(low) < drainage.outflow_m_s(high) < (2 * 9.81 * 1.48) ** 0.5


@pytest.mark.parametrize("down_m", [1e-180, 1e-4])
def test_an_overflow_right_at_the_rim_is_told_to_hang_lower(library, down_m):
    garden = SetValue("stores/barrels/overflow_down_m", down_m).apply(
        poured(library, roof_width_m=12.0, roof_depth_m=8.0), library)
    found = next(f for f in assess(garden, library).station("store").findings
                 if f.rule == "store.overflow-thin")
    assert "set it lower" in found.why.show("metric")
