"""Roofs that share a gutter, restrictors, and what runs over the edge."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from euhydra.core.editing.edits import Add, Remove
from euhydra.core.editing.fields import measure_at, parse_for
from euhydra.core.editing.trees import EditRefused
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Point, Roof
from euhydra.core.parsing import BadEntry
from euhydra.core.supply.gutter_capacity import (
    CONDUCTORS,
    conductor_l_h,
    down_l_h,
    gutter_l_h,
    parted,
    sharing,
)
from euhydra.core.supply.runoff import RAIN_HOURS, roof_yields, wintered
from gardens import poured


def roof(name, spouts, **more):
    return Roof.model_validate({
        "id": name, "name": name, "corner": Point(x_m=0, y_m=0), "width_m": 10, "depth_m": 4,
        "material": "metal", "first_flush_mm": 0, "downspouts": [
            {"id": f"d{i}", "name": f"d{i}"} | spout for i, spout in enumerate(spouts)]} | more)


def test_what_a_gutter_and_a_downspout_carry():
    """Half-round of 100 mm: 3,927 mm², 0.9 × 2.78e-5 × 3,927^1.25 = 0.778 L/s, worked by hand."""
    assert gutter_l_h(100) == pytest.approx(0.7777 * 3600, rel=1e-3)
    for bore, flow in CONDUCTORS:
        assert conductor_l_h(bore) == pytest.approx(flow)
    # Half the first bore carries 2^(−8/3) of it; between two bores it lies between them.
    assert conductor_l_h(25.4) == pytest.approx(2880 * 2.3597 / 6.3496, rel=1e-4)
    assert 2880 * 2.3597 < conductor_l_h(60) < 8800 * 2.3597
    (spout,) = roof("r", [{"share": 1.0, "to": "a", "restrictor_l_h": 1.0}]).downspouts
    assert down_l_h(spout) == 1.0


@pytest.mark.parametrize(("lets", "down", "unlisted"), [(0.0, 60.0, 40.0), (5.0, 30.0, 70.0)])
def test_what_no_listed_downspout_takes_goes_to_the_one_that_is_not(lets, down, unlisted):
    """Of 100 L six tenths are listed; a restrictor of 5 L/h lets 30 of them by in six hours."""
    one = roof("r", [{"share": 0.6, "to": "a", "restrictor_l_h": lets}])
    (told,) = parted((one,), (np.array([100.0]),), RAIN_HOURS)
    assert told.down["r", "d0"] == pytest.approx([down])
    assert told.unlisted == pytest.approx([unlisted])
    assert told.over_edge == pytest.approx([0.0])


def test_where_all_is_listed_what_is_held_back_runs_over_the_edge():
    one = roof("r", [{"share": 1.0, "to": "a", "restrictor_l_h": 5.0}])
    (told,) = parted((one,), (np.array([100.0]),), RAIN_HOURS)
    assert (told.unlisted[0], told.over_edge[0]) == pytest.approx((0.0, 70.0))


def test_water_led_nowhere_and_to_stores_that_are_in_runs_by(library):
    """40 m² × 20 mm × 0.95 = 760 L: a quarter astray, the rest to two stores, one in by day 2."""
    at = roof("r", [{"share": 0.25, "to": ""}, {"share": 0.25, "to": "a"},
                    {"share": 0.5, "to": "b"}])
    (told,) = roof_yields(np.array([20.0, 20.0]), (at,), library).values()
    assert told.astray_l == pytest.approx([190, 190])
    wintry = wintered(told, {"a": np.array([False, True]), "b": np.array([True, True])})
    assert wintry.winter_l == pytest.approx([380, 570])
    assert wintry.by_store["a"] == pytest.approx([190, 0])
    assert wintry.caught_l == pytest.approx([190, 0])


def test_what_a_restrictor_holds_back_goes_to_the_gutter_s_other_downspout(library):
    """40 m² × 20 mm × 0.95 = 760 L, half to each; 50 L/h for six hours lets 300 by: worked by hand.
    """
    rain = np.array([20.0])
    both = [{"share": 0.5, "to": "a", "restrictor_l_h": 50.0}, {"share": 0.5, "to": "b"}]
    (told,) = roof_yields(rain, (roof("r", both),), library).values()
    assert told.by_store["a"][0] == pytest.approx(300)
    assert told.by_store["b"][0] == pytest.approx(460)
    assert told.over_l[0] == pytest.approx(0)


def test_a_restrictor_on_one_of_two_roofs_sends_its_water_to_the_other_s_store(library):
    rain = np.array([0.0, 20.0])
    held = roof("one", [{"share": 1.0, "to": "a", "restrictor_l_h": 50.0}])
    free = roof("two", [{"share": 1.0, "to": "b"}], gutter_of="one")
    told = roof_yields(rain, (held, free), library)
    assert told["one"].by_store["a"][1] == pytest.approx(300)
    assert told["one"].by_store["b"][1] == pytest.approx(460)
    assert told["two"].by_store["b"][1] == pytest.approx(760)
    alone = roof_yields(rain, (held,), library)["one"]
    assert alone.over_l[1] == pytest.approx(460)
    assert alone.caught_l[1] == pytest.approx(300)


@given(st.lists(st.tuples(st.floats(0, 1), st.floats(0, 400), st.integers(25, 110)), min_size=1,
                max_size=6), st.floats(0, 60000), st.floats(0, 60000), st.integers(50, 200))
def test_no_drop_is_lost_or_made_and_no_part_takes_more_than_it_can(spouts, one, two, wide):
    whole = sum(share for share, _, _ in spouts) or 1.0
    parts = [{"share": min(share / max(whole, 1.0), 1.0), "to": "a", "restrictor_l_h": lets,
              "bore_mm": bore} for share, lets, bore in spouts]
    roofs = (roof("one", parts, gutter_mm=wide),
             roof("two", [{"share": 1.0, "to": "b"}], gutter_of="one"))
    water = (np.array([one]), np.array([two]))
    told = parted(roofs, water, RAIN_HOURS)
    for litres, part in zip(water, told, strict=True):
        everywhere = sum(x[0] for x in part.down.values()) + part.unlisted[0] + part.over_edge[0]
        assert everywhere == pytest.approx(litres[0], rel=1e-9, abs=1e-6)
        assert all(x[0] >= -1e-9 for x in (*part.down.values(), part.unlisted, part.over_edge))
    for at in roofs:
        for spout in at.downspouts:
            down = sum(part.down[at.id, spout.id][0] for part in told)
            assert down <= down_l_h(spout) * RAIN_HOURS * (1 + 1e-9)
    lent = sum(x[0] for part, at in zip(told, roofs, strict=True)
               for (r, _), x in part.down.items() if r != at.id)
    assert lent <= gutter_l_h(wide) * RAIN_HOURS * (1 + 1e-9)


def test_a_roof_shares_the_gutter_of_one_that_has_its_own(library):
    garden = Add("roof").apply(Add("roof").apply(poured(library), library), library)
    first, second, third = (r.id for r in garden.roofs)
    shared = SetValue(f"roofs/{second}/gutter_of", first).apply(garden, library)
    for at, other in ((third, second), (first, second), (first, first)):
        with pytest.raises(EditRefused, match="gutter"):
            SetValue(f"roofs/{at}/gutter_of", other).apply(shared, library)
    left = Remove(f"roofs/{first}").apply(shared, library)
    assert next(r for r in left.roofs if r.id == second).gutter_of == ""


def test_a_first_flush_may_be_typed_as_a_volume(library):
    """Twenty litres on 15 m² of roof are 4/3 mm."""
    measure = measure_at(poured(library), "roofs/roof/first_flush_mm")
    assert parse_for(measure, "20 L", "metric") == pytest.approx(20 / 15)
    assert parse_for(measure, "5 gal", "us") == pytest.approx(18.927 / 15, rel=1e-3)
    assert parse_for(measure, "0.5", "metric") == 0.5
    for typed, says in (("200 L", "out of bounds"), ("5 kg", "5 kg")):
        with pytest.raises(BadEntry, match=says):
            parse_for(measure, typed, "metric")


def test_each_roof_has_its_own_gutter_unless_it_shares_one():
    own, beside, alone = (roof(name, [{"share": 1.0}], gutter_of=of)
                          for name, of in (("a", ""), ("b", "a"), ("c", "")))
    assert {tuple(r.id for r in group) for group in sharing([beside, alone, own])} == {
        ("a", "b"), ("c",)}


def test_what_two_roofs_cannot_take_is_lent_by_what_each_holds_back():
    """Restrictors let 10 L an hour by: 30 and 10 L are held, and a free downspout takes them all.

    Three quarters of what it takes are the first roof's.
    """
    one = roof("a", [{"share": 1.0, "restrictor_l_h": 10.0, "to": "x"}, {"share": 0.0, "to": "y"}])
    two = roof("b", [{"share": 1.0, "restrictor_l_h": 10.0, "to": "x"}], gutter_of="a")
    first, second = parted([one, two], [np.array([40.0]), np.array([20.0])], 1.0)
    assert first.down["a", "d1"][0] == pytest.approx(30.0)
    assert second.down["a", "d1"][0] == pytest.approx(10.0)
    assert first.over_edge[0] == pytest.approx(0.0)


def test_no_more_runs_along_a_gutter_than_it_carries_in_all_its_hours():
    """A half-round of 60 mm carries 0.9 × 2.78e-5 × 1,413.7^1.25 L/s, 783 L an hour by hand."""
    one = roof("a", [{"share": 1.0, "restrictor_l_h": 1.0, "to": "x"}, {"share": 0.0, "to": "y"}],
               gutter_mm=60)
    (told,) = parted([one], [np.array([9000.0])], 6.0)
    carried = 6 * 0.9 * 2.78e-5 * 1413.717**1.25 * 3600
    assert gutter_l_h(60) * 6 == pytest.approx(carried, rel=1e-4)
    assert told.down["a", "d1"][0] == pytest.approx(carried, rel=1e-4)
    assert told.over_edge[0] == pytest.approx(9000 - 6 - carried, rel=1e-4)


def test_past_the_table_a_downspout_carries_by_its_bore():
    """Twice the last bore carries 2^(8/3), 6.35 times as much."""
    bore, flow = CONDUCTORS[-1]
    assert conductor_l_h(2 * bore) == pytest.approx(6.3496 * flow, rel=1e-4)


def test_what_runs_over_the_edge_is_told_once(library):
    """300 mm in a day on 15 m² and a downspout that lets 1 L/h by: all else is over the edge."""
    garden = poured(library)
    one = garden.roofs[0].model_copy(update={"first_flush_mm": 0.0, "downspouts": (
        garden.roofs[0].downspouts[0].model_copy(update={
            "share": 1.0, "restrictor_l_h": 1.0}),)})
    told = roof_yields(np.array([[0.0, 300.0]]), [one], library)[one.id]
    (led,) = told.by_store.values()
    assert led[0, 1] == pytest.approx(6.0)
    assert told.over_l[0, 1] > 3000
    assert told.astray_l[0, 1] == pytest.approx(0.0, abs=1e-6)
