"""First pour with a laundry's drum: what it feeds beside other water, and by itself."""

import pytest

from euhydra.audit import audit
from euhydra.core.assessment.assess import assess
from gardens import poured

ANSWERS = {"laundry_led": "drum", "washes": 5, "wash_l": 60.0, "bucket_l": 10, "bucket_s": 40}


@pytest.mark.parametrize(("waters", "feeds", "by_drum"), [
    (("laundry",), "beds", {"bed-1", "bed-2", "pots-1"}),
    (("tap", "laundry"), "beds", {"bed-1", "bed-2"}),
    (("roof", "laundry"), "rest", {"pots-1"}),
    (("roof", "laundry"), "all", {"bed-1", "bed-2", "pots-1"})])
def test_a_drum_feeds_what_was_answered_and_all_where_it_is_alone(library, waters, feeds, by_drum):
    garden = poured(library, waters=waters, drum_feeds=feeds, **ANSWERS)
    assert {p.id for p in garden.plots if garden.source_of(p) == "drain-1"} == by_drum
    assert [(x.draws_from, x.control) for x in garden.lifts] == [("drain-1", "float")]
    assert bool(garden.timers) == (len(by_drum) < 3)
    a = assess(garden, library)
    assert a.station("catch").figure("grey_week_drain-1").amount.value == 5 * 60
    assert not audit(a).differ


def test_self_watering_rows_are_never_on_a_drum(library):
    garden = poured(library, waters=("roof", "laundry"), gutters=1, **ANSWERS)
    assert garden.source_of(garden.plot("gutter-2")) == "barrels"
    assert garden.source_of(garden.plot("bed-1")) == "drain-1"
