"""Rows on float valves take what they drink; a tank filled by hand is a source like any other."""

import json
import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from euhydra.core.assessment.assess import STATIONS, assess
from euhydra.core.editing.edits import Add, Remove
from euhydra.core.editing.file import BadFile, from_json, to_json
from euhydra.core.editing.values import SetValue
from euhydra.core.hydraulics.float_valves import refill_min
from euhydra.core.season import absence
from euhydra.core.season.hand_filling import fillings
from euhydra.core.season.simulate import run_season
from euhydra.core.season.state import SAME
from gardens import poured
from worlds import world

FLOATS = "plots/float-pots-3"


@pytest.fixture(scope="module")
def tank_pots(library):
    """Six 15 L pots on 4 mm tube from a 47 L tank filled by hand, and nothing else."""
    garden = poured(library)
    for edit in (Add("float-pots"), Add("hand-tank"), SetValue(f"{FLOATS}/fed_by", "store-1"),
                 *(Remove(f"plots/{p.id}") for p in garden.plots), Remove("stores/barrels"),
                 Remove("roofs/roof")):
        garden = edit.apply(garden, library)
    return garden


def after(garden, library, *changes):
    for path, value in changes:
        garden = SetValue(path, value).apply(garden, library)
    return assess(garden, library)


def test_six_pots_on_a_tank_fifteen_centimetres_up_work(tank_pots, library):
    """47 L for up to six 15 L pots on 4 mm tube, 15 cm up or more: common practice."""
    a = assess(tank_pots, library)
    (zone,) = tank_pots.zones
    low = a.flows[zone.id]["low"]
    assert low.short_m == 0
    assert low.flow_l_h == pytest.approx(a.demand.drinks["float-pots-3"], rel=1e-4)
    assert not a.season.thirsty[:, :, 150:240].any()
    rules = {f.rule for key in ("push", "grow") for f in a.station(key).findings}
    assert rules.isdisjoint({"push.starved", "grow.tank-low", "push.dirty-filter"})


def test_a_tank_under_its_pots_gives_them_nothing(tank_pots, library):
    a = after(tank_pots, library, (f"{FLOATS}/ground_m", 1.0))
    (zone,) = a.garden.zones
    assert a.flows[zone.id]["full"].flow_l_h == pytest.approx(0, abs=1e-6)
    assert a.season.thirsty[:, :, 150:240].any()
    assert a.season.given.sum() == pytest.approx(0, abs=1.0)
    assert math.isinf(refill_min(a.flows, a.demand, a.garden.plots[0]))


def test_so_many_pots_on_a_thin_tube_starve_and_a_wide_pipe_feeds_them(tank_pots, library):
    """Up to a hundred pots on 16 mm pipe: common practice."""
    many = ((f"{FLOATS}/count", 60), ("stores/store-1/volume_l", 1000.0),
            ("stores/store-1/height_m", 1.0), (f"{FLOATS}/diameter_m", 0.25))
    thin, wide = (after(tank_pots, library, *many, (f"{FLOATS}/tube_mm", mm)) for mm in (4.0, 16.0))
    assert {line.tube for line in thin.garden.lines if "tube" in line.id} == {"quarter-inch"}
    assert {line.tube for line in wide.garden.lines if "tube" in line.id} == {"poly-16"}
    (zone,) = wide.garden.zones
    assert wide.flows[zone.id]["low"].short_m == 0
    minutes = [refill_min(a.flows, a.demand, a.garden.plots[0]) for a in (wide, thin)]
    assert minutes[0] < minutes[1]


def test_a_day_comes_back_no_faster_than_the_valve_alone_lets_it(tank_pots, library):
    a = assess(tank_pots, library)
    (row,), (zone,) = a.garden.plots, a.garden.zones
    low, kind = a.flows[zone.id]["low"], library.outlets["float-valve"]
    head = low.water_z_m - max(o.z_m for o in low.outlets)
    least = 60 * a.demand.thirsts[row.id].hottest_week_l / row.count / (kind.k * head**kind.x)
    assert least < refill_min(a.flows, a.demand, row) < 3 * least


def by_hand(size, mark, draws):
    """A year that draws so much in the morning of each day, from a tank filled by hand."""
    drawn = np.zeros((1, 365, 4))
    drawn[0, :len(draws), 0] = draws
    none = np.zeros((1, 365))
    return run_season(world(none + 1e-6, none, drawn, size=size, total=1e6,
                            filled_at=np.array([mark])), start_share=1.0)


def test_a_tank_is_filled_on_the_morning_it_stands_under_its_mark():
    """Worked by hand: 60 L, filled under 20 L, drawn at 1 L/min."""
    season = by_hand(60.0, 20.0, [25, 25, 25, 70, 0, 5])
    assert season.given[0, 0, :6].tolist() == pytest.approx([25, 25, 25, 35, 0, 5])
    assert season.poured[0, 0, :6].tolist() == pytest.approx([0, 0, 50, 0, 60, 0])
    assert season.lacking[0, 0, :6].tolist() == pytest.approx([0, 0, 0, 35, 0, 0])
    assert season.level[0, 0, :6].tolist() == pytest.approx([35, 10, 35, 0, 60, 55])


@settings(deadline=None, max_examples=25)
@given(st.lists(st.floats(0, 90), min_size=1, max_size=60), st.floats(1, 300), st.floats(0, 0.95))
def test_what_is_carried_is_drawn_or_stands_in_the_tank(draws, size, share):
    season = by_hand(size, share * size, draws)
    assert season.by_hand.sum() <= season.poured.sum() + 1e-6
    assert season.start.sum() + season.poured.sum() == pytest.approx(
        season.given.sum() + season.end.sum(), abs=1e-3)
    assert (season.poured[0] <= size * (1 + 1e-9)).all()


def test_fillings_come_to_what_the_pots_were_given(tank_pots, library):
    a = assess(tank_pots, library)
    (told,) = fillings(a.season, a.banks)
    assert told.litres == pytest.approx(a.season.a_year(a.season.given), rel=0.02)
    assert told.times * told.each_l == pytest.approx(told.litres)
    assert 1 < told.every_days < 3
    twice = after(tank_pots, library, ("stores/store-1/volume_l", 94.0))
    assert fillings(twice.season, twice.banks)[0].every_days > 1.7 * told.every_days


def test_nobody_fills_while_one_is_away(tank_pots, library):
    a = assess(tank_pots, library)
    season = absence.season_away(a.season_inputs, a.season, 200, 10)
    assert not (season.poured > SAME).any()
    assert season.thirsty[:, :, 205:210].any()


def test_a_row_with_a_tank_of_its_own_opens_with_that_tank_as_a_store(library):
    """Version 2 kept a tank as two numbers of its row."""
    garden = Add("float-pots").apply(poured(library), library)
    tree = json.loads(to_json(garden)) | {"version": 2}
    row = next(p for p in tree["garden"]["plots"] if p["kind"] == "float-pots")
    row |= {"tank_l": 47.0, "tank_up_m": 0.2}
    opened = from_json(json.dumps(tree), library)
    tank = opened.stores[-1]
    assert (tank.volume_l, tank.hand_filled) == (47.0, False)
    assert opened.source_of(opened.plot(row["id"])) == tank.id
    assert [(j.kind, j.a, j.b) for j in opened.joints] == [("float", "barrels", tank.id)]
    low = assess(opened, library).flows[f"zone-{row['id']}"]["low"]
    assert low.water_z_m - low.outlets[0].z_m == pytest.approx(0.2 + 0.05, abs=1e-6)
    assert from_json(to_json(opened), library) == opened


def test_a_tank_filled_by_hand_that_only_feeds_another_is_told_too(library):
    """No plot draws from it: what it gives goes on through a float valve."""
    garden = poured(library)
    garden = Add("hand-tank").apply(garden, library)
    garden = Add("joint").apply(garden, library)
    feed = garden.joints[0].model_copy(update={"kind": "float", "a": "store-1", "b": "barrels"})
    garden = garden.model_copy(update={"joints": (feed,)})
    for path, value in (("stores/barrels/volume_l", 20.0), ("roofs/roof/downspouts/d1/to", "")):
        garden = SetValue(path, value).apply(garden, library)
    a = assess(garden, library)
    (told,) = fillings(a.season, a.banks)
    assert told.litres > 0
    rules = {f.rule: f for f in a.station("store").findings}
    assert rules["store.filled-often"].remedies
    assert a.season.by_hand.sum() == pytest.approx(a.season.poured.sum(), rel=0.05)


@pytest.mark.parametrize("broken", [{"stores": 5}, {"joints": 5}, {"plots": 5},
                                    {"stores": [5]}, {"stores": [{"id": [1]}]},
                                    {"joints": ["x"]}, {"holdings": [5]}])
def test_a_file_of_version_2_that_is_none_is_refused_in_words(library, broken):
    tree = json.loads(to_json(Add("float-pots").apply(poured(library), library))) | {"version": 2}
    tree["garden"]["plots"][-1]["tank_l"] = 47.0
    tree["garden"] |= broken
    with pytest.raises(BadFile):
        from_json(json.dumps(tree), library)


def test_a_store_that_no_rain_and_nobody_fills_is_still_called_too_small(library):
    dry = SetValue("roofs/roof/downspouts/d1/to", "").apply(poured(library), library)
    assert "store.too-small" in {f.rule for f in assess(dry, library).station("store").findings}


@pytest.mark.parametrize("read_l_h", [0.2, 5.0])
def test_a_flow_read_where_float_valves_stand_is_held_against_what_they_let_in(library, read_l_h):
    garden = Add("float-pots").apply(poured(library), library)
    zone = next(z for z in garden.zones if not z.timed)
    read = assess(SetValue(f"zones/{zone.id}/read_l_h", read_l_h).apply(garden, library), library)
    for station in STATIONS:
        assert read.station(station).verdict.show("us")
    (told,) = [f for f in read.station("time").findings if f.rule == "time.read-apart"]
    solved = read.flows[zone.id]["half"].flow_l_h
    assert ("less" in told.title.show("us")) == (read_l_h < solved)


def test_what_a_starved_row_lacks_is_no_more_than_it_drinks(library):
    """Two gutters of seven on one barrel under a roof that brings half of what they drink."""
    garden = poured(library, roof_width_m=4.0, roof_depth_m=2.5, barrels=1, beds=(), pots=0,
                    gutters=2, buckets=7)
    a = assess(garden, library)
    drinks = sum(float(t.use_l.sum()) for t in a.demand.thirsts.values()) / a.years
    given, lacking = (a.season.a_year(x) for x in (a.season.given, a.season.lacking))
    assert given < 0.7 * drinks
    assert given + lacking == pytest.approx(drinks, rel=0.01)
    assert "float valves" in a.station("store").verdict.show("metric")
    assert "timer" not in a.station("store").verdict.show("metric")
