"""Who comes in from the network: by passphrase or code, as one who keeps or as a guest, or not."""

import datetime as dt
import io
import re

import pytest
from starlette.testclient import TestClient

from euhydra import cli, serving
from euhydra.core.assessment.assess import STATIONS
from euhydra.store.access import Access, TooShort
from euhydra.web.app import create_app
from euhydra.web.door import FREE_TRIES, Patience
from euhydra.web.guard import HEADERS

AT, PHRASE = "http://garden.local:8017", "four dry summer words"
NOW = dt.datetime(2026, 7, 31, tzinfo=dt.UTC)


@pytest.fixture
def app(gardens):
    Access(gardens.database).choose(PHRASE)
    return create_app(gardens, AT, stands_open=True)


def device(app, host="192.168.1.7", at=AT, **headers) -> TestClient:
    """A browser somewhere in the network."""
    return TestClient(app, base_url=at, client=(host, 50000), follow_redirects=False,
                      headers={"Origin": at, **headers})


def here(app) -> TestClient:
    return device(app, "127.0.0.1", "http://localhost:8017")


def signed_in(app, **more):
    phone = device(app, **more)
    answer = phone.post("/sign-in", data={"passphrase": PHRASE, "name": "My phone"})
    assert answer.status_code == 303
    return phone


def test_a_stranger_is_asked_for_the_passphrase_at_every_address(app):
    stranger = device(app)
    for path in ("/", "/safe", "/health", "/schema/garden.json", "/outdoors.js", "/first-pour",
                 "/g/kiln-yard/export/garden.json", "/g/kiln-yard/devices",
                 *(f"/g/kiln-yard/{station}" for station in STATIONS)):
        answer = stranger.get(path)
        assert answer.status_code == 303, path
        assert answer.headers["location"].startswith("/sign-in?to=")
        assert answer.headers["content-security-policy"] == HEADERS["Content-Security-Policy"]
    for path in ("/g/kiln-yard/edit", "/g/kiln-yard/undo", "/import", "/safe/copy", "/safe/pair"):
        assert stranger.post(path, data={"role": "owner"}).status_code == 401, path
    assert stranger.get("/static/app.css").status_code == 200
    assert stranger.get("/sign-in").status_code == 200


@pytest.mark.parametrize(("host", "at", "headers"), [
    ("192.168.1.7", "http://localhost:8017", {}), ("192.168.1.7", "http://127.0.0.1", {}),
    ("127.0.0.1", AT, {}), ("10.0.0.2", "http://[::1]:8017", {}),
    ("127.0.0.1", "http://localhost:8017", {"X-Forwarded-For": "8.8.8.8"}),
    ("127.0.0.1", "http://localhost:8017", {"Forwarded": "for=8.8.8.8"})])
def test_the_name_localhost_alone_lets_nobody_in(app, host, at, headers):
    assert device(app, host, at, **headers).get("/g/kiln-yard/place").status_code == 303


def test_this_machine_stays_free_of_it(app):
    assert here(app).get("/g/kiln-yard/place").status_code == 200
    assert device(app, "::1", "http://localhost:8017").get("/").status_code == 200


def test_who_knows_the_passphrase_comes_in_and_is_led_where_they_wanted(app, gardens):
    phone = device(app)
    asked = phone.get("/g/plot-27/keep?view=log").headers["location"]
    page = phone.get(asked)
    to = re.search(r'name="to" value="([^"]*)"', page.text)[1]
    answer = phone.post("/sign-in", data={"passphrase": PHRASE, "to": to})
    assert answer.headers["location"] == "/g/plot-27/keep?view=log"
    told = answer.headers["set-cookie"].lower()
    assert "httponly" in told
    assert "samesite=strict" in told
    assert phone.get("/g/plot-27/place").status_code == 200
    phone.post("/g/plot-27/edit", data={"path": "name", "typed": "By phone", "station": "place"})
    assert gardens.load("plot-27").garden.name == "By phone"


@pytest.mark.parametrize("to", ["//evil.example", "https://evil.example", "/\\evil", "",
                                "/sign-in"])
def test_signing_in_leads_nowhere_else(app, to):
    answer = device(app).post("/sign-in", data={"passphrase": PHRASE, "to": to})
    assert answer.headers["location"] == "/"


def test_wrong_passphrases_are_slowed_down_by_address(app):
    phone = device(app)
    for _ in range(FREE_TRIES):
        assert phone.post("/sign-in", data={"passphrase": "guess"}).status_code == 422
    said = phone.post("/sign-in", data={"passphrase": PHRASE})
    assert said.status_code == 429
    assert "Try again in" in said.text
    assert device(app, "192.168.1.8").post("/sign-in",
                                           data={"passphrase": PHRASE}).status_code == 303


def test_patience_doubles_and_ends_with_the_right_one():
    now = [0.0]
    patience = Patience(lambda: now[0])
    waits = []
    for _ in range(14):
        patience.missed("a")
        waits.append(patience.wait_s("a"))
    assert waits[:FREE_TRIES - 1] == [0, 0]
    assert waits[FREE_TRIES - 1:FREE_TRIES + 3] == [2, 4, 8, 16]
    assert max(waits) == 600
    now[0] = 600.0
    assert patience.wait_s("a") == 0
    patience.found("a")
    patience.missed("a")
    assert patience.wait_s("a") == 0


def test_a_phone_is_let_in_by_a_code_once_and_shut_out_again(app):
    page = here(app).post("/safe/pair", data={"role": "owner"}).text
    assert "<svg" in page
    way = re.search(rf"<code>{AT}(/pair/[^<]+)</code>", page)[1]
    phone = device(app)
    assert "Let this device in?" in phone.get(way).text
    assert phone.post(way, data={"name": "<b>Phone</b>"}).status_code == 303
    assert phone.get("/g/kiln-yard/place").status_code == 200
    other = device(app)
    assert other.get(way).status_code == 404
    assert other.post(way).status_code == 404
    assert other.get("/").status_code == 303
    listed = here(app).get("/safe").text
    assert "&lt;b&gt;Phone" in listed
    session = re.search(r'name="session" value="([0-9a-f]{64})"', listed)[1]
    here(app).post("/safe/shut-out", data={"session": session})
    assert phone.get("/g/kiln-yard/place").status_code == 303
    device(app).cookies.set("entry", session)
    thief = device(app)
    thief.cookies.set("entry", session)
    assert thief.get("/").status_code == 303, "what is kept of a device lets nobody in"


def test_a_guest_looks_and_changes_nothing(app, gardens):
    page = here(app).post("/safe/pair", data={"role": "guest"}).text
    way = re.search(rf"<code>{AT}(/pair/[^<]+)</code>", page)[1]
    guest = device(app)
    guest.post(way, data={"name": "Next door"})
    for station in STATIONS:
        assert guest.get(f"/g/plot-27/{station}").status_code == 200
    before = gardens.load("plot-27")
    for path, data in (("/g/plot-27/edit", {"path": "name", "typed": "x", "station": "place"}),
                       ("/g/plot-27/undo", {}), ("/g/plot-27/delete", {}), ("/safe/copy", {}),
                       ("/safe/pair", {"role": "owner"}), ("/g/plot-27/log", {"kind": "rain"}),
                       ("/g/plot-27/ticks", {"step": "walk"}), ("/first-pour", {})):
        assert guest.post(path, data=data).status_code == 403, path
    for path in ("/safe", "/safe/file", "/g/plot-27/export/everything.zip"):
        assert guest.get(path).status_code == 403, path
    assert gardens.load("plot-27") == before


@pytest.mark.parametrize("held", ["", "x", "a" * 5000, "é", '"', "a; b=c", "\x00"])
def test_nonsense_in_a_cookie_lets_nobody_in(app, held):
    phone = device(app, Cookie=f"entry={held}".encode())
    assert phone.get("/g/kiln-yard/place").status_code == 303


def test_codes_and_devices_grow_old(gardens):
    access = Access(gardens.database)
    code = access.offer("owner", NOW)
    assert access.offered(code, NOW + dt.timedelta(minutes=9)) == "owner"
    assert access.take(code, "late", NOW + dt.timedelta(minutes=11)) is None
    held = access.let_in("owner", "phone", NOW)
    assert access.role_of(held, NOW + dt.timedelta(days=170)) == "owner"
    assert access.role_of(held, NOW + dt.timedelta(days=340)) == "owner", "it was seen meanwhile"
    assert access.role_of(held, NOW + dt.timedelta(days=540)) is None


def test_a_new_passphrase_shuts_every_device_out(app, gardens, monkeypatch, capsys):
    phone = signed_in(app)
    monkeypatch.setenv("EUHYDRA_PASSPHRASE", "another four dry words")
    assert cli.main(["passphrase", "--db", str(gardens.database.path)]) == 0
    assert phone.get("/").status_code == 303
    access = Access(gardens.database)
    assert access.fits("another four dry words")
    assert not access.fits(PHRASE)
    with pytest.raises(TooShort):
        access.choose("short")
    with gardens.database.read() as db:
        assert db.execute("SELECT hash FROM passphrase").fetchone()[0].startswith("$argon2id$")


def test_without_a_passphrase_nobody_else_is_let_in(gardens, monkeypatch, capsys):
    monkeypatch.delenv("EUHYDRA_PASSPHRASE", raising=False)
    monkeypatch.setattr("sys.stdin", io.StringIO())
    assert cli.main(["serve", "--host", "0.0.0.0", "--db", str(gardens.database.path)]) == 2
    assert "passphrase is needed" in capsys.readouterr().err
    shut = create_app(gardens)
    assert here(shut).get("/sign-in").status_code == 404
    assert here(shut).post("/safe/pair", data={"role": "owner"}).status_code == 404
    assert "Phones and guests" not in here(shut).get("/safe").text


@pytest.mark.parametrize(("host", "at", "open_"), [
    ("127.0.0.1", None, False), ("127.0.0.1", "http://localhost:9", False), ("::1", None, False),
    ("0.0.0.0", None, True), ("192.168.1.2", None, True),
    ("127.0.0.1", "https://garden.example", True)])
def test_the_door_is_there_wherever_others_may_come_by_a_proxy_too(host, at, open_):
    assert serving.reached_by_others(host, at) is open_
