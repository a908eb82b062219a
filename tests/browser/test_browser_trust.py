"""Safekeeping, two browsers at once, and a phone that was away while the app was upgraded."""

from __future__ import annotations

import json
import re

from playwright.sync_api import expect

PHONE = {"width": 390, "height": 844}


def copy_of(page, site, garden):
    """The address of a fresh copy of a garden."""
    page.goto(f"{site}/")
    made = page.evaluate(f"fetch('/g/{garden}/copy', {{method: 'POST'}}).then((a) => a.url)")
    return made.split("/prove")[0]


def test_a_garden_is_copied_deleted_and_put_back(site, watched):
    page = watched.page
    address = copy_of(page, site, "balcony")
    name = "Ninth-floor balcony, another way"
    page.goto(f"{site}/safe")
    page.get_by_role("button", name="Make a copy now").click()
    expect(page.get_by_role("status")).to_contain_text("looked through and is sound")
    expect(page.locator("table.copies tbody tr")).to_have_count(1)
    page.get_by_text("Make a token").click()
    watched.axe()
    page.get_by_text(f"Forget or delete {name}").click()
    expect(page.locator("details.asked[open]")).to_contain_text("You can put it back for 30 days")
    page.get_by_role("button", name=f"Delete {name}").click()
    expect(page.locator("#gone")).to_be_visible()
    watched.axe()
    with page.expect_download() as saved:
        page.get_by_role("link", name="Save everything of Kiln Yard").click()
    assert saved.value.suggested_filename == "kiln-yard.zip"
    page.get_by_role("button", name=f"Put back {name}").click()
    expect(page.locator(".gardens").first).to_contain_text(name)
    page.goto(f"{address}/push")
    expect(page.locator(".garden-name")).to_have_text(name)


def test_everything_saved_in_one_browser_opens_in_another(site, watched, tmp_path):
    page = watched.page
    page.goto(f"{site}/safe")
    with page.expect_download() as saved:
        page.get_by_role("link", name="Save everything of Plot 27").click()
    path = tmp_path / "plot.zip"
    saved.value.save_as(path)
    page.goto(f"{site}/")
    page.locator("#file").set_input_files(path)
    page.get_by_role("button", name="Open").click()
    page.wait_for_url("**/g/plot-27-*/garden")
    expect(page.locator(".garden-name")).to_have_text("Plot 27")


def test_two_browsers_ask_before_one_undoes_or_overwrites_the_other(site, browser, watched):
    page = watched.page
    address = copy_of(page, site, "plot-27")
    other = browser.new_context(viewport=PHONE).new_page()
    for here in (page, other):
        here.goto(f"{address}/store")
    field = "#f-stores-small-stand_m" if page.locator("#f-stores-small-stand_m").count() else (
        page.locator("[id^=f-stores-][id$=stand_m]").first.evaluate("f => '#' + f.id"))
    other.locator(field).fill("0.61 m")
    with other.expect_response("**/edit*"):
        other.locator(field).press("Enter")
    watched.refusals_expected = True
    page.locator(field).fill("0.62 m")
    page.locator(field).press("Enter")
    expect(page.locator(".err").first).to_contain_text("was changed elsewhere meanwhile")
    expect(page.locator(field)).to_have_value("0.62 m")
    page.locator(field).press("Enter")
    expect(page.locator(".err")).to_have_count(0)
    other.reload()
    expect(other.locator(field)).to_have_value("0.62 m")
    other.get_by_role("button", name="Undo: ").click()
    expect(other.get_by_role("alert")).to_contain_text("was made in another browser")
    other.get_by_role("link", name="Leave it").click()
    expect(other.locator(field)).to_have_value("0.62 m")
    other.get_by_role("button", name="Undo: ").click()
    other.get_by_role("button", name="Undo “").click()
    expect(other.locator(field)).to_have_value("0.61 m")
    watched.axe()
    other.context.close()


def test_what_was_typed_away_stays_in_its_units_through_a_switch_and_an_upgrade(site, browser,
                                                                               watched):
    """A phone has Keep's page in litres; meanwhile units are switched and the worker changes."""
    page = watched.page
    address = copy_of(page, site, "kiln-yard")
    page.set_viewport_size(PHONE)
    page.goto(f"{address}/keep?view=log")
    page.wait_for_function("() => navigator.serviceWorker.controller?.state === 'activated'")
    page.context.set_offline(True)
    page.get_by_role("link", name="Rain", exact=True).click()
    page.locator("#log-typed").fill("12")
    page.get_by_role("button", name="Log it").click()
    expect(page.get_by_text("1 entry waits on this device")).to_be_visible()
    waits = json.loads(page.evaluate(
        "Object.entries(localStorage).find(([k]) => k.startsWith('euhydra log'))[1]"))
    assert waits[0]["units_typed"] == "metric"
    assert waits[0]["on"].isdecimal()
    desk = browser.new_context().new_page()
    desk.goto(f"{address}/keep?view=log")
    desk.get_by_role("button", name="L · m").click()
    expect(desk.locator(".top")).to_contain_text("gal · ft")
    watched.faults.clear()  # what failed did so because the network was off
    # The app was upgraded meanwhile: its worker is another one now.
    page.context.route("**/outdoors.js", lambda route: route.fulfill(
        body=re.sub(r"euhydra outdoors \d+", "euhydra outdoors upgraded", route.fetch().text()),
        content_type="text/javascript"))
    page.context.set_offline(False)
    expect(page.locator("table.log tbody tr")).to_have_count(1)
    page.reload()
    expect(page.locator("table.log tbody tr")).to_contain_text("0.5 in")
    page.evaluate("navigator.serviceWorker.getRegistration().then((r) => r.update())")
    page.wait_for_function(
        "() => caches.keys().then((k) => k.join() === 'euhydra outdoors upgraded')")
    page.reload()
    expect(page.locator("table.log tbody tr")).to_have_count(1)
    desk.reload()
    desk.get_by_role("link", name="Change: ").click()
    desk.get_by_role("button", name="Take it out").click()
    expect(desk.locator("table.log tbody tr")).to_have_count(0)
    page.evaluate("""entry => fetch(`${location.pathname.replace('/keep', '/log')}`, {
        method: 'POST', body: new URLSearchParams(entry)}).then((a) => a.status)""", waits[0])
    page.reload()
    expect(page.locator("table.log tbody tr")).to_have_count(0)
    desk.context.close()
