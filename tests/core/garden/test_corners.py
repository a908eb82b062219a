"""Corners as they are typed."""

import pytest

from euhydra.core.editing.fields import CORNER_WORDS
from euhydra.core.parsing import BadEntry, parse_pairs


def corners(typed, system):
    return parse_pairs(typed, ("length", "length"), system, CORNER_WORDS)


@pytest.mark.parametrize(("typed", "says"), [("0,0; 4", "not a corner"), ("a, b", "not a number"),
                                             ("0,0; 1,1,1", "not a corner")])
def test_corners_that_cannot_be_read_are_refused_in_words(typed, says):
    with pytest.raises(BadEntry, match=says):
        corners(typed, "metric")


def test_corners_take_any_unit():
    assert corners("0, 0; 10 ft, 0; 3 m, 2; ", "metric") == [
        (0, 0), (pytest.approx(3.048), 0), (3, 2)]
    assert corners("1, 0", "us")[0][0] == pytest.approx(0.3048)
