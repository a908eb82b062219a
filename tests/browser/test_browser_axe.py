"""Every view and page by axe, at the bench and on a phone."""

import pytest
from playwright.sync_api import expect

from euhydra.core.assessment.assess import STATIONS
from euhydra.web.panes import VIEWS

BENCH, PHONE = {"width": 1280, "height": 800}, {"width": 390, "height": 844}
SEEN_BY_SIZE = ("target-size", "scrollable-region-focusable")


@pytest.mark.parametrize("station", STATIONS)
def test_every_view_stands_by_axe_at_bench_and_phone(site, watched, station):
    page = watched.page
    for view in VIEWS[station]:
        page.set_viewport_size(BENCH)
        page.goto(f"{site}/g/kiln-yard/{station}?view={view.key}")
        for chart in page.locator("[data-chart] .plot").all():
            expect(chart.locator("svg").last).to_be_visible()
        page.locator("details[data-figure]").first.evaluate("d => d.open = true")
        for size, rules in ((BENCH, None), (PHONE, SEEN_BY_SIZE)):
            page.set_viewport_size(size)
            watched.axe(rules)
            wide = page.evaluate("document.documentElement.scrollWidth")
            assert wide <= size["width"], f"{station} {view.key} is {wide} px wide"


def test_other_pages_by_axe_and_in_dusk(site, watched):
    page = watched.page
    for path in ("/", "/first-pour", "/safe", "/g/kiln-yard/push"):
        for size in (BENCH, PHONE):
            page.set_viewport_size(size)
            page.goto(site + path)
            watched.axe()
            assert page.evaluate("document.documentElement.scrollWidth") <= size["width"]
    page.set_viewport_size(BENCH)
    page.keyboard.press("/")
    page.get_by_role("button", name="Day or dusk colours").click()
    assert page.evaluate("document.documentElement.dataset.theme") == "dusk"
    page.reload()
    watched.axe()
    page.goto(f"{site}/first-pour")
    watched.axe()
