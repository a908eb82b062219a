"""Routes by their answers: pages, edits, the guard, bad input, files."""

import html
import json
import re

import pytest
from starlette.testclient import TestClient

from euhydra import cli
from euhydra.core.assessment.assess import STATIONS
from euhydra.web.app import create_app
from euhydra.web.guard import POLICY
from euhydra.web.panes import VIEWS

KILN = "/g/kiln-yard"


@pytest.mark.parametrize("station", STATIONS)
def test_every_view_of_every_station_in_gallons(client, station):
    """In litres each is opened in the browser."""
    client.post(f"{KILN}/units", data={"station": station})
    for view in VIEWS[station]:
        page = client.get(f"{KILN}/{station}?view={view.key}")
        assert page.status_code == 200
        assert page.text.count("data-value") >= 2


def test_the_report_on_the_exported_garden_gives_the_figures_of_the_pages(client, tmp_path,
                                                                          capsys):
    path = tmp_path / "garden.json"
    path.write_text(client.get(f"{KILN}/export/garden.json").text)
    assert cli.main(["report", str(path), "--json"]) == 0
    report = json.loads(capsys.readouterr().out)
    assert list(report["stations"]) == list(STATIONS)
    shown = 0
    for station, said in report["stations"].items():
        page = client.get(f"{KILN}/{station}").text
        on_page = {key: html.unescape(value) for key, value in re.findall(
            r'data-figure="([^"]+)".*?data-value>([^<]*)<', page, re.S)}
        assert on_page == {f["key"]: f["shown"] for f in said["figures"]}
        for finding in said["findings"]:
            assert finding["title"] in html.unescape(page)
        shown += len(on_page)
    assert shown > 40


def test_an_edit_is_kept_and_shows_what_it_changed(client, gardens):
    said = client.post(f"{KILN}/edit", headers={"X-Fragment": "1"}, data={
        "path": "stores/barrels/stand_m", "typed": "2 ft", "station": "push"})
    assert said.status_code == 200
    assert gardens.load("kiln-yard").garden.store.stand_m == pytest.approx(0.6096)
    assert re.search(r"was [\d.]+ L/h", said.text.replace("\u00a0", " "))
    assert "<html" not in said.text


def test_without_script_an_edit_goes_back_to_the_page(client):
    said = client.post(f"{KILN}/edit", follow_redirects=False, data={
        "path": "stores/barrels/count", "typed": "4", "station": "store"})
    assert said.status_code == 303
    assert "4 × 210" in client.get(f"{KILN}/push?zone=zone-bed-1").text.replace("\u00a0", " ")


@pytest.mark.parametrize(("path", "step", "value"), [
    ("stores/barrels/stand_m", "up", 0.5), ("stores/barrels/stand_m", "down", 0.4),
    ("stores/barrels/count", "up", 4), ("site/climate/rain_mm/6", "up", 15)])
def test_an_arrow_steps_to_the_next_round_figure(client, gardens, path, step, value):
    client.post(f"{KILN}/edit", data={"path": path, "step": step, "station": "store"})
    from euhydra.core.editing.fields import measure_at

    assert measure_at(gardens.load("kiln-yard").garden, path).value == pytest.approx(value)


def test_an_edit_that_changes_nothing_makes_no_change(client, gardens):
    before = gardens.load("kiln-yard").change
    client.post(f"{KILN}/edit", data={"path": "stores/barrels/count", "typed": "3",
                                      "station": "store"})
    assert gardens.load("kiln-yard").change == before


def test_a_remedy_is_tried_kept_and_undone(client, gardens):
    name = "push.valve-shut:ball-valve"
    tried = client.get(f"{KILN}/push?try={name}")
    assert "Nothing is kept yet" in tried.text
    assert gardens.load("kiln-yard").garden.timers[0].kind == "dial-pilot"
    client.post(f"{KILN}/remedy", data={"station": "push", "remedy": name})
    assert gardens.load("kiln-yard").garden.timers[0].kind == "dial-ball"
    gone = client.post(f"{KILN}/remedy", data={"station": "push", "remedy": name})
    assert gone.status_code == 422
    assert "no longer applies" in gone.text
    client.post(f"{KILN}/undo")
    assert gardens.load("kiln-yard").garden.timers[0].kind == "dial-pilot"
    client.post(f"{KILN}/redo")
    assert gardens.load("kiln-yard").garden.timers[0].kind == "dial-ball"


def test_plots_are_added_and_removed(client, gardens):
    client.post(f"{KILN}/things", data={"add": "bed"})
    assert len(gardens.load("kiln-yard").garden.plots) == 10
    client.post(f"{KILN}/things", data={"remove": "plots/border"})
    assert "border" not in {p.id for p in gardens.load("kiln-yard").garden.plots}
    assert client.post(f"{KILN}/things", data={"remove": "plots/moon"}).status_code == 422


BAD_EDITS = [("letters", "stores/barrels/stand_m", "ten", "is not a number"),
             ("negative", "stores/barrels/volume_l", "-5 L", "goes from"),
             ("huge", "roofs/workshop/width_m", "9e99 km", "goes from"),
             ("empty", "stores/barrels/count", "", "Nothing typed"),
             ("wrong unit", "stores/barrels/volume_l", "3 ft", "does not measure a volume"),
             ("a NaN", "stores/barrels/stand_m", "NaN", "is not a number"),
             ("not whole", "stores/barrels/count", "2.5", "is not whole"),
             ("no such crop", "plots/bed-1/plantings/p1/crop", "moss", "is not one of"),
             ("no day", "plots/bed-1/plantings/p1/planted", "31 June", "is not a day"),
             ("empty name", "name", " ", "nothing typed"),
             ("long name", "name", "x" * 300, "longer than 80 letters"),
             ("control letters", "name", "a\x00b", "control characters"),
             ("no such path", "stores/barrels/__class__", "1", "can be typed"),
             ("a month that cannot be", "site/climate/wet_days/6", "0", "needs more than")]


@pytest.mark.parametrize(("path", "typed", "says"), [b[1:] for b in BAD_EDITS],
                         ids=[b[0] for b in BAD_EDITS])
def test_a_bad_entry_is_answered_and_nothing_is_lost(client, gardens, path, typed, says):
    before = gardens.load("kiln-yard").change
    said = client.post(f"{KILN}/edit", data={"path": path, "typed": typed, "station": "store"})
    assert said.status_code == 422
    assert says in html.unescape(said.text).replace("\u00a0", " ")
    assert gardens.load("kiln-yard").change == before


@pytest.mark.parametrize(("name", "content", "status", "says"), [
    ("garden.json", b'{"format": "euhydra-garden", "version": 1, "garden": {"id"', 422,
     "not whole JSON"),
    ("garden.json", b'{"format": "euhydra-garden", "version": 7, "garden": {}}', 422,
     "version “7”"),
    ("garden.json", b'{"format": "euhydra-garden", "version": NaN}', 422, "holds NaN"),
    ("photo.jpg", b"\xff\xd8\xff\xe0" + b"\x00" * 400, 422, "is not text"),
    ("empty.json", b"", 422, "is empty"),
    ("list.json", b"[1, 2]", 422, "a garden's file is one object"),
    ("deep.json", b"[" * 200_000, 422, "nested too deep"),
    ("big.json", b" " * (50 * 1024 * 1024), 413, "larger than 4 MB"),
])
def test_a_wrong_file_is_answered_and_nothing_is_kept(client, gardens, name, content, status,
                                                      says):
    said = client.post("/import", files={"file": (name, content)})
    assert said.status_code == status
    assert says in html.unescape(said.text)
    assert len(gardens.listed()) == 3


def test_a_garden_goes_out_and_comes_in_again(client, gardens):
    text = client.get(f"{KILN}/export/garden.json").text
    said = client.post("/import", files={"file": ("kiln.json", text.encode())},
                       follow_redirects=False)
    assert said.headers["location"] == "/g/kiln-yard-2/garden"
    first, second = (gardens.load(x).garden for x in ("kiln-yard", "kiln-yard-2"))
    assert second == first.model_copy(update={"id": "kiln-yard-2"})


@pytest.mark.parametrize(("method", "path", "status"), [
    ("get", "/g/none/push", 404), ("get", f"{KILN}/moon", 404), ("get", "/nothing", 404),
    ("get", f"{KILN}/push?view=%00&zone=x&level=9&month=77&since=99999999999&try=a", 200),
    ("get", f"{KILN}/push?since=123456", 200), ("post", f"{KILN}/edit", 422),
    ("post", "/g/none/undo", 404), ("put", "/first-pour", 405), ("post", "/import", 422),
    ("get", f"/g/{'x' * 3000}/push", 404), ("get", "/g/%ff/push", 404)])
def test_odd_addresses_are_answered(client, method, path, status):
    said = client.request(method, path)
    assert said.status_code == status


def test_the_guard_refuses_foreign_hosts_and_cross_site_writes(gardens):
    app = create_app(gardens)
    stranger = TestClient(app, base_url="http://evil.example")
    assert stranger.get("/").status_code == 421
    plain = TestClient(app, base_url="http://localhost:8017")
    assert plain.get("/").status_code == 200
    for headers in ({}, {"Origin": "http://evil.example"}, {"Origin": "null"},
                    {"Origin": "https://localhost:8017"}, {"Origin": "http://localhost:9"},
                    {"Sec-Fetch-Site": "cross-site"}):
        assert plain.post(f"{KILN}/undo", headers=headers).status_code == 403
    for headers in ({"Origin": "http://localhost:8017"}, {"Sec-Fetch-Site": "same-origin"}):
        assert plain.post(f"{KILN}/undo", headers=headers).status_code == 200


def test_every_answer_carries_the_policy_and_no_inline_script(client):
    for path in ("/", "/first-pour", f"{KILN}/push", "/nothing", "/static/app.css"):
        said = client.get(path)
        assert said.headers["content-security-policy"] == POLICY
        for script in re.findall(r"<script([^>]*)>", said.text):
            assert 'src="/static/' in script or 'type="application/json"' in script
        assert not re.search(r"\son[a-z]+=|\sstyle=", said.text)
    assert "unsafe" not in POLICY


def test_health_and_schema(client):
    assert client.get("/health").json()["status"] == "ok"
    assert client.get("/schema/garden.json").json()["properties"]["version"] == {"const": 6}


def test_an_empty_file_of_gardens_offers_the_way_in(tmp_path, library):
    from euhydra.store.database import Database
    from euhydra.store.gardens import Gardens

    empty = Gardens(Database(tmp_path / "empty.sqlite3"), library)
    page = TestClient(create_app(empty), base_url="http://localhost").get("/")
    assert "Nothing is drawn yet" in page.text
    assert 'href="/first-pour"' in page.text


def test_names_are_escaped_everywhere(client):
    client.post(f"{KILN}/edit", data={"path": "plots/bed-1/name", "station": "grow",
                                      "typed": "<script>alert(1)</script>"})
    for station in STATIONS:
        for view in VIEWS[station]:
            assert "<script>alert" not in client.get(f"{KILN}/{station}?view={view.key}").text


def test_the_command_line_imports_exports_and_says_what_is_wrong(tmp_path, capsys, kiln_yard):
    from euhydra.core.editing.file import to_json

    path, db = tmp_path / "k.json", str(tmp_path / "g.sqlite3")
    path.write_text(to_json(kiln_yard))
    assert cli.main(["import", str(path), "--db", db]) == 0
    assert cli.main(["export", "kiln-yard", "--db", db, "--out", str(tmp_path / "o.json")]) == 0
    assert (tmp_path / "o.json").read_text() == path.read_text()
    capsys.readouterr()
    assert cli.main(["report", str(path), "--units", "us"]) == 0
    assert "psi" in capsys.readouterr().out
    assert cli.main(["export", "none", "--db", db]) == 2
    assert "no garden called none" in capsys.readouterr().err
    path.write_text("{")
    assert cli.main(["report", str(path)]) == 2
    assert "not whole JSON" in capsys.readouterr().err
    assert cli.main(["report", str(tmp_path / "missing.json")]) == 2
