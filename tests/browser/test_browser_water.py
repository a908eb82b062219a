"""Sources and stores in the real browser: weather files, pasted months, joints, dragged roofs."""

import re
from pathlib import Path

import pytest
import vega_datasets
from playwright.sync_api import expect

from euhydra.web.panes import VIEWS
from standing import middle_of


def test_the_seattle_record_comes_in_through_the_upload(site, watched, tmp_path):
    # Open data: the daily Seattle weather of vega_datasets, with three lines spoilt.
    record = Path(vega_datasets.__file__).parent / "_data" / "seattle-weather.csv"
    lines = record.read_text().splitlines()
    lines[9] = lines[8]
    lines[19] = lines[19].replace(",", ",-", 1)
    file = tmp_path / "seattle.csv"
    file.write_text("\n".join(lines))
    page = watched.page
    page.goto(f"{site}/g/plot-27/place?view=file")
    page.get_by_label("A daily weather file").set_input_files(file)
    with page.expect_navigation():
        page.get_by_role("button", name="Read the file").click()
    reading = page.get_by_role("region", name="How the file was read")
    expect(reading).to_contain_text("4 years, 2012 to 2015")
    expect(reading).to_contain_text("Penman–Monteith")
    expect(reading).to_contain_text("2 lines were refused")
    expect(reading).to_contain_text("stands already in line 9")
    watched.axe()
    with page.expect_navigation():
        page.get_by_role("button", name="Use this record").click()
    expect(page.locator("h1")).to_contain_text("1\u202f1")
    expect(page.locator(".find", has_text="4 measured years")).to_be_visible()
    page.goto(f"{site}/g/plot-27/place?view=year")
    expect(page.locator(".key")).to_contain_text("by Hargreaves")
    watched.axe()
    page.goto(f"{site}/g/plot-27/place?view=years")
    apart = watched.unfold(page.locator("[aria-label='A dry, a typical and a wet year']"))
    expect(apart).to_contain_text("201")
    page.goto(f"{site}/g/plot-27/place")
    watched.press("l")
    with page.expect_download() as down:
        page.get_by_role("link", name="export JSON").click()
    assert '"wind_m_s"' in down.value.path().read_text()
    with page.expect_navigation():
        watched.press("Control+z")
    expect(page.locator("h1")).to_contain_text("610")


def test_a_file_that_is_no_weather_says_why_beside_the_button(site, watched, tmp_path):
    file = tmp_path / "notes.csv"
    file.write_text("when,what\n1,2\n")
    page = watched.page
    page.goto(f"{site}/g/plot-27/place?view=file")
    page.get_by_label("A daily weather file").set_input_files(file)
    page.get_by_role("button", name="Read the file").click()
    expect(page.locator("[data-said]")).to_contain_text("No column was found for a date")
    expect(page.get_by_role("button", name="Read the file")).to_be_enabled()


def test_months_are_pasted_and_a_bad_table_keeps_what_was_pasted(site, watched):
    page = watched.page
    page.goto(f"{site}/g/balcony/place?view=months")
    box = watched.unfold(page.locator("#pasted"))
    box.fill("rain 1 2 3")
    watched.refusals_expected = True
    with page.expect_navigation():
        page.get_by_role("button", name="Put these months in").click()
    expect(page.locator("#pasted-err")).to_contain_text("1 lines were pasted")
    expect(page.get_by_label("Paste a table")).to_have_value("rain 1 2 3")
    page.get_by_label("Paste a table").fill("\n".join(
        f"{50 + m}\t{5 + m % 3}\t{m}\t{m + 9}" for m in range(12)))
    with page.expect_navigation():
        page.get_by_role("button", name="Put these months in").click()
    expect(page.locator("h1")).to_contain_text("666")
    expect(page.locator("#f-site-climate-rain_mm-11")).to_have_value("61 mm")


def test_a_second_store_is_added_joined_and_drawn_by_keyboard(site, watched):
    page = watched.page
    page.goto(f"{site}/g/balcony/store")
    for name in ("Add a store", "Add a store", "Join two stores"):
        button = watched.unfold(page.locator("button[name=add]", has_text=re.compile(f"^{name}$")))
        button.focus()
        with page.expect_navigation():
            watched.press("Enter")
    expect(page.get_by_role("region", name=re.compile("^Joint"))).to_be_visible()
    watched.unfold(page.locator("#f-joints-joint-1-kind")).select_option("link")
    height = page.locator("#f-stores-store-2-height_m")
    height.fill("3 ft")
    height.press("Enter")
    expect(page.locator("#f-stores-store-2-height_m")).to_have_value("0.91 m")
    expect(page.locator("[data-figure=usable]")).to_contain_text("L")
    with page.expect_navigation():
        page.locator("button", has_text="L · m").click()
    expect(page.locator("#f-stores-store-2-height_m")).to_have_value("3.00 ft")
    watched.axe()


# Rules on what a garden puts on a page; colours are those of the first demo garden.
OF_WHAT_IS_THERE = ("label", "select-name", "button-name", "link-name", "aria-required-attr",
                    "svg-img-alt", "duplicate-id-aria", "scrollable-region-focusable",
                    "empty-table-header", "heading-order")


@pytest.mark.parametrize("garden", ["plot-27", "balcony"])
def test_the_other_demo_gardens_stand_by_axe(site, watched, garden):
    page = watched.page
    for station in ("catch", "store"):
        for view in VIEWS[station]:
            page.goto(f"{site}/g/{garden}/{station}?view={view.key}")
            watched.axe(OF_WHAT_IS_THERE)


def test_a_dragged_roof_edge_moves_the_curve_and_is_kept(site, watched):
    page = watched.page
    page.goto(f"{site}/g/kiln-yard/catch")
    page.get_by_role("link", name="Glasshouse roof: its measures").click()
    handle = page.locator("[data-drag='roofs/glasshouse/width_m']")
    caught = page.locator("[data-figure=caught_year] [data-value]")
    before, curve = caught.inner_text(), page.locator("[data-live] .plot").inner_html()
    x, y = middle_of(handle)
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 75, y, steps=6)
    expect(caught).not_to_have_text(before)
    assert page.locator("[data-live] .plot").inner_html() != curve
    assert page.locator("[role=status]", has_text="saved").count() == 1
    with page.expect_response(lambda r: "/edit" in r.url and r.status == 200):
        page.mouse.up()
    expect(page.locator("#f-roofs-glasshouse-width_m")).not_to_have_value("3.00 m")
    watched.press("Control+z")
    expect(page.locator("#f-roofs-glasshouse-width_m")).to_have_value("3.00 m")


def test_an_undo_pressed_before_the_first_edit_came_back_is_not_lost(site, watched):
    """The server is slow; the page still says that there is nothing to undo."""
    page, held = watched.page, []
    page.goto(f"{site}/")
    copy = page.evaluate("fetch('/g/kiln-yard/copy', {method: 'POST'}).then((a) => a.url)")
    page.goto(copy.split("/prove")[0] + "/catch?sel=roofs/glasshouse")
    width = page.locator("#f-roofs-glasshouse-width_m")
    was = width.input_value()
    undo = page.locator("form[action*='/undo'] button")
    expect(undo).to_be_disabled()
    page.route(re.compile("/edit"), lambda route: held.append(route))
    x, y = middle_of(page.locator("[data-drag='roofs/glasshouse/width_m']"))
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 75, y, steps=3)
    expect(width).not_to_have_value(was)
    with page.expect_request(re.compile("/edit")):
        page.mouse.up()
    watched.press("Control+z")
    expect(undo).to_be_disabled()
    held[0].continue_()
    page.unroute_all()
    watched.settled()
    expect(width).to_have_value(was)
    expect(page.locator("form[action*='/redo'] button")).to_be_enabled()
    assert len(held) == 1, "the edit was sent once"


def test_a_roof_may_be_drawn_by_its_corners(site, watched):
    page = watched.page
    page.goto(f"{site}/g/plot-27/catch")
    watched.press("l")
    corners = page.locator("#l-roofs-shed-outline")
    watched.refusals_expected = True
    corners.fill("0, 0; 4, 3; 4, 0; 0, 3")
    corners.press("Enter")
    expect(page.locator(".err").first).to_contain_text("crosses itself")
    corners.fill("0, 0.5; 4, 0.5; 4, 2.5; 2, 2.5; 2, 3.5; 0, 3.5")
    corners.press("Enter")
    expect(page.locator("[data-figure=roof_area] [data-value]")).to_have_text("10.0\u00a0m²")
    expect(page.locator("svg polygon.d-wall")).to_be_visible()
    watched.axe()
