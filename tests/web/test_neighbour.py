"""The page for a neighbour while one is away, its file, and a neighbour who may log and no more."""

import datetime as dt
import html
import re

import pytest
from starlette.testclient import TestClient

from euhydra.core.assessment.assess import assess
from euhydra.core.garden.base import day_of_year
from euhydra.core.log.entries import Entry
from euhydra.core.log.neighbour import days_away, under_way_or_next
from euhydra.core.season.absence import asks, away, neighbour_note
from euhydra.store.access import Access
from euhydra.web.app import create_app
from fifteen import fifteen
from markup import plain
from mornings import JULY, stand_still

PAGE = "/g/plot-27/neighbour?from=2026-07-10&away=14"


@pytest.fixture
def morning(client, monkeypatch):
    stand_still(monkeypatch)
    return client


def test_each_day_asks_what_the_note_asks_in_every_kind_of_garden(library):
    asked = 0
    for make in fifteen().values():
        a = assess(make(library), library)
        far = JULY + dt.timedelta(days=40)
        told = away(a.season_inputs, a.season, day_of_year(far.isoformat()[5:]), 14)
        days = days_away(a, (), far, 14, JULY)
        notes = neighbour_note(a.season, told)
        assert len(days) == 14
        assert len(notes) == len(asks(told))
        for ask in asks(told):
            on = [d.number for d in days if ask in d.water]
            assert on == list(range(ask.from_day, 15, ask.every))
            asked += len(on)
    assert asked


def test_soon_the_stores_begin_as_they_stand_now(library):
    a = assess(fifteen()["roof and beds"](library), library) if "roof and beds" in fifteen() else \
        next(x for x in (assess(make(library), library) for make in fifteen().values())
             if x.season.world.stored.any())
    store = a.garden.stores[0].id
    dry, full = (days_away(a, (Entry("a-dip-of-today", JULY, "dip", store, m),), JULY, 21, JULY)
                 for m in (0.0, 4.0))
    assert sum(len(d.water) for d in full) <= sum(len(d.water) for d in dry)


@pytest.mark.parametrize(("day", "days", "today", "first"), [
    ("07-20", 14, dt.date(2026, 7, 14), dt.date(2026, 7, 20)),
    ("07-10", 14, dt.date(2026, 7, 14), dt.date(2026, 7, 10)),
    ("12-28", 10, dt.date(2027, 1, 3), dt.date(2026, 12, 28)),
    ("07-10", 3, dt.date(2026, 7, 14), dt.date(2027, 7, 10))])
def test_days_away_are_those_under_way_or_the_next(day, days, today, first):
    assert under_way_or_next(day_of_year(day), days, today) == first


def test_the_page_has_today_and_every_day_and_a_dip_is_logged_from_it(morning):
    page = html.unescape(morning.get(PAGE).text)
    assert "Today, day 5" in page
    assert 'class="now"><th scope="row">5 · Tue 14 Jul' in page
    opened = morning.get("/g/plot-27/neighbour?from=2026-07-14&away=14").text
    form = re.search(r'value="dip">.*?</form>', opened, re.S)[0]
    back = html.unescape(re.search(r'name="back" value="([^"]+)"', form)[1])
    answer = morning.post("/g/plot-27/log", follow_redirects=False, data={
        "kind": "dip", "about": "blue", "typed": "40 cm", "back": back, "day": "2026-07-14"})
    assert answer.headers["location"] == "/g/plot-27/neighbour?from=2026-07-14&away=14"
    assert 'value="dip">' not in morning.get(answer.headers["location"]).text


def test_what_the_neighbour_watered_is_struck_out_and_its_button_gone(morning):
    page = morning.get(PAGE).text
    about = re.search(r'name="kind" value="water"><input\s+type="hidden" name="about" '
                      r'value="([^"]+)"', page)
    assert about
    morning.post("/g/plot-27/log", data={"kind": "water", "about": about[1], "typed": "40 L",
                                         "day": "2026-07-14"})
    after = morning.get(PAGE).text
    assert f'name="about" value="{about[1]}"' not in after
    assert '<li class="done">' in after


@pytest.mark.parametrize("query", ["", "?from=x", "?from=0001-01-01&away=0", "?away=999",
                                   "?from=9999-12-31&away=60", "?from=2028-02-29&away=60"])
def test_no_address_of_it_fails(morning, query):
    for path in ("/g/plot-27/neighbour", "/g/balcony/neighbour",
                 "/g/plot-27/export/neighbour.html"):
        assert morning.get(path + query).status_code == 200


def test_the_file_stands_alone_with_every_day_and_its_plan(morning):
    page = html.unescape(morning.get(PAGE).text)
    file = morning.get(PAGE.replace("neighbour?", "export/neighbour.html?"))
    assert "attachment" in file.headers["content-disposition"]
    said = html.unescape(file.text)
    for words in re.findall(r"<li>(Water “[^<]+|Dip “[^<]+)", page):
        assert words.strip() in said
    assert "<svg" in said
    assert not re.search(r'(?:src|href)="(?!#)', said)
    assert said.count('type="checkbox"') == len(re.findall(r'data-task="', said)) > 0


@pytest.mark.parametrize("back", ["https://elsewhere.example/", "neighbour?" + "x" * 200, "moon",
                                  "neighbour?\u2028"])
def test_one_goes_back_to_a_page_of_the_garden_and_nowhere_else(morning, back):
    answer = morning.post("/g/plot-27/log", follow_redirects=False, data={
        "kind": "rain", "typed": "3 mm", "back": back})
    assert answer.headers["location"].startswith("/g/plot-27/keep?view=log")


def test_a_neighbour_is_let_in_to_look_and_to_log_and_lands_on_the_page(gardens):
    at = "http://garden.local:8017"
    Access(gardens.database).choose("four dry summer words")
    app = create_app(gardens, at, stands_open=True)
    owner = TestClient(app, base_url="http://localhost:8017", client=("127.0.0.1", 1),
                       headers={"Origin": "http://localhost:8017"})
    there = owner.get(PAGE).text
    assert "Let the neighbour’s phone in" in there
    to = html.unescape(re.search(r'name="to" value="([^"]+)"', there)[1])
    offered = plain(owner.post("/safe/pair", data={"role": "neighbour", "to": to}).text)
    address = html.unescape(re.search(r"Or type <code>([^<]+)</code>", offered)[1])
    phone = TestClient(app, base_url=at, client=("192.168.1.7", 1), follow_redirects=False,
                       headers={"Origin": at})
    asks_in = phone.get(address).text
    answer = phone.post(address.partition("?")[0], data={"to": html.unescape(
        re.search(r'name="to" value="([^"]+)"', asks_in)[1])})
    assert answer.headers["location"] == PAGE
    phone.cookies = answer.cookies
    assert phone.get(PAGE).status_code == 200
    assert "Let the neighbour’s phone in" not in phone.get(PAGE).text
    dip = {"kind": "dip", "about": "blue", "typed": "40 cm", "back": PAGE.rpartition("/")[2]}
    assert phone.post("/g/plot-27/log", data=dip).headers["location"] == PAGE
    for path, data in (("/g/plot-27/edit", {"path": "name", "typed": "x"}),
                       ("/g/plot-27/log/out", {"entry": "x"}), ("/safe/pair", {"role": "owner"}),
                       ("/g/plot-27/forecast", {"typed": "3"})):
        assert phone.post(path, data=data).status_code == 403
    assert phone.get("/safe").status_code == 403
