"""Less to do and nothing that jumps: focus, scroll and what is said outlive every answer."""

import pytest
from playwright.sync_api import expect

from standing import thing

WORDS = (
    "hose", "barrel", "pump", "leak", "mulch", "timer", "holiday", "price", "print", "label",
    "winter", "filter", "tomato", "pot", "level", "slope", "roof", "gutter", "overflow", "undo",
    "delete", "copy", "units", "gallons", "help")
FOCUS = """(() => { const e = document.activeElement;
    return e.id || e.getAttribute("aria-label") || e.textContent.trim(); })()"""


def focus(page):
    return page.evaluate(FOCUS)


def undo(page):
    return page.locator("form[action*='/undo'] button")


def test_focus_and_scroll_outlive_every_answer(site, watched):
    page, told = watched.page, watched.page.locator("#told")
    page.goto(f"{site}/g/kiln-yard/push")
    page.evaluate("window.stayed = true")
    page.get_by_role("link", name="Try: Use a ball-valve timer").click()
    watched.settled()
    assert focus(page) == "Keep"
    watched.press("Enter")
    watched.settled()
    expect(page.locator(".trying")).to_have_count(0)
    assert focus(page) == page.locator("h1").inner_text()
    expect(told).to_contain_text("reaches every outlet")
    undo(page).focus()
    watched.press("Enter")
    watched.settled()
    assert focus(page).startswith(("Undo", "Redo"))
    expect(told).to_contain_text("will not open")
    units = page.get_by_role("button", name="change units")
    for system in ("gallons and feet", "litres and metres"):
        units.focus()
        watched.press("Enter")
        watched.settled()
        expect(told).to_contain_text(system)
        assert "change units" in focus(page)
    tab = page.get_by_role("link", name="Every outlet")
    tab.focus()
    watched.press("Enter")
    watched.settled()
    assert focus(page) == "Every outlet"
    page.go_back()
    expect(page.get_by_role("link", name="Section")).to_have_attribute("aria-current", "page")
    page.go_forward()
    expect(tab).to_have_attribute("aria-current", "page")
    watched.press("7")
    expect(page.locator("h1")).to_contain_text("zones run")
    page.get_by_label("Month", exact=True).focus()
    page.get_by_label("Month", exact=True).select_option(label="Jul")
    watched.settled()
    expect(page.locator("h1")).to_contain_text("In July")
    assert focus(page) == "pick-1"
    assert page.title().startswith("Time")
    watched.unfold(page.locator("#f-longer")).fill("10 %")
    watched.unfold(page.locator("#f-rain_hold_mm")).click()
    watched.settled()
    assert focus(page) == "f-rain_hold_mm"
    assert page.evaluate("window.stayed"), "it was one page all the while"


def test_a_pick_leaves_the_plan_where_it_was(site, held):
    page = held.page
    page.goto(f"{site}/g/kiln-yard/lay")
    page.locator("[data-zoom-to=nearer]").tap()
    inner = page.locator("[data-zoom] .zoomable")
    stood = inner.get_attribute("transform")
    assert "scale(1.5" in stood
    bed = thing(page, "plots/bed-3")
    box = bed.bounding_box()
    before = page.evaluate("[scrollX, scrollY]")
    page.touchscreen.tap(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    held.settled()
    expect(page.locator(".deeds-on")).to_have_text("Bed 3")
    assert inner.get_attribute("transform") == stood
    assert page.evaluate("[scrollX, scrollY]") == before
    assert focus(page).startswith("Bed 3")


def test_a_log_form_opens_at_its_field_and_says_that_it_is_kept(site, held):
    page = held.page
    page.goto(f"{site}/g/balcony/keep?view=log")
    page.get_by_role("link", name="Rain", exact=True).tap()
    held.settled()
    assert focus(page) == "log-typed"
    expect(page.get_by_role("button", name="Log it")).to_be_in_viewport()
    page.keyboard.type("7 mm")
    held.press("Enter")
    expect(page.get_by_role("status").filter(has_text="Logged.")).to_be_focused()
    held.press("Tab")
    assert focus(page) == "Undo: Logged."
    held.press("Enter")
    expect(page.get_by_role("status").filter(has_text="Taken out")).to_be_focused()
    page.goto(f"{site}/g/balcony/keep?view=log&asked=rain")
    expect(page.locator("#log-typed")).to_be_focused()
    expect(page.get_by_role("button", name="Log it")).to_be_in_viewport()


def test_a_finger_beside_a_small_thing_means_it(site, held):
    page = held.page
    page.goto(f"{site}/g/plot-27/push")
    expect(page.locator("[data-water][data-started]")).to_be_attached()
    knob = page.locator("[data-water] .d-handle")
    knob.evaluate("(e) => e.scrollIntoView({block: 'center'})")
    box = knob.bounding_box()
    assert box["width"] < 30
    level = page.locator("[data-water]").get_attribute("aria-valuenow")
    x, y = box["x"] + box["width"] / 2 - 18, box["y"] + box["height"] / 2
    cdp = page.context.new_cdp_session(page)
    for kind, dy in (("touchStart", 0), *(("touchMove", 5 * i) for i in range(1, 9))):
        cdp.send("Input.dispatchTouchEvent",
                 {"type": kind, "touchPoints": [{"x": x, "y": y + dy}]})
    cdp.send("Input.dispatchTouchEvent", {"type": "touchEnd", "touchPoints": []})
    expect(page.locator("[data-water]")).not_to_have_attribute("aria-valuenow", level)


def test_what_runs_by_itself_ends_with_the_answer_that_it_was_made_for(site, watched):
    page = watched.page
    page.goto(f"{site}/g/plot-27/time?view=watch")
    page.get_by_role("button", name="Run at speed").click()
    page.get_by_role("button", name="Stop", exact=True).wait_for()
    page.locator("#f-rain_hold_mm").fill("5 mm")
    watched.press("Enter")
    watched.settled()
    page.wait_for_load_state("networkidle")  # what was asked last has come
    expect(page.get_by_role("button", name="Run at speed")).to_be_visible()
    clock = []
    page.on("request", lambda r: clock.append(r.url) if r.url.endswith("/clock") else None)
    page.wait_for_timeout(1200)  # it would ask three times
    assert clock == []
    page.goto(f"{site}/g/plot-27/push#%")
    watched.press("/")
    expect(page.get_by_label("Go to anything")).to_be_focused()


def test_what_is_pressed_before_the_box_knows_its_places_is_done_once_it_does(site, watched):
    page, held = watched.page, []
    page.route("**/places.json", lambda route: held.append(route))
    page.goto(f"{site}/g/plot-27/push")
    watched.press("/")
    page.keyboard.type("holiday")
    watched.press("ArrowDown")
    watched.press("Enter")
    while not held:
        page.wait_for_timeout(20)
    held[0].continue_()
    expect(page.get_by_text("First to fail")).to_be_visible()


def test_the_box_answers_by_any_word_and_with_arrows(site, watched):
    page = watched.page
    page.goto(f"{site}/g/kiln-yard/store")
    with page.expect_response("**/places.json"):
        watched.press("/")
    box, found = page.get_by_label("Go to anything"), page.locator("#goto-found [role=option]")
    expect(found.filter(has_text="station").first).to_be_visible()
    silent = []
    for word in WORDS:
        box.fill(word)
        page.wait_for_function("""word => {
            const first = document.querySelector("#goto-found [role=option] span");
            const none = document.querySelector("dialog.goto .say").textContent;
            return first || none.includes(word); }""", arg=word)
        if not found.count():
            silent.append(word)
    assert len(silent) <= 1, silent
    watched.axe()
    box.fill("xylophone")
    expect(page.locator("dialog.goto .say")).to_contain_text("Nothing here answers to")
    box.fill("stand height")
    watched.press("ArrowDown")
    watched.press("ArrowUp")
    expect(found.first).to_have_attribute("aria-selected", "true")
    watched.press("Enter")
    expect(page.locator("#l-stores-barrels-stand_m")).to_be_focused()
    watched.press("Escape")
    page.locator("h1").click()
    watched.press("/")
    box.fill("holiday")
    watched.press("ArrowDown")
    watched.press("Enter")
    expect(page).to_have_url(f"{site}/g/kiln-yard/prove?view=away")


# What was typed or answered is on the screen, however slow that is.
DRAWN_TWICE = "() => new Promise((is) => requestAnimationFrame(() => requestAnimationFrame(is)))"


@pytest.mark.parametrize("station", ["place", "build", "keep"])
def test_l_lists_the_measures_and_sifts_them(site, watched, station):
    page = watched.page
    page.goto(f"{site}/g/kiln-yard/{station}")
    watched.press("l")
    expect(page.locator("[data-sift]")).to_be_focused()
    label = page.locator("[data-measure]").last.get_attribute("data-measure")
    page.keyboard.type(label)
    page.evaluate(DRAWN_TWICE)
    shown = page.locator("[data-measure]:visible")
    left = shown.count()
    assert 0 < left < page.locator("[data-measure]").count()
    page.locator("form[action*='/units'] button").click()
    watched.settled()
    page.evaluate(DRAWN_TWICE)
    assert (shown.count(), page.locator("[data-sift]").input_value()) == (left, label)
    page.locator("[data-sift]").fill("xylophone")
    expect(page.get_by_text("No measure of this station")).to_be_visible()
    watched.axe()


def tabs_to(page, done, most):
    for n in range(1, most + 1):
        page.keyboard.press("Tab")
        if page.evaluate(done):
            return n
        if focus(page) == "Skip to the main part":
            page.keyboard.press("Enter")
    return None


def test_first_remedy_and_a_dip_are_few_tabs_away(site, watched):
    page = watched.page
    page.goto(f"{site}/g/kiln-yard/push")
    assert tabs_to(page, "document.activeElement.matches('.remedy button')", 8)
    page.goto(f"{site}/g/kiln-yard/keep")
    assert tabs_to(page, "document.activeElement.matches('.five a')", 12)
    watched.press("Enter")
    watched.settled()
    assert focus(page) == "log-typed"
