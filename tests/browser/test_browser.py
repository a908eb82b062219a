"""As a person would: First pour in both systems, remedies, undo, keys, every page by axe."""

import json
import re
import time

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

    expect(page.get_by_role("heading", level=1)).to_contain_text("Gravity")
    expect(page.locator(".run li")).to_have_count(len(STATIONS))
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
    page.route("**/js/pour.js*", lambda route: held.append(route))
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


def test_typing_on_the_drawing_keeps_and_answers(site, watched):
    page = watched.page
    page.goto(f"{site}/g/kiln-yard/push?zone=zone-bed-1")
    flow = page.locator("[data-figure=flow_zone-bed-1]")
    before = flow.locator("[data-value]").text_content()
    stand = page.locator("#f-stores-barrels-stand_m")
    stand.fill("2 ft")
    stand.press("Enter")
    expect(stand).to_have_value("0.61 m")
    expect(flow.locator(".was")).to_contain_text(f"was {before}")
    stand.focus()
    stand.press("ArrowUp")
    expect(stand).to_have_value("0.65 m")
    expect(stand).to_be_focused()
    watched.refusals_expected = True
    stand.fill("ten")
    stand.press("Enter")
    expect(page.locator(".svg-err")).to_contain_text("“ten” is not a number")
    expect(stand).to_have_value("ten")
    expect(stand).to_be_focused()
    watched.axe()
    stand.fill("0.45 m")
    stand.press("Enter")
    expect(page.locator(".svg-err")).to_have_count(0)
    expect(flow.locator("[data-value]")).to_have_text(before)


def test_the_list_twin_and_keys(site, watched):
    page = watched.page
    page.goto(f"{site}/g/kiln-yard/push")
    page.keyboard.press("3")
    page.wait_for_url("**/store**")
    page.keyboard.press("l")
    count = page.locator("#l-stores-barrels-count")
    expect(count).to_be_visible()
    count.fill("5")
    count.press("Tab")
    expect(page.locator("[data-figure=usable] [data-value]")).to_contain_text("1\u202f433")
    page.locator("h1").click()
    with page.expect_navigation():
        page.keyboard.press("Control+z")
    expect(page.locator("[data-figure=usable] [data-value]")).to_contain_text("1\u202f071")
    page.keyboard.press("/")
    box = page.get_by_label("Go to anything")
    box.fill("gro")
    watched.axe()
    box.press("Enter")
    page.wait_for_url("**/grow**")


def test_beds_come_and_go_on_grow(site, watched):
    page = watched.page
    page.goto(f"{site}/g/kiln-yard/grow")
    with page.expect_navigation():
        watched.unfold(page.locator("button[value=bed]")).click()
    expect(page.locator("#f-plots-bed-5-length_m")).to_be_visible()
    page.locator("#f-plots-bed-5-plantings-p1-crop").select_option("lettuce")
    expect(page.locator("[data-figure='need_bed-5'] .was")).to_be_visible()
    page.keyboard.press("Escape")
    page.locator("h1").click()
    page.keyboard.press("l")
    page.get_by_role("button", name="Remove Border", exact=True).click()
    watched.settled()
    expect(page.get_by_role("link", name="Border: its measures")).to_have_count(0)
    for _ in range(3):
        with page.expect_navigation():
            page.get_by_role("button", name=re.compile("^Undo: ")).click()
    expect(page.get_by_role("link", name="Border: its measures")).to_be_visible()
    expect(page.locator("#f-plots-bed-5-length_m")).to_have_count(0)


def test_a_file_goes_out_and_comes_in_and_a_large_one_is_refused(site, watched, tmp_path):
    page = watched.page
    page.goto(site)
    with page.expect_download() as saved:
        page.get_by_role("link", name="Export Kiln Yard").last.click()
    path = tmp_path / "garden.json"
    saved.value.save_as(path)
    assert json.loads(path.read_text())["format"] == "euhydra-garden"
    page.locator("#file").set_input_files(path)
    page.get_by_role("button", name="Open").click()
    expect(page.locator(".garden-name")).to_have_text("Kiln Yard")
    assert re.search(r"/g/kiln-yard-\d/push", page.url)
    page.goto(site)
    large = tmp_path / "large.json"
    large.write_bytes(b" " * (50 * 1024 * 1024))
    page.locator("#file").set_input_files(large)
    page.get_by_role("button", name="Open").click()
    expect(page.locator("[data-upload] .err")).to_contain_text("larger than 4 MB")
    watched.refusals_expected = True
    cut = tmp_path / "cut.json"
    cut.write_text(path.read_text()[:500])
    page.locator("#file").set_input_files(cut)
    page.get_by_role("button", name="Open").click()
    expect(page.get_by_role("alert")).to_contain_text("not whole JSON")
    watched.axe()


def test_first_pour_by_keyboard_on_a_phone_with_ones_own_months(site, watched):
    page = watched.page
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"{site}/first-pour")
    touch(page, "has_roof", "has_tap", "w_beds")
    page.get_by_label("My own twelve months").focus()
    page.keyboard.press("Space")
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
    page.keyboard.press("Enter")
    expect(page.locator(".run [aria-current]")).to_contain_text("Push")
    page.goto(page.url.replace("push", "store"))
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


def test_views_and_plan_zoom(site, watched):
    page = watched.page
    page.goto(f"{site}/g/kiln-yard/push")
    page.get_by_label("Water", exact=True).select_option(label="nearly empty")
    page.wait_for_url("**level=low*")
    page.get_by_role("link", name="Every outlet").click()
    expect(page.locator("table.data tbody tr")).to_have_count(9)
    page.goto(f"{site}/g/kiln-yard/lay?sel=plots/bed-1")
    page.get_by_role("button", name="Nearer").click()
    expect(page.locator(".zoomable")).to_have_attribute("transform", re.compile(r"scale\(1\.5"))
    page.get_by_role("button", name="Whole", exact=True).click()
    expect(page.locator(".zoomable")).to_have_attribute("transform", re.compile(r"scale\(1\)"))
    page.locator("#f-plots-bed-1-method").select_option("soaker")
    expect(page.locator("[data-figure=outlets] .was")).to_be_visible()
    expect(page.locator(".d-row-soaker").first).to_be_attached()
    page.get_by_text("What was changed").click()
    expect(page.locator(".changes li").first).to_contain_text("watered by soaker")


def test_the_timer_in_hand_shows_its_own_face(site, watched):
    page = watched.page
    page.goto(f"{site}/g/kiln-yard/time?month=7")
    expect(page.get_by_text(re.compile(r"^every \d+ h$")).first).to_be_visible()
    page.locator("#f-timer").select_option("weekday-ball")
    expect(page.get_by_text(re.compile(r"min, one start")).first).to_be_visible()
    page.get_by_role("link", name="Month by month").click()
    expect(page.locator("table.data caption")).to_have_text([
        "When it is not the mean, July", "Weekday timer, ball valve (yours)",
        "Interval dial timer, ball valve (for comparison)"])
    with page.expect_navigation():
        page.get_by_role("button", name=re.compile("^Undo: timer")).click()
    expect(page.locator("table.data caption").nth(1)).to_contain_text("Interval dial timer, pilot")


def test_typing_while_trying_keeps_what_was_typed_and_drops_the_try(site, watched):
    page = watched.page
    page.goto(f"{site}/g/kiln-yard/push?view=section&zone=zone-bed-1&try=push.valve-shut:ball-valve")
    expect(page.get_by_text("Nothing is kept yet")).to_be_visible()
    stand = page.locator("#f-stores-barrels-stand_m")
    stand.fill("0.5 m")
    stand.press("Enter")
    expect(page.get_by_text("Nothing is kept yet")).to_have_count(0)
    expect(page.locator(".find.stop")).to_contain_text("timer's valve")
    assert "try=" not in page.url
    assert "view=section" in page.url


def test_the_back_up_can_be_chosen_later(site, watched):
    page = watched.page
    page.goto(f"{site}/g/kiln-yard/store")
    expect(watched.unfold(page.locator(".find h3", has_text="air gap"))).to_be_visible()
    page.keyboard.press("l")
    with page.expect_navigation():
        page.get_by_role("button", name="Remove Yard tap").click()
    expect(page.locator(".find", has_text="air gap")).to_have_count(0)
    expect(page.locator(".run li", has_text="Prove")).to_contain_text("stop")
    with page.expect_navigation():
        watched.unfold(page.locator("button[value=tap]")).click()
    # What the choice asks care for stands unfolded where it is made.
    expect(page.locator("article.find", has_text="air gap")).to_be_visible()


def test_what_is_being_typed_outlives_the_answer_to_an_earlier_edit(site, watched):
    page = watched.page
    page.goto(f"{site}/g/kiln-yard/store")
    page.context.new_cdp_session(page).send("Network.emulateNetworkConditions", {
        "offline": False, "latency": 700, "downloadThroughput": -1, "uploadThroughput": -1})
    name, stand = page.locator("#l-stores-barrels-name"), page.locator("#l-stores-barrels-stand_m")
    page.keyboard.press("l")
    name.fill("Three by the wall")
    name.press("Tab")
    stand.fill("70")
    expect(page.locator(".changes li").first).to_contain_text("Three by the wall")
    expect(stand).to_have_value("70")
    expect(stand).to_be_focused()
    page.keyboard.type(" cm")
    page.keyboard.press("Tab")
    expect(stand).to_have_value("0.70 m")


def test_who_leaves_while_edits_are_on_their_way_loses_none(site, watched):
    page = watched.page
    page.goto(f"{site}/g/kiln-yard/catch")
    page.route("**/edit**", lambda route: (time.sleep(0.6), route.continue_()))
    expect(page.locator("#f-roofs-workshop-gutter_mm")).to_be_visible()
    page.locator("#f-roofs-workshop-gutter_mm").fill("130 mm")
    page.locator("#f-roofs-workshop-gutter_mm").press("Enter")
    page.locator("#f-roofs-workshop-width_m").first.fill("6.6 m")
    page.locator("#f-roofs-workshop-width_m").first.press("Enter")
    page.locator(".run a", has_text="Store").click()
    page.wait_for_url("**/store")
    page.goto(f"{site}/g/kiln-yard/catch")
    expect(page.locator("#f-roofs-workshop-gutter_mm")).to_have_value("130.0 mm")
    expect(page.locator("#f-roofs-workshop-width_m").first).to_have_value("6.60 m")


def test_who_leaves_a_refused_entry_sees_why_first(site, watched):
    page = watched.page
    watched.refusals_expected = True
    page.goto(f"{site}/g/kiln-yard/catch")
    on_its_way = []  # held until who typed it leaves, however long that takes
    page.route("**/edit**", lambda route: on_its_way.append(route))
    page.locator("#f-roofs-workshop-gutter_mm").fill("wide")
    page.locator("#f-roofs-workshop-gutter_mm").press("Enter")
    while not on_its_way:
        page.wait_for_timeout(20)
    page.locator(".run a", has_text="Store").click(no_wait_after=True)
    on_its_way[0].continue_()
    expect(page.get_by_text("“wide”").first).to_be_visible()
    expect(page).to_have_url(re.compile("/catch"))
