"""Outlines taken in: as what they are, where they are, of the size they are."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely import affinity
from shapely.geometry import box

from euhydra.core.editing.outlines import Outline, TakeOutlines
from euhydra.core.editing.trees import EditRefused
from euhydra.core.terrain import geometry
from euhydra.data import library as load_library
from gardens import poured

LIBRARY = load_library()
GARDEN = poured(LIBRARY)
ELL = ((10, 10), (16, 10), (16, 12), (13, 12), (13, 15), (10, 15))


def taken(*picks):
    return TakeOutlines(picks).apply(GARDEN, LIBRARY)


def test_each_comes_as_what_it_is_under_its_name():
    line = Outline("Way", False, ((10.0, 0.0), (14.0, 0.0), (14.0, 3.0)))
    after = taken((Outline("Shed", True, ELL), "roof"), (Outline("Ell", True, ELL), "bed"),
                  (line, "path"), (line, "wall"), (Outline("", True, ELL), "building"))
    assert after.roofs[-1].area_m2 == pytest.approx(21)
    bed = after.plots[-1]
    assert (bed.name, geometry.outline(bed).area) == ("Ell", pytest.approx(21))
    assert geometry.outline(bed).bounds == pytest.approx((10, 10, 16, 15))
    assert [(p.x_m, p.y_m) for p in after.paths[-1].course] == [(10, 0), (14, 0), (14, 3)]
    walls, house = after.buildings[:2], after.buildings[2]
    assert [w.length_m for w in walls] == [4.0, 3.0]
    assert geometry.building_shape(walls[1]).centroid.coords[0] == pytest.approx((14, 1.5))
    assert (house.name, house.length_m, house.width_m) == ("Building 3", 6.0, 5.0)
    assert len({b.id for b in after.buildings}) == 3


@given(st.floats(1, 20), st.floats(0.4, 10), st.floats(-90, 90), st.floats(20, 60))
def test_a_rectangle_lies_as_it_was_drawn_however_it_is_turned(long, wide, turn, at):
    drawn = affinity.rotate(box(at, at, at + long, at + wide), turn)
    corners = tuple((x, y) for x, y in list(drawn.exterior.coords)[:-1])
    after = taken((Outline("", True, corners), "building"), (Outline("", True, corners), "bed"))
    for shape in (geometry.building_shape(after.buildings[-1]), geometry.outline(after.plots[-1])):
        assert shape.symmetric_difference(drawn).area < 0.02 * (long + wide)


@pytest.mark.parametrize(("outline", "kind", "says"), [
    (Outline("Way", False, ((0, 0), (3, 0))), "roof", "as wall, path"),
    (Outline("Huge", True, ((0, 0), (90, 0), (90, 90), (0, 90))), "roof", "60"),
    (Outline("Tiny", True, ((0, 0), (0.1, 0), (0.1, 0.1), (0, 0.1))), "bed", "0.3"),
    (Outline("Bow", True, ((0, 0), (4, 4), (4, 0), (0, 4))), "roof", "crosses itself")])
def test_what_cannot_be_that_is_refused_by_its_name(outline, kind, says):
    with pytest.raises(EditRefused, match=says) as refused:
        taken((outline, kind))
    assert outline.name in str(refused.value)


def test_more_walls_than_a_garden_holds_are_refused():
    ring = tuple((20 + 5 * math.cos(i), 20 + 5 * math.sin(i)) for i in (
        k * math.tau / 30 for k in range(30)))
    with pytest.raises(EditRefused, match="20"):
        taken((Outline("Round", True, ring), "wall"))
