"""A whole house, a home-made pump known by two bucket tests, and bucket chains that are fed."""

import pytest
from person import GALLON_L, number, pieces, whole
from playwright.sync_api import expect


def test_a_whole_house_on_two_tanks(site, watched, person, door):
    """Three downspouts in one pipe, a buried flush, floating intake, pump, five weeks of water."""
    door("us")
    person.touch("has_roof", "w_border", "w_trees", "w_lawn")
    person.type(roof_width_m="50 ft", roof_depth_m="28 ft", roof_2_length_m="24 ft",
                roof_2_width_m="16 ft", barrel_l="1300 gal", barrels="2", stand_m="0",
                border_length_m="24 ft", border_width_m="4 ft", lawn_length_m="16 ft",
                lawn_width_m="6 ft", trees="4", canopy_m="5 ft", distance_m="40 ft")
    page = watched.page
    person.pour()
    person.at(site, "catch")
    area = 50 * 28 + 24 * 16
    assert person.figure("roof_area") == pytest.approx(area, rel=0.01)
    person.press("Add a downspout to Roof 1")
    for path, value in (("roofs-roof-downspouts-d1-share", "50 %"),
                        ("roofs-roof-downspouts-d-1-share", "50 %"),
                        ("roofs-roof-downspouts-d-1-to", "barrels"),
                        ("stores-barrels-merged_mm", "4 in"),
                        ("stores-barrels-merged_m", "40 ft"),
                        ("stores-barrels-flush_buried", "yes")):
        person.choose(f"f-{path}", value)
    person.at(site, "store")
    person.choose("f-stores-barrels-intake", "floating")
    person.at(site, "push", "schools")
    person.press("Fit this pump")
    person.at(site, "push")
    expect(page.locator("h1")).to_contain_text("The pump reaches every outlet")
    person.at(site, "prove")
    assert person.figure("lasts") > 35, "five weeks"
    person.at(site, "build")
    assert pieces(page, "Branch, 45") == 2, "three downspouts in one pipe"
    assert pieces(page, "Leaf screen") == 3
    chamber = page.locator("tr", has_text="Buried flush chamber").first.text_content()
    litres = 0.5 * area * 0.09290304
    assert number(chamber.split("chamber, ")[1]) == pytest.approx(
        litres / GALLON_L, rel=0.05), "shingle: half a millimetre"
    expect(page.locator("th", has_text="iverter")).to_have_count(0)
    person.at(site, "build", "steps")
    expect(page.locator("main")).to_contain_text("the downspouts into one pipe")
    whole(person, site, watched)
    watched.axe()


def test_a_home_made_pump_known_by_two_buckets_and_a_drilled_pipe(site, watched, person, door):
    door()
    person.touch("has_roof", "w_beds")
    person.type(roof_width_m="5 m", roof_depth_m="3 m", barrels="1", stand_m="0", bed_1_count="1",
                bed_1_length_m="10 m", bed_1_width_m="0.6 m", fall_m="0.8 m")
    person.pick("fall_way", "higher")
    page = watched.page
    person.pour()
    page.goto(f"{site}/g/{person.garden}/lay?sel=plots/bed-1")
    person.choose("f-plots-bed-1-method", "drilled")
    person.at(site, "push", "schools")
    person.press("Add a pump")
    person.choose("f-lifts-pump-1-kind", "diaphragm-12v")
    person.choose("f-lifts-pump-1-points", "10 L in 60 s at 1 m; 10 L in 90 s at 3 m")
    shown = page.locator("#f-lifts-pump-1-points").input_value()
    assert [number(x) for x in shown.split(";")[0].split(",")] == [0, 4.6], "3 + 16 ÷ 10"
    assert number(shown.split(";")[-1]) == pytest.approx(678, abs=1)
    person.choose("f-lifts-pump-1-power", "battery")
    person.at(site, "push")
    flow, head = person.figure("flow_zone-bed-1"), person.figure("duty_pump-1")
    assert head == pytest.approx(4.6 - 4.6 * (flow / 678.2) ** 2, abs=0.45), "on its own curve"
    expect(page.locator("main")).to_contain_text("has no battery yet")
    page.goto(f"{site}/g/{person.garden}/push?view=balance")
    person.choose("f-plots-bed-1-end", "open")
    expect(page.locator("main")).to_contain_text("the open ends take")
    expect(page.locator("main")).to_contain_text("A drill for each")
    assert person.figure("flow_zone-bed-1") > flow, "the pump gives more against less"
    watched.unfold(page.locator("[aria-label='Try: Shut the ends']")).click()
    watched.settled()
    person.press("Keep")
    expect(page.locator("main")).not_to_contain_text("the open ends take")
    assert person.figure("flow_zone-bed-1") == flow
    person.at(site, "lay")
    assert person.figure("outlets") > 20
    person.at(site, "build")
    assert pieces(page, "12 V diaphragm pump") == 1
    whole(person, site, watched)


def test_bucket_chains_and_a_tote_that_feeds_one_and_takes_the_feed(site, watched, person, door):
    """Two linked barrels to one chain, and through a float valve to a tote with another."""
    door()
    person.touch("has_roof", "w_chain")
    person.way("By can")
    person.type(roof_width_m="8 m", roof_depth_m="4 m", barrels="2", chain="6", cans="5")
    page = watched.page
    expect(page.locator("[data-panel] h2")).to_have_text("A roof; a chain of six buckets.")
    person.pour()
    person.join_another(site, "float")
    page.goto(f"{site}/g/{person.garden}/store?view=bank&store=store-1")
    person.choose("f-stores-store-1-volume_l", "75 L")
    person.choose("f-stores-store-1-feed_ml_l", "4")
    person.at(site, "grow")
    person.press("Add a bucket chain")
    garden = page.request.get(f"{site}/g/{person.garden}/export/garden.json").json()["garden"]
    other = garden["plots"][1]["id"]
    page.goto(f"{site}/g/{person.garden}/lay?sel=plots/{other}")
    person.choose(f"f-plots-{other}-fed_by", "store-1")
    person.at(site, "store")
    told = page.locator("main").text_content().replace("\u00a0", " ")
    held = 75 * (1 - 0.05 / 0.88)
    assert f"{4 * held:.0f} mL of feed for its {held:.0f} L" in told
    assert "as it drinks" in told
    assert person.figure("usable") == pytest.approx(
        2 * 210 * (1 - 13 / 88) + 75 * (1 - 13 / 88), rel=0.02)
    person.at(site, "prove")
    assert person.figure("hand_before") == pytest.approx(5 * 2.5, abs=0.5)
    assert person.figure("hand_after") == 0
    person.at(site, "keep", "care")
    expect(page.locator("main")).to_contain_text("Feed into Store 1")
    person.at(site, "build")
    assert pieces(page, "Float valve") == 3, "from barrels to tote, and in each float box"
    garden = whole(person, site, watched)
    assert [p["kind"] for p in garden["plots"]] == ["chain", "chain"]
    assert {p["fed_by"] or "barrels" for p in garden["plots"]} == {"barrels", "store-1"}
