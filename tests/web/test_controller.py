"""A home controller over the API, with the stand-ins as its gauges: the API's first client."""

import datetime as dt

import pytest

from euhydra.core.log.levels import bank_l
from euhydra.standins.controller import NoAnswer, evening, main, morning, over_http
from euhydra.store.tokens import Tokens
from euhydra.web.api import answers

NOW = dt.datetime(2026, 7, 31, tzinfo=dt.UTC)


@pytest.fixture
def ask(client):
    def asked(address, token, body):
        head = {"Authorization": f"Bearer {token}"} if token else {}
        answer = (client.get(address, headers=head) if body is None
                  else client.post(address, headers=head, json=body))
        if answer.status_code != 200:
            raise NoAnswer(f"{address}: {answer.status_code}")
        return answer.json()
    return asked


def token(gardens, scope):
    return Tokens(gardens.database).make("kiln-yard", scope, "Controller", NOW)


def test_it_opens_what_the_plan_opens_and_says_what_is_held(client, gardens, ask):
    lines = list(morning(ask, "kiln-yard", token(gardens, "today")))
    plan = answers.plan(client.app.state.shelf.take("kiln-yard").assessment, dt.date.today())
    runs = sum(len(zone.runs) for zone in plan.zones)
    assert len(lines) == 1 + runs + len(plan.by_hand)
    assert plan.says in lines[0]
    july = {"day": "2026-07-14", "says": "", "by_hand": [], "zones": [
        {"name": "Beds", "hold": True, "hold_h": 24, "why": "it rained",
         "runs": [{"at": "06:00:00", "minutes": 20.0, "litres": 31.0}]}]}
    assert list(morning(lambda *_: july, "x", ""))[1] == "06:00 Beds: held 24 h, it rained"


def test_what_its_gauges_show_puts_the_garden_right_and_stands_once(client, gardens, ask):
    held, today = token(gardens, "readings"), dt.date.today()
    client.get("/g/kiln-yard/devices")
    client.post("/g/kiln-yard/devices/clock", data={"minutes": "1440"})
    assert evening(ask, "kiln-yard", held, today) == {"kept": 2, "known": 0}
    assert evening(ask, "kiln-yard", held, today) == {"kept": 0, "known": 2}
    a = client.app.state.shelf.take("kiln-yard").assessment
    said = client.get("/g/kiln-yard/devices").json()
    dip = next(e for e in a.log if e.kind == "dip" and e.id == f"level-{today}")
    bank = a.banks.holding(dip.about)
    store = next(s for s in bank.stores if s.id == dip.about)
    assert bank_l(bank, store, dip.value) == pytest.approx(
        min(said["gauge"]["litres"], bank.usable_l), abs=0.5)
    assert list(a.forecast.values()) == said["weather"]["forecast_mm"]


def test_where_nobody_answers_it_says_so_and_fails(capsys):
    assert main(["kiln-yard", "--at", "http://localhost:1", "--today", "x"]) == 2
    assert "/api/gardens/kiln-yard/today" in capsys.readouterr().err
    with pytest.raises(NoAnswer):
        over_http("http://localhost:1")("/api/openapi.json", "", None)
