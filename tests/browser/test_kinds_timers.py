"""Kinds of garden whose timers are more than one valve each: a dial, moved hoses, six programs."""

import re

import pytest
from person import GALLON_L, number, pieces, whole
from playwright.sync_api import expect

TIMER = "f-timers-timer"


def cells(page, caption, row):
    """The cells of a row of a table, by its caption and the row's head."""
    table = page.locator("table.data", has=page.locator("caption", has_text=caption)).first
    return [x.strip() for x in table.locator("tr", has=page.locator(
        "th", has_text=row)).first.locator("td").all_text_contents()]


def test_nine_beds_two_hoses_moved_and_pots_left_to_cans(site, watched, person, door):
    door()
    person.touch("has_tap", "w_beds", "w_trees", "w_pots")
    person.way("By can")
    person.type(bed_1_count="9", trees="4", pots="6", cans="12")
    person.pour()
    page = watched.page
    for bed, key, value in (("bed-1", "method", "soaker"), ("bed-2", "method", "soaker"),
                            ("bed-2", "after", "bed-1")):
        page.goto(f"{site}/g/{person.garden}/lay?sel=plots/{bed}")
        person.choose(f"f-plots-{bed}-{key}", value)
    person.at(site, "build")
    assert pieces(page, "Quick coupler") == 2, "one hose over two beds"
    pots = person.plot(site, "Pots")
    person.choose(f"f-plots-{pots}-watered", "can")
    person.at(site, "time", "timers")
    person.choose(f"{TIMER}-kind", "weekday-pilot")
    person.choose(f"{TIMER}-hoses", "2")
    person.at(site, "grow")
    need = person.figure(f"need_{pots}")
    page.goto(f"{site}/g/{person.garden}/time?view=timers&month=7")
    when, cans, litres, source, work = cells(page, "Watered by hand", "Pots")
    runs = 7 if when == "every day" else len(when.split())
    assert number(litres) == 10 * number(cans), "whole cans of 10 L"
    assert number(litres) * runs / 7 == pytest.approx(need, abs=10 * runs / 7)
    assert number(work) == pytest.approx(number(cans) * runs * 2.5, abs=0.5), "2.5 min a can"
    assert source == "Yard tap"
    garden = whole(person, site, watched)
    timed = [z for z in garden["zones"] if z["timed"]]
    assert {z["timer"] for z in timed} == {"timer"}
    assert all(pots not in z["plots"] for z in timed)
    person.at(site, "build")
    assert pieces(page, "Weekday timer, pilot valve") == 1, "one, its hoses moved"
    assert pieces(page, "Backflow preventer") == 1
    person.at(site, "time", "cards")
    expect(page.locator("main")).to_contain_text("Water by hand")
    person.at(site, "prove")
    assert person.figure("hand_before") == 12 * 2.5


def test_a_border_on_a_dial_and_pots_on_a_second_in_gallons(site, watched, person, door):
    door("us")
    person.touch("has_tap", "w_border", "w_pots")
    person.type(border_length_m="20 ft", border_width_m="3 ft", pots="5", bucket_l="5 gal",
                bucket_s="50 s")
    person.pour()
    page = watched.page
    person.at(site, "catch")
    assert person.figure("tap_flow_tap") == pytest.approx(0.8 * 5 * 3600 / 50, rel=0.01)
    person.at(site, "time", "timers")
    page.get_by_role("button", name="Add a timer").click()
    expect(page.locator("main")).to_contain_text("Hung nowhere yet")
    person.choose("f-zones-zone-pots-2-timer", "timer-2")
    person.choose("f-timers-timer-2-marks_min", "2 4 6 8 12 16 24")
    garden = whole(person, site, watched)
    assert {z["timer"] for z in garden["zones"]} == {"timer", "timer-2"}
    page.goto(f"{site}/g/{person.garden}/time?view=cards&month=7")
    shown = [number(x) for x in page.locator(".card[open] td:nth-child(3)").all_text_contents()]
    assert any(x in (2, 4, 6, 8, 12, 16, 24) for x in shown), "a mark of one's own dial"
    person.at(site, "grow")
    need = person.figure("need_border-1") * GALLON_L
    person.at(site, "push")
    flow = person.figure("flow_zone-border-1") * GALLON_L
    even = person.figure("evenness_zone-border-1") / 100
    person.at(site, "time", "week")
    rhythm = page.locator("[data-figure='minutes_zone-border-1']").text_content()
    days = number(re.search(r"every [\d.]+", rhythm)[0]) / 24
    minutes = person.figure("minutes_zone-border-1")
    assert minutes == pytest.approx(need * days / even / flow * 60, rel=0.25)
    person.at(site, "build")
    assert pieces(page, "Interval dial timer") == 2
    assert pieces(page, "splitter") == 1, "so that both hang on one tap"
    person.at(site, "time", "timers")
    expect(page.locator("#dial svg")).to_contain_text("across: shut")


def test_a_flower_bed_of_three_cans_a_day_on_programs_between_eight_and_twenty(
        site, watched, person, door):
    door()
    person.touch("has_tap", "w_border")
    person.way("By can")
    person.type(border_length_m="5 m", border_width_m="1.2 m", cans="3")
    person.pour()
    page = watched.page
    person.at(site, "prove")
    assert person.figure("hand_before") == pytest.approx(3 * 2.5, abs=0.5)
    person.at(site, "time", "timers")
    person.choose(f"{TIMER}-kind", "weekday-pilot")
    person.choose(f"{TIMER}-from_h", "8")
    person.choose(f"{TIMER}-until_h", "8 pm")
    expect(page.locator(f"#{TIMER}-until_h")).to_have_value("20:00")
    page.goto(f"{site}/g/{person.garden}/grow?view=today")
    person.choose("f-plots-border-1-own_l_day", "30 L")
    person.choose("f-plots-border-1-run_by", "own")
    person.at(site, "push")
    flow = person.figure("flow_zone-border-1")
    page.goto(f"{site}/g/{person.garden}/time?view=week&month=7")
    opens, first, runs_for = cells(page, "A week in July", "Border")
    assert first == "8:00", "not before"
    runs = 7 if opens.startswith("every day") else len(opens.split(",")[0].split())
    assert number(runs_for) * runs / 7 / 60 * flow == pytest.approx(30, rel=0.12), "as it was"
    garden = whole(person, site, watched)
    assert garden["timers"][0]["until_h"] == 20
    assert (garden["stores"], garden["roofs"]) == ([], [])
    person.at(site, "build")
    assert pieces(page, "Weekday timer, pilot valve") == 1
