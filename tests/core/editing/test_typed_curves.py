"""A pump known by its curve, or by two buckets held at two heights."""

import pytest

from euhydra.core.editing.typed_curves import parse_points
from euhydra.core.garden.pump_curves import check_curve
from euhydra.core.hydraulics.pumps import curve_of
from euhydra.core.parsing import BadEntry


def test_the_curve_goes_through_both_buckets():
    """10 L in 60 s are 600 L/h at 1 m, in 90 s 400 L/h at 3 m: c = 2 ÷ (600² − 400²) = 10⁻⁵, shut
    3 + 10⁻⁵ × 400² = 4.6 m, no head left at √(4.6 × 10⁵) = 678 L/h.
    """
    points = parse_points("10 L in 60 s at 1 m; 10 L in 90 s at 3 m", "metric")
    assert points[0] == pytest.approx((0, 4.6))
    assert points[-1] == pytest.approx((678.233, 0), abs=1e-3)
    check_curve(points)
    curve = curve_of(tuple(points))
    for flow, head in ((600, 1), (400, 3)):
        assert curve.gain_and_fall(flow)[0] == pytest.approx(head, abs=0.12), "between its points"


def test_the_order_and_the_units_do_not_matter():
    metric = parse_points("10 L in 90 s at 3 m; 10 L in 1 min at 1 m", "metric")
    us = parse_points("2.641721 gal in 60 at 3.280840 ft; 2.641721 gal in 90 at 9.842520 ft", "us")
    assert us == [pytest.approx(point, abs=1e-2) for point in metric]


@pytest.mark.parametrize(("typed", "says"), [
    ("10 L in 60 s at 1 m", "two bucket tests"),
    ("10 L in 60 s at 1 m; 500 L/h, 3 m", "two bucket tests"),
    ("10 L in 60 s at 1 m; 10 L in 90 s at 1 m", "at one height"),
    ("10 L in 60 s at 3 m; 10 L in 90 s at 1 m", "no more slowly"),
    ("10 L in 60 s at 1 m; much in 90 s at 3 m", "not a number"),
    ("0 L in 60 s at 1 m; 10 L in 90 s at 3 m", "above zero"),
    ("twelve", "two bucket tests, the hose")])
def test_what_is_no_test_is_told_in_words(typed, says):
    with pytest.raises(BadEntry, match=says):
        parse_points(typed, "metric")
