"""First pour as a person uses it: touched, typed, by keys alone, and what comes of it."""

import re

import pytest
from playwright.sync_api import expect

from euhydra.core.assessment.assess import STATIONS


@pytest.mark.parametrize(("system", "typed", "unit"), [
    ("metric", {"roof_width_m": "6 m", "barrel_l": "55 gal", "stand_m": "10 cm", "fall_m": "0"},
     "kPa"),
    ("us", {"roof_width_m": "20 ft", "barrel_l": "210 L", "stand_m": "0 ft 4 in", "fall_m": "0"},
     "psi")])
def test_first_pour_as_a_new_user(site, watched, system, typed, unit):
    page = watched.page
    page.goto(site)
    page.get_by_role("link", name="Start a garden" if system == "metric"
                     else "in gallons and feet").first.click()
    page.get_by_label("Call the garden").fill(f"My {system} garden")
    expect(page.locator("[data-panel]")).to_contain_text("Touch what you have")
    expect(page.locator("#barrels")).to_be_hidden()
    touch(page, "has_roof", "w_beds", "w_pots")
    for name, text in typed.items():
        page.locator(f"#{name}").fill(text)
    page.get_by_role("button", name="Pots: one more").click()
    expect(page.locator("#pots")).to_have_value("5")
    page.locator("#pots").fill("6")
    expect(page.locator("[data-say=levels]")).to_contain_text("falls short")
    expect(page.locator("[data-panel] h2")).to_have_text("A roof; two beds and six pots.")
    page.locator("#barrels").fill("two")
    expect(page.locator("[data-err=barrels]")).to_contain_text("“two” is not a number")
    page.locator("#barrels").fill("2")
    expect(page.locator("[data-err=barrels]")).to_be_hidden()
    watched.axe()
    page.get_by_role("button", name="Pour").click()

    expect(page.locator("[data-alive]")).to_be_visible()
    expect(page.locator(".run li")).to_have_count(1 + len(STATIONS))
    watched.press("6")
    expect(page.get_by_role("heading", level=1)).to_contain_text("Gravity")
    assert unit in page.locator("[data-figure=least_head] [data-value]").inner_text()
    short = page.locator(".find", has_text="short").first
    expect(short).to_be_visible()
    before = page.locator("[data-figure=least_head] [data-value]").inner_text()
    short.get_by_role("link", name=re.compile("^Try: Stand to")).click()
    expect(page.get_by_text("Nothing is kept yet")).to_be_visible()
    expect(page.locator(".ghost-text")).to_have_text("before")
    expect(page.get_by_role("link", name=re.compile("^Try:"))).to_have_count(0)
    page.get_by_role("link", name="Put back").click()
    expect(page.locator("[data-figure=least_head] [data-value]")).to_have_text(before)
    short.get_by_role("link", name=re.compile("^Try: Stand to")).click()
    page.get_by_role("button", name="Keep").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("reaches every outlet")
    after = page.locator("[data-figure=least_head] [data-value]").inner_text()
    assert after != before
    page.get_by_role("button", name=re.compile("^Undo: Stand")).click()
    expect(page.locator("[data-figure=least_head] [data-value]")).to_have_text(before)
    page.get_by_role("button", name=re.compile("^Redo")).click()
    expect(page.locator("[data-figure=least_head] [data-value]")).to_have_text(after)
    page.reload()
    expect(page.locator("[data-figure=least_head] [data-value]")).to_have_text(after)
    page.goto(site)
    expect(page.get_by_role("heading", name=f"My {system} garden")).to_be_visible()


def touch(page, *pictures):
    for picture in pictures:
        page.locator(f"#{picture}").focus()
        page.keyboard.press("Space")


def test_first_pour_answers_what_was_typed_before_its_script_came(site, watched):
    page = watched.page
    held = []
    page.route("**/app.js", lambda route: held.append(route))
    page.goto(f"{site}/first-pour", wait_until="commit")
    touch(page, "has_roof", "w_beds", "w_pots")
    page.locator("#stand_m").fill("10 cm")
    page.locator("#fall_m").fill("0")
    page.locator("#pots").fill("6")
    assert "falls short" not in page.locator("[data-say=levels]").inner_text()
    while not held:
        page.wait_for_timeout(20)
    held[0].continue_()
    expect(page.locator("[data-say=levels]")).to_contain_text("falls short")


def test_first_pour_asks_again_when_an_answer_is_lost(site, watched):
    page = watched.page
    page.goto(f"{site}/first-pour")
    lost = []

    def lose(route):
        lost.append(route.request)
        route.fulfill(status=200, body="half an ans") if len(lost) == 1 else route.continue_()

    page.route("**/first-pour/preview", lose)
    touch(page, "has_roof", "w_beds", "w_pots")
    page.locator("#stand_m").fill("10 cm")
    page.locator("#fall_m").fill("0")
    page.locator("#pots").fill("6")
    expect(page.locator("[data-say=levels]")).to_contain_text("falls short")
    assert lost


def test_first_pour_by_keyboard_on_a_phone_with_ones_own_months(site, watched):
    page = watched.page
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"{site}/first-pour")
    touch(page, "has_roof", "has_tap", "w_beds")
    page.get_by_label("My own twelve months").focus()
    watched.press("Space")
    months = page.locator("[data-months]")
    expect(months).to_have_attribute("open", "")
    page.locator("#rain_mm_0").fill("three")
    expect(page.locator("[data-err=rain_mm_0]")).to_contain_text("January: “three”")
    page.locator("#rain_mm_0").fill("5 in")
    expect(page.locator("[data-err=rain_mm_0]")).to_be_hidden()
    before = page.locator("[data-say=place]").inner_text()
    page.locator("#rain_mm_6").fill("0")
    page.locator("#wet_days_6").fill("0")
    expect(page.locator("[data-say=place]")).not_to_have_text(before)
    expect(page.locator("[data-say=barrels]")).to_contain_text("The tap gives")
    page.get_by_role("button", name="Pour").focus()
    watched.press("Enter")
    expect(page.locator(".run [aria-current]")).to_contain_text("Garden")
    page.locator(".run a", has_text="Store").click()
    expect(watched.unfold(page.locator(".find h3", has_text="air gap"))).to_be_visible()


def test_an_archetype_fills_in_the_months(site, watched):
    page = watched.page
    page.goto(f"{site}/first-pour")
    page.locator("#archetype-desert").check()
    expect(page.locator("#rain_mm_5")).to_have_value("1")
    expect(page.locator("#latitude_deg")).to_have_value("33")
    page.get_by_text("Twelve months", exact=True).click()
    page.locator("#rain_mm_5").fill("12")
    expect(page.locator("#archetype-own")).to_be_checked()
