"""The ground plan as a person uses it: by mouse, by finger, by key; the figures follow."""

import re

import pytest
from playwright.sync_api import expect

from standing import box_of, middle_of, thing

PLAN = "/g/kiln-yard/lay"


@pytest.fixture
def plan(site, watched):
    watched.page.goto(f"{site}{PLAN}")
    expect(watched.page.locator("[data-plan][data-started]")).to_be_visible()
    return watched


def figure(page, key):
    return page.locator(f"[data-live-{key}]").inner_text()


def drag(page, start, by, *, let_go=True):
    page.mouse.move(*start)
    page.mouse.down()
    page.mouse.move(start[0] + by[0], start[1] + by[1], steps=6)
    if let_go:
        page.mouse.up()


def settled(page):
    expect(page.locator("#page:not([aria-busy])")).to_be_attached()


def corner_of(page, path, dx=6, dy=6):
    settled(page)
    box = box_of(thing(page, path))
    return box["x"] + min(dx, box["width"] / 2), box["y"] + min(dy, box["height"] / 2)


def touch(page, path):
    page.mouse.click(*corner_of(page, path, 60, 14))
    expect(thing(page, path)).to_have_attribute("aria-pressed", "true")


def undo(page):
    settled(page)
    with page.expect_navigation():
        page.locator("form[action*='/undo'] button").click()


def test_a_bed_from_drawing_to_pinned_row_and_all_undone(plan, site):
    page = plan.page
    start = {key: figure(page, key) for key in ("need", "line", "outlets")}
    changes = 0

    # draw it
    page.locator("#draws summary").click()
    page.locator("[data-draw=bed]").click()
    ground = box_of(thing(page, "buildings/east-wall"))
    drag(page, (ground["x"] - 180, ground["y"] + ground["height"] - 90), (80, 40))
    length = page.locator("[data-plan] .dims .field").first
    expect(length).to_be_focused()
    changes += 1
    bed = re.search(r"f-plots-(bed-\d+)-length_m", length.get_attribute("id"))[1]
    drawn = figure(page, "need")
    assert drawn != start["need"]

    # type its size
    page.keyboard.type("4 m")
    page.keyboard.press("Enter")
    expect(page.locator(f"#f-plots-{bed}-length_m")).to_have_value("4.00 m")
    page.locator(f"#f-plots-{bed}-width_m").fill("90 cm")
    page.keyboard.press("Tab")
    expect(page.locator(f"#f-plots-{bed}-width_m")).to_have_value("0.90 m")
    changes += 2
    assert figure(page, "need") != drawn
    expect(page.locator(f"[data-figure='rows_{bed}'] [data-value]")).to_have_text("2")

    # plant it
    page.goto(f"{site}/g/kiln-yard/grow?view=plantings")
    plan.unfold(page.locator(f"#f-plots-{bed}-plantings-p1-crop")).select_option("squash")
    expect(page.locator(f"[data-figure='need_{bed}'] .was")).to_be_visible()
    changes += 1

    # lay it three ways
    page.goto(f"{site}{PLAN}?view=layings&plot={bed}")
    expect(page.locator(".laying")).to_have_count(3)
    expect(page.locator(".laying.best")).to_have_count(1)
    plan.axe()
    rows = {}
    for words in ("Soaker hose", "Drippers at plants", "Dripline"):
        card = page.locator(".laying", has=page.get_by_role("heading", name=re.compile(words)))
        with page.expect_navigation():
            card.get_by_role("button", name="Lay it so").click()
        expect(card.get_by_text("As it is laid now")).to_be_visible()
        rows[words] = page.locator(f"[data-figure='rows_{bed}'] [data-value]").inner_text()
        changes += 1
    assert rows["Soaker hose"] == "3"
    assert rows["Dripline"] == "2"

    # move a row, pin it, lay anew: it stays
    page.goto(f"{site}{PLAN}?sel=plots/{bed}/rows/row1")
    expect(page.locator(".deeds-on")).to_contain_text("row 1 of")
    row = page.locator(f'[data-piece="plots/{bed}/rows/row1"]')
    across = page.locator(f"#f-plots-{bed}-rows-row1-across_m")
    expect(across).to_have_count(0)  # the program's own until it is moved
    row.scroll_into_view_if_needed()
    box = box_of(row)
    drag(page, (box["x"] + box["width"] * 0.3, box["y"] + box["height"] / 2), (0, -9))
    expect(across).to_be_visible()
    moved = across.input_value()
    assert moved != "0.23 m"
    changes += 1
    page.get_by_role("button", name="Pin", exact=True).click()
    expect(page.get_by_role("button", name="Unpin")).to_be_visible()
    changes += 1
    thing(page, f"plots/{bed}").press("Enter")
    expect(page.locator(".deeds-on")).not_to_contain_text("row")
    page.get_by_role("button", name="Lay it for me", exact=True).click()
    settled(page)
    expect(page.locator(".find", has_text="1 of them pinned")).to_be_visible()
    page.goto(f"{site}{PLAN}?sel=plots/{bed}/rows/row1")
    expect(across).to_have_value(moved)

    # undo to the start
    for _ in range(20):
        if thing(page, f"plots/{bed}").count() == 0:
            break
        undo(page)
        changes -= 1
    page.goto(f"{site}{PLAN}")
    assert changes <= 0
    assert {key: figure(page, key) for key in start} == start


def test_figures_and_lines_follow_a_dragged_bed_before_it_is_let_go(plan):
    page = plan.page
    before = figure(page, "line")
    header = page.locator('[data-line="bed-4-gate-pipe"], [data-piece^="line:bed-4"]').first
    course = header.locator("polyline").last.get_attribute("points")
    drag(page, corner_of(page, "plots/bed-4"), (90, 6), let_go=False)
    expect(page.locator("[data-live-line]")).not_to_have_text(before)
    assert page.locator('[data-piece^="line:bed-4"]').first.locator("polyline").last.get_attribute(
        "points") != course
    page.keyboard.press("Escape")
    page.mouse.up()
    expect(page.locator("[data-live-line]")).to_have_text(before)
    drag(page, corner_of(page, "plots/bed-4"), (90, 6))
    expect(page.locator(".deeds-on")).to_have_text("Bed 4")
    expect(page.locator("[data-figure=line_total] .was")).to_be_visible()
    expect(thing(page, "plots/bed-4")).to_be_focused()
    undo(page)
    expect(page.locator("[data-live-line]")).to_have_text(before)


def test_what_comes_after_a_drag_was_put_back_is_let_go_by(plan):
    page, held = plan.page, []
    before = figure(page, "line")
    page.route("**/plan/live?*", lambda route: held.append(route))
    with page.expect_request("**/plan/live?*"):
        drag(page, corner_of(page, "plots/bed-4"), (90, 6), let_go=False)
    page.keyboard.press("Escape")
    page.mouse.up()
    settled(page)
    expect(page.locator("[data-live-line]")).to_have_text(before)
    with page.expect_event("requestfinished", lambda sent: "/plan/live" in sent.url):
        held[0].continue_()
    page.evaluate("() => new Promise((on) => setTimeout(on))")
    assert page.locator("[data-live-line]").text_content().strip() == before.strip()
    assert len(held) == 1, "nothing more is asked for it"


def test_by_keyboard_alone(plan):
    page = plan.page
    bed = thing(page, "plots/bed-2")
    at = page.locator("#f-plots-bed-2-corner-x_m")
    bed.focus()
    page.keyboard.press("Enter")
    expect(at).to_have_value("11.00 m")
    for _ in range(3):
        page.keyboard.press("ArrowRight")
    expect(at).to_have_value("11.30 m")
    expect(bed).to_be_focused()
    page.keyboard.press("]")
    expect(page.locator("#f-plots-bed-2-turn_deg")).to_have_value("−15°")
    page.keyboard.press("d")
    expect(page.locator(".deeds-on")).to_have_text("Bed 2 copy")
    page.keyboard.press("Delete")
    expect(page.locator(".deeds-on")).to_contain_text("Nothing picked")
    row = page.locator('[data-piece="plots/bed-1/rows/row2"]')
    expect(row).to_have_attribute("tabindex", "-1")
    thing(page, "plots/bed-1").focus()
    page.keyboard.press("Enter")
    expect(row).to_have_attribute("tabindex", "0")
    row.focus()
    page.keyboard.press("ArrowUp")
    expect(page.locator("#f-plots-bed-1-rows-row2-across_m")).to_have_value("0.70 m")
    plan.axe()
    page.keyboard.press("Escape")
    expect(page.locator(".deeds-on")).to_contain_text("Nothing picked")
    page.locator("#draws summary").click()
    page.locator("[data-draw=tree]").press("Enter")
    expect(page.locator(".deeds-on")).to_contain_text("Tree")
    for _ in range(12):  # arrows gather into one move or, pressed slowly, into several
        if page.locator("form[action*='/undo'] button").is_disabled():
            break
        undo(page)
    expect(page.locator("form[action*='/undo'] button")).to_be_disabled()


def test_several_are_lined_up_spread_and_sized(plan):
    page = plan.page
    page.get_by_role("button", name="Several").click()
    for path in ("plots/bed-1", "plots/bed-2", "plots/pots-1"):
        touch(page, path)
    page.get_by_role("button", name="Several").click()
    page.locator("#lineup summary").click()
    plan.axe()
    page.get_by_role("button", name="west edges").click()
    expect(page.locator(".changes li").first).to_contain_text("Line up")
    west = [thing(page, p).get_attribute("data-box").split(",")[0]
            for p in ("plots/bed-1", "plots/bed-2", "plots/pots-1")]
    assert len(set(west)) == 1
    page.locator("#lineup summary").click()
    page.get_by_role("button", name="equal gaps, south to north").click()
    expect(page.locator(".changes li").first).to_contain_text("Spread")
    undo(page)
    undo(page)
    touch(page, "plots/bed-3")
    drag(page, middle_of(page.locator("[data-handle='2']")), (40, -16))
    expect(page.locator("#f-plots-bed-3-length_m")).not_to_have_value("2.40 m")
    undo(page)
    expect(page.locator("#f-plots-bed-3-length_m")).to_have_value("2.40 m")
    drag(page, middle_of(page.locator("[data-turn-of]")), (40, 10))
    expect(page.locator("#f-plots-bed-3-turn_deg")).not_to_have_value("0°")
    undo(page)


def test_measure_zoom_and_what_is_refused(plan):
    page = plan.page
    page.get_by_role("button", name="Measure").click()
    x, y = corner_of(page, "plots/bed-1", 0, 0)
    drag(page, (x, y), (100, 40))
    expect(page.locator("[data-plan-told]")).to_have_text(re.compile(r"^\d\.\d\d m: "))
    page.get_by_role("button", name="Pick, move").click()
    page.get_by_role("button", name="Nearer").click()
    expect(page.locator(".zoomable")).to_have_attribute("transform", re.compile(r"scale\(1\.5"))
    drag(page, corner_of(page, "plots/bed-1"), (30, 0))
    expect(page.locator(".deeds-on")).to_have_text("Bed 1")
    expect(page.locator(".zoomable")).to_have_attribute("transform", re.compile(r"scale\(1\.5"))
    undo(page)
    page.get_by_role("button", name="Whole").click()
    page.locator("#draws summary").click()
    page.get_by_role("button", name="Dripper", exact=True).click()
    plan.refusals_expected = True
    roof = box_of(thing(page, "roofs/workshop"))
    page.mouse.click(roof["x"] + 60, roof["y"] + 60)
    expect(page.locator(".notices .said")).to_contain_text("A dripper stands in a plot")
    expect(thing(page, "plots/bed-1")).to_be_visible()


def test_a_pipe_is_led_another_way_and_gets_a_valve(plan):
    page = plan.page
    pipe = page.locator('[data-piece^="line:"][tabindex="0"]').first
    pipe.focus()
    page.keyboard.press("Enter")
    page.locator("#put-on summary").click()
    page.get_by_role("button", name="a valve").click()
    expect(page.locator(".deeds-on")).to_contain_text("a fitting put on by hand")
    undo(page)
    pipe.focus()
    page.keyboard.press("Enter")
    pipe.press("ArrowDown")
    expect(page.locator(".changes li").first).to_contain_text("Lead the pipe another way")
    expect(page.locator(".deeds-on")).to_contain_text("a place the pipe is led through")
    undo(page)


def test_sixty_plots_and_two_thousand_outlets_pan_and_follow(site, watched, big_garden):
    page = watched.page
    page.goto(f"{site}/")
    page.locator("#file").set_input_files(big_garden)
    page.get_by_role("button", name="Open").click()
    page.wait_for_url("**/garden")
    page.goto(page.url.replace("/garden", "/lay?hide=wet"))
    assert page.locator("[data-thing^='plots/']").count() == 60
    beds = page.locator("[data-thing='plots/bed-60'] *").first
    drawn = beds.evaluate_handle("bed => bed")
    asked = []
    page.on("request", lambda request: asked.append(request.url))
    page.evaluate("""async () => {
        const svg = document.querySelector("[data-plan]");
        const at = svg.getBoundingClientRect();
        const mouse = (type, x) => new MouseEvent(type, {
            bubbles: true, view: window, clientX: at.left + x, clientY: at.top + 8});
        svg.dispatchEvent(mouse("mousedown", 300));
        for (let i = 0; i < 20; i++) {
            window.dispatchEvent(mouse("mousemove", 300 + i * 4));
            await new Promise((done) => requestAnimationFrame(() => setTimeout(done)));
        }
        window.dispatchEvent(mouse("mouseup", 376));
    }""")
    expect(page.locator(".zoomable")).to_have_attribute("transform", re.compile("translate"))
    # Panning moves what is drawn: nothing is asked for, nothing drawn anew.
    assert not asked
    assert drawn.evaluate("bed => bed.isConnected")
    before = figure(page, "line")
    bed = thing(page, "plots/bed-60")
    box = box_of(bed)
    drag(page, (box["x"] + 5, box["y"] + 4), (30, 12), let_go=False)
    expect(page.locator("[data-live-line]")).not_to_have_text(before)
    page.mouse.up()
