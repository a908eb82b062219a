"""The garden on a day: played, stepped and drawn through its year, by hand, by key and by touch."""

import json
import random
import re

import pytest
from playwright.sync_api import expect

from drawn import KILN_YARD
from euhydra.core.assessment.assess import assess
from euhydra.core.daily.year import LEAST_L, TONES, Year, named_years
from euhydra.core.editing.file import from_json
from euhydra.core.garden.base import month_day
from euhydra.data import garden_text

KILN = "/g/kiln-yard/garden"


def ready(page):
    expect(page.locator("[data-alive]")).to_have_attribute("data-ready", "1")


def day_in(page):
    return re.search(r"day=(\d\d-\d\d)", page.url)[1]


def told(page, date):
    """The words are those of the day."""
    expect(page.locator("[data-told-date]")).to_have_text(date.replace(" ", "\u00a0"))


def test_fifty_states_of_the_picture_are_the_seasons(site, watched, library):
    """Drawn by the script through the year, some by the server: what stands there is reckoned."""
    page, dice = watched.page, random.Random(7)
    for garden, text, named in (("kiln-yard", KILN_YARD, "dry"),
                                ("balcony", garden_text("balcony"), "typical")):
        a = assess(from_json(text, library), library)
        year = Year(a, named_years(a)[named])
        page.goto(f"{site}/g/{garden}/garden?year={named}&day=03-01")
        ready(page)
        for day in dice.sample(range(365), 25):
            page.locator("#day").evaluate(
                "(r, d) => { r.value = d; r.dispatchEvent(new Event('input')) }", day)
            seen = page.evaluate("""() => ({
                plots: Object.fromEntries([...document.querySelectorAll("[data-plot]")].map((g) =>
                    [g.dataset.plot, [g.dataset.tone, document.querySelector(
                        `[data-share="${g.dataset.plot}"]`)?.textContent]])),
                stores: Object.fromEntries([...document.querySelectorAll("[data-level]")].map((t) =>
                    [t.dataset.level, t.textContent])),
                runs: [...document.querySelectorAll("[data-zone]")].filter((g) =>
                    getComputedStyle(g.querySelector(".a-runs")).display !== "none").map((g) =>
                    g.dataset.zone).sort(),
                tap: document.querySelector("[data-gives=tap]").textContent })""")
            for p, plot in enumerate(year.plots):
                tone, share = seen["plots"][plot]
                assert tone == TONES[year.tone[p, day]]
                if share:
                    assert abs(int(share.split("\u00a0")[0]) - 100 * year.left[p, day]) <= 0.51
            for n, words in seen["stores"].items():
                level = float(words.split("\u00a0")[0].replace("\u202f", ""))
                assert abs(level - year.level[int(n), day]) <= 0.51
            ran = {r.of for r in year.runs_by_day.get(day, ()) if r.litres >= 0.5}
            floats = {z.id for z in a.garden.zones if not z.timed and sum(
                year.given[year.plots.index(p), day] for p in z.plots) >= 0.5}
            assert seen["runs"] == sorted(ran | floats)
            tap = float(year.tap[day])
            assert seen["tap"] == (f"{tap:.0f}\u00a0L" if tap >= 0.5 else "shut")


def test_it_plays_steps_and_scrubs(site, watched):
    page = watched.page
    page.goto(f"{site}{KILN}?day=07-14&year=typical")
    ready(page)
    day = page.get_by_label("Day of the year")
    day.press("ArrowRight")
    told(page, "15 July")
    day.press("Shift+ArrowLeft")
    told(page, "8 July")
    page.get_by_label("a month", exact=True).check()
    page.get_by_role("button", name="Play the year").click()
    expect(page.locator("[data-play]")).to_have_attribute("aria-pressed", "true")
    expect(page.locator("[data-told-date]")).to_contain_text("August")
    page.get_by_role("button", name="Play the year").click()
    expect(page.locator("[data-play]")).to_have_attribute("aria-pressed", "false")
    strip = page.locator(".strip").bounding_box()
    page.mouse.move(strip["x"] + strip["width"] * 0.3, strip["y"] + 40)
    page.mouse.down()
    page.mouse.move(strip["x"] + strip["width"] * 0.4, strip["y"] + 40, steps=4)
    page.mouse.up()
    expect(page.locator("[data-told-date]")).to_contain_text("April")
    page.wait_for_url(re.compile(r"day=04"))
    head = page.locator("[data-playhead]").first.get_attribute("transform")
    page.reload()
    ready(page)
    assert page.locator("[data-playhead]").first.get_attribute("transform") == head


def test_by_keys_alone_through_the_year_to_a_thing_and_to_the_cause_and_back(site, watched):
    page = watched.page
    page.goto(f"{site}{KILN}?day=07-14&year=typical")
    ready(page)
    page.locator("h1").focus()
    watched.press("ArrowRight")
    told(page, "15 July")
    watched.press("Space")
    expect(page.locator("[data-play]")).to_have_attribute("aria-pressed", "true")
    watched.press("Space")
    expect(page.locator("[data-play]")).to_have_attribute("aria-pressed", "false")
    page.goto(f"{site}{KILN}?day=07-14&year=typical")
    ready(page)
    page.locator("[data-own=towers]").focus()
    watched.press("Enter")
    own = page.get_by_role("heading", name="Two tower planters")
    expect(own).to_be_focused()
    watched.axe()
    page.get_by_role("button", name="Its line").press("Enter")
    expect(page.locator("#own-year h2")).to_have_text(re.compile("tower"))
    expect(page.locator("#own-year")).to_contain_text("flow, running")
    watched.axe()
    watched.press("Escape")
    expect(page.locator("#own-year h2")).to_have_count(0)
    expect(page.locator("[data-own=towers]")).to_be_focused()
    cause = page.locator(".day li", has_text="valve stays shut").get_by_role("link")
    cause.focus()
    watched.press("Enter")
    expect(page.locator("h1")).to_contain_text("valve will not open")
    assert day_in(page) == "07-14"
    watched.press("g")
    told(page, "14 July")
    assert "year=typical" in page.url
    page.go_back()
    page.go_back()
    told(page, "14 July")


def test_another_year_keeps_the_day_and_the_numbers_follow(site, watched):
    page = watched.page
    page.goto(f"{site}{KILN}?day=09-01")
    ready(page)
    page.get_by_label("Year", exact=True).select_option(label="a wet year")
    expect(page.locator("#day-words .eyebrow")).to_contain_text("of a wet year")
    told(page, "1 September")
    ready(page)
    with page.expect_response(re.compile("garden/day")):
        page.get_by_label("Day of the year").press("ArrowRight")
    assert "year=wet" in page.url


def test_a_store_on_a_phone_opens_its_own_year(site, held):
    page = held.page
    page.goto(f"{site}{KILN}?day=07-14")
    ready(page)
    page.locator("[data-own='bank:0']").first.tap()
    expect(page.get_by_role("heading", name="Barrels")).to_be_visible()
    held.axe()
    page.get_by_role("button", name="Close").tap()
    page.locator("#day-table summary").tap()
    expect(page.get_by_role("row", name=re.compile("Espalier pears"))).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= page.viewport_size["width"]


@pytest.mark.parametrize("units", ["metric", "us"])
def test_hose_only_pots_have_a_garden_too(site, person, door, units):
    """From the front door: no store, no roof; a day of theirs, in their units."""
    door(units)
    page = person.page
    person.touch("has_tap", "w_pots")
    person.way("With the hose")
    person.pour()
    page.wait_for_url(re.compile(r"/garden\?day="))
    ready(page)
    expect(page.locator("[data-bank]")).to_have_count(0)
    assert page.locator("[data-plot]").count() == 1
    words = page.locator("#day-words").inner_text()
    assert ("gal" in words) == (units == "us")
    assert not re.search(r"store|barrel", words)


def test_the_year_of_sixty_beds_is_small_and_every_day_is_drawn_in_time(site, watched, big_garden):
    page = watched.page
    page.goto(f"{site}/")
    page.locator("#file").set_input_files(big_garden)
    with page.expect_response(re.compile("garden/year")) as answer:
        page.get_by_role("button", name="Open").click()
    ready(page)
    assert len(answer.value.body()) < 200_000
    assert len(json.loads(answer.value.text())["left"]) == 60
    page.get_by_label("Day of the year").press("Shift+ArrowRight")
    expect(page.locator("[data-plot]")).to_have_count(60)


def test_days_as_the_address_names_them():
    """The script's month-days are the core's."""
    assert [month_day(d) for d in (0, 58, 59, 364)] == ["01-01", "02-28", "03-01", "12-31"]


def test_gardens_are_renamed_copied_deleted_and_put_back_at_the_front_door(site, watched):
    page = watched.page
    page.goto(f"{site}/")
    card = page.locator(".doors > li", has_text="Plot 27").first
    expect(card.locator("img")).to_be_visible()
    card.locator("summary").click()
    watched.axe()
    card.get_by_label("Called").fill("Steps")
    card.get_by_role("button", name="Rename").click()
    card = page.locator(".doors > li", has_text="Steps").first
    card.locator("summary").click()
    card.get_by_role("button", name="Copy Steps").click()
    copied = page.locator(".doors > li", has_text="Steps, another way")
    copied.scroll_into_view_if_needed()
    expect(copied.locator("img")).to_have_js_property("complete", True)  # its picture has come
    copied.locator("summary").click()
    copied.get_by_role("button", name="Delete").click()
    expect(page.locator(".said")).to_contain_text("Steps, another way was deleted")
    expect(copied).to_have_count(0)
    page.get_by_role("button", name="Put it back").click()
    expect(copied).to_have_count(1)
    card = page.locator(".doors > li").filter(has=page.get_by_text("Steps", exact=True))
    card.locator("summary").click()
    card.get_by_role("button", name="Put Steps back as it came").click()
    expect(page.locator(".doors b", has_text="Plot 27").first).to_be_visible()


def test_a_copy_and_its_model_go_by_one_playhead(site, watched):
    page = watched.page
    page.goto(f"{site}/g/plot-27/prove?view=variants")
    page.get_by_role("button", name="Copy this garden to change it").click()
    page.wait_for_url(re.compile(r"/g/plot-27-another-way[^/]*/prove"))
    copied = re.search(r"/g/([^/]+)/", page.url)[1]
    page.request.post(f"{site}/g/{copied}/edit", headers={"Origin": site},
                      form={"path": "stores/blue/count", "typed": "9"})
    page.goto(f"{site}/g/{copied}/garden?day=04-01")
    ready(page)
    page.get_by_label("Beside", exact=True).select_option(label="beside Plot 27")
    expect(page.locator("[data-picture]")).to_have_count(2)
    ready(page)
    watched.axe()
    heads = page.locator("[data-playhead]")
    expect(heads).to_have_count(2)
    differs, day = page.locator(".differs"), page.get_by_label("Day of the year")
    for _ in range(30):
        day.press("Shift+ArrowRight")
        if differs.count():
            break
    assert differs.count() % 2 == 0
    assert differs.count() > 0
    assert len(set(heads.evaluate_all("all => all.map((h) => h.getAttribute('transform'))"))) == 1
    expect(page.get_by_role("region", name="Beside Plot 27")).to_contain_text("here")
    assert page.evaluate("""() => {
        const ids = [...document.querySelectorAll("[id]")].map((e) => e.id);
        return ids.length === new Set(ids).size }""")


def test_the_hours_of_a_day_have_what_runs_then(site, watched, library):
    """Each run of a day at its middle, and an hour at which nothing runs, by key and by hand."""
    page = watched.page
    a = assess(from_json(garden_text("balcony"), library), library)
    year = Year(a, named_years(a)["typical"])
    day = max(range(365), key=lambda d: len({r.of for r in year.runs_by_day.get(d, ())
                                             if r.litres >= LEAST_L}))
    page.goto(f"{site}/g/balcony/garden?year=typical&day={month_day(day)}")
    ready(page)
    page.get_by_label("an hour").check()
    hand = page.get_by_label("Hour of the day")
    ran = [r for r in year.runs_by_day[day] if r.litres >= LEAST_L]
    timed = {z.id for z in a.garden.zones}
    for minute in sorted({round(r.start_h * 60 + r.minutes / 2) // 10 * 10 for r in ran} | {1430}):
        hand.evaluate("(r, m) => { r.value = m; r.dispatchEvent(new Event('input')) }", minute)
        want = {r.of for r in ran if r.start_h * 60 - 0.5 <= minute < r.start_h * 60 + round(
            r.minutes) - 0.5}
        seen = page.evaluate("""() => [...document.querySelectorAll("[data-zone]")].filter((g) =>
            getComputedStyle(g.querySelector(".a-runs")).display !== "none").map((g) =>
            g.dataset.zone)""")
        assert set(seen) == want & timed, minute
    expect(page.locator("#hours [data-at]")).to_have_text("23:50 · nothing is opened")
    hand.press("ArrowRight")
    watched.axe()
    watched.press("Home")
    expect(hand).to_have_attribute("aria-valuetext", re.compile("^0:00: "))
    page.get_by_label("a week").check()
    expect(hand).to_be_hidden()
