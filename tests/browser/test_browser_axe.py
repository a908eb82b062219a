"""Every view and page by axe, at the bench and on a phone."""

from itertools import pairwise

import pytest
from playwright.sync_api import expect

from euhydra.cli import demo_log
from euhydra.core.assessment.assess import STATIONS
from euhydra.store.log import Log
from euhydra.web.panes import VIEWS

from contrast import faint  # isort: skip
from crowd import COUNT, MOST  # isort: skip

BENCH, PHONE = {"width": 1280, "height": 800}, {"width": 390, "height": 844}
SEEN_BY_SIZE = ("target-size", "scrollable-region-focusable")
SAME_IN_ALL = ("#measures", ".run", "header", "dialog")  # of a station's views
HEADINGS = """[...document.querySelectorAll("main h1, main h2, main h3, main h4")]
    .filter((h) => h.checkVisibility() && !h.closest("details:not([open])"))
    .map((h) => Number(h.tagName[1]))"""
SMALLEST_IN_CHARTS = """Math.min(99, ...[...document.querySelectorAll(".plot text")].map((t) =>
    parseFloat(getComputedStyle(t).fontSize) * t.getScreenCTM().a))"""
CUT_OFF = """[...document.querySelectorAll(".scroller > svg.drawing, .plot svg")].filter((svg) =>
    svg.getBoundingClientRect().right > window.innerWidth + 1)
    .map((svg) => svg.getAttribute("aria-label"))"""
TICKS = ".plot [aria-label='x-axis tick label']"
TOUCHING = f"""[...document.querySelectorAll("{TICKS}")].flatMap((axis) => {{
    const at = [...axis.querySelectorAll("text")].map((t) => t.getBoundingClientRect());
    return at.filter((box, i) => i && box.left < at[i - 1].right + 2).map((box) => box.left);
}})"""
HIDDEN = """[...document.querySelectorAll("nav.run, nav.tabs")].flatMap((row) => {
    const on = row.querySelector("[aria-current]")?.getBoundingClientRect();
    const all = row.getBoundingClientRect();
    return on && (on.left < all.left - 1 || on.right > all.right + 1)
        && on.width < all.width && row.checkVisibility() ? [row.getAttribute("aria-label")] : [];
})"""
TALLEST_STEP = """Math.max(0, ...[...document.querySelectorAll(".steps ol > li")].map((step) =>
    step.getBoundingClientRect().height))"""
FIRST = """[".verdict", ".says .find", ".says .remedy"].map((which) =>
    document.querySelector(which)?.getBoundingClientRect().bottom ?? 0)"""


@pytest.fixture(scope="module", autouse=True)
def logged(gardens):
    """A garden in use shows more at once than one without a log."""
    Log(gardens.database).put("kiln-yard", demo_log("kiln-yard"))


ON_A_DAY = dict.fromkeys(STATIONS, "") | {"garden": "&day=07-14"}
VIEWS_OF = {"garden": ("",)} | {key: tuple(v.key for v in views) for key, views in VIEWS.items()}


@pytest.mark.parametrize("station", ["garden", *STATIONS])
def test_every_view_stands_by_axe_at_bench_and_phone(site, watched, station):
    page = watched.page
    for nth, view in enumerate(VIEWS_OF[station]):
        page.set_viewport_size(BENCH)
        page.goto(f"{site}/g/kiln-yard/{station}?view={view}{ON_A_DAY[station]}")
        drawn(page)
        held = page.evaluate(COUNT)
        assert all(n <= most for n, most in zip(held, MOST, strict=True)), (view, held)
        for theme in ("dusk", ""):
            page.evaluate("theme => document.documentElement.dataset.theme = theme", theme)
            assert faint(page) == [], (view, theme)
        page.set_viewport_size(PHONE)
        levels = page.evaluate(HEADINGS)
        assert levels[0] == 1, view
        assert all(b <= a + 1 for a, b in pairwise(levels)), (view, levels)
        in_the_hand(page, view)
        page.evaluate("document.querySelectorAll('#page details').forEach((d) => d.open = true)")
        assert page.evaluate(TALLEST_STEP) <= PHONE["height"], view
        for size, rules in ((PHONE, SEEN_BY_SIZE), (BENCH, None)):
            page.set_viewport_size(size)
            watched.axe(rules, SAME_IN_ALL if nth else ())
            wide = page.evaluate("document.documentElement.scrollWidth")
            assert wide <= size["width"], f"{station} {view} is {wide} px wide"


def drawn(page):
    for chart in page.locator("[data-chart] .plot").all():
        expect(chart.locator("svg").last).to_be_visible()


def in_the_hand(page, view):
    """A phone shows what is said before the drawing, all of that, in letters that can be read."""
    page.wait_for_function(f"() => ({SMALLEST_IN_CHARTS}) >= 12")
    assert page.evaluate(CUT_OFF) == [], view
    page.wait_for_function(f"() => ({HIDDEN}).length === 0")
    page.wait_for_function(f"() => ({TOUCHING}).length === 0")
    above = page.locator(".canvas").bounding_box()["y"] - page.locator("main").bounding_box()["y"]
    said = page.evaluate(FIRST)
    assert 0 < said[0] < 844, view
    assert max(said) < 844, (view, said)
    assert above > 0


def test_other_pages_by_axe_and_in_dusk(site, watched):
    page = watched.page
    for path in ("/", "/first-pour", "/safe", "/help", "/g/kiln-yard/push"):
        for size in (BENCH, PHONE):
            page.set_viewport_size(size)
            page.goto(site + path)
            watched.axe()
            assert page.evaluate("document.documentElement.scrollWidth") <= size["width"]
    page.set_viewport_size(BENCH)
    watched.press("/")
    page.get_by_label("Go to anything").fill("dusk")
    watched.press("Enter")
    page.wait_for_function("() => document.documentElement.dataset.theme === 'dusk'")
    page.reload()
    watched.axe()
    page.goto(f"{site}/first-pour")
    watched.axe()
