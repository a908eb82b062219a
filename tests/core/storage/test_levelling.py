"""Barrels on one link come level in their time."""

import math

import pytest

from euhydra.core import storage
from euhydra.core.assessment.assess import assess
from euhydra.core.construction.parts_list import parts_list
from euhydra.core.construction.setting_out import marks
from euhydra.core.construction.steps import of_water
from euhydra.core.hydraulics.equalising import APART_M, LEVEL_M, levellings
from euhydra.core.storage.storm import link_l_h
from gardens import made


@pytest.mark.parametrize("linked", ["link", "siphon"])
def test_barrels_level_in_the_time_that_stepping_takes(library, linked):
    garden = made(library, ("stores/barrels/linked", linked))
    found = levellings(garden)[0]
    area = storage.base_area_m2(garden.store)
    apart, hours, step = APART_M, 0.0, 1e-5
    while apart > LEVEL_M:
        q = link_l_h(garden.store.link_mm, garden.store.link_m, 1.0) * math.sqrt(apart)
        apart -= q / 1000 * step * 2 / area
        hours += step
    assert found.minutes == pytest.approx(60 * hours, rel=0.01)


def test_barrels_joined_by_siphons_are_bought_built_and_told_so(library):
    three = ("stores/barrels/count", 3)
    linked, siphoned = (assess(made(library, three, ("stores/barrels/linked", by)), library)
                        for by in ("link", "siphon"))
    # Two rims of a barrel's height to go over, beside the way between them.
    assert siphoned.garden.store.link_m == pytest.approx(
        0.6 + 2 * siphoned.garden.store.height_m)
    counts = [{p.key: p.quantity for p in parts_list(a.garden, library) if p.key in (
        "siphon", "bottom-link")} for a in (linked, siphoned)]
    assert counts == [{"bottom-link": 2}, {"siphon": 2}]
    drilled = [sum("link to the next" in m.what for m in marks(a.garden, a.garden.store))
               for a in (linked, siphoned)]
    assert drilled == [1, 0]
    told = [{f.rule for f in a.station("store").findings} for a in (linked, siphoned)]
    assert ["store.siphons" in rules for rules in told] == [False, True]
    steps = [next(s for s in of_water(a.garden, library) if s.id == "links-barrels")
             for a in (linked, siphoned)]
    assert ["over both rims" in step.how.show("metric") for step in steps] == [False, True]
    assert siphoned.season.rain_share == linked.season.rain_share
