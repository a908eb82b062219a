"""Keep on a phone: the five entries, and advice that changes the timer."""

import datetime as dt

from PIL import Image
from playwright.sync_api import expect

KEEP = "/g/plot-27/keep"


def log(page, button, **filled):
    page.get_by_role("link", name=button, exact=True).click()
    for label, text in filled.items():
        if label == "word":
            page.locator("#entry .words label", has_text=text).click()
        elif label == "day":
            page.get_by_label("Day").fill(text)
        else:
            page.locator("#log-typed").fill(text)
    page.get_by_role("button", name="Log it").click()
    page.wait_for_url("**/keep?view=log&asked=put:*")


def test_the_five_entries_on_a_phone_and_advice_that_changes_the_timer(site, watched):
    page = watched.page
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(site + KEEP)
    watched.axe()
    for link in page.locator(".five a").all():
        assert link.bounding_box()["height"] >= 60
    log(page, "Tank dip", typed="45 cm")
    log(page, "Jug or meter", typed="30 L/h")
    log(page, "Rain", typed="4 mm")
    log(page, "Leaf signs", word="well")
    for ago in (6, 3):
        log(page, "Soil feel", word="muddy",
            day=(dt.date.today() - dt.timedelta(days=ago)).isoformat())
    expect(page.locator("table.log tbody tr")).to_have_count(6)
    with page.expect_navigation():
        page.get_by_role("button", name="runs longer by").click()
    expect(page.locator("table.log tbody tr").first).to_contain_text("Timer changed")
    page.get_by_role("link", name="Soil feel", exact=True).click()
    watched.axe()
    page.goto(f"{site}/g/plot-27/time?view=zones")
    page.locator("#measures summary").click()
    expect(page.locator("#l-zones-zone-bed-1-longer")).to_have_value("−10 %")


def test_a_bad_dip_is_said_beside_it_and_put_right(site, watched):
    page = watched.page
    watched.refusals_expected = True
    page.goto(f"{site}/g/kiln-yard/keep?asked=dip")
    page.locator("#log-typed").fill("half")
    page.get_by_role("button", name="Log it").click()
    expect(page.locator("#log-err")).to_contain_text("“half”")
    expect(page.locator("#log-typed")).to_have_value("half")
    watched.axe()
    page.locator("#log-typed").fill("40 cm")
    page.get_by_role("button", name="Log it").click()
    expect(page.locator("table.log")).to_contain_text("40")
    page.get_by_role("link", name="Change: Tank dip").click()
    page.locator("#log-typed").fill("55 cm")
    page.get_by_role("button", name="Change it").click()
    expect(page.locator("table.log")).to_contain_text("55")
    page.get_by_role("button", name="Undo: Changed.").click()
    expect(page.locator("table.log")).to_contain_text("40")
    page.get_by_role("link", name="Change: Tank dip").click()
    page.get_by_role("button", name="Take it out").click()
    page.get_by_role("button", name="Put it back").click()
    expect(page.locator("table.log tbody tr")).to_have_count(1)


def test_a_label_s_page_takes_a_photo_and_a_soil_feel_on_a_phone(site, watched, tmp_path):
    page = watched.page
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"{site}/g/kiln-yard/keep?view=one&asked=about:bed-3")
    expect(page.locator("h2.one")).to_have_text("Bed 3")
    page.get_by_role("link", name="Soil feel").click()
    watched.settled()
    expect(page.get_by_label("About")).to_have_value("bed-3")
    page.locator("#entry .words label", has_text="right").click()
    page.get_by_role("button", name="Log it").click()
    page.wait_for_url("**/keep?view=log&asked=put:*")
    shot = tmp_path / "bed.png"
    Image.new("RGB", (640, 480), "#557733").save(shot)
    page.goto(f"{site}/g/kiln-yard/keep?view=log&asked=photo:bed-3")
    page.get_by_label("Picture").set_input_files(shot)
    page.get_by_role("button", name="Log it").click()
    page.wait_for_url("**/keep?view=log&asked=put:*")
    picture = page.locator("table.log img")
    expect(picture).to_have_count(1)
    picture.scroll_into_view_if_needed()
    page.wait_for_function("() => document.querySelector('table.log img').naturalWidth === 640")
    watched.axe()


def test_a_season_is_drawn_compared_and_begins_the_next_year(site, watched):
    page = watched.page
    page.goto(f"{site}/g/plot-27/keep?asked=lesson")
    page.get_by_label("What the next year should know").fill("Mulch before May")
    page.get_by_role("button", name="Log it").click()
    page.wait_for_url("**/keep?view=log&asked=put:*")
    page.goto(f"{site}/g/plot-27/keep?view=season")
    watched.axe()
    page.get_by_role("link", name="The year", exact=True).click()
    watched.settled()
    expect(page.get_by_text("Mulch before May")).to_be_visible()
    watched.axe()
    page.get_by_role("button", name="Begin the garden of").click()
    expect(page.locator(".garden-name")).to_have_text(f"Plot 27 {dt.date.today().year + 1}")
    expect(page.locator("table.log")).to_contain_text("Mulch before May")


def test_entries_made_without_a_network_arrive_once_and_a_bad_one_says_why(site, browser, watched):
    page, kept = watched.page, "/g/balcony/keep"
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(site + kept)
    # Activated: all that it keeps is kept by then.
    page.wait_for_function("() => navigator.serviceWorker.controller?.state === 'activated'")
    page.context.set_offline(True)
    for typed in ("7 mm", "a lot"):
        page.get_by_role("link", name="Rain", exact=True).click()
        page.locator("#log-typed").fill(typed)
        page.get_by_role("button", name="Log it").click()
        expect(page.locator("#entry")).to_have_count(0)
    page.get_by_role("link", name="Soil feel", exact=True).click()
    page.locator("#entry .words label", has_text="right").click()
    page.get_by_role("button", name="Log it").click()
    expect(page.get_by_text("3 entries wait on this device")).to_be_visible()
    page.reload()
    expect(page.locator(".waiting li")).to_have_count(3)
    watched.faults.clear()  # what failed did so because the network was off
    watched.refusals_expected = True
    page.context.set_offline(False)
    expect(page.locator("table.log tbody tr")).to_have_count(2)
    expect(page.get_by_text("1 entry waits on this device")).to_be_visible()
    expect(page.locator(".waiting li")).to_contain_text("“a lot”")
    watched.axe()
    page.reload()
    expect(page.locator("table.log tbody tr")).to_have_count(2)
    page.get_by_role("button", name="Take out: ").first.click()
    expect(page.locator(".waiting")).to_be_hidden()
    other = browser.new_page()
    other.goto(site + kept)
    expect(other.locator("table.log tbody tr")).to_have_count(2)
    other.close()
