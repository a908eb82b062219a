"""Everything of one garden: in one file and out again, deleted and put back."""

import datetime as dt
import io
import json
import zipfile

import pytest
from PIL import Image

from euhydra.core.editing.file import BadFile
from euhydra.core.log.entries import Entry
from euhydra.store import going, states
from euhydra.store.database import Database
from euhydra.store.gardens import Gardens
from euhydra.store.kept import NoSuchGarden
from euhydra.store.photos import Photo
from euhydra.store.ticks import Tick
from euhydra.web import bundle
from gardens import poured, typed

NOW = dt.datetime(2026, 7, 31, 12, tzinfo=dt.UTC)


def picture(colour="red"):
    out = io.BytesIO()
    Image.new("RGB", (40, 30), colour).save(out, "JPEG")
    return out.getvalue()


def filled(gardens):
    """The test garden with a log, a photo, a tick and a second change."""
    rooms = bundle.Rooms(gardens.database, gardens)
    rooms.log.put("test", [Entry("aaaaaaaa", dt.date(2026, 5, 1), "rain", "", 12.5, note="=1+1"),
                           Entry("bbbbbbbb", dt.date(2026, 5, 2), "photo", ""),
                           Entry("cccccccc", dt.date(2026, 5, 3), "rain", "", 3.0)])
    rooms.log.take_out("test", "cccccccc")
    rooms.photos.put("test", [Photo("bbbbbbbb", picture(), 40, 30)])
    rooms.ticks.say("test", [Tick("stand", True)])
    typed(gardens, "name", "Filled")
    return rooms


def as_photo(body, entry):
    return Photo(entry, body, 40, 30)


def test_everything_of_a_garden_goes_into_one_file_and_opens_elsewhere(gardens, tmp_path, library):
    data = bundle.packed(filled(gardens), "test")
    assert "log.csv" in zipfile.ZipFile(io.BytesIO(data)).namelist()
    other = Gardens(Database(tmp_path / "other.sqlite3"), library)
    other.add(poured(library), "Another of that name")
    there = bundle.Rooms(other.database, other)
    made = bundle.brought_in(there, data, dt.date(2026, 7, 31), as_photo)
    assert made == "test-2"
    assert other.load(made).garden == gardens.load("test").garden.model_copy(update={"id": made})
    mine = bundle.Rooms(gardens.database, gardens)
    assert there.log.of(made) == mine.log.of("test")
    assert there.photos.load(made, "bbbbbbbb").jpeg == picture()
    assert there.ticks.of(made) == {"stand"}
    assert other.history(made)[1:] == gardens.history("test")
    other.undo(made)
    other.undo(made)
    assert other.load(made).garden.name == "Test"
    assert other.load(made).garden.id == made


@pytest.mark.parametrize(("name", "body"), [
    ("history.jsonl", b'{"change": 1}'), ("history.jsonl", b"\xff"), ("ticks.json", b"{"),
    ("garden.json", b"{}"), ("log.csv", b"day,kind\nx,y")])
def test_a_spoilt_part_keeps_nothing_of_it(gardens, name, body):
    rooms = filled(gardens)
    whole = zipfile.ZipFile(io.BytesIO(bundle.packed(rooms, "test")))
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as packed:
        for part in whole.namelist():
            packed.writestr(part, body if part == name else whole.read(part))
    with pytest.raises((BadFile, bundle.log_csv.BadTable)):
        bundle.brought_in(rooms, out.getvalue(), dt.date(2026, 7, 31), as_photo)
    assert [g.id for g in gardens.listed()] == ["test"]


def test_what_is_deleted_comes_back_for_a_month_then_is_gone_from_every_table(gardens, library):
    rooms = filled(gardens)
    gardens.add(poured(library), "Another")
    going.delete(gardens.database, "test", NOW)
    with pytest.raises(NoSuchGarden):
        gardens.load("test")
    assert [g.id for g in gardens.listed()] == ["test-2"]
    assert [g.id for g in gardens.gone()] == ["test"]
    going.delete(gardens.database, "test", NOW, back=True)
    assert gardens.load("test").garden.name == "Filled"
    with gardens.database.write() as db:
        db.execute("UPDATE log SET gone_at = ? WHERE gone = 1", (NOW.isoformat(),))
    going.delete(gardens.database, "test-2", NOW)
    assert going.purge(gardens.database, NOW + dt.timedelta(days=29)) == 0
    assert going.purge(gardens.database, NOW + dt.timedelta(days=31)) == 2
    with gardens.database.read() as db:
        assert not db.execute("PRAGMA foreign_key_check").fetchall()
        for table, column in (("change", "garden_id"), ("own_row", "garden_id"), ("garden", "id")):
            ids = {r[0] for r in db.execute(f"SELECT {column} FROM {table}")}
            assert ids == {"test"}
        assert db.execute("SELECT count(*) FROM log WHERE gone = 1").fetchone()[0] == 0
        states_kept = {r[0] for r in db.execute("SELECT change_id FROM state")}
        assert states_kept == {r[0] for r in db.execute("SELECT id FROM change")}
    assert len(rooms.log.of("test")) == 2
    assert b"cccccccc" not in bundle.packed(rooms, "test")


def test_what_belongs_together_is_kept_together(gardens):
    log = bundle.Rooms(gardens.database, gardens).log

    def half_done():
        with gardens.database.write():
            log.put("test", [Entry("aaaaaaaa", dt.date(2026, 5, 1), "rain", "", 12.5)])
            typed(gardens, "name", "Half")
            raise ZeroDivisionError

    with pytest.raises(ZeroDivisionError):
        half_done()
    assert log.of("test") == ()
    assert gardens.load("test").garden.name == "Test"


def test_a_frame_that_would_unpack_without_end_is_refused():
    bomb = states.packed(b"\0" * (states.LARGEST + 1))
    with pytest.raises(states.Damaged):
        states.unpacked(bomb)
    assert json.loads(states.unpacked(states.packed("{}"))) == {}
