"""A few more pots: what they take is what the list grows by, and it says when that is too much."""

import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.construction.extension import MorePots, new_findings, rows_of_pots, to_add
from euhydra.core.editing.trees import EditRefused
from euhydra.core.editing.values import SetValue
from gardens import poured


@pytest.fixture(scope="module")
def garden(library):
    return assess(poured(library, pots=4), library)


def by_key(garden, then):
    return {part.key: more for part, more in to_add(garden.parts, then.parts)
            if part.key != "tube"}


def test_three_more_on_the_same_line_take_three_drippers_and_no_fitting(garden):
    more = by_key(garden, garden.after(MorePots("pots-1", 3)))
    assert more["dripper"] == 3
    assert not more.keys() & {"tee", "elbow", "end-plug", "punch-barb", "timer", "filter"}


def test_beyond_ten_a_second_line_with_its_barb_and_plug(garden):
    more = by_key(garden, garden.after(MorePots("pots-1", 8)))
    assert (more["dripper"], more["punch-barb"], more["end-plug"]) == (8, 1, 1)


def test_a_row_of_their_own_is_like_the_last_one(garden, library):
    wide = assess(SetValue("plots/pots-1/diameter_m", 0.42).apply(garden.garden, library), library)
    row = rows_of_pots(wide.after(MorePots("", 2)).garden)[-1]
    assert row.id != "pots-1"
    assert (row.count, row.diameter_m) == (2, 0.42)
    assert row.plantings == wide.garden.plot("pots-1").plantings


@pytest.mark.parametrize(("beside", "count", "says"), [
    ("pots-1", 0, "1 to 20"), ("pots-1", 21, "1 to 20"), ("bed-1", 3, "no row of pots"),
    ("moon", 3, "“moon”")])
def test_what_cannot_be_added_is_refused_in_words(garden, beside, count, says):
    with pytest.raises(EditRefused, match=says):
        garden.after(MorePots(beside, count))


def test_what_is_newly_said_is_said_and_what_was_said_before_is_not(library):
    tight = assess(poured(library, pots=4, barrels=1, barrel_l=60.0), library)
    before = tight.station("prove").findings
    then = tight.after(MorePots("pots-1", 20)).station("prove").findings
    assert not new_findings(before, before)
    assert {f.rule for f in new_findings((), then)} == {f.rule for f in then if f.level != "note"}
