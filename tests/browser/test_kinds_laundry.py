"""A laundry drum with its float pump, filter and lines, and a branch with a tap of its own."""

import re

import pytest
from person import number, pieces, whole
from playwright.sync_api import expect

DRUM = "drains-drain-1"


def rows_of(page, caption):
    """The rows of a table as texts, by its caption."""
    table = page.locator("table.data", has=page.locator("caption", has_text=caption)).first
    return [[x.strip() for x in row.locator("th, td").all_text_contents()]
            for row in table.locator("tbody tr").all()]


def said_on(page):
    """What a page says, the choices of its fields left out."""
    return page.locator("main").evaluate(
        "m => [...m.querySelectorAll('*:not(option)')].flatMap(e => [...e.childNodes])"
        ".filter(n => n.nodeType === 3).map(n => n.data).join(' ').toLowerCase()")


def test_a_laundry_drum_that_feeds_lines_and_a_branch_in_high_summer(site, watched, person, door):
    door("us")
    person.touch("has_laundry", "w_beds", "w_border")
    person.type(washes="6", wash_l="20 gal", bed_1_count="2", border_length_m="20 ft",
                border_width_m="3 ft")
    person.pick("laundry_led", "drum")
    page = watched.page
    expect(page.locator("[data-panel] h2")).to_have_text("A laundry; two beds and a border.")
    expect(page.locator("[data-say='laundry']")).to_contain_text("120 gal a week")
    person.pour()
    person.at(site, "catch", "used")
    assert person.figure("grey_week_drain-1") == 6 * 20
    assert person.figure("grey_area_drain-1") == pytest.approx(20 / 1.66, rel=0.02), "of loam"
    person.choose("f-plots-border-1-open_in", "Jul-Aug")
    expect(page.locator("#f-plots-border-1-open_in")).to_have_value("Jul Aug")
    page.goto(f"{site}/g/{person.garden}/catch?view=used&month=7")
    shares = {name: gets for name, gets, _ in rows_of(page, "what it feeds")}
    assert sum(number(x) for x in shares.values()) == pytest.approx(100, abs=2)
    page.goto(f"{site}/g/{person.garden}/catch?view=used&month=5")
    assert {n: g for n, g, _ in rows_of(page, "what it feeds")}["Border"] == "shut"
    table = {m: comes for m, comes, *_ in rows_of(page, "litres a day against")}
    assert number(table["July"]) == pytest.approx(6 * 20 / 7, rel=0.03)
    watched.axe()
    person.at(site, "push", "balance")
    drum = rows_of(page, "Surge drums through their lines")[0]
    assert number(drum[3]) < 24, "empty again within the day"
    assert "barrel" not in said_on(page), "but among the kinds of pump"
    person.at(site, "time", "timers")
    expect(page.locator("main")).to_contain_text("a drum empties by itself")
    person.at(site, "prove")
    garden = whole(person, site, watched)
    assert (garden["roofs"], garden["stores"], garden["taps"], garden["timers"]) == (
        [], [], [], [])
    assert [(x["draws_from"], x["control"]) for x in garden["lifts"]] == [("drain-1", "float")]
    person.at(site, "build")
    assert pieces(page, "Surge drum") == 1
    assert pieces(page, "Small submersible with float") == 1
    assert pieces(page, "Lint filter") == 1
    assert "barrel" not in page.locator("main").text_content().lower()
    person.at(site, "build", "steps")
    expect(page.locator("main")).to_contain_text("through air: nothing is sucked back")
    assert re.search(r"Laundry", page.locator("main").text_content())
