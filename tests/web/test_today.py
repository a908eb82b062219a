"""The garden this morning: its page, its picture, the front door, all by the log."""

import datetime as dt
import html
import re

import pytest

from euhydra.core.log.entries import Entry
from euhydra.store.log import Log
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


def test_the_things_to_do_lead_to_their_entries(morning):
    page = morning.get(PAGE).text
    deeds = re.findall(r'<li><a href="([^"]+)"><b>', page)
    assert deeds
    for deed in map(html.unescape, deeds):
        assert morning.get(deed).status_code == 200
    morning.post("/g/plot-27/edit", data={"path": "units", "typed": "us"})
    assert "gal of" in html.unescape(morning.get(PAGE).text)


def test_a_day_that_is_asked_for_is_a_years_day(morning):
    page = html.unescape(morning.get(f"{PAGE}?day=07-14").text)
    assert "followed from" not in page
    assert "14\u00a0July</span> of a typical year" in page
    today = html.unescape(morning.get(PAGE).text)
    there = re.search(r'<a href="([^"]+)">This day of a typical year', today)[1]
    assert there == f"{PAGE}?day=07-14"
