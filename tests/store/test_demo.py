"""The six gardens of the demo: each stands, says one thing, and has the log of a season."""

import datetime as dt

import pytest

from euhydra.audit import audit
from euhydra.cli import DEMO_GARDENS, add_demo
from euhydra.core.assessment.assess import STATIONS, assess
from euhydra.core.log.entries import KINDS, things_of
from euhydra.core.log.year_end import year_end
from euhydra.store.database import Database
from euhydra.store.gardens import Gardens
from euhydra.store.log import Log

IN_USE = [name for name in DEMO_GARDENS if name != "plot-27"]  # which rain alone cannot water


@pytest.fixture(scope="module")
def demo(tmp_path_factory, library):
    gardens = Gardens(Database(tmp_path_factory.mktemp("demo") / "g.sqlite3"), library)
    add_demo(gardens)
    add_demo(gardens)
    return gardens


def test_six_gardens_are_kept_once(demo):
    assert sorted(listed.id for listed in demo.listed()) == sorted(DEMO_GARDENS)
    assert len(DEMO_GARDENS) == 6


@pytest.mark.parametrize("name", DEMO_GARDENS)
def test_each_says_one_thing_and_stands_as_a_garden_in_use(demo, library, name):
    a = assess(demo.load(name).garden, library)
    assert not audit(a).differ
    stops = {f.rule for key in STATIONS for f in a.station(key).findings if f.level == "stop"}
    assert not stops or name not in IN_USE, stops


@pytest.mark.parametrize("name", DEMO_GARDENS)
def test_each_has_a_season_s_log_of_things_that_are_there(demo, library, name):
    garden = demo.load(name).garden
    entries = Log(demo.database).of(name)
    assert len(entries) > 20
    for entry in entries:
        kind = KINDS[entry.kind]
        assert entry.about in things_of(garden, kind.about) or not kind.about
        assert not kind.unit or 0 <= entry.value <= kind.most
        assert dt.date(2026, 4, 1) < entry.day < dt.date(2026, 10, 31)
    if garden.stores:
        ended = year_end(assess(garden, library), entries, 2026, dt.date(2026, 12, 1))
        assert sum(source.litres for source in ended.sources) > 100
