"""What an answer leaves out so as to be there at once comes when it is asked for."""

import re

from starlette.testclient import TestClient

KILN, PLOT = "/g/kiln-yard", "/g/plot-27"
QUICK = {"X-Fragment": "1"}
WAITS = re.compile(r'data-part="([^"]+)" data-waits')


def edited(client: TestClient, garden: str, station: str, path: str, typed: str) -> str:
    said = client.post(f"{garden}/edit", headers=QUICK, data={
        "path": path, "typed": typed, "station": station})
    assert said.status_code == 200
    return said.text


def test_remedies_left_out_of_an_answer_are_those_of_the_whole_page(client: TestClient):
    quick = edited(client, PLOT, "store", "stores/blue/count", "2")
    waits = WAITS.findall(quick)
    assert "store.too-small-1" in waits
    assert "fit-tap" not in quick
    said = client.get(f"{PLOT}/store/later", params={"parts": ",".join(waits)}).json()
    assert set(said["parts"]) == set(waits)
    assert f'data-head="{said["head"]}"' in quick
    assert "fit-tap" in said["parts"]["store.too-small-1"]
    whole = client.get(f"{PLOT}/store").text
    assert not WAITS.findall(whole)
    for told in said["parts"].values():
        assert told.strip() in whole
    again = client.get(f"{PLOT}/store", headers=QUICK).text  # worked out by now
    assert not WAITS.findall(again)


def test_a_sizing_curve_left_out_is_the_one_of_the_whole_page(client: TestClient):
    quick = edited(client, KILN, "catch", "roofs/workshop/width_m", "6.4 m")
    chart, = (part for part in WAITS.findall(quick) if part.startswith("chart-"))
    told = client.get(f"{KILN}/catch/later", params={"parts": chart}).json()["parts"][chart]
    assert told["kind"] == "sizing"
    assert len(told["points"]) >= 6
    assert f'"given": {told["points"][2]["given"]}' in client.get(f"{KILN}/catch").text
    assert client.get(f"{KILN}/nowhere/later", params={"parts": chart}).status_code == 404
    assert client.get(f"{KILN}/catch/later", params={"parts": "chart-99,nothing"}).json()[
        "parts"] == {}
