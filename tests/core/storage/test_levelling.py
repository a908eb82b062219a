"""Barrels on one link come level in their time."""

import math

import pytest

from euhydra.core import storage
from euhydra.core.hydraulics.equalising import APART_M, LEVEL_M, levellings
from euhydra.core.storage.storm import LINK_M, link_l_h
from gardens import made


def test_barrels_level_in_the_time_that_stepping_takes(library):
    garden = made(library)
    found = levellings(garden)[0]
    area = storage.base_area_m2(garden.store)
    apart, hours, step = APART_M, 0.0, 1e-5
    while apart > LEVEL_M:
        q = link_l_h(garden.store.link_mm, LINK_M, 1.0) * math.sqrt(apart)
        apart -= q / 1000 * step * 2 / area
        hours += step
    assert found.minutes == pytest.approx(60 * hours, rel=0.01)
