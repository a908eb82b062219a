"""What is wrong as a person finds it: from the garden's page to the cure in the log; practised."""

import re

from playwright.sync_api import expect

from crowd import COUNT, MOST  # isort: skip


def fits(page):
    """Whether what stands on the first screen is no more than a person takes in."""
    return all(n <= most for n, most in zip(page.evaluate(COUNT), MOST, strict=True))


def test_a_fault_is_found_from_the_gardens_page_cured_and_logged(site, watched):
    page = watched.page
    page.goto(f"{site}/g/balcony/garden")
    page.get_by_role("link", name="What is wrong").click()
    page.wait_for_url("**/keep?view=trouble*")
    assert fits(page)
    page.get_by_role("link", name="Everything gets too little").click()
    likely = page.locator(".likely li").first
    expect(likely).to_be_visible()
    assert fits(page)
    watched.axe()
    page.locator("#other-readings summary").click()
    page.get_by_role("link", name="Take the filter's mesh out").click()
    page.get_by_role("button", name="clogged").click()
    expect(likely).to_contain_text("The filter is blocked")
    page.locator("#other-readings summary").click()
    page.get_by_role("link", name=re.compile("Turn each valve by hand")).click()
    page.get_by_role("button", name="all open, all move").click()
    expect(page.locator(".was-read li")).to_have_count(2)
    watched.axe()
    expect(page.locator(".cure")).to_contain_text("rinse it from its clean side")
    page.get_by_role("button", name="Log it").click()
    page.get_by_role("link", name="The log", exact=True).click()
    expect(page.locator("main")).to_contain_text("is blocked. Shut the water")


def test_a_number_that_cannot_be_is_said_and_the_rest_stays(site, watched):
    page = watched.page
    page.goto(f"{site}/g/kiln-yard/keep?view=trouble&see=zone-bed-1~far-weak&key=jug-last")
    page.get_by_label(re.compile("Hold a jug")).fill("a lot")
    page.get_by_role("button", name="Take it").click()
    expect(page.locator("#typed-err")).to_contain_text("“a lot”")
    page.get_by_label(re.compile("Hold a jug")).fill("12 mL")
    page.keyboard.press("Enter")
    expect(page.locator(".was-read b")).to_have_text("12 mL")
    page.get_by_role("link", name=re.compile("^Take out")).click()
    expect(page.locator(".was-read")).to_have_count(0)


def test_a_made_up_fault_is_practised_on_a_phone(site, watched):
    page = watched.page
    page.goto(f"{site}/g/plot-27/keep?view=trouble")
    page.get_by_role("link", name=re.compile("^Practise")).click()
    expect(page.locator("#practice-head")).to_be_visible()
    assert fits(page)
    page.set_viewport_size({"width": 390, "height": 844})
    page.locator(".signs a").first.click()
    expect(page.locator(".was-read li")).to_have_count(1)
    watched.axe()
    page.get_by_label("What is it?").select_option(index=2)
    page.get_by_role("button", name="That is it").click()
    expect(page.locator(".cure")).to_contain_text("the tool takes")
    page.get_by_role("link", name="Another fault").click()
    expect(page.locator("#practice-head")).to_be_visible()
    expect(page.locator(".cure")).to_have_count(0)
