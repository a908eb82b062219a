"""The server itself, killed while it writes."""

import os
import signal
import socket
import sqlite3
import subprocess
import sys
import threading
import time
import urllib.parse
import urllib.request

import pytest

from euhydra.data import library
from euhydra.store.database import Database
from euhydra.store.gardens import Gardens


@pytest.mark.parametrize("wait", [0.31, 0.57])
def test_killing_the_server_loses_at_most_the_unanswered_edit(tmp_path, wait):
    with socket.socket() as sock:
        sock.bind(("127.0.0.1", 0))
        port = sock.getsockname()[1]
    path = tmp_path / "g.sqlite3"
    server = subprocess.Popen([sys.executable, "-m", "euhydra", "demo", "--port", str(port),
                               "--db", str(path)], stdout=subprocess.PIPE, text=True)
    server.stdout.readline()
    site, answered = f"http://localhost:{port}", []

    def type_on() -> None:
        for kilos in range(1, 500):
            data = urllib.parse.urlencode({"path": "stores/barrels/shell_kg",
                                           "typed": f"{kilos} kg", "station": "store"}).encode()
            request = urllib.request.Request(f"{site}/g/kiln-yard/edit", data, {
                "Origin": site, "X-Fragment": "1"})
            try:
                with urllib.request.urlopen(request) as said:
                    answered.append(kilos if said.status == 200 else None)
            except OSError:
                if answered:
                    return
                time.sleep(0.05)

    typist = threading.Thread(target=type_on)
    typist.start()
    while len(answered) < 2:
        time.sleep(0.02)
    time.sleep(wait)
    os.kill(server.pid, signal.SIGKILL)
    server.wait()
    typist.join()
    db = sqlite3.connect(path)
    assert db.execute("PRAGMA integrity_check").fetchone()[0] == "ok"
    db.close()
    kept = Gardens(Database(path), library()).load("kiln-yard").garden.store.shell_kg
    assert kept in (answered[-1], answered[-1] + 1)
