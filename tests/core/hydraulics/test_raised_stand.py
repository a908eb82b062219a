"""How high the barrels would have to stand."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from euhydra.core.assessment.assess import assess
from euhydra.core.editing.answers import BedAnswer
from euhydra.core.editing.values import SetValue
from euhydra.core.hydraulics import raised_stand, surfaces, zone_flow
from gardens import poured


@pytest.mark.parametrize("stand_m", [0.2, 0.9, 2.0])
def test_a_raised_stand_is_that_of_the_edit(kiln, library, stand_m):
    """Beds keep their zones here, so the short way must give what laying anew gives."""
    for zone in kiln.garden.zones:
        if kiln.garden.tap_of(zone.source):
            continue
        short = raised_stand.raised(kiln.garden, zone, stand_m)
        whole = SetValue(f"stores/{zone.source}/stand_m", stand_m).apply(kiln.garden, library)
        flows = [zone_flow.solve_zone(g, library, zone,
                                      surfaces.water_levels(g, zone.source)["low"],
                                      kiln.demand.drinks) for g in (short, whole)]
        assert flows[0].flow_l_h == pytest.approx(flows[1].flow_l_h, rel=1e-6, abs=1e-6)
        assert flows[0].short_m == pytest.approx(flows[1].short_m, abs=1e-6)


@pytest.mark.parametrize("distance_m", [2.0, 20.0])
def test_level_ground_no_stand_and_one_bed_is_settled(library, distance_m):
    garden = poured(library, roof_width_m=6, roof_depth_m=4, barrel_l=200, barrels=1, stand_m=0,
                    fall_m=0, distance_m=distance_m, pots=0,
                    beds=(BedAnswer(length_m=6, width_m=0.6, group="fruiting"),))
    a = assess(garden, library)
    assert "push.unsettled" not in [f.rule for f in a.station("push").findings]
    assert a.flows[garden.zones[0].id]["low"].flow_l_h == pytest.approx(0, abs=1e-9)


@settings(deadline=None)
@given(st.data())
def test_gardens_on_nearly_level_ground_always_settle(library, data):
    """Water that stands about as high as the outlets: some run, some rest, some are over it."""
    few = st.sampled_from
    garden = poured(
        library, barrel_l=data.draw(few([100, 210, 1000])), barrels=data.draw(few([1, 2])),
        stand_m=data.draw(st.floats(0, 0.3)), fall_m=data.draw(st.floats(-0.4, 0.3)),
        distance_m=data.draw(few([0.5, 2.0, 20.0, 60.0])), pots=data.draw(few([1, 12])),
        method=data.draw(few(["dripline", "soaker", "drippers"])),
        beds=[BedAnswer(length_m=data.draw(few([0.6, 6, 12])), width_m=data.draw(few([0.6, 1.2])),
                        group="fruiting") for _ in range(data.draw(st.integers(0, 2)))])
    for plot in garden.plots:
        garden = SetValue(f"plots/{plot.id}/ground_m", data.draw(
            st.floats(-0.2, 0.3))).apply(garden, library)
    for zone in garden.zones:
        for level in surfaces.zone_levels(garden, zone).values():
            flow = zone_flow.solve_zone(garden, library, zone, level)
            assert flow.solution.converged
            assert flow.solution.iterations < 30
            for outlet in flow.outlets:
                assert outlet.flow_l_h >= 0
                if outlet.z_m >= level:
                    assert outlet.flow_l_h == pytest.approx(0, abs=1e-4), "it stands over the water"
