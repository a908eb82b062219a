"""The devices' protocol over HTTP."""

import pytest

from euhydra.standins import FAULTS

PLOT = "/g/plot-27"


def test_the_clock_runs_and_every_device_tells_its_own(client):
    client.post(f"{PLOT}/devices/start")
    whole = client.get(f"{PLOT}/devices").json()
    assert whole["clock"] == {"minute": 0, "day": "Mon", "time": "0:00"}
    assert client.post(f"{PLOT}/devices/clock", data={"minutes": 320}).status_code == 200
    assert client.get(f"{PLOT}/devices/clock").json()["time"] == "5:20"
    assert client.get(f"{PLOT}/devices/timer").json()["open"]
    assert client.get(f"{PLOT}/devices/meter").json()["litres"] > 0
    gauge = client.get(f"{PLOT}/devices/gauge").json()
    assert gauge["litres"] < gauge["of"]
    assert client.get(f"{PLOT}/devices/moon").status_code == 404


@pytest.mark.parametrize("minutes", ["0", "-5", "1441", "x", ""])
def test_steps_that_cannot_be_are_refused(client, minutes):
    assert client.post(f"{PLOT}/devices/clock", data={"minutes": minutes}).status_code == 422


def test_faults_are_given_and_mended_and_unknown_ones_refused(client):
    client.post(f"{PLOT}/devices/start")
    for fault in FAULTS:
        assert client.post(f"{PLOT}/devices/faults", data={"fault": fault}).status_code == 200
    assert set(client.get(f"{PLOT}/devices").json()["faults"]) == set(FAULTS)
    client.post(f"{PLOT}/devices/faults", data={"fault": ""})
    assert client.get(f"{PLOT}/devices").json()["faults"] == []
    said = client.post(f"{PLOT}/devices/faults", data={"fault": "moon"})
    assert said.status_code == 422
    assert "“moon” is none of" in said.text


def test_a_changed_garden_begins_anew_and_a_garden_on_the_tap_has_no_gauge(client):
    client.post(f"{PLOT}/devices/clock", data={"minutes": 100})
    client.post(f"{PLOT}/edit", data={"path": "timers/timer/kind", "typed": "weekday-ball"})
    assert client.get(f"{PLOT}/devices").json()["clock"]["minute"] == 0
    tap = client.get("/g/balcony/devices").json()
    assert tap["gauge"]["of"] == 0
    client.post("/g/balcony/devices/clock", data={"minutes": 1440})
    assert client.get("/g/balcony/devices/meter").json()["litres"] > 0
    assert client.get("/g/balcony/time?view=watch").status_code == 200
