"""The guard by itself, as the server drives it."""

import asyncio
from concurrent.futures import ThreadPoolExecutor

import pytest

from euhydra.cli import main
from euhydra.web.guard import LARGEST_BODY, Guard


class Reached:
    """An app that notes what it was given."""

    def __init__(self):
        self.bodies = []

    async def __call__(self, scope, receive, send):
        message = await receive() if scope["method"] == "POST" else {"body": b"", "type": ""}
        self.bodies.append((scope["method"], message["body"]))
        await send({"type": "http.response.start", "status": 200, "headers": []})
        await send({"type": "http.response.body", "body": b"fine"})


def drive(messages, method="POST", host=b"localhost:8017", origin=b"http://localhost:8017",
          at="", more_headers=(), path="/"):
    """Send messages through the guard; the app's notes and the answer's status."""
    app, sent, waiting = Reached(), [], list(messages)

    async def receive():
        if not waiting:
            await asyncio.sleep(60)
        return waiting.pop(0)

    async def send(message):
        sent.append(message)

    headers = [(b"host", host)] + ([(b"origin", origin)] if origin else [])
    headers += more_headers
    scope = {"type": "http", "method": method, "path": path, "headers": headers}
    with ThreadPoolExecutor(1) as apart:  # a browser test's loop may be running in this one
        apart.submit(asyncio.run, Guard(app, at)(scope, receive, send)).result()
    status = next((m["status"] for m in sent if m["type"] == "http.response.start"), None)
    return app.bodies, status, sent


def part(body, more):
    return {"type": "http.request", "body": body, "more_body": more}


def test_a_body_in_parts_arrives_whole():
    bodies, status, _ = drive([part(b"typed=0.4", True), part(b"5 m", False)])
    assert bodies == [("POST", b"typed=0.45 m")]
    assert status == 200


def test_half_a_form_is_no_form():
    bodies, status, _ = drive([part(b"typed=0.4", True), {"type": "http.disconnect"}])
    assert bodies == []
    assert status is None


def test_a_large_body_is_read_to_its_end_and_thrown_away():
    mega = b"x" * (1024 * 1024)
    bodies, status, sent = drive([part(mega, True)] * 9 + [part(b"", False)])
    assert bodies == []
    assert status == 413
    assert b"4 MB" in sent[-1]["body"]


def test_a_body_just_within_the_limit_passes():
    bodies, status, _ = drive([part(b"x" * LARGEST_BODY, False)])
    assert status == 200
    assert len(bodies[0][1]) == LARGEST_BODY


def test_a_sender_that_falls_silent_is_dropped_in_words(monkeypatch):
    monkeypatch.setattr("euhydra.web.guard.SILENT_S", 0.01)
    bodies, status, sent = drive([part(b"half", True)])
    assert bodies == []
    assert status == 408
    assert b"send it again" in sent[-1]["body"]


def test_a_body_said_to_be_far_too_large_is_not_read():
    told = (b"content-length", str(2**40).encode())
    bodies, status, _ = drive([], more_headers=(told,))
    assert bodies == []
    assert status == 413


@pytest.mark.parametrize(("host", "status"), [
    (b"localhost", 200), (b"127.0.0.1:9", 200), (b"[::1]:8017", 200), (b"[::1]", 200),
    (b"localhost:8106@evil", 421), (b"localhost:", 421), (b"localhost:80:evil", 421),
    (b"evil.example", 421), (b"localhost.evil.example", 421), (b"", 421),
    (b"127.0.0.1.evil.example:80", 421)])
def test_only_this_machine_s_names_are_hosts(host, status):
    assert drive([], method="GET", host=host, origin=None)[1] == status


def test_a_head_request_is_answered_as_a_get():
    bodies, status, _ = drive([], method="HEAD", origin=None)
    assert bodies == [("GET", b"")]
    assert status == 200


@pytest.mark.parametrize("method", ["PUT", "DELETE", "PATCH", "OPTIONS"])
def test_other_writes_need_an_origin_too(method):
    assert drive([part(b"", False)], method=method, origin=None)[1] == 403


def test_headers_are_on_refusals_too():
    _, _, sent = drive([], method="GET", host=b"evil.example", origin=None)
    names = {name for name, _ in sent[0]["headers"]}
    assert b"content-security-policy" in names


@pytest.mark.parametrize(("host", "origin", "status"), [
    (b"garden.local:8017", b"http://garden.local:8017", 200),
    (b"localhost:8017", b"http://localhost:8017", 200),
    (b"garden.local", b"http://garden.local", 421), (b"evil.example", b"http://evil.example", 421),
    (b"garden.local:8017", b"http://evil.example", 403),
    (b"garden.local:8017", b"https://garden.local:8017", 403)])
def test_one_address_more_is_answered_where_it_is_named_and_no_other(host, origin, status):
    _, answered, _ = drive([part(b"", False)], host=host, origin=origin,
                           at="http://garden.local:8017")
    assert answered == status


@pytest.mark.parametrize("address", ["garden.local", "http://", "ftp://garden", "http://a b",
                                     "http://garden/app", "javascript:alert(1)"])
def test_an_address_that_is_none_is_refused_on_the_command_line(address, capsys):
    with pytest.raises(SystemExit):
        main(["serve", "--at", address])
    assert "no such address" in capsys.readouterr().err


@pytest.mark.parametrize(("site", "mode", "dest", "path", "status"), [
    (b"none", b"navigate", b"document", "/g/k/push", 200),
    (b"cross-site", b"navigate", b"document", "/g/k/push", 200),
    (b"cross-site", b"no-cors", b"image", "/g/k/push", 403),
    (b"cross-site", b"navigate", b"iframe", "/g/k/push", 403),
    (b"cross-site", b"navigate", b"document", "/g/k/export/garden.pdf", 403),
    (b"same-site", b"navigate", b"document", "/g/k/prove/work", 403),
    (b"same-origin", b"cors", b"empty", "/g/k/prove/work", 200)])
def test_another_site_makes_nothing_costly(site, mode, dest, path, status):
    headers = [(b"sec-fetch-site", site), (b"sec-fetch-mode", mode), (b"sec-fetch-dest", dest)]
    assert drive([], method="GET", origin=None, path=path, more_headers=headers)[1] == status
