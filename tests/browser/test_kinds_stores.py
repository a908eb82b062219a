"""Kinds of garden with several stores, with wells, pumps and whole houses, from the front door."""

import pytest
from person import GALLON_L, number, pieces, whole
from playwright.sync_api import expect

RUNOFF = 0.95  # of metal roofs


def test_three_linked_totes_off_a_barn_and_a_flat_wet_corner(site, watched, person, door):
    """Soakers in five beds and a row of currants on one dial; gravel, sump and pump."""
    door()
    person.touch("has_roof", "w_beds", "w_trees")
    person.type(roof_width_m="12 m", roof_depth_m="7 m", barrel_l="1135 L", barrels="3",
                stand_m="0.3 m", bed_1_count="5", bed_1_length_m="6 m", bed_1_width_m="0.9 m",
                trees="8", canopy_m="1 m", fall_m="1.2 m")
    person.pick("method", "soaker")
    page = watched.page
    expect(page.locator("[data-panel] h2")).to_have_text(
        "A roof; five beds and eight trees or shrubs.")
    person.pour()
    person.at(site, "catch")
    person.press("Add a downspout to Roof")
    person.press("Add a downspout to Roof")
    spout = "f-roofs-roof-downspouts"
    for n in ("1", "2"):
        person.choose(f"{spout}-d-{n}-restrictor_l_h", "60 L/h")
    assert person.figure("roof_area") == 12 * 7
    caught = person.figure("caught_year")
    person.at(site, "place")
    rain_m = person.figure("rain_year") / 1000
    assert 0.5 < caught / (84 * rain_m * RUNOFF) < 0.95, "less flush, and the frost's half year"
    person.at(site, "store")
    height = round(0.88 * (1135 / 210) ** (1 / 3), 2)
    assert person.figure("usable") == pytest.approx(3 * 1135 * (1 - 0.13 / height), rel=0.01)
    shell = 10 * (1135 / 210) ** (2 / 3)
    assert person.figure("full_mass") == pytest.approx(
        3 * (1135 * (1 - 0.05 / height) + shell), rel=0.01)
    person.at(site, "store", "overflow")
    person.press("Add wet ground")
    person.choose("f-wet_areas-wet-area-1-length_m", "8 m")
    person.choose("f-wet_areas-wet-area-1-width_m", "5 m")
    assert person.figure("wet_wet-area-1") == 8 * 5 * 50, "5 cm deep"
    expect(page.locator("main")).to_contain_text("gravel, a sump and a pump")
    person.at(site, "build")
    assert pieces(page, "Interval") == 1 or pieces(page, "timer") == 1
    garden = whole(person, site, watched)
    assert {z["timer"] for z in garden["zones"]} == {"timer"}
    assert len(garden["plots"]) == 6


def test_a_pair_that_overflows_to_a_row_below_two_terraces_and_a_weak_well(
        site, watched, person, door):
    """In gallons: barrels above, five below; each terrace its timer; the well for the cool bed."""
    door("us")
    person.touch("has_roof", "has_well", "w_beds")
    person.pick("well_led", "lines")
    person.pick("well_feeds", "rest")
    person.type(roof_width_m="26 ft", roof_depth_m="16 ft", well_l_h="4 gph", well_bucket_s="90 s",
                bed_1_count="1", bed_2_length_m="8 ft", bed_2_width_m="4 ft",
                bed_2_lower_m="3 ft", bed_3_length_m="8 ft", bed_3_width_m="4 ft",
                bed_3_lower_m="3 ft")
    person.pick("bed_3_group", "leafy")
    page = watched.page
    person.pour()
    person.join_another(site, "overflow")
    page.goto(f"{site}/g/{person.garden}/store?view=bank&store=store-1")
    person.choose("f-stores-store-1-count", "5")
    person.choose("f-stores-store-1-linked", "siphon")
    person.choose("f-stores-store-1-stand_m", "0")
    expect(page.locator("svg.drawing").first).to_contain_text("no line reaches it")
    above = person.figure("usable")
    assert above == pytest.approx(2 * 55 * (1 - 13 / 88), abs=1)
    for bed, source in (("bed-2", "store-1"), ("bed-3", "well-1")):
        page.goto(f"{site}/g/{person.garden}/lay?sel=plots/{bed}")
        person.choose(f"f-plots-{bed}-fed_by", source)
    person.at(site, "grow")
    need = person.figure("need_bed-3")
    person.at(site, "store")
    assert person.figure("usable") == pytest.approx(7 / 2 * above, rel=0.02)
    person.at(site, "time", "timers")
    person.press("Add a timer")
    zone = "f-zones-zone-bed-2-timer"
    person.choose(zone, "timer-2")
    person.at(site, "catch", "supply")
    assert person.figure("well_day_well-1") == min(300 / GALLON_L + 4 * 8, 4 * 24)
    assert person.figure("tap_flow_well-1") == pytest.approx(0.8 * 2.5 * 3600 / 90, abs=1)
    given = person.page.locator("tr", has=page.locator("th", has_text="W  Wells")).first
    year = number(given.locator("td").first.text_content())
    assert 60 * need / 4 < year < 365 * need, "a bed of leaves through its season"
    person.at(site, "push")
    expect(page.locator("main")).not_to_contain_text("The tap")
    person.at(site, "prove", "away")
    expect(page.locator("main")).to_contain_text("14")
    person.at(site, "build")
    assert pieces(page, "Backflow preventer") == 1, "at the well"
    garden = whole(person, site, watched)
    assert garden["taps"] == []
    assert {z["source"] for z in garden["zones"]} == {"barrels", "store-1", "well-1"}
    watched.axe()


def test_four_barrels_in_a_chain_under_raised_beds_and_a_transfer_pump(
        site, watched, person, door):
    door()
    person.touch("has_roof", "w_beds")
    person.type(roof_width_m="8 m", roof_depth_m="5 m", barrels="1", stand_m="0.15 m",
                bed_1_count="3", fall_m="1.2 m")
    person.pick("fall_way", "higher")
    page = watched.page
    person.pour()
    person.join_another(site, "overflow")
    for _ in range(2):
        person.press("Add a store")
        person.press("Join two stores")
    garden = page.request.get(f"{site}/g/{person.garden}/export/garden.json").json()["garden"]
    assert [(j["kind"], j["a"], j["b"]) for j in garden["joints"]] == [
        ("overflow", a, b) for a, b in (("barrels", "store-1"), ("store-1", "store-2"),
                                        ("store-2", "store-3"))], "each as the one before"
    expect(page.locator("main")).to_contain_text("no line reaches it")
    one = person.figure("usable")
    assert one == pytest.approx(210 * (1 - 13 / 88), abs=0.5), "of the first barrel alone"
    person.at(site, "push")
    expect(page.locator("h1")).to_contain_text("Gravity does not reach")
    person.at(site, "push", "schools")
    person.press("Fit this pump")
    person.choose("f-lifts-pump-1-kind", "transfer")
    person.at(site, "push")
    expect(page.locator("h1")).to_contain_text("The pump reaches every outlet")
    head = person.figure("least_head")
    assert 3 < head < 14 - 1.2 + 0.2, "less than the pump's shut head, the beds 1.2 m up"
    person.at(site, "build", "steps")
    expect(page.locator("main")).to_contain_text("fill pump and suction hose with water")
    person.at(site, "build")
    assert pieces(page, "Small transfer pump") == 1
    assert pieces(page, "Foot valve") == 1
    garden = whole(person, site, watched)
    assert [x["draws_from"] for x in garden["lifts"]] == ["barrels"]
