"""True touches, as a finger makes them: the browser decides whether they drag, scroll or pan."""

import re

import pytest
from PIL import Image
from playwright.sync_api import Page, expect

from standing import box_of, thing

STEPS = 12


class Finger:
    """One finger on a page, by the browser's own touch events."""

    def __init__(self, page: Page) -> None:
        self.page, self.cdp = page, page.context.new_cdp_session(page)

    def drag(self, x, y, to_x, to_y):
        self._touch("touchStart", x, y)
        for i in range(1, STEPS + 1):
            self._touch("touchMove", x + (to_x - x) * i / STEPS, y + (to_y - y) * i / STEPS)
        self.cdp.send("Input.dispatchTouchEvent", {"type": "touchEnd", "touchPoints": []})

    def _touch(self, kind, x, y):
        self.cdp.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": [{"x": x, "y": y}]})

    def from_middle(self, which, dx, dy):
        """Drag a thing on the page by its middle."""
        x, y = self.middle(which)
        self.drag(x, y, x + dx, y + dy)

    def middle(self, which):
        place = self.page.locator(which).first
        place.scroll_into_view_if_needed()
        box = place.bounding_box()
        return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2


def undo(page):
    return page.locator("form[action*='/undo'] button")


def test_a_finger_moves_everything_that_a_mouse_does(held, site):
    page, finger = held.page, Finger(held.page)

    page.goto(f"{site}/g/plot-27/catch")
    finger.from_middle("[data-drag][data-axis='x']", 40, 0)
    expect(undo(page)).to_have_attribute("aria-label", re.compile("roof (length|width)"))

    page.goto(f"{site}/g/plot-27/push")
    before = int(page.locator("[data-water]").get_attribute("aria-valuenow"))
    finger.from_middle("[data-water]", 0, 60)
    expect(page).to_have_url(re.compile("level="))
    assert int(page.locator("[data-water]").get_attribute("aria-valuenow")) < before

    page.goto(f"{site}/g/plot-27/prove?view=away")
    finger.from_middle("[data-away]", 60, 0)
    expect(page).to_have_url(re.compile(r"away=(2[0-9]|[3-6][0-9])"))

    page.goto(f"{site}/g/plot-27/lay?sel=plots/bed-1")
    finger.from_middle("[data-thing].picked", 40, 20)
    expect(undo(page)).to_have_attribute("aria-label", re.compile("Move Bed 1"))

    page.goto(f"{site}/g/plot-27/time?view=zones")
    first = page.locator("[data-zone-plot]").first.get_attribute("data-zone-plot")
    here, there = (finger.middle(f"[data-zone-plot='{plot}']")
                   for plot in (first, other_zone(page, first)))
    finger.drag(*here, *there)
    expect(undo(page)).to_have_attribute("aria-label", re.compile("together with"))
    undo(page).tap()
    expect(undo(page)).to_have_attribute("aria-label", re.compile("Move Bed 1"))


def other_zone(page, plot):
    """A plot that opens with others, drawn elsewhere."""
    return page.evaluate("""plot => {
      const all = [...document.querySelectorAll("[data-zone-plot]")];
      const top = (p) => p.getBoundingClientRect().top;
      const mine = all.find((p) => p.dataset.zonePlot === plot);
      return all.find((p) => Math.abs(top(p) - top(mine)) > 30).dataset.zonePlot;
    }""", plot)


def test_escape_puts_back_what_a_finger_holds_and_bare_paper_scrolls(held, site):
    page, finger = held.page, Finger(held.page)
    page.goto(f"{site}/g/kiln-yard/push")
    before = page.locator("[data-water]").get_attribute("aria-valuenow")
    x, y = finger.middle("[data-water]")
    finger._touch("touchStart", x, y)
    for down in range(0, 60, 10):
        finger._touch("touchMove", x, y + down)
    held.press("Escape")
    finger.cdp.send("Input.dispatchTouchEvent", {"type": "touchEnd", "touchPoints": []})
    expect(page).to_have_url(re.compile(f"level={before}"))
    expect(page.locator("[data-water]")).to_have_attribute("aria-valuenow", before)
    page.goto(f"{site}/g/kiln-yard/store")
    page.evaluate("window.scrollTo(0, 0)")
    x, y = finger.middle(".verdict")
    finger.drag(x, y, x, y - 120)
    page.wait_for_function("() => window.scrollY > 40")


def test_on_a_phone_a_tap_picks_and_the_page_still_scrolls(browser, site):
    context = browser.new_context(viewport={"width": 390, "height": 844}, has_touch=True)
    page = context.new_page()
    page.goto(f"{site}/g/kiln-yard/lay")
    bed = thing(page, "plots/bed-2")
    bed.scroll_into_view_if_needed()
    box = box_of(bed)
    page.touchscreen.tap(box["x"] + 14, box["y"] + 14)
    expect(page.locator(".deeds-on")).to_have_text("Bed 2")
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    context.close()


def test_a_picture_of_one_s_own_is_laid_scaled_and_moved(site, watched, tmp_path):
    page, aerial = watched.page, tmp_path / "aerial.png"
    Image.new("RGB", (800, 500), "#a9b08a").save(aerial)
    page.goto(f"{site}/g/balcony/lay?view=plan")
    watched.unfold(page.locator("#picture-file")).set_input_files(aerial)
    page.get_by_role("button", name="Lay it under the plan").click()
    laid = page.locator("[data-picture]")
    expect(laid).to_be_attached()
    watched.unfold(page.locator("#picture-true"))
    page.get_by_role("button", name="Measure", exact=True).click()
    plan = page.locator("[data-plan]").bounding_box()
    drag(page, (plan["x"] + 100, plan["y"] + 90), (200, 0))
    measured = page.locator("[data-measured]").inner_text()
    assert (metres := re.fullmatch(r", not ([\d.]+) m", measured))
    wide = page.locator("#f-sketch-wide_m")
    before = float(wide.input_value().split()[0])
    page.locator("#picture-true").fill("2 m")
    page.get_by_role("button", name="Scale it").click()
    watched.settled()
    assert float(wide.input_value().split()[0]) == pytest.approx(
        before * 2 / float(metres[1]), rel=0.01)
    watched.axe()
    lay = laid.get_attribute("transform")
    page.get_by_role("button", name="Picture", exact=True).click()
    drag(page, (plan["x"] + 100, plan["y"] + 90), (60, 30))
    expect(page.get_by_title("Undo: Move the picture")).to_be_visible()
    assert laid.get_attribute("transform") != lay
    page.get_by_title("Undo: Move the picture").click()
    watched.settled()
    assert laid.get_attribute("transform") == lay
    page.get_by_role("button", name="Take the picture away").click()
    expect(laid).to_have_count(0)


def drag(page, start, by):
    page.mouse.move(*start)
    page.mouse.down()
    page.mouse.move(start[0] + by[0], start[1] + by[1], steps=6)
    page.mouse.up()
