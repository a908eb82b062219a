"""Safekeeping in the browser's own requests, and the file's troubles in words."""

import io
import sqlite3
import zipfile
from contextlib import closing

import pytest
from starlette.testclient import TestClient

from euhydra.core.assessment.assess import STATIONS
from euhydra.store.database import Database
from euhydra.store.gardens import Gardens
from euhydra.web.app import create_app
from euhydra.web.guard import HEADERS
from web.conftest import ORIGIN


def opened(path, library) -> TestClient:
    return TestClient(create_app(Gardens(Database(path), library)), base_url=ORIGIN,
                      headers={"Origin": ORIGIN})


def test_a_copy_is_made_by_a_button_and_listed(client):
    assert "There is no copy yet" in client.get("/safe").text
    page = client.post("/safe/copy")
    assert "3 gardens copied" in page.text
    assert "by-hand-" in page.text
    assert "7 daily copies, one a week for 8 weeks" in page.text


def test_a_garden_is_deleted_once_asked_and_put_back(client):
    said = client.post("/g/balcony/delete").text
    assert "goes for good on" in said
    assert client.get("/g/balcony/push").status_code == 404
    assert client.get("/g/balcony/export/garden.json").status_code == 404
    assert "/g/balcony/push" not in client.get("/").text
    assert client.post("/g/balcony/delete").status_code == 404
    client.post("/g/balcony/back")
    assert client.get("/g/balcony/push").status_code == 200
    assert client.post("/g/balcony/prune").text.count("0 changes older than a year forgotten")


def test_everything_is_saved_and_opens_from_the_front_door(client, gardens):
    client.post("/g/plot-27/edit", data={"path": "name", "typed": "Far", "station": "place"})
    client.post("/g/plot-27/log", data={"kind": "rain", "typed": "12 mm", "day": "2026-05-01"})
    saved = client.get("/g/plot-27/export/everything.zip").content
    assert {"garden.json", "log.csv", "ticks.json", "history.jsonl"} <= set(
        zipfile.ZipFile(io.BytesIO(saved)).namelist())
    answer = client.post("/import", files={"file": ("all.zip", saved)}, follow_redirects=False)
    there = answer.headers["location"].split("/")[2]
    assert there == "plot-27-2"
    assert gardens.load(there).garden.name == "Far"
    assert "12" in client.get(f"/g/{there}/export/log.csv").text
    client.post(f"/g/{there}/undo")
    client.post(f"/g/{there}/undo")
    page = client.get(f"/g/{there}/place")
    assert "Plot 27" in page.text
    assert f"/g/{there}/lay" in page.text


@pytest.mark.parametrize("body", [b"PK\x03\x04", b"PK" + b"\0" * 400, b"\xff\xfe\x00"])
def test_a_zip_that_is_none_is_refused_in_words(client, body):
    said = client.post("/import", files={"file": ("all.zip", body)})
    assert said.status_code == 422
    assert "all.zip" in said.text


def test_a_file_of_a_newer_app_can_be_looked_at_and_saved_and_not_changed(gardens, library):
    path = gardens.database.path
    with closing(sqlite3.connect(path)) as db:
        db.execute("PRAGMA user_version = 99")
    client = opened(path, library)
    assert "knows versions up to" in client.get("/").text
    assert client.get("/g/plot-27/place").status_code == 200
    said = client.post("/g/plot-27/edit", data={"path": "name", "typed": "x", "station": "place"})
    assert said.status_code == 503
    assert "Nothing was changed" in said.text
    assert client.post("/safe/copy").status_code == 503
    assert client.get("/health").json()["status"] == "newer"
    assert client.get("/safe/file").content[:15] == b"SQLite format 3"


def test_a_file_that_is_no_database_bars_no_page(tmp_path, library):
    path = tmp_path / "g.sqlite3"
    path.write_bytes(b"A letter. " * 900)
    client = opened(path, library)
    for address in ("/", "/safe", "/first-pour"):
        page = client.get(address)
        assert page.status_code == 200
    assert "not one that Euhydra keeps gardens in" in client.get("/").text
    for station in STATIONS:
        page = client.get(f"/g/kiln-yard/{station}")
        assert page.status_code == 503
        assert "euhydra restore" in page.text
    assert client.get("/health").status_code == 503
    assert client.get("/safe/file").content == path.read_bytes()


@pytest.mark.parametrize(("words", "told"), [
    ("database or disk is full", "The disk is full."),
    ("database is locked", "Another program holds the file")])
def test_a_write_that_fails_is_told_and_nothing_is_changed(client, gardens, monkeypatch, words,
                                                           told):
    def fails(*_):
        raise sqlite3.OperationalError(words)

    monkeypatch.setattr("euhydra.store.states.write", fails)
    said = client.post("/g/plot-27/edit", data={"path": "name", "typed": "x", "station": "place"})
    assert said.status_code == 503
    assert told in said.text
    assert "Nothing was changed" in said.text
    monkeypatch.undo()
    assert gardens.load("plot-27").garden.name == "Plot 27"


def test_a_fault_of_our_own_is_told_without_a_traceback_and_with_every_header(client, monkeypatch):
    def fails(*_):
        raise ZeroDivisionError("in the middle of it")

    monkeypatch.setattr("euhydra.web.pages.station_page", fails)
    said = client.get("/g/plot-27/place")
    assert said.status_code == 500
    assert "fault of Euhydra" in said.text
    assert "in the middle" not in said.text
    for name, value in HEADERS.items():
        assert said.headers[name] == value
