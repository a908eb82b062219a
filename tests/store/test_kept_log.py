"""The log in its file: each entry once, taken out and put back, quick after ten seasons."""

import datetime as dt

import pytest

from euhydra.core.log import Entry
from euhydra.store.database import Database
from euhydra.store.gardens import Gardens
from euhydra.store.kept import NoSuchGarden
from euhydra.store.log import Log
from euhydra.store.ticks import Tick, Ticks


@pytest.fixture
def kept(tmp_path, library, kiln_yard):
    gardens = Gardens(Database(tmp_path / "g.sqlite3"), library)
    gardens.add(kiln_yard, "Demo")
    return gardens.database


def entry(number, **more):
    return Entry(f"entry-{number:06d}", dt.date(2017, 1, 1) + dt.timedelta(days=number % 3650),
                 more.pop("kind", "note"), **more)


def test_an_entry_that_arrives_twice_stands_once_and_as_it_was_last_said(kept):
    log = Log(kept)
    log.put("kiln-yard", [entry(1, note="a")])
    log.put("kiln-yard", [entry(1, note="b"), entry(0, kind="rain", value=0.1 + 0.2)])
    assert log.of("kiln-yard") == (entry(0, kind="rain", value=0.1 + 0.2), entry(1, note="b"))


def test_what_is_taken_out_can_be_put_back(kept):
    log = Log(kept)
    log.put("kiln-yard", [entry(1)])
    assert log.take_out("kiln-yard", entry(1).id)
    assert log.of("kiln-yard") == ()
    assert log.take_out("kiln-yard", entry(1).id, back=True)
    assert log.of("kiln-yard") == (entry(1),)
    assert not log.take_out("kiln-yard", "no-such-entry")


def test_a_garden_that_is_none_keeps_nothing(kept):
    with pytest.raises(NoSuchGarden):
        Log(kept).put("moon", [entry(1)])
    with pytest.raises(NoSuchGarden):
        Ticks(kept).say("moon", [Tick("walk", True)])


def test_ten_seasons_are_read_in_order(kept):
    log = Log(kept)
    log.put("kiln-yard", [entry(i, kind="rain", value=1.0) for i in range(3650)])
    found = log.of("kiln-yard")
    assert len(found) == 3650
    assert [e.day for e in found] == sorted(e.day for e in found)
