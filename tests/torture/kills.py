"""The server killed while it writes: what was answered is there afterwards."""

from __future__ import annotations

import http.client
import io
import multiprocessing
import os
import random
import socket
import sqlite3
import threading
import time
import urllib.error
import urllib.parse
import urllib.request
from collections.abc import Callable, Iterator
from contextlib import closing
from pathlib import Path

from PIL import Image

from euhydra.core.editing.file import BadFile
from euhydra.data import garden_text
from euhydra.store.database import Database
from euhydra.store.gardens import Gardens
from euhydra.store.kept import Unreadable
from torture.ground import LIBRARY

A_FILE_LASTS = 100  # kills, so that looking it through takes no longer at the thousandth
# A process of its own that has read the app in, and of which each server is a fork.
STARTED = multiprocessing.get_context("forkserver")
STARTED.set_forkserver_preload(["euhydra.cli", "euhydra.web.app", "uvicorn"])


def kills(share: float, folder: Path, faults: list[str]) -> str:
    """The server killed in the middle of edits, entries with photos, ticks and imports."""
    dice = random.Random(2)
    out = io.BytesIO()
    Image.new("RGB", (200, 100), "green").save(out, "JPEG")
    picture, garden = out.getvalue(), garden_text("plot-27").encode()
    killed = answered = 0
    for n in range(int(1000 * share)):
        path = folder / f"killed-{n // A_FILE_LASTS}.sqlite3"
        with socket.socket() as sock:
            sock.bind(("127.0.0.1", 0))
            port = sock.getsockname()[1]
        server = STARTED.Process(target=serve, args=(path, port))
        server.start()
        _listening(port)
        kept: dict[str, str] = {}
        killer, count = threading.Timer(dice.uniform(0.01, 1.0), server.kill), 0
        while True:
            count += 1
            what, make = dice.choice(list(WRITES.items()))
            try:
                done = make(f"http://localhost:{port}", f"{n}-{count}", picture, garden)
            except (OSError, http.client.HTTPException):
                break
            if count == 1:
                killer.start()
            answered += 1
            kept[what] = done
        if count == 1:
            faults.append(f"kill {n}: nothing was answered")
            server.kill()
        server.join()
        killed += 1
        faults += [f"kill {n}: {why}" for why in _lost(path, kept)]
        if killed % 50 == 0:
            print(f"  {killed} kills, {len(faults)} faults {faults[-1:]}", flush=True)
    return f"{killed} kills, {answered} answered writes, each of them looked for afterwards"


def serve(path: Path, port: int) -> None:
    """The app with the demo gardens, as ``euhydra demo`` starts it; what it says goes nowhere."""
    from euhydra.cli import main

    for stream in (1, 2):
        os.dup2(os.open(os.devnull, os.O_WRONLY), stream)
    main(["demo", "--port", str(port), "--db", str(path)])


def _listening(port: int) -> None:
    for _ in range(600):
        try:
            socket.create_connection(("localhost", port), 1).close()
        except OSError:
            time.sleep(0.05)
        else:
            return


def _post(address: str, data: dict[str, str], files: dict[str, bytes] | None = None) -> str:
    site = address.split("/g/")[0].removesuffix("/import")
    headers = {"Origin": site}
    if files is None:
        body = urllib.parse.urlencode(data).encode()
    else:
        mark = "----part"
        head = f"--{mark}\r\nContent-Disposition: form-data; name=\"%s\"%s\r\n\r\n"
        parts = [(head % (k, "")).encode() + v.encode() + b"\r\n" for k, v in data.items()]
        parts += [(head % (k, '; filename="f"')).encode() + v + b"\r\n" for k, v in files.items()]
        body = b"".join(parts) + f"--{mark}--\r\n".encode()
        headers["Content-Type"] = f"multipart/form-data; boundary={mark}"
    opener = urllib.request.build_opener(_Stay)
    with opener.open(urllib.request.Request(address, body, headers), timeout=60) as said:
        return str(said.headers.get("location", ""))


class _Stay(urllib.request.HTTPErrorProcessor):
    """Answers as they come: a redirect is not followed."""

    def http_response(self, request, response):
        if response.status >= 400:
            raise urllib.error.URLError(str(response.status))
        return response


def _edit(site: str, name: str, picture: bytes, garden: bytes) -> str:
    _post(f"{site}/g/kiln-yard/edit", {"path": "site/local_rules", "typed": name,
                                       "station": "place"})
    return name


def _photo(site: str, name: str, picture: bytes, garden: bytes) -> str:
    entry = f"{name.replace('-', 'x'):0>12}"
    _post(f"{site}/g/kiln-yard/log", {"kind": "photo", "entry": entry, "new": "1", "about": "",
                                      "day": "2026-05-01"}, {"file": picture})
    return entry


def _tick(site: str, name: str, picture: bytes, garden: bytes) -> str:
    _post(f"{site}/g/kiln-yard/ticks", {"step": name, "done": "yes"})
    return name


def _import(site: str, name: str, picture: bytes, garden: bytes) -> str:
    return _post(f"{site}/import", {}, {"file": garden}).split("/")[2]


WRITES: dict[str, Callable[[str, str, bytes, bytes], str]] = {
    "edit": _edit, "photo": _photo, "tick": _tick, "import": _import}


def _lost(path: Path, kept: dict[str, str]) -> Iterator[str]:
    """What was answered and is not there, or does not read."""
    with closing(sqlite3.connect(path)) as db:
        if (found := db.execute("PRAGMA integrity_check").fetchone()[0]) != "ok":
            yield f"the file is damaged: {found}"
        if db.execute("PRAGMA foreign_key_check").fetchall():
            yield "what belongs together is apart"
        if db.execute("SELECT count(*) FROM log WHERE kind = 'photo' AND id NOT IN"
                      " (SELECT entry FROM photo)").fetchone()[0]:
            yield "an entry stands without its photo"
        if "photo" in kept and not db.execute("SELECT 1 FROM photo WHERE entry = ?",
                                              (kept["photo"],)).fetchone():
            yield f"photo {kept['photo']} is lost"
        if "tick" in kept and not db.execute("SELECT 1 FROM tick WHERE step = ?",
                                             (kept["tick"],)).fetchone():
            yield f"tick {kept['tick']} is lost"
    gardens = Gardens(Database(path), LIBRARY)
    try:
        if "import" in kept:
            gardens.load(kept["import"])
        stands = gardens.load("kiln-yard").garden.site.local_rules
    except (LookupError, Unreadable, BadFile) as error:
        yield f"a garden is lost: {error!r}"
        return
    # One after the last answered may have been kept when it was killed.
    if "edit" in kept and _order(stands) < _order(kept["edit"]):
        yield f"{stands} stands, {kept['edit']} was answered"


def _order(name: str) -> tuple[int, ...]:
    return tuple(int(part) for part in name.split("-") if part.isdecimal())
