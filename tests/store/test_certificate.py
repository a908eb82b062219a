"""A certificate made on the spot: a client that trusts the authority, and no other, is served."""

import datetime as dt
import ssl
import stat
import threading
from http.server import BaseHTTPRequestHandler, HTTPServer
from urllib.error import URLError
from urllib.request import urlopen

import pytest

from euhydra import cli
from euhydra.store.certificate import certificate

NOW = dt.datetime.now(dt.UTC)
NAMES = ("garden.local", "localhost", "127.0.0.1", "::1")


class Says(BaseHTTPRequestHandler):
    def do_GET(self):
        self.send_response(200)
        self.end_headers()
        self.wfile.write(b"fine")

    def log_message(self, *_):
        pass


@pytest.fixture
def served(tmp_path):
    made = certificate(tmp_path / "https", NAMES, NOW)
    server = HTTPServer(("127.0.0.1", 0), Says)
    context = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
    context.load_cert_chain(made.cert, made.key)
    server.socket = context.wrap_socket(server.socket, server_side=True)
    threading.Thread(target=server.serve_forever, daemon=True).start()
    yield made, server.server_port
    server.shutdown()
    server.server_close()


def test_who_trusts_the_authority_is_served_by_name_and_by_address(served):
    made, port = served
    trusting = ssl.create_default_context(cafile=made.authority)
    for name in ("localhost", "127.0.0.1"):
        with urlopen(f"https://{name}:{port}/", context=trusting) as said:
            assert said.read() == b"fine"
    with pytest.raises(URLError, match="CERTIFICATE_VERIFY_FAILED"):
        urlopen(f"https://localhost:{port}/", context=ssl.create_default_context())


def test_it_is_kept_until_it_ends_and_made_anew_for_other_names(tmp_path):
    made = certificate(tmp_path, NAMES, NOW)
    first, authority = made.cert.read_bytes(), made.authority.read_bytes()
    assert certificate(tmp_path, NAMES, NOW).cert.read_bytes() == first
    other = certificate(tmp_path, ("shed.local", *NAMES), NOW)
    assert other.cert.read_bytes() != first
    again = certificate(tmp_path, NAMES, NOW + dt.timedelta(days=380)).cert.read_bytes()
    assert again != first
    assert made.authority.read_bytes() == authority, "what phones trust stays"
    assert {stat.S_IMODE(p.stat().st_mode) for p in tmp_path.glob("*.*")} == {0o600}


@pytest.mark.parametrize("more", [["--cert", "x.pem"], ["--https", "--cert", "x.pem"],
                                  ["--https", "--cert", "x.pem", "--key", "y.pem"]])
def test_a_certificate_that_is_none_is_told_in_words(tmp_path, capsys, more):
    assert cli.main(["serve", "--db", str(tmp_path / "g.sqlite3"), "--port", "0", *more]) == 2
    assert "no HTTPS" in capsys.readouterr().err
