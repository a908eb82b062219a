"""The garden this morning: its page, its picture, the front door, all by the log."""

import datetime as dt
import html
import re

import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.log.entries import Entry
from euhydra.core.log.now import now
from euhydra.store.log import Log
from euhydra.web.api import answers
from euhydra.web.drawings.ahead import stores_ahead
from euhydra.web.fields import Fields
from euhydra.web.sheet import Sheet
from fifteen import fifteen
from mornings import JULY, stand_still

PAGE = "/g/plot-27/garden"


@pytest.fixture
def morning(client, gardens, monkeypatch):
    stand_still(monkeypatch)
    Log(gardens.database).put("plot-27", [
        Entry("a-dip-of-three-days", JULY - dt.timedelta(days=3), "dip", "blue", 0.5),
        Entry("a-rain-of-five-days", JULY - dt.timedelta(days=5), "rain", "", 6.0)])
    return client


def test_the_page_opens_on_today_and_picture_and_words_agree(morning):
    page = html.unescape(morning.get(PAGE).text)
    said = re.search(r"([\d\u202f]+)\u00a0L of ([\d\u202f]+)\u00a0L, followed from the dip "
                     r"3\u00a0days ago", page)
    assert said
    level = re.search(r'data-level="0">([^<]+)<', page)[1]
    assert level == f"{said[1]}\u00a0L of {said[2]}\u00a0L"
    assert "dry for 5 days" in page
    assert "The garden today" in page
    drawn = morning.get(f"{PAGE}/small.svg").text
    assert level in drawn
    assert f'src="{PAGE}/small.svg"' in morning.get("/").text


def test_the_things_to_do_lead_to_where_they_are_done_or_are_logged_there(morning):
    page = morning.get(PAGE).text
    for deed in re.findall(r'<li><a href="([^"]+)"><b>', page):
        assert morning.get(html.unescape(deed)).status_code == 200
    feel = done_form(page, "soil")
    assert feel["about"] == "bed-1"
    answer = morning.post("/g/plot-27/log", data=feel | {"word": "muddy", "day": "2026-07-14"})
    assert answer.status_code == 200
    assert done_form(answer.text, "soil")["about"] != "bed-1"
    morning.post("/g/plot-27/edit", data={"path": "units", "typed": "us"})
    assert "gal of" in html.unescape(morning.get(PAGE).text)


def test_a_day_that_is_asked_for_is_a_years_day(morning):
    page = html.unescape(morning.get(f"{PAGE}?day=07-14").text)
    assert "followed from" not in page
    assert "14\u00a0July</span> of a typical year" in page
    today = html.unescape(morning.get(PAGE).text)
    there = re.search(r'<a href="([^"]+)">This day of a typical year', today)[1]
    assert there == f"{PAGE}?day=07-14"


def done_form(page, kind):
    """The fields of the first thing to do that one touch says was done."""
    for form in re.findall(r'<form method="post" action="/g/plot-27/log" data-entry>(.*?)</form>',
                           page, re.S):
        fields = dict(re.findall(r'name="([^"]*)"\s*value="([^"]*)"', form))
        if fields["kind"] == kind:
            return {key: html.unescape(value) for key, value in fields.items()}
    return None


def test_what_was_done_is_logged_by_its_button_and_asked_for_no_more(morning, monkeypatch):
    stand_still(monkeypatch, JULY + dt.timedelta(days=1))  # a Wednesday, which a can is carried on
    morning.post("/g/plot-27/edit", data={"path": "plots/bed-1/watered", "typed": "can"})
    fields = done_form(morning.get(PAGE).text, "water")
    assert fields["about"] == "bed-1"
    answer = morning.post("/g/plot-27/log", data=fields, follow_redirects=False)
    assert answer.headers["location"] == PAGE
    log = morning.app.state.shelf.log.of("plot-27")
    made = next(e for e in log if e.kind == "water")
    assert html.unescape(fields["typed"]) in f"{made.value:.0f}\u00a0L"
    page = morning.get(PAGE).text
    assert done_form(page, "water") is None or done_form(page, "water")["about"] != "bed-1"


def test_a_forecast_is_typed_and_told_and_what_is_none_is_refused(morning):
    for typed, why in (("0, x", "“x” is not a number"), ("900 mm", "out of reach"),
                       ("-3", "out of reach"), (",".join("1" * 11), "11 days")):
        answer = morning.post("/g/plot-27/forecast", data={"typed": typed})
        assert answer.status_code == 422
        assert why in html.unescape(answer.text)
        assert html.escape(typed) in answer.text
    morning.post("/g/plot-27/forecast", data={"typed": "0, 12 mm, 0.5 in"})
    a = morning.app.state.shelf.take("plot-27").assessment
    assert [round(mm, 1) for mm in a.forecast.values()] == [0.0, 12.0, 12.7]
    week = html.unescape(morning.get(PAGE).text)
    assert "Wed 15 <span>rain 12\u00a0mm" in week
    assert 'value="0\u00a0mm, 12\u00a0mm, 13\u00a0mm"' in week
    morning.post("/g/plot-27/forecast", data={"typed": ""})
    assert morning.app.state.shelf.take("plot-27").assessment.forecast == {}


def test_the_week_s_runs_are_those_that_the_machines_are_told(morning):
    page = html.unescape(morning.get(PAGE).text)
    shelf = morning.app.state.shelf
    a = shelf.take("plot-27").assessment
    first = re.search(r'<dl class="week"><div>(.*?)</div>', page, re.S)[1]
    for zone in answers.plan(a, JULY).zones:
        for run in zone.runs:
            hour = f"{run.at.hour}:{run.at.minute:02d}"
            line = next(words for words in re.findall(r"<dd>([^<]+)</dd>", first)
                        if words.startswith(zone.name))
            assert hour in line
            assert f"{run.minutes:g} min" in line


def test_no_kind_of_garden_has_a_chart_that_runs_out_of_itself(library):
    for make in fifteen().values():
        a = assess(make(library), library)
        a.read_log((Entry("a-dip-of-today", JULY, "dip", a.garden.stores[0].id, 0.5),)
                   if a.garden.stores else (), JULY)
        sheet = Sheet(a, Fields(a.garden, library))
        drawn = str(stores_ahead(sheet, now(a, a.log, JULY), JULY, "Ahead"))
        for x, y in re.findall(r"[ML](-?[\d.]+)[ ,](-?[\d.]+)", drawn):
            assert -1 <= float(x) <= 341
            assert -1 <= float(y) <= 110
        assert bool(drawn) <= bool(a.garden.stores)


def test_the_year_so_far_can_be_chosen_and_its_words_and_numbers_are_the_logs(morning):
    there = html.unescape(morning.get(PAGE).text)
    assert f'value="{PAGE}?year=this"' in there
    today = html.unescape(morning.get(f"{PAGE}?year=this").text)
    assert "The garden today" in today
    day = html.unescape(morning.get(f"{PAGE}?year=this&day=07-09").text)
    assert "9\u00a0July</span> of this year" in day
    assert "6.0\u00a0mm of rain" in day
    numbers = morning.get(f"{PAGE}/year?year=this&on=1")
    assert numbers.headers["cache-control"] == "no-cache"
    told = numbers.json()
    assert told["rain"][189] == 6.0
    assert set(told["rain"][195:]) == {0.0}
    assert set(told["level"][0][195:]) == {None} != set(told["level"][0][:195])
    later = html.unescape(morning.get(f"{PAGE}/day?year=this&day=08-01").text)
    assert "This day is still to come." in later
    for path in ("/own?of=bed-1&year=this", "/own?of=bank:0&year=this&day=08-01"):
        assert morning.get(PAGE + path).status_code == 200
    for path in ("day.svg?year=this", "year.svg?year=this"):
        assert morning.get(f"/g/plot-27/export/{path}").status_code == 200
