"""Push as a person uses it: the water drawn down by hand and by key, both schools, the valves."""

import re

import pytest
from playwright.sync_api import expect

from standing import middle_of

PUSH = "/g/kiln-yard/push"


def litres(page):
    """The flow that stands on the drawing."""
    return float(re.search(r"[\d.]+", page.locator(".d-gives").text_content()).group())


@pytest.fixture
def section(site, watched):
    watched.page.goto(f"{site}{PUSH}?view=section&zone=zone-bed-3&level=full")
    expect(watched.page.locator("[data-water][data-started]")).to_be_visible()
    return watched


def test_the_water_is_drawn_down_by_hand_and_the_flow_fades(section):
    page = section.page
    full = litres(page)
    x, y = middle_of(page.locator("[data-water] .d-handle"))
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x, y + 30, steps=5)
    expect(page.locator(".d-gives")).not_to_have_text(re.compile(rf" {full:g}\b"))
    assert litres(page) < full
    page.mouse.up()
    page.wait_for_url(re.compile(r"level=\d+"))
    expect(page.locator("#page:not([aria-busy])")).to_be_attached()
    assert litres(page) < full
    assert int(page.locator("[data-water]").get_attribute("aria-valuenow")) < 100
    kept = litres(page)
    page.reload()
    assert litres(page) == kept


def test_the_water_is_drawn_down_by_keys(section):
    page = section.page
    handle = page.locator("[data-water]")
    handle.focus()
    full = litres(page)
    page.keyboard.press("ArrowDown")
    expect(page.locator("[data-water]")).to_have_attribute("aria-valuenow", "95")
    page.keyboard.press("ArrowDown")
    expect(page.locator("[data-water]")).to_have_attribute("aria-valuenow", "90")
    page.keyboard.press("Home")
    expect(page.locator("[data-water]")).to_have_attribute("aria-valuenow", "0")
    assert litres(page) < full
    expect(page.locator("[data-water]")).to_be_focused()


def test_the_stand_is_typed_on_the_drawing_and_the_way_is_chosen(section):
    page = section.page
    full = litres(page)
    stand = page.locator("#f-stores-barrels-stand_m")
    stand.fill("1 m")
    stand.press("Enter")
    expect(page.locator('[data-figure="flow_zone-bed-3"] .was')).to_be_visible()
    assert litres(page) > full
    expect(page.locator(".find.care").filter(has_text="stand of")).to_be_visible()
    with page.expect_navigation():
        page.get_by_role("button", name=re.compile("^Undo")).click()
    page.get_by_role("link", name="Bed 4", exact=False).first.click()
    expect(page.get_by_role("group", name=re.compile("Section along the pipe"))).to_be_visible()
    page.get_by_label("Water", exact=True).select_option(label="nearly empty")
    expect(page.locator("[data-water]")).to_have_attribute("aria-valuenow", "0")


def test_a_pump_is_compared_fitted_and_taken_away(site, watched):
    page = watched.page
    page.goto(f"{site}{PUSH}?view=schools")
    expect(page.locator("section.school")).to_have_count(2)
    expect(page.locator("section.school").first).to_contain_text("Gravity alone")
    expect(page.locator("figure.chart svg").first).to_be_visible()
    with page.expect_navigation():
        page.get_by_role("button", name="Fit this pump").click()
    expect(page.locator("section.school").last).to_contain_text("as it is now")
    expect(page.locator(".find").filter(has_text="fuse the battery")).to_be_visible()
    kind = page.locator("#f-lifts-pump-1-kind")
    kind.select_option("booster")
    expect(page.locator("section.school").last).to_contain_text("Booster")
    points = watched.unfold(page.locator("#f-lifts-pump-1-points"))
    points.fill("0 L/h, 20 m; 20 L/min, 12 m; 2000 L/h, 1 m")
    page.locator("#f-lifts-pump-1-points").press("Enter")
    page.get_by_role("button", name="Take pump away").click()
    expect(page.get_by_role("button", name="Fit this pump")).to_be_visible()


def test_balance_and_a_watering_say_what_to_set_and_what_each_plot_gets(site, watched):
    page = watched.page
    page.goto(f"{site}{PUSH}?view=balance")
    expect(page.locator("table.data caption").first).to_contain_text("valves that give each plot")
    # By gravity a lever is too coarse for these flows: the plug's hole is named, with the cup.
    bed = page.locator("tr", has_text=re.compile("^Bed 2"))
    expect(bed.first).to_contain_text(re.compile(r"too fine for it.*\d+\ss"))
    expect(watched.unfold(bed.nth(1))).to_contain_text(re.compile(r"\d\.\d\smm"))
    expect(page.get_by_text(re.compile("how long 100.mL take"))).to_be_visible()
    expect(watched.unfold(page.get_by_text("drill the hole that is named"))).to_be_visible()
    page.get_by_role("link", name="Through a watering").click()
    expect(page.locator("figure.chart svg").first).to_be_visible()
    expect(page.locator("table.data caption").last).to_contain_text("one watering takes")
    before = page.locator("table.data caption").last.inner_text()
    page.get_by_label("Month", exact=True).select_option(label="Sep")
    expect(page.locator("table.data caption").last).not_to_have_text(before)


def test_the_network_is_saved_as_a_file(site, watched):
    page = watched.page
    page.goto(f"{site}/g/kiln-yard/lay?view=files")
    with page.expect_download() as saved:
        watched.unfold(page.locator("a", has_text="zone-bed-3.inp")).click()
    assert saved.value.suggested_filename.endswith(".inp")
    text = saved.value.path().read_text()
    assert text.startswith("[TITLE]")
    assert "[END]" in text
