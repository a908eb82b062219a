"""The file of gardens: spoilt, full, held, of another kind, and twenty thousand changes long."""

from __future__ import annotations

import random
import shutil
import sqlite3
import subprocess
import sys
import time
import traceback
from collections import Counter
from contextlib import closing
from pathlib import Path

from euhydra.core.editing.file import BadFile
from euhydra.core.editing.plan_edits import MoveBy
from euhydra.core.editing.trees import EditRefused
from euhydra.store import backup, states
from euhydra.store.database import Database
from euhydra.store.gardens import Gardens
from torture.ground import LIBRARY, client_on, demo


def damaged(share: float, folder: Path, faults: list[str]) -> str:
    """Files of gardens spoilt anywhere: they open as far as they can be read, or in words."""
    dice, told = random.Random(5), Counter()
    whole = demo(folder)
    with closing(sqlite3.connect(whole.database.path)) as db:
        db.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        db.execute("PRAGMA journal_mode = DELETE")
    data = whole.database.path.read_bytes()
    for n in range(int(400 * share)):
        spoilt = bytearray(data)
        for _ in range(dice.choice([1, 5, 200])):
            spoilt[dice.randrange(len(spoilt))] = dice.randrange(256)
        path = folder / f"spoilt-{n}.sqlite3"
        path.write_bytes(spoilt[:dice.randrange(len(spoilt))] if dice.random() < 0.2 else spoilt)
        try:
            database = Database(path)
            client = client_on(Gardens(database, LIBRARY))
            for address in ("/", "/safe", "/health", "/g/kiln-yard/place",
                            "/g/plot-27/export/garden.json"):
                answer = client.get(address)
                told[answer.status_code] += 1
                if answer.status_code == 500:
                    raise AssertionError(f"{address} answered 500")
            client.post("/g/balcony/edit", data={"path": "name", "typed": "x", "station": "place"})
        except Exception:
            faults.append(f"spoilt {n}: {traceback.format_exc(limit=-3)[-1200:]}")
        for left in folder.glob(f"spoilt-{n}*"):
            shutil.rmtree(left) if left.is_dir() else left.unlink()
    return f"{int(400 * share)} spoilt files of gardens: {dict(told)}"


def full_disk(share: float, folder: Path, faults: list[str]) -> str:
    """A file that may grow no further: each write is refused in words, all that was kept stands."""
    script = """
import resource, sys
from pathlib import Path
sys.path.insert(0, sys.argv[2])
from torture.files import client_on, LIBRARY, Gardens, Database
path = Path(sys.argv[1])
import signal
signal.signal(signal.SIGXFSZ, signal.SIG_IGN)
gardens = Gardens(Database(path), LIBRARY)
client = client_on(gardens)
client.get("/g/kiln-yard/place")
resource.setrlimit(resource.RLIMIT_FSIZE, (path.stat().st_size, path.stat().st_size))
kept, refused = "", 0
for n in range(400):
    name = f"Name {n}" + "x" * (n % 60)
    answer = client.post("/g/kiln-yard/edit", data={
        "path": "site/local_rules", "typed": name, "station": "place"})
    if answer.status_code == 303:
        kept = name
    elif answer.status_code == 503:
        refused += 1
    else:
        print("answered", answer.status_code, answer.text[:200]); sys.exit(1)
print(kept, refused, sep="|")
"""
    gardens = demo(folder)
    done = subprocess.run([sys.executable, "-W", "ignore", "-c", script, str(gardens.database.path),
                           str(Path(__file__).parents[1])], capture_output=True, text=True)
    said = done.stdout.strip().splitlines()[-1:] or [done.stderr[-800:]]
    kept, _, refused = said[0].partition("|")
    stands = Gardens(Database(gardens.database.path), LIBRARY).load("kiln-yard").garden
    if done.returncode or not refused.isdecimal() or int(refused) == 0:
        faults.append(f"full disk: {said[0]} {done.stderr[-800:]}")
    elif kept and stands.site.local_rules != kept:
        faults.append(f"full disk: {stands.site.local_rules!r} stands, {kept!r} was answered")
    return f"a disk that is full: {refused} of 400 edits refused in words, the last kept one stands"


def growth(share: float, folder: Path, faults: list[str]) -> str:
    """Twenty thousand changes of one garden: how large the file is, and how long a load takes."""
    gardens, wanted = demo(folder), int(20_000 * share)
    dice, times = random.Random(1), {}
    for n in range(wanted):
        kept = gardens.load("kiln-yard")
        garden = kept.garden
        try:
            if n % 4 == 0:
                garden = MoveBy((f"plots/{dice.choice(garden.plots).id}",), dice.uniform(-.2, .2),
                                dice.uniform(-.2, .2)).apply(garden, LIBRARY)
            else:
                site = garden.site.model_copy(update={"local_rules": f"Note {n}"})
                garden = garden.model_copy(update={"site": site})
            gardens.edit(garden, f"change {n}", kept)
        except (EditRefused, BadFile):
            continue
        if n in (10, wanted - 1):
            start = time.perf_counter()
            for _ in range(20):
                gardens.load("kiln-yard")
                gardens.history("kiln-yard")
            times[n] = (time.perf_counter() - start) / 20
    size = gardens.database.path.stat().st_size / 2**20
    if size > 60 * max(share, 0.05):
        faults.append(f"growth: {size:.1f} MB")
    first, last = min(times.values()), times[max(times)]
    return (f"{wanted} changes take {size:.1f} MB (bound 60 MB for 20,000); a load takes "
            f"{last / first:.2f} of what it took at first")


def locked(share: float, folder: Path, faults: list[str]) -> str:
    """A file that another program holds, cannot be written to, or is of another app."""
    gardens, told = demo(folder), []
    path = gardens.database.path
    with closing(sqlite3.connect(path, isolation_level=None)) as db:
        db.execute("BEGIN EXCLUSIVE")
        answer = client_on(gardens).post("/g/balcony/edit", data={
            "path": "name", "typed": "x", "station": "place"})
        told.append(f"held: {answer.status_code}")
        if answer.status_code != 503 or "Another program" not in answer.text:
            faults.append(f"held: {answer.status_code} {answer.text[:300]}")
    copy = folder / "copy.sqlite3"
    backup.make(gardens.database, copy, LIBRARY)
    with closing(sqlite3.connect(copy)) as db:
        db.execute("ALTER TABLE state RENAME TO estate")
    client = client_on(Gardens(Database(copy), LIBRARY))
    for address in ("/", "/safe", "/health", "/g/balcony/place"):
        answer = client.get(address)
        told.append(f"another schema {address}: {answer.status_code}")
        if answer.status_code == 500:
            faults.append(f"another schema: {address} answered 500")
    with gardens.database.write() as db:
        db.execute("UPDATE state SET body = ?", (states.packed("{}"),))
    answer = client_on(gardens).get("/g/balcony/place")
    told.append(f"nothing readable: {answer.status_code}")
    return "; ".join(told)
