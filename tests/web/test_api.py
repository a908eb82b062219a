"""The API: readings and a forecast in, today's plan and state out, each by a token for it alone."""

import datetime as dt
import html
import re

import pytest
from starlette.testclient import TestClient

from euhydra.core.assessment.assess import assess
from euhydra.core.log.days_ahead import openings
from euhydra.store.access import Access
from euhydra.store.tokens import MOST, Tokens
from euhydra.web.api import answers
from euhydra.web.app import create_app
from fifteen import fifteen
from markup import plain
from mornings import JULY, stand_still

NOW = dt.datetime(2026, 7, 31, tzinfo=dt.UTC)
AT = "http://garden.local:8017"
RAIN = {"readings": [{"kind": "rain", "value": 12.5, "id": "gauge-0001"}]}


@pytest.fixture(params=[False, True])
def gauge(request, gardens) -> TestClient:
    """A device: no cookies, no Origin; the app for this machine alone, and standing open."""
    Access(gardens.database).choose("four dry summer words")
    app = create_app(gardens, AT, stands_open=request.param)
    return TestClient(app, base_url=AT, client=("192.168.1.30", 1))


def bearer(gardens, scope="readings", garden="plot-27"):
    held = Tokens(gardens.database).make(garden, scope, "Gauge", NOW)
    return {"Authorization": f"Bearer {held}"}


def test_a_gauge_posts_its_readings_and_each_stands_once(gauge, gardens):
    head, log = bearer(gardens), gauge.app.state.shelf.log
    address = "/api/gardens/plot-27/readings"
    assert gauge.post(address, json=RAIN, headers=head).json() == {"kept": 1, "known": 0}
    assert gauge.post(address, json=RAIN, headers=head).json() == {"kept": 0, "known": 1}
    log.take_out("plot-27", "gauge-0001")
    assert gauge.post(address, json=RAIN, headers=head).json() == {"kept": 0, "known": 1}
    assert log.of("plot-27") == ()
    dip = {"readings": [{"kind": "dip", "about": "blue", "value": 0.4, "day": "2026-07-30"}]}
    assert gauge.post(address, json=dip, headers=head).status_code == 200
    assert [(e.kind, e.about, e.value) for e in log.of("plot-27")] == [("dip", "blue", 0.4)]


@pytest.mark.parametrize("body", [
    {}, {"readings": []}, {"readings": [{"kind": "note", "value": 1}]},
    {"readings": [{"kind": "dip", "about": "moon", "value": 0.4}]},
    {"readings": [{"kind": "rain", "value": -1}]}, {"readings": [{"kind": "rain", "value": 1e9}]},
    {"readings": [{"kind": "rain", "value": 1, "day": "2999-01-01"}]},
    {"readings": [{"kind": "rain", "value": 1}, {"kind": "rain", "value": -1}]}])
def test_what_cannot_be_is_refused_whole(gauge, gardens, body):
    said = gauge.post("/api/gardens/plot-27/readings", json=body, headers=bearer(gardens))
    assert said.status_code == 422
    assert gauge.app.state.shelf.log.of("plot-27") == ()


def test_a_token_opens_one_thing_of_one_garden_and_nothing_else(gauge, gardens):
    head = bearer(gardens)
    for way in ("/api/gardens/kiln-yard/readings", "/api/gardens/moon/readings"):
        assert gauge.post(way, json=RAIN, headers=head).status_code == 401
    assert gauge.get("/api/gardens/plot-27/today", headers=head).status_code == 401
    name = {"path": "name", "typed": "x", "station": "place"}
    if gauge.app.state.access:  # it stands open
        assert gauge.post("/g/plot-27/edit", data=name, headers=head).status_code == 401
        assert gauge.get("/g/plot-27/place", headers=head, follow_redirects=False
                         ).status_code == 303
    for wrong in ({}, {"Authorization": "Bearer x"}, {"Authorization": "Basic eDp4"}):
        answer = gauge.post("/api/gardens/plot-27/readings", json=RAIN, headers=wrong)
        assert answer.status_code in (401, 403)
    assert gauge.app.state.shelf.log.of("plot-27") == ()


def asked(gauge, gardens, what, garden="plot-27"):
    answer = gauge.get(f"/api/gardens/{garden}/{what}", headers=bearer(gardens, "today", garden))
    assert answer.status_code == 200, answer.text
    return answer.json()


def told(gauge, gardens, garden="plot-27", **body):
    (what, said), = body.items()
    answer = gauge.post(f"/api/gardens/{garden}/{what}", headers=bearer(gardens, garden=garden),
                        json={"days" if what == "forecast" else what: said})
    assert answer.status_code == 200, answer.text
    return answer.json()


@pytest.mark.parametrize("day", [JULY, dt.date(2026, 1, 15)])
def test_today_s_settings_are_those_of_time_and_its_runs_those_that_are_opened(library, day):
    for make in fifteen().values():
        a = assess(make(library), library)
        plan = answers.plan(a, day)
        assert [z.zone for z in plan.zones] == [z.id for z in a.garden.timed_zones]
        for zone in plan.zones:
            setting = a.schedule.setting_in(zone.zone, day.month - 1)
            assert zone.minutes == (setting.minutes if setting else 0)
            mine = [o for o in openings(a, day) if o.of == zone.zone]
            assert [run.litres for run in zone.runs] == pytest.approx(
                [o.litres for o in mine], abs=0.06)
            for run, o in zip(zone.runs, mine, strict=True):
                assert run.at.hour * 60 + run.at.minute == round(o.start_h * 60) % 1440
        assert {h.plot for h in plan.by_hand} <= set(a.schedule.by_hand)


def test_the_state_is_that_of_the_picture_and_of_the_page(gauge, gardens, monkeypatch):
    stand_still(monkeypatch)
    told(gauge, gardens, readings=[{"kind": "level", "about": "blue", "litres": 100.0}])
    state = asked(gauge, gardens, "state")
    store = next(s for s in state["stores"] if "blue" in s["joined"])
    assert store["litres"] == pytest.approx(100.0, abs=0.1)
    assert store["dipped_days_ago"] == 0
    page = TestClient(gauge.app, base_url="http://localhost:8017", client=("127.0.0.1", 1)).get(
        "/g/plot-27/garden").text
    assert state["says"] in html.unescape(plain(page))
    rows = dict(re.findall(
        r'<th scope="row">([^<]+)</th><td *>[^<]*</td><td class="num">(\d+)', plain(page)))
    assert state["plots"]
    for plot in state["plots"]:
        assert float(rows[html.escape(plot["name"], quote=False)]) == pytest.approx(
            100 * plot["left"], abs=0.51)


def test_a_forecast_takes_the_place_of_the_one_before_and_holds_runs(gauge, gardens):
    today = dt.date.today()
    days = [{"day": (today + dt.timedelta(days=n)).isoformat(), "rain_mm": mm}
            for n, mm in ((-1, 9.0), (0, 0.0), (1, 40.0))]
    assert told(gauge, gardens, forecast=days) == {"kept": 2, "known": 0}
    shelf = gauge.app.state.shelf
    assert shelf.take("plot-27").assessment.forecast == {
        today: 0.0, today + dt.timedelta(days=1): 40.0}
    told(gauge, gardens, forecast=[])
    assert shelf.take("plot-27").assessment.forecast == {}


def test_a_soil_gauge_s_tension_is_kept_as_what_a_hand_would_feel(gauge, gardens):
    plot = gauge.app.state.shelf.take("plot-27").garden.plots[0].id
    told(gauge, gardens, readings=[
        {"kind": "tension", "about": plot, "value": kpa} for kpa in (4, 35, 90)] + [
        {"kind": "soil", "about": plot, "word": "right"}])
    log = gauge.app.state.shelf.log.of("plot-27")
    assert [e.word for e in log] == ["muddy", "right", "dry", "right"]
    assert log[1].note == "35 kPa by a gauge"


def test_where_devices_asked_before_they_are_sent_on(gauge, gardens):
    answer = gauge.post("/g/plot-27/readings.json", json=RAIN, headers=bearer(gardens))
    assert answer.json() == {"kept": 1, "known": 0}


def test_what_is_not_there_is_told_in_its_own_words(gauge):
    for path in ("/api/moon", "/api/gardens/plot-27"):
        answer = gauge.get(path, headers={"Authorization": "Bearer x"})
        assert answer.status_code == 404
        assert "refused" in answer.json()


def test_a_token_is_shown_once_and_taken_back(client, gardens):
    page = client.post("/safe/token", data={"garden": "plot-27", "scope": "readings",
                                            "name": "Gauge <1>"}).text
    held = re.search(r"Token: <code>([^<]+)</code>", page)[1]
    head = {"Authorization": f"Bearer {held}"}
    assert client.post("/api/gardens/plot-27/readings", json=RAIN, headers=head).status_code == 200
    listed = client.get("/safe").text
    assert held not in listed
    assert "Gauge &lt;1&gt;" in listed
    token = re.search(r'name="token" value="([0-9a-f]{64})"', plain(listed))[1]
    client.post("/safe/token-back", data={"token": token})
    assert client.post("/api/gardens/plot-27/readings", json=RAIN, headers=head).status_code == 401
    for _ in range(MOST):
        Tokens(gardens.database).make("plot-27", "today", "x", NOW)
    said = client.post("/safe/token", data={"garden": "plot-27", "scope": "today"})
    assert said.status_code == 422
    assert client.post("/safe/token", data={"garden": "moon", "scope": "today"}).status_code == 404
