"""Weather files, pasted months and things added or taken away, by their routes."""

import json

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from starlette.testclient import TestClient

from euhydra.core.editing.edits import Add
from euhydra.core.editing.makers import MAKERS
from euhydra.store.database import Database
from euhydra.store.gardens import Gardens
from euhydra.web.app import create_app
from euhydra.web.fields import Fields
from euhydra.web.measures import listed
from euhydra.web.panes import VIEWS
from gardens import poured

PLOT = "/g/plot-27"
DAYS = [f"2021-{m:02d}-{d:02d}" for m, n in enumerate(
    (31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31), 1) for d in range(1, n + 1)]
GOOD = "date,rain (mm),tmin,tmax,wind\n" + "\n".join(f"{d},{i % 9},4.5,{14 + i % 7},2.5"
                                                      for i, d in enumerate(DAYS))


def sent(client, text, name="days.csv", headers=None, **choices):
    body = text if isinstance(text, bytes) else text.encode()
    return client.post(f"{PLOT}/weather", files={"file": (name, body, "text/csv")}, data=choices,
                       headers=headers or {}, follow_redirects=False)


def test_a_file_is_read_kept_looked_at_and_used(client):
    answer = sent(client, GOOD)
    assert answer.status_code == 303
    page = client.get(answer.headers["location"]).text
    assert "1 year, 2021 to 2021" in page
    assert "Penman–Monteith" in page
    record = answer.headers["location"].rsplit("=", 1)[1]
    client.post(f"{PLOT}/weather/use", data={"record": record})
    assert "One measured year is little" in client.get(f"{PLOT}/place").text
    exported = client.get(f"{PLOT}/export/garden.json").json()
    assert exported["weather"]["first_year"] == 2021
    again = client.post("/import", files={"file": ("g.json", json.dumps(exported).encode())},
                        follow_redirects=False)
    assert again.status_code == 303
    place = again.headers["location"].replace("garden", "place")
    assert "One measured year is little" in client.get(place).text


def test_the_page_s_script_hears_how_far_the_reading_is(client):
    answer = sent(client, GOOD, headers={"x-fragment": "1"})
    assert answer.headers["content-type"].startswith("application/x-ndjson")
    steps = [json.loads(line) for line in answer.text.splitlines()]
    assert [s["read"] for s in steps[:-1]] == sorted(s["read"] for s in steps[:-1])
    assert steps[-1]["done"].startswith(f"{PLOT}/place?view=file&read=")
    refused = sent(client, "a,b\n1,2", headers={"x-fragment": "1"})
    assert "No column was found" in json.loads(refused.text.splitlines()[-1])["refused"]


@pytest.mark.parametrize(("text", "choices", "says"), [
    ("a,b\n1,2", {}, "No column was found"), (b"\xff\xfe\x00\x01\xd8", {}, ""),
    (b"PK\x03\x04\x00\x00", {}, "is not text"), (GOOD, {"unit_rain": "furlong"}, "not a unit"),
    (GOOD, {"day_order": "yyy"}, "day_order"), ("", {}, "")])
def test_what_is_no_weather_file_is_refused_in_words(client, text, choices, says):
    answer = sent(client, text, **choices)
    assert answer.status_code == 422
    assert says in answer.text


def test_units_may_be_chosen(client):
    location = sent(client, GOOD.replace(" (mm)", ""), unit_rain="in").headers["location"]
    assert "your choice" in client.get(location).text


def test_a_record_that_is_not_kept_is_refused(client):
    answer = client.post(f"{PLOT}/weather/use", data={"record": "f" * 16})
    assert answer.status_code == 422
    assert "Read the file again" in answer.text
    assert client.get(f"{PLOT}/place?view=file&read=nonsense").status_code == 200


@settings(deadline=None, max_examples=20, suppress_health_check=list(HealthCheck))
@given(st.one_of(st.binary(max_size=300), st.text(max_size=300).map(
    lambda t: ("date,rain,tmin,tmax\n" + t).encode("utf-8", "replace"))))
def test_no_upload_breaks_the_server(client, body):
    for path in (f"{PLOT}/weather", "/import"):
        assert client.post(path, files={"file": ("x", body)}).status_code in (200, 303, 400, 413,
                                                                              422)


def test_a_weather_file_may_be_larger_than_a_garden_and_not_without_end(client):
    five = b"x" * (5 * 1024 * 1024)
    assert client.post("/import", files={"file": ("x", five)}).status_code == 413
    assert sent(client, five).status_code == 422
    assert sent(client, b"x" * (17 * 1024 * 1024)).status_code == 413


@pytest.mark.parametrize("what", [w for w in MAKERS if w != "joint"])
def test_things_come_and_go_by_their_buttons(client, what):
    before = client.get("/g/balcony/store").text
    answer = client.post("/g/balcony/things", data={"add": what, "station": "store"})
    if what == "pump":
        assert answer.status_code == 422
        assert "Add a store first" in answer.text
        return
    assert answer.status_code == 200
    client.post("/g/balcony/undo", data={"station": "store"})
    assert client.get("/g/balcony/store").text.count("<option") == before.count("<option")


@pytest.mark.parametrize("data", [{"add": "moon"}, {"remove": "moon"}, {"remove": "stores/moon"},
                                  {"remove": "site"}, {"remove": "stores"}, {},
                                  {"add": "roofs/moon/downspouts"}, {"remove": "a/b/c/d/e"}])
def test_what_cannot_be_added_or_taken_away_is_refused_in_words(client, data):
    answer = client.post(f"{PLOT}/things", data=data)
    assert answer.status_code in (404, 422)
    assert "role=\"alert\"" in answer.text


@pytest.mark.parametrize("query", ["store=moon", "level=moon", "store=../x", "view=moon"])
def test_a_look_at_what_is_not_there_falls_back(client, query):
    for station in ("place", "catch", "store", "push"):
        assert client.get(f"{PLOT}/{station}?{query}").status_code == 200


@pytest.fixture(scope="module")
def everything(library, tmp_path_factory):
    """A client with one garden that holds one of every source, store and hollow."""
    kept = Gardens(Database(tmp_path_factory.mktemp("all") / "g.sqlite3"), library)
    garden = poured(library, pots=3)
    for what in ("roof", "tap", "well", "drain", "store", "joint", "spot", "rain-garden",
                 "wet-area", "drains/drain-1/basins", "tree", "tower", "gutter", "chain",
                 "float-pots", "path", "wall", "crop", "plots/bed-1/plantings"):
        garden = Add(what).apply(garden, library)
    kept.add(garden, "All")
    client = TestClient(create_app(kept), base_url="http://localhost",
                        headers={"Origin": "http://localhost"})
    paths = sorted({(station, field.path) for station in ("place", "catch", "store", "grow", "lay")
                    for group in listed(station, Fields(garden, library))
                    for field in group.fields})
    return client, paths


@settings(deadline=None, max_examples=25, suppress_health_check=list(HealthCheck))
@given(st.data())
def test_anything_typed_in_any_field_is_kept_or_refused_in_words(everything, data):
    client, paths = everything
    station, path = data.draw(st.sampled_from(paths))
    typed = data.draw(st.sampled_from(["", "0", "-1", "3", "1e99", "nan", "∞", "5 gal", "yes", "no",
                                       "0,0; 1,0; 0,1", "store-1", "barrels", "24 April", "{x}",
                                       "'; DROP TABLE", "a" * 300]))
    step = data.draw(st.sampled_from(["", "up", "down"]))
    answer = client.post("/g/test/edit", headers={"x-fragment": "1"}, data={
        "path": path, "typed": typed, "step": step, "station": station})
    assert answer.status_code in (200, 422), f"{path} {typed} {step}"
    view = data.draw(st.sampled_from(VIEWS[station])).key
    assert client.get(f"/g/test/{station}?view={view}").status_code == 200


def test_ghcn_daily_goes_in_as_it_comes_and_what_it_lacks_is_told(client):
    lines = [f"XX000000001,{d.replace('-', '')},{element},{value},,,S,"
             for i, d in enumerate(DAYS) for element, value in (
                 ("PRCP", 10 * (i % 4)), ("TMIN", 45), ("TMAX", 150 + i % 70))]
    answer = sent(client, "\n".join(lines), "station.csv")
    page = client.get(answer.headers["location"]).text
    assert "It is GHCN-Daily, a line a value." in page
    assert "It lacks humidity, dew point, wind, radiation, sunshine." in page
    refused = sent(client, "\n".join(line for line in lines if "PRCP" in line), "rain.csv",
                   {"x-fragment": "1"})
    assert "without the day's low and the day's high" in refused.text


def test_of_a_typical_year_the_months_are_taken_and_one_s_own_rain_stays(client, gardens):
    before = gardens.load("plot-27").garden.site.climate
    head = ["LOCATION,Made up,-,-,made,0,41.0,0.0,0.0,10.0"] + ["HEAD"] * 7
    hours = [",".join(["2001", str(int(d[5:7])), str(int(d[8:])), str(h + 1), "0", "?",
                       str(h % 20), *["0"] * 26, "999", "0"]) for d in DAYS for h in range(24)]
    answer = sent(client, "\n".join(head + hours), "place.epw")
    assert answer.headers["location"].endswith("/place?view=months")
    after = gardens.load("plot-27").garden.site.climate
    assert after.rain_mm == before.rain_mm
    assert after.tmin_c == (0.0,) * 12
    assert after.tmax_c == (19.0,) * 12
    assert "no rain in it, yours stays" in client.get(f"{PLOT}/place?view=months").text
    part = sent(client, "\n".join(head + hours[:100]), "part.epw", {"x-fragment": "1"})
    assert "holds 100 hours of weather; a year has 8760" in part.text
