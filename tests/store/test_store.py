"""The file: transactions, undo and redo across restarts, a killed server."""

import os
import signal
import sqlite3
import subprocess
import sys
import time

import pytest

from euhydra.core.editing.values import SetValue
from euhydra.store.database import Database
from euhydra.store.gardens import Gardens
from euhydra.store.history import past
from euhydra.store.kept import Overtaken, free_id, slug
from gardens import poured


@pytest.fixture
def gardens(tmp_path, library):
    return Gardens(Database(tmp_path / "g.sqlite3"), library)


def stand(gardens, garden_id, height):
    kept = gardens.load(garden_id)
    path = f"stores/{kept.garden.store.id}/stand_m"
    gardens.edit(SetValue(path, height).apply(kept.garden, gardens.library), f"stand {height}",
                 kept)


def height(gardens, garden_id="test"):
    return gardens.load(garden_id).garden.store.stand_m


def test_undo_and_redo_survive_a_restart(gardens, library):
    gardens.add(poured(library), "First pour")
    stand(gardens, "test", 0.5)
    stand(gardens, "test", 0.6)
    gardens.undo("test")
    again = Gardens(Database(gardens.database.path), library)
    assert height(again) == 0.5
    kept = again.load("test")
    assert (kept.undo, kept.redo) == ("stand 0.5", "stand 0.6")
    again.redo("test")
    assert height(again) == 0.6
    again.undo("test")
    again.undo("test")
    assert height(again) == poured(library).store.stand_m
    assert again.load("test").undo is None
    again.undo("test")
    assert height(again) == poured(library).store.stand_m


def test_a_new_edit_after_undo_starts_a_new_way(gardens, library):
    gardens.add(poured(library), "First pour")
    stand(gardens, "test", 0.5)
    gardens.undo("test")
    stand(gardens, "test", 0.9)
    assert gardens.load("test").redo is None
    assert gardens.history("test") == ["stand 0.9", "First pour"]
    gardens.undo("test")
    gardens.redo("test")
    assert height(gardens) == 0.9


def test_an_edit_on_an_older_state_is_refused(gardens, library):
    gardens.add(poured(library), "First pour")
    kept = gardens.load("test")
    stand(gardens, "test", 0.5)
    with pytest.raises(Overtaken):
        gardens.edit(kept.garden, "late", kept)
    assert height(gardens) == 0.5


def test_a_transaction_that_fails_keeps_nothing(gardens, library):
    gardens.add(poured(library), "First pour")

    def half_done():
        with gardens.database.write() as db:
            db.execute("DELETE FROM garden")
            raise ZeroDivisionError

    with pytest.raises(ZeroDivisionError):
        half_done()
    assert height(gardens) == poured(library).store.stand_m


def test_foreign_keys_and_strict_tables_hold(gardens, library):
    gardens.add(poured(library), "First pour")
    with pytest.raises(sqlite3.IntegrityError), gardens.database.write() as db:
        db.execute("UPDATE garden SET head = 999")
    with pytest.raises(sqlite3.IntegrityError), gardens.database.write() as db:
        db.execute("UPDATE change SET before_id = 'x'")
    with gardens.database.read() as db:
        assert db.execute("PRAGMA journal_mode").fetchone()[0] == "wal"


def test_ids_are_made_free(gardens, library):
    assert [gardens.add(poured(library), "x").id for _ in range(3)] == ["test", "test-2", "test-3"]
    assert free_id("a" * 64, {"a" * 64}).endswith("-2")
    assert slug("Plot 27, façade!") == "plot-27-fa-ade"
    assert slug("花園") == "garden"


WRITER = """
import sys
from pathlib import Path
from euhydra.core.editing.values import SetValue
from euhydra.data import library
from euhydra.store.database import Database
from euhydra.store.history import past
from euhydra.store.gardens import Gardens
gardens = Gardens(Database(Path(sys.argv[1])), library())
n = 0
while True:
    n += 1
    kept = gardens.load("test")
    edit = SetValue("stores/barrels/shell_kg", float(n % 1000))
    gardens.edit(edit.apply(kept.garden, gardens.library), f"edit {n}", kept)
    print(n, flush=True)
"""


def test_a_kill_during_a_write_loses_at_most_the_unanswered_edit(gardens, library):
    gardens.add(poured(library), "First pour")
    for wait in (0.35, 0.5, 0.62):
        before = len(past(gardens.database, "test"))
        writer = subprocess.Popen([sys.executable, "-c", WRITER, str(gardens.database.path)],
                                  stdout=subprocess.PIPE, text=True)
        first = writer.stdout.readline()
        assert first
        time.sleep(wait)
        os.kill(writer.pid, signal.SIGKILL)
        answered = [int(first), *(int(x) for x in writer.stdout.read().split("\n") if x)]
        writer.wait()
        db = sqlite3.connect(gardens.database.path)
        assert db.execute("PRAGMA integrity_check").fetchone()[0] == "ok"
        assert not db.execute("PRAGMA foreign_key_check").fetchall()
        db.close()
        made = len(past(gardens.database, "test")) - before
        assert made in (answered[-1], answered[-1] + 1)
