"""What would help most as a person uses it: asked for, waited for, a point opened, kept, undone."""

import re

import pytest
from playwright.sync_api import expect

from euhydra.core.assessment import assess


@pytest.fixture(autouse=True)
def few(monkeypatch):
    """Fewer gardens than a person would have weighed."""
    monkeypatch.setattr(assess, "BUDGET", 60)


def look_for(page, site, goal, garden="balcony"):
    page.goto(f"{site}/g/{garden}/garden")
    page.get_by_role("link", name="What would help most").click()
    page.get_by_label("You want").select_option(label=goal)
    page.get_by_role("button", name="Look for what helps").click()
    expect(page.locator(".helped")).to_be_visible()


def test_a_set_is_found_tried_on_the_plan_kept_and_undone(site, watched):
    page = watched.page
    look_for(page, site, "Nothing thirsty in nine years of ten")
    expect(page.locator(".helped h2")).to_contain_text(re.compile("change"))
    thirsty = page.locator(".helped .sums tbody tr").first
    was, then = (float(re.sub(r"[^\d.]", "", cell)) for cell in
                 thirsty.locator("td").all_inner_texts())
    assert then < was
    page.locator(".moves.in-order summary").first.click()
    expect(page.locator(".moves.in-order .gain").first).to_contain_text("of thirst")
    watched.axe()
    page.get_by_role("link", name="on the plan").click()
    expect(page.locator(".trying")).to_contain_text("Nothing is kept yet")
    page.get_by_role("button", name="Keep").click()
    expect(page.locator(".trying")).to_have_count(0)
    undo = page.get_by_role("button", name=re.compile("^Undo: "))
    expect(undo).to_be_visible()
    undo.click()
    expect(page.get_by_role("button", name=re.compile("^Redo"))).to_be_visible()


def test_a_point_of_the_front_is_opened_by_key_and_copied_beside_the_garden(site, watched):
    page = watched.page
    look_for(page, site, "Least tap water")
    points = page.locator("a:has(.d-point)")
    expect(points.first).to_be_visible()
    points.last.focus()
    watched.press("Enter")
    expect(page.locator(".helped h2")).to_contain_text("of the front")
    expect(page.locator("a[aria-current=true]:has(.d-point)")).to_have_count(1)
    watched.axe()
    page.get_by_role("button", name="As a copy").click()
    page.wait_for_url(re.compile(r"helped[^/]*/garden\?other=balcony"))
    expect(page.locator("[data-picture]")).to_have_count(2)


def test_refusals_and_limits_are_asked_of_and_said_beside(site, held):
    page = held.page
    page.goto(f"{site}/g/plot-27/prove?view=helps")
    page.locator("#wont > summary").click()
    page.get_by_label("no mains water").check()
    page.get_by_label("to buy for, at most").fill("a little")
    page.get_by_role("button", name="Look for what helps").click()
    expect(page.locator("#wish-most-err")).to_contain_text("“a little”")
    expect(page.get_by_label("to buy for, at most")).to_have_value("a little")
    expect(page.get_by_label("no mains water")).to_be_checked()
    held.axe()
    page.get_by_label("to buy for, at most").fill("60")
    page.get_by_role("button", name="Look for what helps").click()
    expect(page.locator(".helped")).to_be_visible()
    expect(page.locator(".helped")).not_to_contain_text("Top up from a tap")
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth")


def test_weighing_is_stopped_and_run_on(site, watched, monkeypatch):
    page = watched.page
    monkeypatch.setattr(assess, "BUDGET", 400)
    page.goto(f"{site}/g/kiln-yard/prove?view=helps&goal=sure-9&no=power")
    page.get_by_role("button", name="Stop").click()
    expect(page.get_by_text("Stopped. Nothing was changed.")).to_be_visible()
    expect(page.get_by_role("button", name="Run on")).to_be_focused()
    monkeypatch.setattr(assess, "BUDGET", 30)
    watched.press("Enter")
    expect(page.locator(".helped")).to_be_visible()


def test_what_is_kept_where_it_was_found_waits_to_be_asked_again(site, watched):
    page = watched.page
    look_for(page, site, "Nothing thirsty in eight years of ten")
    page.get_by_role("button", name="Keep as one change").click()
    expect(page.get_by_role("button", name=re.compile("^Undo: "))).to_be_visible()
    expect(page.locator("#goal")).to_be_visible()
    expect(page.locator("[data-work], .helped")).to_have_count(0)
