"""Devices of one's own: readings in, today's settings out, each by a token for that alone."""

import datetime as dt
import re

import pytest
from starlette.testclient import TestClient

from euhydra.store.access import Access
from euhydra.store.tokens import MOST, Tokens
from euhydra.web.app import create_app
from euhydra.web.routes.tokens import plan_of
from markup import plain

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
    address = "/g/plot-27/readings.json"
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
    said = gauge.post("/g/plot-27/readings.json", json=body, headers=bearer(gardens))
    assert said.status_code == 422
    assert gauge.app.state.shelf.log.of("plot-27") == ()


def test_a_token_opens_one_thing_of_one_garden_and_nothing_else(gauge, gardens):
    head = bearer(gardens)
    for way in ("/g/kiln-yard/readings.json", "/g/moon/readings.json"):
        assert gauge.post(way, json=RAIN, headers=head).status_code == 401
    assert gauge.get("/g/plot-27/today.json", headers=head).status_code == 401
    name = {"path": "name", "typed": "x", "station": "place"}
    if gauge.app.state.access:  # it stands open
        assert gauge.post("/g/plot-27/edit", data=name, headers=head).status_code == 401
        assert gauge.get("/g/plot-27/place", headers=head, follow_redirects=False
                         ).status_code == 303
    for wrong in ({}, {"Authorization": "Bearer x"}, {"Authorization": "Basic eDp4"}):
        answer = gauge.post("/g/plot-27/readings.json", json=RAIN, headers=wrong)
        assert answer.status_code in (401, 403)
    assert gauge.app.state.shelf.log.of("plot-27") == ()


def test_today_s_settings_are_those_of_time(gauge, gardens):
    head = bearer(gardens, "today")
    told = gauge.get("/g/plot-27/today.json", headers=head).json()
    assessment = gauge.app.state.shelf.take("plot-27").assessment
    assert told == plan_of(assessment, dt.date.today())
    july = {z["zone"]: z for z in plan_of(assessment, dt.date(2026, 7, 15))["zones"]}
    for zone in assessment.garden.timed_zones:
        setting = next(s for s in assessment.schedule.settings[zone.id] if s.month == 6)
        assert july[zone.id]["minutes"] == setting.minutes > 0
    winter = plan_of(assessment, dt.date(2026, 1, 15))["zones"]
    assert {z["minutes"] for z in winter} == {0}


def test_a_token_is_shown_once_and_taken_back(client, gardens):
    page = client.post("/safe/token", data={"garden": "plot-27", "scope": "readings",
                                            "name": "Gauge <1>"}).text
    held = re.search(r"Token: <code>([^<]+)</code>", page)[1]
    head = {"Authorization": f"Bearer {held}"}
    assert client.post("/g/plot-27/readings.json", json=RAIN, headers=head).status_code == 200
    listed = client.get("/safe").text
    assert held not in listed
    assert "Gauge &lt;1&gt;" in listed
    token = re.search(r'name="token" value="([0-9a-f]{64})"', plain(listed))[1]
    client.post("/safe/token-back", data={"token": token})
    assert client.post("/g/plot-27/readings.json", json=RAIN, headers=head).status_code == 401
    for _ in range(MOST):
        Tokens(gardens.database).make("plot-27", "today", "x", NOW)
    said = client.post("/safe/token", data={"garden": "plot-27", "scope": "today"})
    assert said.status_code == 422
    assert client.post("/safe/token", data={"garden": "moon", "scope": "today"}).status_code == 404
