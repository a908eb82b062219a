"""Kinds of garden from the front door to the shopping list, a person's time counted as they go.

What a garden says is held against sums worked here by hand from what was typed.
"""

import re
from math import sqrt

import pytest
from person import GALLON_L, POUND_KG, number, whole
from playwright.sync_api import expect

from gardens import made


def test_five_towers_on_one_hose(site, watched, person, door):
    door("us")
    person.touch("has_tap", "w_towers")
    person.way("With the hose")
    person.type(towers="5", bucket_l="5 gal", bucket_s="1 min", hose_min="10 min")
    expect(watched.page.locator("[data-panel] h2")).to_have_text("A tap; five towers.")
    person.pour()
    person.at(site, "catch")
    assert person.figure("tap_flow_tap") == 0.8 * 5 * 60, "four fifths of the bucket's gallons"
    person.at(site, "grow")
    need = person.figure("need_peak")
    person.at(site, "lay")
    assert person.figure("outlets") == 10, "two to a tower"
    person.at(site, "push")
    flow, even = person.figure("flow_zone-tower-1"), person.figure("evenness_zone-tower-1") / 100
    head_ft = person.figure("least_head")
    assert flow == pytest.approx(10 * 0.52834 * 2 * sqrt(head_ft * 0.3048 / 10.2), rel=0.35)
    person.at(site, "time", "week")
    minutes = person.figure("minutes_zone-tower-1")
    assert minutes == pytest.approx(need / 2 / even / flow * 60, rel=0.25), "twice a day"
    person.at(site, "prove")
    assert person.figure("hand_before") == 10
    given, past = person.figure("given_year"), person.figure("past_roots")
    assert person.figure("cans") == pytest.approx((given - past) * GALLON_L / 10, rel=0.01)
    person.at(site, "build")
    garden = whole(person, site, watched)
    assert (garden["roofs"], garden["stores"]) == ([], [])


def test_one_barrel_off_a_shed_and_two_gutters_of_seven_buckets(site, watched, person, door):
    door()
    person.touch("has_roof", "w_gutter")
    person.type(roof_width_m="4 m", roof_depth_m="2.5 m", barrels="1", gutters="2", buckets="7")
    person.pour()
    person.at(site, "catch")
    assert person.figure("roof_area") == 4 * 2.5
    person.at(site, "store")
    usable = 210 * (1 - 13 / 88)
    assert person.figure("usable") == pytest.approx(usable, abs=0.5)
    assert person.figure("full_mass") == pytest.approx(
        210 * 83 / 88 + 10, abs=0.5), "to the overflow, 5 cm under the rim"
    assert person.figure("bearing") == pytest.approx(
        (210 + 10) * 9.80665 / (210 / 0.88), abs=0.05), "on the disc that 210 L of 88 cm stand on"
    lacking, share = person.figure("lacking_year"), person.figure("reliability") / 100
    person.at(site, "prove")
    used = person.figure("used_year")
    assert share == pytest.approx(used / (used + lacking), abs=0.03)
    person.at(site, "grow")
    assert person.figure("need_year") == pytest.approx(used + lacking, rel=0.05)
    garden = whole(person, site, watched)
    assert [p["count"] for p in garden["plots"]] == [7, 7]
    assert garden["taps"] == []


def test_one_barrel_put_in(site, watched, person, door):
    door("us")
    person.touch("has_roof", "w_beds")
    person.way("By can")
    person.type(roof_width_m="12 ft", roof_depth_m="8 ft", barrels="1", bed_1_count="1", cans="4")
    expect(watched.page.locator("[data-panel]")).to_contain_text("You give 10 gal")
    person.pour()
    person.at(site, "catch")
    assert person.figure("roof_area") == 96
    person.at(site, "store")
    litres = 55 * GALLON_L
    assert person.figure("usable") == pytest.approx(55 * (1 - 13 / 88), abs=0.5)
    assert person.figure("full_mass") == pytest.approx(
        (litres * 83 / 88 + 10) / POUND_KG, abs=1)
    person.at(site, "prove")
    assert person.figure("hand_before") == pytest.approx(4 * 2.5 * 2.5 * GALLON_L / 10, abs=0.5)
    person.at(site, "grow")
    need = person.figure("need_bed-1")
    person.at(site, "push")
    flow, even = person.figure("flow_zone-bed-1"), person.figure("evenness_zone-bed-1") / 100
    person.at(site, "time", "week")
    minutes = person.figure("minutes_zone-bed-1")
    rhythm = watched.page.locator("[data-figure='minutes_zone-bed-1']").text_content()
    days = number(re.search(r"every [\d.]+", rhythm)[0]) / 24
    assert minutes == pytest.approx(need * days / even / flow * 60, rel=0.15)
    person.at(site, "store", "marking")
    marks = watched.page.locator("svg.drawing").first.text_content()
    assert "2.0 in" in marks or "hole" in marks
    whole(person, site, watched)


def test_twelve_pots_on_small_tube(site, watched, person, door):
    door()
    person.touch("has_tap", "w_pots")
    person.way("By can")
    person.type(pots="12", cans="3")
    person.pour()
    person.at(site, "catch")
    assert person.figure("tap_flow_tap") == 0.8 * 10 / 40 * 3600
    person.at(site, "push")
    flow = person.figure("flow_zone-pots-1")
    bar = number(watched.page.locator("[data-figure='least_head'] [data-value]").text_content()
                 .split("·")[1]) / 100
    assert flow == pytest.approx(12 * 2 * sqrt(bar), rel=0.05), "2 L/h each at a bar"
    person.at(site, "time", "week")
    minutes = person.figure("minutes_zone-pots-1")
    person.at(site, "grow")
    assert minutes * flow / 60 == pytest.approx(person.figure("need_pots-1") / 0.93, rel=0.12)
    person.at(site, "prove")
    assert person.figure("hand_before") == pytest.approx(3 * 2.5, abs=0.5)
    assert person.figure("hand_after") == 0
    person.at(site, "lay")
    assert person.figure("outlets") == 12
    person.at(site, "build")
    assert "barrel" not in watched.page.locator("main").text_content().lower()
    whole(person, site, watched)


def test_eight_pots_on_float_valves_from_a_tank_filled_by_hand(site, watched, person, door):
    door()
    person.touch("has_tank", "w_float-pots")
    person.type(float_pots="8", tank_l="47 L", tank_stand_m="25 cm")
    person.pour()
    person.at(site, "store")
    usable, every = person.figure("usable"), person.figure("filled_every_tank")
    carried = person.figure("carried_tank")
    height = 0.88 * (47 / 210) ** (1 / 3)
    assert usable == pytest.approx(47 * (1 - 0.08 / round(height, 2)), abs=1)
    person.at(site, "grow")
    need = person.figure("need_peak")
    assert usable * (1 - 0.333) / need < every < usable / need
    person.at(site, "prove")
    assert person.figure("given_year") == pytest.approx(carried, rel=0.04)
    grows = 365  # at most: minutes a day are of the days in season
    least = carried * 1000 / 10 * 2.5 / grows
    assert person.figure("hand_after") >= int(least)
    person.at(site, "time")
    expect(watched.page.locator(".verdict")).to_contain_text("Nothing here waits for a timer")
    for station, view in (("prove", "tank"), ("store", "sizing"), ("push", "day"), ("lay", "")):
        person.at(site, station, view)
        for chart in watched.page.locator("[data-chart] .plot").all():
            expect(chart.locator("svg").first).to_be_attached()  # its words come by the script
        assert "barrel" not in watched.page.locator("main").text_content().lower()
    garden = whole(person, site, watched)
    assert (garden["roofs"], garden["taps"]) == ([], [])
    assert garden["stores"][0]["hand_filled"] is True


@pytest.mark.parametrize(("filled", "vessel", "letter"), [(True, "tank", "H"),
                                                          (False, "barrel", "R")])
def test_charts_speak_of_what_holds_the_water(site, gardens, watched, library, filled, vessel,
                                              letter):
    garden = made(library, ("stores/barrels/hand_filled", filled))
    named = gardens.add(garden.model_copy(update={"id": vessel}), vessel.capitalize()).id
    page = watched.page
    page.goto(f"{site}/g/{named}/push?view=day")
    chart = page.locator("[data-chart] .plot")
    expect(chart).to_contain_text(f"{letter}  left in the {vessel}s", use_inner_text=False)
    if not filled:
        page.goto(f"{site}/g/{named}/store?view=sizing")
        expect(chart.first).to_contain_text("barrels")
