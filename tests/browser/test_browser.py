"""As a person would: typing on drawings, the lists, views, remedies, undo, leaving a page."""

import json
import re
import time

from playwright.sync_api import expect


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
    watched.press("3")
    page.wait_for_url("**/store**")
    watched.press("l")
    count = page.locator("#l-stores-barrels-count")
    expect(count).to_be_visible()
    count.fill("5")
    count.press("Tab")
    expect(page.locator("[data-figure=usable] [data-value]")).to_contain_text("1\u202f433")
    page.locator("h1").click()
    with page.expect_navigation():
        watched.press("Control+z")
    expect(page.locator("[data-figure=usable] [data-value]")).to_contain_text("1\u202f071")
    watched.press("/")
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
    watched.press("Escape")
    page.locator("h1").click()
    watched.press("l")
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
        watched.unfold(page.get_by_label("Export Kiln Yard", exact=True)).click()
    path = tmp_path / "garden.json"
    saved.value.save_as(path)
    assert json.loads(path.read_text())["format"] == "euhydra-garden"
    page.locator("#file").set_input_files(path)
    page.get_by_role("button", name="Open").click()
    expect(page.locator(".garden-name")).to_have_text("Kiln Yard")
    assert re.search(r"/g/kiln-yard-\d/garden", page.url)
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
    page.locator("#f-timers-timer-kind").select_option("weekday-ball")
    expect(page.get_by_text(re.compile(r"min, one start")).first).to_be_visible()
    page.get_by_role("link", name="Month by month").click()
    expect(page.locator("table.data caption")).to_have_text([
        "When it is not the mean, July", "Weekday timer, ball valve (yours)",
        "Interval dial timer, ball valve (for comparison)"])
    with page.expect_navigation():
        page.get_by_role("button", name=re.compile("^Undo: .*timer")).click()
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
    watched.press("l")
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
    watched.press("l")
    name.fill("Three by the wall")
    name.press("Tab")
    stand.fill("70")
    expect(page.locator(".changes li").first).to_contain_text("Three by the wall")
    expect(stand).to_have_value("70")
    expect(stand).to_be_focused()
    page.keyboard.type(" cm")
    watched.press("Tab")
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
