"""First pour as it is asked and answered: what is touched, what is typed, what comes of it."""

import html

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from euhydra.audit import audit
from euhydra.core.assessment.assess import assess
from euhydra.core.editing.answers import WATERED, WATERS
from euhydra.web.pour_fields import DEFAULTS, FEEDS, WAYS, WELL_LED

GOOD = DEFAULTS["metric"] | {
    "units": "metric", "has_roof": "on", "w_beds": "on", "w_pots": "on"}


PICKED = ("straw", "river", "own", "on", "can", "sky")


@pytest.mark.parametrize(("changes", "field", "says"), [
    ({"barrel_l": "fifty"}, "barrel_l", "“fifty” is not a number"),
    ({"stand_m": "-1 m"}, "stand_m", "goes from"),
    ({"roof_width_m": "1e12"}, "roof_width_m", "goes from"),
    ({"barrels": ""}, "barrels", "Nothing typed"),
    ({"distance_m": "4 kg"}, "distance_m", "does not measure a length"),
    ({"latitude_deg": "95"}, "latitude_deg", "goes from"),
    ({"name": " "}, "name", "Give the garden a name"),
    ({"name": "x" * 150}, "name", "up to 80 letters"),
    ({"roof_material": "straw"}, "roof_material", "is not one of"),
    ({"today": "river"}, "today", "is not one of: new, can, hose, timer"),
    ({"tap_feeds": "sky"}, "tap_feeds", "is not one of"),
    ({"bed_1_length_m": "", "bed_1_width_m": "", "bed_3_length_m": "", "bed_3_width_m": ""},
     "bed_1_length_m", "Give one bed a length and a width"),
    ({"bed_1_count": "11", "bed_3_count": "2"}, "bed_1_count", "13 beds are too many at once"),
    ({"w_border": "on", "border_length_m": "wide"}, "border_length_m", "“wide” is not a number"),
    ({"well_led": "river"}, "well_led", "is not one of: stores, lines"),
    ({"pots": "0"}, "pots", "Type 1 or more, or touch its picture again"),
    ({"w_chain": "on", "chain": "900"}, "chain", "goes from"),
    ({"today": "can", "cans": "many"}, "cans", "“many” is not a number"),
    ({"archetype": "own", "rain_mm_0": "wet"}, "rain_mm_0", "January: “wet” is not a number"),
])
def test_first_pour_answers_beside_the_field_and_loses_nothing(client, gardens, changes, field,
                                                               says):
    form = GOOD | {"bed_3_length_m": "3 ft 6 in", "bed_3_width_m": "2 ft"} | changes
    preview = client.post("/first-pour/preview", data=form)
    assert says in preview.json()["errors"][field].replace("\u00a0", " ")
    assert set(preview.json()["previews"]) == {"place", "roof", "barrels", "levels", "plots"}
    said = client.post("/first-pour", data=form)
    assert said.status_code == 422
    page = html.unescape(said.text).replace("\u00a0", " ")
    assert says in page
    assert 'value="3 ft 6 in"' in page or "bed_3_length_m" in changes
    for typed in changes.values():
        assert f'value="{typed[:200]}"' in page or typed in PICKED
    assert len(gardens.listed()) == 3


def test_first_pour_turns_a_climate_for_the_other_half_of_the_world_and_says_so(client, gardens):
    north, south = (client.post("/first-pour/preview", data={
        "archetype": "continental", "latitude_deg": at}).json() for at in ("40", "-40"))
    turned = "Turned by six months"
    place = next(key for key, told in south["previews"].items() if turned in told["say"])
    assert turned not in north["previews"][place]["say"]
    assert [south["months"][f"rain_mm_{m}"] for m in range(12)] == [
        north["months"][f"rain_mm_{(m + 6) % 12}"] for m in range(12)]
    client.post("/first-pour", data={"archetype": "continental", "latitude_deg": "-40",
                                     "name": "South", "has_tap": "on", "w_border": "on"})
    site = gardens.load("south").garden.site
    assert (site.last_frost, site.first_frost) == ("10-25", "04-15")


def test_first_pour_takes_any_unit_and_twelve_months_of_ones_own(client, gardens):
    months = {f"{table}_{m}": value for table, value in (
        ("rain_mm", "2 in"), ("wet_days", "6"), ("tmin_c", "41 F"), ("tmax_c", "20")) for m in
        range(12)}
    form = GOOD | months | {"archetype": "own", "latitude_deg": "-36", "barrel_l": "55 gal",
                            "stand_m": "1 ft 6 in", "name": "South"}
    made = client.post("/first-pour", data=form, follow_redirects=False)
    assert made.headers["location"] == "/g/south/garden?day=12-15", "the thirstiest month there"
    garden = gardens.load("south").garden
    assert garden.site.climate.rain_mm[3] == pytest.approx(50.8)
    assert garden.site.climate.tmin_c[0] == pytest.approx(5.0, abs=0.01)
    assert garden.store.volume_l == pytest.approx(208.2, abs=0.1)
    assert garden.store.stand_m == pytest.approx(0.4572)


@pytest.mark.parametrize(("touched", "field", "says"), [
    ({}, "waters", "Touch what you have"), ({"w_beds": "on"}, "waters", "Touch what you have"),
    ({"has_tap": "on"}, "watered", "Touch what you water"),
    ({"has_laundry": "on", "w_trees": "on"}, "waters", "Lead the laundry into a drum"),
    ({"has_laundry": "on", "laundry_led": "drum", "w_gutter": "on"}, "waters", "would run over")])
def test_what_is_not_touched_yet_is_asked_for_and_no_garden_is_made_up(client, gardens, touched,
                                                                       field, says):
    preview = client.post("/first-pour/preview", data=touched).json()
    assert says in preview["panel"]
    assert set(preview["previews"]) == {"place"}
    assert says in preview["errors"][field]
    said = client.post("/first-pour", data=touched)
    assert said.status_code == 422
    assert says in said.text
    assert len(gardens.listed()) == 3


def test_what_is_there_is_all_that_the_garden_holds(client, gardens):
    """A hose, two gutters of seven and a lawn: nothing of roofs, barrels or beds."""
    client.post("/first-pour", data={
        "name": "Hose", "has_tap": "on", "w_gutter": "on", "gutters": "2", "buckets": "7",
        "w_lawn": "on", "lawn_length_m": "10 ft", "lawn_width_m": "3 ft", "bucket_s": "30 s",
        "roof_width_m": "no roof here", "barrels": "none", "today": "hose", "hose_min": "25"})
    garden = gardens.load("hose").garden
    assert (garden.roofs, garden.stores, garden.wells, garden.drains) == ((), (), (), ())
    assert [(p.kind, p.name) for p in garden.plots] == [
        ("lawn", "Lawn strip"), ("gutter", "Buckets over a gutter 1"),
        ("gutter", "Buckets over a gutter 2")]
    assert [p.count for p in garden.plots[1:]] == [7, 7]
    assert garden.plots[0].length_m == pytest.approx(3.048)
    assert garden.taps[0].bucket_s == 30
    assert garden.today.way == "hose"
    assert garden.today.hose_min == 25


def test_each_water_feeds_what_it_was_said_to(client, gardens):
    """Tap to the pots, a tank by hand to the float pots, rain to beds on two terraces."""
    client.post("/first-pour", data=GOOD | {
        "name": "All", "has_tap": "on", "tap_feeds": "pots", "has_tank": "on", "has_well": "on",
        "has_laundry": "on", "washes": "5", "w_float-pots": "on", "w_trees": "on",
        "roof_2_length_m": "2 m", "roof_2_width_m": "2 m", "store_2_volume_l": "100 L",
        "bed_2_length_m": "3 m", "bed_2_width_m": "1 m", "bed_2_lower_m": "60 cm"})
    garden = gardens.load("all").garden
    sources = {p.kind: garden.source_of(p) for p in garden.plots}
    assert sources == {"bed": "barrels", "shrub": "barrels", "pots": "tap", "float-pots": "tank"}
    levels = [p.ground_m for p in garden.plots if p.kind == "bed"]
    assert levels == pytest.approx([0, 0, -0.6])
    assert sum(garden.drains[0].uses) == 5
    assert [d.to for roof in garden.roofs for d in roof.downspouts] == ["barrels", "barrels"]
    assert [(j.kind, j.a, j.b) for j in garden.joints] == [("siphon", "barrels", "barrels-2")]
    assert garden.wells[0].tops_up == "barrels"
    assert garden.store_of("tank").hand_filled


def test_a_well_fills_barrels_or_feeds_what_it_was_said_to(client, gardens):
    """Beside a roof the beds are its; by itself all is, and there is no barrel."""
    led = {"has_well": "on", "well_led": "lines", "well_bucket_s": "30 s", "well_l_h": "60"}
    client.post("/first-pour", data=GOOD | led | {"name": "Both", "well_feeds": "beds"})
    both = gardens.load("both").garden
    assert {p.kind: both.source_of(p) for p in both.plots} == {"bed": "well-1", "pots": "barrels"}
    assert both.wells[0].tops_up == ""
    assert (both.wells[0].bucket_s, both.wells[0].recovery_l_h) == (30, 60)
    alone = {k: v for k, v in GOOD.items() if k != "has_roof"} | led | {
        "name": "Alone", "well_feeds": "beds", "barrels": "none asked"}
    client.post("/first-pour", data=alone)
    garden = gardens.load("alone").garden
    assert (garden.roofs, garden.stores, garden.taps) == ((), (), ())
    assert {garden.source_of(p) for p in garden.plots} == {"well-1"}


def test_a_bath_drains_as_a_laundry_does(client, gardens):
    bath = {"has_laundry": "on", "fixture": "bath", "washes": "7", "wash_l": "90 L"}
    client.post("/first-pour", data=GOOD | bath | {"name": "Bath"})
    (drain,) = gardens.load("bath").garden.drains
    assert (drain.name, drain.fixture, sum(drain.uses), drain.litres_a_use) == (
        "Bath", "bath", 7, 90)
    assert len(drain.basins) == 2


def test_what_it_spares_is_told_before_and_after(client, gardens, library):
    """Six cans of 5 L are 7½ minutes by a can of 10 L in 2½; a tank by hand still takes some."""
    form = {"name": "Cans", "has_tank": "on", "w_float-pots": "on", "float_pots": "6",
            "today": "can", "cans": "6", "can_l": "5 L"}
    panel = client.post("/first-pour/preview", data=form).json()["panel"].replace("\u00a0", " ")
    assert "You give 30 L" in panel
    assert "By hand until now 8 min a day" in panel
    client.post("/first-pour", data=form)
    a = assess(gardens.load("cans").garden, library)
    after = a.station("prove").figure("hand_after").amount
    poured = float(a.season.poured.sum()) / a.years
    days = int(a.season.world.grows.any(axis=0).sum())
    assert after.value == pytest.approx(poured / 10 * 2.5 / days)
    assert f"as planned {after.show('metric')}".replace("\u00a0", " ") in panel


TYPED = st.sampled_from(["", "0", "1", "3", "2.5 m", "40 gal", "3 ft 6 in", "-1", "nine", "1e9",
                         "½"])
FIELDS = st.dictionaries(st.sampled_from(sorted(DEFAULTS["metric"])), TYPED, max_size=5)


@settings(max_examples=30, suppress_health_check=list(HealthCheck))
@given(st.sets(st.sampled_from(WATERS), max_size=5), st.sets(st.sampled_from(WATERED), max_size=4),
       FIELDS, st.sampled_from(["metric", "us"]))
def test_whatever_is_touched_and_typed_is_answered(client, waters, watered, typed, units):
    form = DEFAULTS[units] | {"units": units} | typed | {f"has_{w}": "on" for w in waters} | {
        f"w_{w}": "on" for w in watered}
    said = client.post("/first-pour/preview", data=form)
    assert said.status_code == 200
    told = said.json()
    assert "place" in told["previews"]
    assert told["panel"]
    if not told["errors"]:
        assert {"levels", "plots"} <= set(told["previews"])


@settings(max_examples=12, suppress_health_check=list(HealthCheck))
@given(st.sets(st.sampled_from([w for w in WATERS if w != "laundry"]), min_size=1, max_size=3),
       st.booleans(), st.sets(st.sampled_from(WATERED), min_size=1, max_size=4),
       st.sampled_from(["metric", "us"]), st.sampled_from(WAYS), st.sampled_from(WELL_LED),
       st.sampled_from(FEEDS))
def test_whatever_is_there_makes_a_garden_that_says_one_thing(
        client, gardens, library, waters, laundry, watered, units, way, led, feeds):
    form = DEFAULTS[units] | {"units": units, "name": "Any", "today": way, "well_led": led,
                              "well_feeds": feeds} | {
        f"has_{w}": "on" for w in waters} | {f"w_{w}": "on" for w in watered}
    if laundry:
        form["has_laundry"] = "on"
    made = client.post("/first-pour", data=form, follow_redirects=False)
    assert made.status_code == 303
    garden = gardens.load(made.headers["location"].split("/")[2]).garden
    assert {p.kind.removesuffix("s") if p.kind == "beds" else p.kind for p in garden.plots} == {
        {"beds": "bed", "trees": "shrub", "towers": "tower"}.get(w, w) for w in watered}
    told = audit(assess(garden, library))
    assert not told.differ, told.differ


def test_a_list_of_beds_is_pasted_on_grow_and_a_bad_line_loses_nothing(client, gardens):
    bad = "Herbs, 8 ft, 4 ft, basil\nMelons, 8 ft, wide, melon"
    said = client.post("/g/plot-27/beds", data={"pasted": bad})
    assert said.status_code == 422
    page = html.unescape(said.text)
    assert "Line 2: “wide”" in page
    assert "Melons, 8 ft, wide, melon" in page
    before = len(gardens.load("plot-27").garden.plots)
    client.post("/g/plot-27/beds", data={"pasted": bad.replace("wide", "30 in")})
    plots = gardens.load("plot-27").garden.plots[before:]
    assert [(p.name, p.main.crop) for p in plots] == [("Herbs", "basil"), ("Melons", "melon")]
    assert plots[1].width_m == pytest.approx(0.762)


def test_how_it_was_done_can_be_told_later_and_a_joint_turned(client, gardens):
    page = client.get("/g/plot-27/prove").text
    assert "today/way" in page
    for path, typed in (("today/way", "hose"), ("today/hose_min", "½ h")):
        client.post("/g/plot-27/edit", data={"path": path, "typed": typed, "station": "prove"})
    assert gardens.load("plot-27").garden.today.hose_min == 30
    assert "By hand a day, until now" in client.get("/g/plot-27/prove").text
    client.post("/g/plot-27/undo")
    said = client.get("/g/kiln-yard/store").text
    assert "Turn Overflow to the tote round: from Tote to Barrels" in said
    client.post("/g/kiln-yard/things", data={"turn": "chain", "station": "store"})
    turned = gardens.load("kiln-yard").garden.joints[0]
    assert (turned.a, turned.b) == ("tote", "barrels")
