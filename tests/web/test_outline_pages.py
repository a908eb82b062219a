"""Outlines brought in through the routes: looked at, picked, kept as one change, or refused."""

import html
import json
import re

import pytest

from gardens import poured

TEST = "/g/test"
HOUSE = {"type": "FeatureCollection", "features": [
    {"type": "Feature", "properties": {"name": "House <b>"}, "geometry": {
        "type": "Polygon", "coordinates": [[[0, 20], [8, 20], [8, 26], [0, 26], [0, 20]]]}},
    {"type": "Feature", "properties": {"name": "Way"}, "geometry": {
        "type": "LineString", "coordinates": [[9, 20], [9, 27]]}}]}


@pytest.fixture
def looked(client, gardens, library):
    gardens.add(poured(library, units="us"), "made")
    return client, client.post(f"{TEST}/outlines", data={"unit": "m"}, files={
        "file": ("house.geojson", json.dumps(HOUSE).encode())}).text


def sent(page, **picks):
    return {"outlines": html.unescape(re.search(r'name="outlines" value="([^"]*)"', page)[1]),
            "said": "so"} | {key.replace("_", "-"): value for key, value in picks.items()}


def test_what_is_picked_comes_in_as_one_change_and_picked(looked, gardens):
    client, page = looked
    assert "2 outlines" in page
    assert "29.53\u00a0ft by 22.97\u00a0ft" in page
    assert "House &lt;b&gt;" in page
    before = gardens.load("test")
    answer = client.post(f"{TEST}/outlines/take", data=sent(page, as_0="building", as_1="path"),
                         follow_redirects=False)
    assert answer.status_code == 303
    after = gardens.load("test").garden
    assert [b.name for b in after.buildings] == ["House <b>"]
    assert [(p.x_m, p.y_m) for p in after.paths[0].course] == [(9, 20), (9, 27)]
    plan = client.get(answer.headers["location"]).text
    assert 'data-picked="paths/path-1,buildings/building-1"' in plan or (
        'data-picked="buildings/building-1,paths/path-1"' in plan)
    client.post(f"{TEST}/undo")
    assert gardens.load("test").garden == before.garden


def test_what_cannot_be_taken_stands_there_with_its_picks(looked, gardens):
    client, page = looked
    nothing = client.post(f"{TEST}/outlines/take", data=sent(page))
    assert nothing.status_code == 422
    assert "Pick what at least one" in nothing.text
    wrong = client.post(f"{TEST}/outlines/take", data=sent(page, as_0="bed", as_1="roof"))
    assert wrong.status_code == 422
    assert "cannot be taken as" in wrong.text
    assert re.search(r'<option\s+value="bed" selected', wrong.text)
    for spoilt in ("", "[]x", '[["a", true, [[0, 0], [1e9, 0]]]]', '[["a", true, []]]'):
        answer = client.post(f"{TEST}/outlines/take", data={"outlines": spoilt, "as-0": "bed"})
        assert answer.status_code == 422, spoilt
    assert gardens.load("test").garden.buildings == ()


@pytest.mark.parametrize("body", [b"", b"hello", b"{}", b"\xff\xfe", b"[[[["])
def test_a_file_that_is_none_is_said_beside_its_button(client, gardens, library, body):
    gardens.add(poured(library), "made")
    answer = client.post(f"{TEST}/outlines", files={"file": ("a.dxf", body)})
    assert answer.status_code == 422
    assert '<details class="rest no-print" id="outlines" open>' in answer.text
    assert "A plan in DXF" in answer.text or "places in it" in answer.text
