"""What is promised of the file: copies, damage, other versions, full disks, what goes for good."""

import datetime as dt
import os
import sqlite3
import stat
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from dataclasses import replace

import pytest

from euhydra import cli
from euhydra.core.editing.file import to_json
from euhydra.store import backup, going, trouble
from euhydra.store.database import Database, connect, migrations, version
from euhydra.store.gardens import Gardens
from euhydra.store.in_use import AlreadyInUse, alone, shared
from euhydra.store.minder import mind
from euhydra.store.states import packed
from gardens import poured, typed

NOW = dt.datetime(2026, 7, 31, 12, tzinfo=dt.UTC)


def test_the_file_and_its_folder_are_for_their_owner_alone(gardens):
    path = gardens.database.path
    typed(gardens, "name", "Mine")
    assert stat.S_IMODE(path.stat().st_mode) == 0o600
    assert stat.S_IMODE(path.parent.stat().st_mode) == 0o700
    assert {stat.S_IMODE(p.stat().st_mode) for p in path.parent.glob("g.sqlite3*")} == {0o600}


def test_a_change_costs_what_it_changed_and_every_state_reads_back(gardens, library):
    for n in range(450):
        typed(gardens, "stores/barrels/shell_kg", float(n % 90))
    with gardens.database.read() as db:
        sizes = [row[0] for row in db.execute(
            "SELECT length(body) FROM state WHERE base_id NOTNULL")]
        wholes = db.execute("SELECT count(*) FROM state WHERE base_id ISNULL").fetchone()[0]
        steps = db.execute("SELECT id FROM change ORDER BY id").fetchall()
    assert max(sizes) < 400
    assert wholes == 3, "a full state now and then"
    read = [gardens.at_change("test", row[0]).store.shell_kg for row in steps[1:]]
    assert read == [float(n % 90) for n in range(450)]
    assert len(gardens.history("test")) == 100, "what is shown does not grow with age"


def test_pruning_forgets_what_is_older_than_a_year_and_keeps_undo_for_it(gardens):
    for n in range(6):
        typed(gardens, "stores/barrels/shell_kg", 10.0 + n)
    with gardens.database.write() as db:
        old = (NOW - dt.timedelta(days=400)).isoformat()
        db.execute("UPDATE change SET made_at = ? WHERE id <= 4", (old,))
        db.execute("UPDATE change SET made_at = ? WHERE id > 4", (NOW.isoformat(),))
    # The fourth stays: it is where undoing the year's first change leads.
    assert going.prune(gardens.database, "test", NOW) == 3
    for kilos in (15.0, 14.0, 13.0, 12.0, 12.0):
        assert gardens.load("test").garden.store.shell_kg == kilos
        gardens.undo("test")
    with gardens.database.read() as db:
        assert not db.execute("PRAGMA foreign_key_check").fetchall()
    typed(gardens, "name", "And on")
    assert gardens.load("test").garden.name == "And on"


def test_damage_to_a_state_is_seen_and_the_one_before_it_shown(gardens):
    typed(gardens, "name", "One")
    typed(gardens, "name", "Two")
    with gardens.database.write() as db:
        body = db.execute("SELECT body FROM state WHERE change_id = 3").fetchone()[0]
        for at in range(len(body)):
            spoilt = body[:at] + bytes([body[at] ^ 0x41]) + body[at + 1:]
            db.execute("UPDATE state SET body = ? WHERE change_id = 3", (spoilt,))
            kept = gardens.load("test")
            assert kept.garden.name == ("One" if kept.held_back else "Two")
        db.execute("UPDATE state SET body = ? WHERE change_id = 3", (body[:9],))
        assert gardens.load("test").held_back


def test_a_row_gone_from_the_tables_bars_no_garden(gardens, library):
    crop = gardens.load("test").garden.plots[0].plantings[0].crop
    typed(gardens, "name", "Grown")
    fewer = replace(
        library, crops={k: c for k, c in library.crops.items() if k != crop},
        timers={k: t for k, t in library.timers.items() if k != "dial-ball"},
        tubes={k: t for k, t in library.tubes.items() if k != "dripline"},
        outlets={k: o for k, o in library.outlets.items() if k != library.tubes["dripline"].outlet})
    later = Gardens(Database(gardens.database.path), fewer)
    kept = later.load("test")
    assert kept.held_back is None
    assert kept.library.crops[crop] == library.crops[crop]
    assert kept.library.timers["dial-ball"] == library.timers["dial-ball"]
    typed(later, "name", "Still")
    copy = later.add(kept.garden, "Copied", kept.library)
    assert later.load(copy.id).garden.plots == kept.garden.plots


def test_copies_are_checked_kept_by_the_rule_and_brought_back(gardens, library, capsys):
    path, database = gardens.database.path, gardens.database
    for day in range(100):
        today = dt.date(2026, 4, 1) + dt.timedelta(days=day)
        if day % 3 == 0 or day > 90:
            (database.backups).mkdir(exist_ok=True)
            (database.backups / f"daily-{today}.sqlite3").touch()
    (database.backups / "by-hand-x.sqlite3").touch()
    mind(gardens, dt.datetime(2026, 7, 10, tzinfo=dt.UTC))
    left = sorted(p.name for p in database.backups.iterdir())
    assert "by-hand-x.sqlite3" in left
    daily = [name[6:16] for name in left if name.startswith("daily")]
    assert daily[-7:] == [f"2026-07-{day:02d}" for day in range(4, 11)]
    assert len(daily) <= 7 + 8
    assert daily[0] >= "2026-05-15"
    copy = database.backups / "daily-2026-07-10.sqlite3"
    assert backup.checked(copy, library).gardens == 1
    typed(gardens, "name", "After the copy")
    with shared(path), pytest.raises(AlreadyInUse), alone(path):
        pass
    assert cli.main(["restore", str(copy), "--db", str(path)]) == 0
    assert gardens.load("test").garden.name == "Test"
    kept = next(database.backups.glob("before-restore-*"))
    assert Gardens(Database(kept), library).load("test").garden.name == "After the copy"
    capsys.readouterr()
    assert cli.main(["backup", "--db", str(path), "--to", str(path.parent / "own")]) == 0
    assert "1 gardens copied" in capsys.readouterr().out
    assert cli.main(["backup", "--db", str(path), "--to", str(path.parent / "own")]) == 2
    assert cli.main(["check", "--db", str(path)]) == 0


@pytest.mark.parametrize("spoil", ["not-gardens", "half", "newer", "empty"])
def test_what_is_no_copy_is_not_brought_back(gardens, tmp_path, spoil, capsys):
    bad = tmp_path / "bad"
    whole = gardens.database.path.read_bytes()
    half = whole[:len(whole) // 8192 * 4096]
    bad.write_bytes({"not-gardens": b"hello" * 1000, "half": half, "newer": whole,
                     "empty": b""}[spoil])
    if spoil == "newer":
        with closing(sqlite3.connect(bad)) as db:
            db.execute("PRAGMA user_version = 99")
    assert cli.main(["restore", str(bad), "--db", str(gardens.database.path)]) == 2
    assert "Traceback" not in capsys.readouterr().err
    assert gardens.load("test").garden.name == "Test"


def spoilt(path, how):
    with closing(sqlite3.connect(path)) as db:
        db.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        db.execute("PRAGMA journal_mode = DELETE")
        if how == "newer":
            db.execute("PRAGMA user_version = 99")
    body = path.read_bytes()
    if how == "not-gardens":
        path.write_bytes(b"This is a letter, not a database. " * 400)
    if how == "damaged":
        path.write_bytes(body[:8192] + os.urandom(len(body) - 8192))


@pytest.mark.parametrize("how", ["newer", "not-gardens", "damaged"])
def test_a_spoilt_file_opens_read_only_with_words_and_is_not_touched(gardens, library, how, capsys):
    path = gardens.database.path
    spoilt(path, how)
    before = path.read_bytes()
    database = Database(path)
    assert database.trouble.kind == how
    assert database.trouble.do
    with pytest.raises(trouble.CannotWrite, match="Nothing was changed"), database.write():
        pass
    assert path.read_bytes() == before
    if how == "newer":
        assert Gardens(database, library).load("test").garden.name == "Test"
    assert cli.main(["export", "test", "--db", str(path)]) == (0 if how == "newer" else 2)
    assert "Traceback" not in capsys.readouterr().err


def test_a_schema_that_is_no_text_is_told_as_damage(gardens, library):
    """SQLite quotes what it cannot read in its error, which then is no text either."""
    path = gardens.database.path
    spoilt(path, "")
    body = path.read_bytes()
    path.write_bytes(body.replace(b"CREATE TABLE garden", b"CREATE T\xeb\x9d\xbeE garden"))
    assert Database(path).trouble.kind == "damaged"
    with pytest.raises(trouble.BadCopy):
        backup.checked(path, library)


@pytest.mark.parametrize(("words", "kind"), [
    ("database or disk is full", "full"), ("attempt to write a readonly database", "read-only"),
    ("database is locked", "busy"), ("file is not a database", "not-gardens"),
    ("database disk image is malformed", "damaged"), ("unable to open database file", "read-only")])
def test_every_error_of_the_file_has_its_words(words, kind):
    told = trouble.of(sqlite3.OperationalError(words))
    assert told.kind == kind
    assert told.what.endswith(".")


def test_a_copy_is_made_before_an_upgrade_and_old_files_come_up_whole(tmp_path, library):
    """A file as the app before this one left it: whole text in each change."""
    path = tmp_path / "old.sqlite3"
    text = to_json(poured(library))
    with closing(connect(path)) as db:
        for number, script in enumerate(migrations()[:6], start=1):
            db.executescript(f"BEGIN;{script};PRAGMA user_version = {number};COMMIT;")
        db.execute("BEGIN")
        db.execute("INSERT INTO garden VALUES ('test', '2026-01-01T00:00:00+00:00', 402)")
        db.execute("INSERT INTO garden VALUES ('other', '2026-01-01T00:00:00+00:00', 403)")
        for change in range(1, 404):
            db.execute("INSERT INTO change VALUES (?, ?, ?, '2026-01-01T00:00:00+00:00', 'x',"
                       " 'Test', ?)", (change, "test" if change < 403 else "other",
                                       change - 1 if 1 < change < 403 else None,
                                       text.replace('"Test"', f'"Test {change}"')))
        db.execute("COMMIT")
    gardens = Gardens(Database(path), library)
    for change in (402, 401):
        assert gardens.load("test").garden == poured(library, name=f"Test {change}")
        gardens.undo("test")
    assert gardens.at_change("test", 1).name == "Test 1"
    assert gardens.load("other").garden.name == "Test 403"
    with gardens.database.read() as db:
        whole = db.execute("SELECT count(*) FROM state WHERE base_id IS NULL").fetchone()[0]
        size = db.execute("SELECT sum(length(body)) FROM state").fetchone()[0]
    assert whole == 4, "one in 200 of a garden's"
    assert size < 403 * len(packed(text)) / 5
    copy = next(gardens.database.backups.glob("before-upgrade-from-6-*"))
    with closing(connect(copy, "ro")) as db:
        assert version(db) == 6
        assert db.execute("SELECT count(*) FROM change").fetchone()[0] == 403
    assert backup.checked(copy, library).gardens == 2


def test_what_is_read_together_is_one_view_of_the_file(gardens):
    """As everything of a garden is, while another thread changes it."""
    with gardens.database.read():
        before = gardens.load("test")
        with ThreadPoolExecutor(1) as other:
            other.submit(typed, gardens, "name", "Meanwhile").result()
        assert gardens.load("test") == before
        assert len(gardens.history("test")) == 1
    assert gardens.load("test").garden.name == "Meanwhile"


def test_an_upgrade_without_a_sound_copy_is_not_begun(gardens, monkeypatch):
    def fails(*_):
        raise trouble.BadCopy("It is damaged.")

    monkeypatch.setattr("euhydra.store.backup.checked", fails)
    with closing(connect(gardens.database.path)) as db:
        db.execute("PRAGMA user_version = 6")
    database = Database(gardens.database.path)
    assert database.trouble.kind == "damaged"
    assert "before the upgrade" in str(database.trouble)
    with closing(connect(gardens.database.path, "ro")) as db:
        assert version(db) == 6
