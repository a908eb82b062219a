"""Cold water on its way through a line, against many short steps and the two ends of the scale."""

import math

import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.hydraulics.line_warmth import (
    AIR_W_M2_K,
    HEAT_J_KG_K,
    WALL_MM,
    arrives_c,
    pipe_end_c,
)
from euhydra.core.stations.supplies import COLD_C, arrives
from gardens import made, rules_of

WELL = ("+well", ("wells/well-1/tops_up", ""), ("wells/well-1/temperature_c", 9.0),
        ("plots/bed-1/fed_by", "well-1"))


def in_steps(water_c, air_c, length_m, outside_mm, flow_l_h, steps=20000):
    """Heat through each short piece of wall, as if the water in it were stirred."""
    wall_m2 = math.pi * outside_mm / 1000 * length_m / steps
    for _ in range(steps):
        water_c += AIR_W_M2_K * wall_m2 * (air_c - water_c) / (flow_l_h / 3600 * HEAT_J_KG_K)
    return water_c


@pytest.mark.parametrize("flow_l_h", [8.0, 60.0, 500.0])
def test_heat_through_the_wall_piece_by_piece_comes_to_the_same(flow_l_h):
    told = pipe_end_c(9.0, 18.0, 25.0, 18.0, flow_l_h)
    assert told == pytest.approx(in_steps(9.0, 18.0, 25.0, 18.0, flow_l_h), abs=0.01)


def test_still_water_has_the_air_s_warmth_and_a_short_pipe_changes_nothing():
    assert pipe_end_c(9.0, 18.0, 5.0, 18.0, 0.0) == 18.0
    assert pipe_end_c(9.0, 18.0, 0.0, 18.0, 100.0) == 9.0
    assert pipe_end_c(9.0, 18.0, 1e6, 18.0, 100.0) == pytest.approx(18.0)


def test_each_piece_of_the_way_warms_at_its_own_flow(library):
    """Where all pipes but the last piece carry the zone's whole flow it is one long pipe."""
    r = assess(made(library, *WELL, "+pots"), library)
    flow = r.flows[next(z.id for z in r.garden.zones if z.source == "well-1")]["half"]
    first = flow.outlets[0]
    end_c, passed = arrives_c(flow, f"{first.emitter}-at", 9.0, 20.0)
    bore = r.library.tubes["poly-16"].bore_mm
    assert end_c >= pipe_end_c(9.0, 20.0, passed, bore + WALL_MM, flow.flow_l_h) - 1e-9
    assert 9.0 < end_c < 20.0
    assert passed > 1.0


def test_a_long_thin_way_brings_it_warm_enough_and_no_more_is_said(library):
    """The same bed of tomatoes, near the well and 400 m off it, planted in June."""
    near = made(library, *WELL, ("plots/bed-1/plantings/p1/crop", "tomato"))
    told = rules_of(near, library)["catch.well-cold"]
    assert told.why.amounts["c"].value > 9.0
    far = made(library, *WELL, ("plots/bed-1/plantings/p1/crop", "tomato"),
               ("plots/bed-1/plantings/p1/planted", "06-10"),
               ("plots/bed-1/corner/x_m", 400.0), ("plots/bed-1/method", "drippers"))
    r = assess(far, library)
    assert arrives(r, r.garden.wells[0], r.garden.plot("bed-1"))[0] > COLD_C
    assert "catch.well-cold" not in rules_of(far, library)
