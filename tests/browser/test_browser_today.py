"""This morning and the neighbour's page: done at one touch, with a network and without, by key."""

import datetime as dt
import re

from playwright.sync_api import expect
from test_browser_alive import ready, told

from euhydra.store.log import Log
from mornings import JULY, stand_still


def test_this_morning_is_read_on_a_phone_and_takes_the_dip(site, held, gardens, monkeypatch):
    stand_still(monkeypatch)
    log = Log(gardens.database)
    for entry in log.of("plot-27"):
        log.take_out("plot-27", entry.id)
    page = held.page
    page.goto(f"{site}/g/plot-27/garden")
    ready(page)
    held.axe()
    assert "day=" not in page.url
    level = page.locator("[data-level='0']").text_content()
    expect(page.locator("#day-words")).to_contain_text(level)
    page.get_by_label("a month", exact=True).check()
    expect(page.locator("#day-words")).to_contain_text("The garden today")
    page.get_by_role("button", name="Nearer").tap()
    assert page.locator("[data-picture]").bounding_box()["width"] > 800
    page.get_by_role("button", name="Whole").tap()
    page.get_by_label("Day of the year").press("ArrowRight")
    told(page, "15 July")
    held.press("t")
    expect(page.locator("#day-words")).to_contain_text("The garden today")
    assert "day=" not in page.url
    page.get_by_label(re.compile("^Dip")).fill("40 cm")
    page.get_by_role("button", name=re.compile("^Log it: Dip")).tap()
    expect(page.locator("#day-words")).to_contain_text("dipped today")


def test_done_is_one_touch_and_waits_on_the_device_where_there_is_no_network(
        site, watched, gardens, monkeypatch):
    """In July, a bed that a can waters on Mondays, Wednesdays and Fridays."""
    day = JULY + dt.timedelta(days=1)
    stand_still(monkeypatch, day)
    page = watched.page
    page.clock.set_fixed_time(dt.datetime.combine(day, dt.time(9)))
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"{site}/g/plot-27/grow")
    for bed in ("bed-1", "bed-2"):
        page.request.post(f"{site}/g/plot-27/edit", headers={"Origin": site}, form={
            "path": f"plots/{bed}/watered", "typed": "can", "station": "grow"})
    page.goto(f"{site}/g/plot-27/garden")
    page.wait_for_function("() => navigator.serviceWorker.controller?.state === 'activated'")
    watched.axe()
    done = page.get_by_role("button", name="Done: Water")
    expect(done).to_have_count(2)
    done.first.press("Enter")
    expect(done).to_have_count(1)
    page.reload()
    ready(page)
    page.context.set_offline(True)
    done.click()
    expect(page.get_by_text("Waits on this device.")).to_be_visible()
    page.reload()
    expect(page.locator("[data-told-date]")).to_have_text("15\u00a0July")
    expect(page.get_by_text("The app does not answer now")).to_be_visible()
    expect(page.locator(".waiting li")).to_have_count(1)
    with page.expect_event("requestfailed", lambda request: "/garden/day?" in request.url):
        page.locator("#day").press("ArrowRight")
    page.context.set_offline(False)
    expect(page.locator(".waiting li")).to_have_count(0)
    watched.faults.clear()  # what failed did so because the network was off
    page.goto(f"{site}/g/plot-27/garden")
    expect(page.get_by_role("button", name="Done: Water")).to_have_count(0)
    log = Log(gardens.database).of("plot-27")
    assert sorted(e.about for e in log if e.kind == "water") == ["bed-1", "bed-2"]
    assert {e.day for e in log if e.kind == "water"} == {day}


def test_a_neighbour_does_what_is_asked_on_a_phone_by_key_alone(site, watched, monkeypatch):
    stand_still(monkeypatch)
    page = watched.page
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"{site}/g/kiln-yard/garden")
    page.get_by_role("link", name="While you are away").press("Enter")
    page.wait_for_url("**/neighbour")
    watched.axe()
    page.get_by_label(re.compile("^Dip “Barrels”")).fill("x")
    page.get_by_role("button", name="Log it: Dip “Barrels”").press("Enter")
    watched.refusals_expected = True
    expect(page.locator(".err")).to_contain_text("“x” is not a number")
    page.get_by_label(re.compile("^Dip “Barrels”")).fill("40 cm")
    page.get_by_role("button", name="Log it: Dip “Barrels”").press("Enter")
    expect(page.get_by_role("button", name="Log it: Dip “Barrels”")).to_have_count(0)
    expect(page.locator("tr.now li.done")).to_contain_text("Dip “Barrels”")
    watched.axe()
    page.set_viewport_size({"width": 1280, "height": 800})
    watched.axe()
