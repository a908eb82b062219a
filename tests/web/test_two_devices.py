"""Two devices, late news and odd clocks, over HTTP."""

import html
import re
import time

import pytest
from starlette.testclient import TestClient

from markup import plain
from web.conftest import ORIGIN

LOG = "/g/plot-27/log"
ID = "0123456789abcdef"
YEAR_MS = 365 * 24 * 3600 * 1000


def now_ms():
    return time.time_ns() // 1_000_000


@pytest.fixture
def other(client) -> TestClient:
    """Another browser on the same app, with cookies of its own."""
    return TestClient(client.app, base_url=ORIGIN, headers={"Origin": ORIGIN})


def looked(client, station="place"):
    """The change that a page shows, as its script would send it."""
    page = client.get(f"/g/plot-27/{station}").text
    return re.search(r'data-head="(\d+)"', page)[1]


def typed(client, path, words, on=""):
    return client.post("/g/plot-27/edit", headers={"X-Fragment": "1"}, data={
        "path": path, "typed": words, "station": "place", "on": on})


def log_of(client):
    return client.app.state.shelf.log.of("plot-27")


def test_twelve_typed_as_millimetres_stays_so_though_units_were_switched(client):
    client.post("/g/plot-27/units")
    late = {"kind": "rain", "typed": "12", "day": "2026-05-01", "entry": ID, "new": "1"}
    client.post(LOG, data=late | {"units_typed": "metric"})
    client.post(LOG, data=late | {"units_typed": "us", "entry": ID[::-1]})
    assert [e.value for e in log_of(client)] == [12.0, pytest.approx(304.8)]


def test_what_was_taken_out_or_changed_stays_so_when_it_is_sent_again(client):
    late = {"kind": "rain", "typed": "12 mm", "day": "2026-05-01", "entry": ID, "new": "1"}
    client.post(LOG, data=late)
    client.post(LOG, data=late | {"typed": "15 mm", "new": ""})
    client.post(LOG, data=late)
    assert [e.value for e in log_of(client)] == [15.0]
    client.post(f"{LOG}/out", data={"entry": ID})
    assert client.post(LOG, data=late).status_code == 200
    client.post(LOG, data=late | {"new": ""})
    assert log_of(client) == ()


def test_an_entry_for_a_bed_that_is_gone_is_kept_under_its_old_name(client, gardens):
    on = looked(client)
    bed = gardens.load("plot-27").garden.plots[0]
    client.post("/g/plot-27/things", data={"remove": f"plots/{bed.id}", "station": "grow"})
    late = {"kind": "soil", "about": bed.id, "word": "right", "day": "2026-05-01", "entry": ID,
            "new": "1"}
    assert client.post(LOG, data=late).status_code == 422, "no page ever showed such a bed"
    assert client.post(LOG, data=late | {"on": on}).status_code == 200
    page = client.get("/g/plot-27/keep?view=log").text
    assert f"<td>{bed.name}</td>" in page
    table = client.get("/g/plot-27/export/log.csv").text
    assert bed.name in table
    client.post(f"{LOG}/out", data={"entry": ID})
    client.post("/g/plot-27/log/csv", files={"file": ("log.csv", table)})
    assert log_of(client)[0].named == bed.name


@pytest.mark.parametrize("clock_ms", [-YEAR_MS, 0, YEAR_MS])
def test_a_clock_a_year_off_neither_bars_a_tick_nor_takes_one_back(client, clock_ms):
    address, clock = "/g/plot-27/ticks.json", now_ms() + clock_ms

    def say(done, ago_ms, at):
        return client.post(address, json={"sent_ms": at, "ticks": [
            {"step": "walk", "done": done, "said_ms": at - ago_ms}]}).json()["done"]

    assert say(True, 0, clock) == ["walk"]
    assert say(False, 0, now_ms()) == []
    assert say(True, 3_600_000, clock) == [], "it was said an hour before the other"
    assert say(True, 0, clock) == ["walk"]


def test_an_undo_of_another_s_change_is_asked_about_first(client, other, gardens):
    looked(client)
    looked(other)
    typed(client, "name", "Mine")
    typed(other, "site/place", "Theirs")
    said = client.post("/g/plot-27/undo", data={"station": "place"})
    assert "was made in another browser" in said.text
    assert gardens.load("plot-27").garden.site.place == "Theirs"
    sure = re.search(r'name="sure" value="(\d+)"', said.text)[1]
    client.post("/g/plot-27/undo", data={"station": "place", "sure": sure})
    assert gardens.load("plot-27").garden.site.place != "Theirs"
    client.post("/g/plot-27/undo", data={"station": "place"})
    assert gardens.load("plot-27").garden.name == "Plot 27", "one's own is undone at once"


def asked(page):
    """What the question about a change brings back: whether one is sure, and of which."""
    return [re.search(rf'name="{key}" value="(\d+)"', plain(page))[1] for key in ("sure", "mine")]


def test_one_s_own_change_is_taken_back_from_under_another_s(client, other, gardens):
    looked(client)
    looked(other)
    typed(client, "name", "Mine")
    typed(other, "site/place", "Theirs")
    said = client.post("/g/plot-27/undo", data={"station": "place"}).text
    assert "Undo mine, “garden name Mine”" in html.unescape(said)
    sure, mine = asked(said)
    form = {"station": "place", "sure": sure, "mine": mine}
    assert other.post("/g/plot-27/undo", data=form).status_code == 422, "it is none of its own"
    client.post("/g/plot-27/undo", data=form)
    kept = gardens.load("plot-27")
    assert (kept.garden.name, kept.garden.site.place) == ("Plot 27", "Theirs")
    assert kept.undo == "Taken back: garden name Mine"
    client.post("/g/plot-27/undo", data={"station": "place"})
    assert gardens.load("plot-27").garden.name == "Mine", "and that is undone as any change is"

    typed(client, "name", "Mine too")
    typed(other, "name", "Theirs too", looked(other))
    said = client.post("/g/plot-27/undo", data={"station": "place"}).text
    form = dict(zip(("sure", "mine"), asked(said), strict=True))
    said = client.post("/g/plot-27/undo", data={"station": "place"} | form)
    assert said.status_code == 422
    assert "was changed once more since" in said.text
    assert gardens.load("plot-27").garden.name == "Theirs too"


def test_an_edit_on_a_stale_page_says_what_changed_there_and_asks(client, other, gardens):
    on = looked(client)
    typed(other, "name", "Theirs")
    said = typed(client, "name", "Mine", on)
    assert said.status_code == 422
    assert "Garden name was changed elsewhere meanwhile, from Plot 27 to Theirs" in said.text
    assert 'value="Mine"' in said.text, "what was typed is still in its field"
    assert gardens.load("plot-27").garden.name == "Theirs"
    typed(client, "name", "Mine", looked(client))
    assert gardens.load("plot-27").garden.name == "Mine"
    # What was not changed there is kept without asking.
    assert typed(client, "site/place", "Here", on).status_code == 200


@pytest.mark.parametrize("on", ["", "x", "-1", "9" * 30, "999999"])
def test_a_page_that_names_no_change_of_the_garden_is_no_stale_one(client, on):
    assert typed(client, "name", "Mine", on).status_code == 200
