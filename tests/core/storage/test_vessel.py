"""One vessel by itself: what it holds at a dip, how it stands, what it covers."""

import math

import pytest

from euhydra.core.storage import vessel
from gardens import poured


@pytest.fixture
def barrel(library):
    """210 L, 0.4 m of stand."""
    return poured(library).store


def test_a_dip_under_the_floor_or_over_the_brim_holds_nothing_more(barrel):
    dips = [-0.5, 0.0, barrel.height_m / 2, barrel.height_m, 2 * barrel.height_m]
    assert vessel.volume_at(barrel, dips) == pytest.approx([0, 0, 105, 210, 210])


def test_a_cylinder_s_width_area_weight_and_slenderness_by_hand(barrel):
    """210 L upright: d = √(4 V / (π h)); it bears (210 + shell) kg on that disc."""
    wide = math.sqrt(4 * 0.210 / (math.pi * barrel.height_m))
    assert vessel.width_m(barrel) == pytest.approx(wide)
    assert vessel.base_area_m2(barrel) == pytest.approx(0.210 / barrel.height_m)
    assert vessel.slenderness(barrel) == pytest.approx((0.4 + barrel.height_m) / wide)
    assert vessel.bearing_kpa(barrel) == pytest.approx(
        (210 + barrel.shell_kg) * 9.80665 * barrel.height_m / 0.210 / 1000)


def test_a_box_covers_all_of_its_ground(barrel):
    box = barrel.model_copy(update={"shape": "box", "volume_l": 1000.0, "height_m": 1.0})
    assert vessel.base_area_m2(box) == pytest.approx(1.0)
