"""The picture under the plan: where it lies after it is laid, scaled, moved, cut."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from euhydra.core.editing.file import BadFile, from_json, sketch_in, to_json
from euhydra.core.editing.placement import extent
from euhydra.core.editing.sketch_edits import LaySketch, MoveSketch, ScaleSketch, TakeSketch
from euhydra.core.editing.trees import EditRefused
from euhydra.core.editing.values import SetValue
from euhydra.data import library as load_library
from gardens import poured

LIBRARY = load_library()
LAID = LaySketch("0123456789abcdef", 800, 400).apply(poured(LIBRARY), LIBRARY)


def on_ground(sketch, share_x, share_y):
    """Where a place of the picture (shares from its left and its bottom) lies, m."""
    turn = math.radians(sketch.turn_deg)
    x, y = (share_x - 0.5) * sketch.wide_m, (share_y - 0.5) * sketch.tall_m
    return (sketch.at.x_m + x * math.cos(turn) - y * math.sin(turn),
            sketch.at.y_m + x * math.sin(turn) + y * math.cos(turn))


def test_it_is_laid_over_the_whole_garden():
    west, south, east, north = extent(LAID)
    low, high = on_ground(LAID.sketch, 0, 0), on_ground(LAID.sketch, 1, 1)
    assert low[0] <= west + 1e-9
    assert low[1] <= south + 1e-9
    assert high[0] >= east - 1e-9
    assert high[1] >= north - 1e-9


@given(st.floats(0, 0.4), st.floats(0.6, 1), st.floats(0, 1), st.floats(0, 1),
       st.floats(-180, 180), st.floats(0.5, 40))
def test_two_places_come_to_lie_as_far_apart_as_they_are_and_the_first_stays(
        ax, bx, ay, by, turn, true_m):
    turned = SetValue("sketch/turn_deg", turn).apply(LAID, LIBRARY)
    a, b = on_ground(turned.sketch, ax, ay), on_ground(turned.sketch, bx, by)
    scaled = ScaleSketch(a, b, true_m).apply(turned, LIBRARY).sketch
    assert math.dist(on_ground(scaled, ax, ay), on_ground(scaled, bx, by)) == pytest.approx(true_m)
    assert on_ground(scaled, ax, ay) == pytest.approx(a, abs=1e-6)


def test_what_cannot_be_is_refused_in_words():
    bare = poured(LIBRARY)
    with pytest.raises(EditRefused, match="Measure between two places"):
        ScaleSketch((1, 1), (1, 1), 4).apply(LAID, LIBRARY)
    with pytest.raises(EditRefused, match="too far off the plan"):
        ScaleSketch((1, 1), (2, 1), 2000).apply(LAID, LIBRARY)
    with pytest.raises(EditRefused, match="nothing would be left"):
        SetValue("sketch/cut_left", 0.9).apply(
            SetValue("sketch/cut_right", 0.5).apply(LAID, LIBRARY), LIBRARY)
    for edit in (MoveSketch(1, 1), TakeSketch(), ScaleSketch((0, 0), (1, 0), 1)):
        with pytest.raises(EditRefused, match="no picture"):
            edit.apply(bare, LIBRARY)


def test_another_picture_takes_its_place_uncut_and_lines_stay():
    cut = SetValue("sketch/cut_top", 0.2).apply(MoveSketch(3, -1).apply(LAID, LIBRARY), LIBRARY)
    other = LaySketch("f" * 16, 400, 400).apply(cut, LIBRARY)
    assert (other.sketch.at, other.sketch.wide_m) == (cut.sketch.at, cut.sketch.wide_m)
    assert other.sketch.cut_top == 0
    assert other.lines == LAID.lines
    assert TakeSketch().apply(other, LIBRARY) == poured(LIBRARY)


def test_it_rides_along_in_the_file():
    text = to_json(LAID, None, b"\xff\xd8 a picture")
    assert sketch_in(text) == b"\xff\xd8 a picture"
    assert from_json(text, LIBRARY) == LAID
    assert sketch_in(to_json(LAID)) == b""
    for bad in ('{"jpeg": 1}', '{"jpeg": "a"}', '"x"', "{}", '{"jpeg": "é"}'):
        with pytest.raises(BadFile, match="not whole"):
            sketch_in(f'{{"format": "euhydra-garden", "sketch": {bad}}}')
