"""A change taken back from under others leaves what they alone would have made, or is refused."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from euhydra.core.editing.edits import Add, Remove
from euhydra.core.editing.fields import NoSuchValue
from euhydra.core.editing.file import from_json, to_json
from euhydra.core.editing.taking_back import TakeBack
from euhydra.core.editing.trees import EditRefused
from euhydra.core.editing.values import SetValue

SETS = tuple(SetValue(path, value) for path, value in (
    ("name", "Other"), ("units", "us"), ("timers/timer/kind", "dial-ball"), ("longer", 0.2),
    ("plots/bed-1/length_m", 2.0), ("plots/bed-1/length_m", 3.0), ("plots/bed-1/name", "First"),
    ("plots/bed-2/method", "drippers"), ("plots/bed-2/own_valve", True),
    ("plots/bed-3/ground_m", 0.2), ("stores/barrels/stand_m", 0.7), ("stores/barrels/count", 5),
    ("site/years", 12), ("site/climate/rain_mm/3", 44.0), ("roofs/workshop/width_m", 3.3)))
GOES = (Remove("plots/bed-3"), Remove("plots/bed-4"))


def possible(edit, garden, library):
    try:
        return edit.apply(garden, library)
    except (EditRefused, NoSuchValue):
        return None


@settings(deadline=None, max_examples=12)
@given(st.data())
def test_it_is_as_though_the_change_had_never_been_made(kiln_yard, library, data):
    edits = [e for e in (*SETS, *GOES) if possible(e, kiln_yard, library) is not None]
    mine, *later = data.draw(st.lists(st.sampled_from(edits), min_size=2, max_size=4))
    after = mine.apply(kiln_yard, library)
    now, without = after, kiln_yard
    for edit in later:
        now = possible(edit, now, library) or now
        without = possible(edit, without, library) or without
    left = possible(TakeBack(kiln_yard, after), now, library)
    if left is None:
        assert any(_over(mine, edit) for edit in later), "nothing else touched what it did"
        return
    assert left == without or any(_over(mine, edit) for edit in later)
    assert from_json(to_json(left), library) == left


def _over(mine, later):
    """Whether a later edit is of the same thing as the one taken back."""
    a, b = (getattr(e, "path", "").split("/")[:2] for e in (mine, later))
    return a == b or "plots" in (a[0], b[0])


def test_the_edits_of_the_property_are_real(kiln_yard, library):
    made = [possible(e, kiln_yard, library) for e in (*SETS, *GOES)]
    assert sum(m is not None and m != kiln_yard for m in made) >= 14


def test_what_was_put_there_goes_and_what_was_taken_comes_back(kiln_yard, library):
    added = Add("bed").apply(kiln_yard, library)
    new = added.plots[-1].id
    named = SetValue("name", "Later").apply(added, library)
    left = TakeBack(kiln_yard, added).apply(named, library)
    assert left == SetValue("name", "Later").apply(kiln_yard, library)
    touched = SetValue(f"plots/{new}/length_m", 1.1).apply(added, library)
    with pytest.raises(EditRefused, match="was changed once more since"):
        TakeBack(kiln_yard, added).apply(touched, library)

    gone = Remove("plots/bed-4").apply(kiln_yard, library)
    later = SetValue("stores/barrels/stand_m", 0.7).apply(gone, library)
    back = TakeBack(kiln_yard, gone).apply(later, library)
    assert {p.id for p in back.plots} == {p.id for p in kiln_yard.plots}
    assert back.store_of("barrels").stand_m == 0.7
