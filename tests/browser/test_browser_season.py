"""Time and Prove as a person uses them: every timer, its cards on paper, days away brushed."""

import re
import time

import pytest
from playwright.sync_api import expect

from euhydra.web import longwork
from standing import middle_of

A4_PX = 1047  # 297 mm less two margins of 10 mm, at 96 to the inch


@pytest.mark.parametrize(("timer", "words"), [
    ("weekday-ball", "Weekday timer"), ("multi-ball", "set by phone"),
    ("weather-ball", "Weather-adjusting"), ("dial-ball", "dial")])
def test_each_kind_of_timer_is_set_and_its_cards_print_on_a_page_each(site, watched, timer, words):
    page = watched.page
    page.goto(f"{site}/g/plot-27/time?view=cards")
    page.locator("#f-timers-timer-kind").select_option(timer)
    expect(page.locator(".card").first).to_contain_text(words)
    watched.axe()
    page.emulate_media(media="print")
    page.set_viewport_size({"width": 720, "height": 1000})
    for card in page.locator(".card:has(svg)").all():
        assert card.bounding_box()["height"] < A4_PX
    expect(page.locator(".reck").first).to_be_hidden()
    expect(page.locator(".reck").last).to_be_hidden()


def test_days_away_are_brushed_and_moved_by_keys(site, watched):
    page = watched.page
    page.goto(f"{site}/g/kiln-yard/prove?view=away&day=07-10")
    strip = page.locator("[data-away][data-started]")
    expect(page.get_by_text("First to fail:")).to_be_visible()
    x, y = middle_of(strip)
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 50, y, steps=4)
    page.mouse.up()
    page.wait_for_url(re.compile(r"away=\d+"))
    expect(strip).not_to_have_attribute("data-days", "14")
    days = int(strip.get_attribute("data-days"))
    assert 10 < days < 50
    first = int(strip.get_attribute("aria-valuenow"))
    strip.focus()
    watched.press("ArrowRight")
    expect(strip).to_have_attribute("aria-valuenow", str(first + 1))
    watched.press("Shift+ArrowLeft")
    expect(strip).to_have_attribute("data-days", str(days - 1))
    expect(strip).to_be_focused()
    watched.axe()


def test_what_helps_is_taken_and_its_plot_fares_better(site, watched):
    page = watched.page
    page.goto(f"{site}/g/kiln-yard/prove?view=away&day=07-10")
    expect(page.get_by_role("heading", name=re.compile("For the neighbour"))).to_be_visible()
    with page.expect_navigation():
        page.get_by_role("button", name="A ball-valve timer, which opens").click()
    expect(page.get_by_role("button", name="A ball-valve timer, which opens")).to_have_count(0)
    expect(page.get_by_text("First to fail:")).to_be_visible()
    with page.expect_navigation():
        page.get_by_role("link", name="Thirst by plot").click()
    expect(page.get_by_role("img", name="Thirst of each plot through a typical year")
           ).to_be_visible()
    past = page.locator("[data-figure=past_roots] [data-value]")
    before = past.inner_text()
    page.locator("#f-longer").fill("30 %")
    page.locator("#f-longer").press("Enter")
    expect(page.locator("#f-longer")).to_have_value("30 %")
    expect(past).not_to_have_text(before)


def test_a_plot_is_dragged_to_another_zone_and_to_free_ground(site, watched):
    page = watched.page
    page.goto(f"{site}/g/plot-27/time?view=zones")
    zones = page.locator("[data-figure=zones] [data-value]")
    assert zones.inner_text() == "2"

    def drag(plot, to):
        page.mouse.move(*middle_of(page.locator(f"[data-zone-plot='{plot}'] circle")))
        page.mouse.down()
        page.mouse.move(*to, steps=5)
        page.mouse.up()

    for plot in ("bed-4", "bed-5", "bed-6"):
        drag(plot, middle_of(page.locator("[data-zone-plot='bed-1'] circle")))
        expect(page.locator(f"#f-plots-{plot}-opens_with")).to_have_value("bed-1")
    expect(zones).to_have_text("1")
    svg = page.get_by_role("group", name="Zones on the plan").bounding_box()
    drag("bed-4", (svg["x"] + 6, svg["y"] + 6))
    expect(page.locator("#f-plots-bed-4-opens_with")).to_have_value("")
    expect(zones).to_have_text("2")
    watched.axe()


def test_a_copy_is_compared_with_where_it_came_from(site, watched):
    page = watched.page
    page.goto(f"{site}/g/balcony/prove?view=variants")
    with page.expect_navigation():
        page.get_by_role("button", name="Copy this garden").click()
    expect(page.locator(".garden-name")).to_contain_text("another way")
    expect(page.locator("figure.chart svg").first).to_be_visible()
    row = page.locator("table.data tr", has_text="Past the roots a year")
    expect(row).to_contain_text("the same")
    slide = page.get_by_role("slider", name=re.compile("runs longer by"))
    slide.fill("40")
    expect(row).to_contain_text("more")
    expect(slide).to_have_attribute("aria-valuetext", re.compile("40"))
    slide.focus()
    watched.press("ArrowRight")
    expect(slide).to_have_attribute("aria-valuetext", re.compile("45"))
    watched.axe()


def test_a_run_is_watched_at_speed_and_each_fault_is_named(site, watched):
    page = watched.page
    page.goto(f"{site}/g/plot-27/time?view=watch")
    page.get_by_role("button", name="Run at speed").click()
    expect(page.get_by_text("The last runs that were due")).to_be_visible()
    page.get_by_role("button", name="Stop").click()
    for fault, words in (("split hose", "gives too much"), ("blocked filter", "gives too little"),
                         ("flat battery", "did not open"),
                         ("gauge's float stuck", "float is stuck")):
        page.get_by_role("button", name="From the start").click()
        expect(page.get_by_text("No run is over yet.")).to_be_visible()
        watched.unfold(page.locator("[data-fault]", has_text=fault)).click()
        expect(page.get_by_role("button", name=fault)).to_have_attribute("aria-pressed", "true")
        page.get_by_role("button", name="1 day", exact=True).click()
        expect(page.locator(".watched")).to_contain_text(words)
    watched.axe()


def test_long_work_is_stopped_and_run_on(site, watched, monkeypatch):
    step = longwork._step

    def slowly(steps):
        time.sleep(1.0)  # a remedy is one step: long enough to press Stop
        return step(steps)

    monkeypatch.setattr(longwork, "_step", slowly)
    monkeypatch.setattr("euhydra.core.results.results.LONG_PLOT_YEARS", 600)
    page = watched.page
    page.goto(f"{site}/g/kiln-yard/place?view=years")
    page.locator("#measures summary").click()
    years = page.locator("#l-site-years")
    years.fill("100")
    years.press("Enter")
    expect(page.get_by_title("Undo: years")).to_be_visible()
    page.goto(f"{site}/g/kiln-yard/store?view=sizing")
    page.get_by_role("button", name="Stop").click()
    expect(page.get_by_text("Stopped. Nothing was changed.")).to_be_visible()
    assert page.locator("[data-share]").inner_text() != "100 %"
    watched.axe()
    page.get_by_role("button", name="Run on").click()
    expect(page.locator("[data-work]")).to_have_count(0, timeout=90_000)
    expect(page.get_by_text("What rules of thumb would have you buy").first).to_be_visible()


def test_rain_is_typed_and_the_hold_told(site, watched):
    page = watched.page
    page.goto(f"{site}/g/kiln-yard/time?view=season&month=7")
    page.get_by_label("Did it rain?").fill("20 mm")
    page.get_by_role("button", name="How long to hold").click()
    row = watched.unfold(page.locator("tr", has_text=re.compile("Border.*delay")))
    expect(row).to_contain_text("delay 72 h")
