"""Build as a person uses it: parts ticked off, and the steps on a phone without a network."""

import io

import pypdf
from playwright.sync_api import expect

STEPS = "/g/plot-27/build?view=steps"


def test_parts_are_ticked_off_and_priced(site, watched):
    page = watched.page
    page.goto(f"{site}/g/balcony/build")
    before = page.locator(".verdict").inner_text()
    watched.unfold(page.locator(".tick").nth(1)).check()
    expect(page.locator(".verdict")).not_to_have_text(before)
    expect(page.locator(".tick").nth(1)).to_be_checked()
    price = watched.unfold(page.locator("[aria-label^='Backflow'][aria-label$='price of one']"))
    price.fill("99")
    price.press("Enter")
    expect(page.get_by_text("yours").first).to_be_visible()
    watched.axe()
    with page.expect_download() as saved:
        page.get_by_role("link", name="Page for the shop").click()
    # Two of them: a backflow preventer behind each of the two timers.
    assert "198.00" in saved.value.path().read_text()


def test_steps_are_ticked_without_a_network_and_arrive_once_there_is_one(site, browser, watched):
    page = watched.page
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(site + STEPS)
    # Activated: all that it keeps is kept by then.
    page.wait_for_function("() => navigator.serviceWorker.controller?.state === 'activated'")
    page.reload()
    first, second = page.locator("[data-step]").nth(0), page.locator("[data-step]").nth(1)
    first.check()
    expect(page.get_by_text("Kept.", exact=True)).to_be_visible()
    page.context.set_offline(True)
    second.check()
    expect(page.get_by_text("No network: 1 kept on this device")).to_be_visible()
    page.reload()
    expect(first).to_be_checked()
    expect(second).to_be_checked()
    first.uncheck()
    expect(page.get_by_text("No network: 2 kept on this device")).to_be_visible()
    watched.faults.clear()  # what failed did so because the network was off
    page.context.set_offline(False)
    expect(page.get_by_text("Kept.", exact=True)).to_be_visible()
    other = browser.new_page()
    other.goto(site + STEPS)
    expect(other.locator("[data-step]").nth(0)).not_to_be_checked()
    expect(other.locator("[data-step]").nth(1)).to_be_checked()
    other.close()


def test_the_whole_garden_is_saved_as_a_pdf_and_the_steps_print(site, watched):
    page = watched.page
    page.goto(f"{site}/g/balcony/build?view=paper")
    watched.axe()
    with page.expect_download() as saved:
        page.get_by_role("link", name="The whole garden as a PDF").click()
    pages = [sheet.extract_text() for sheet in pypdf.PdfReader(saved.value.path()).pages]
    assert "Ground plan" in pages[0]
    assert any("Walk the ground with the plan" in text for text in pages)
    page.goto(f"{site}/g/balcony/build?view=steps")
    printed = pypdf.PdfReader(io.BytesIO(page.pdf(format="A4")))
    text = " ".join(sheet.extract_text() for sheet in printed.pages)
    titles = page.locator(".steps label b, .steps .at-places b").all_text_contents()
    assert "Head assemblies, in order" in titles
    for title in titles:
        assert " ".join(title.split()) in " ".join(text.split())


def test_three_more_pots_are_looked_at_and_added(site, watched):
    page = watched.page
    page.goto(f"{site}/g/plot-27/build?view=more")
    expect(page.get_by_text("To add to what is on the list")).to_be_visible()
    page.get_by_label("How many").select_option(label="5")
    watched.settled()
    watched.axe()
    was = page.locator(".run a", has_text="Lay").inner_text()
    page.get_by_role("button", name="Add them to the garden").click()
    page.wait_for_url("**/build?view=parts*")
    expect(page.locator(".run a", has_text="Lay")).not_to_have_text(was)
