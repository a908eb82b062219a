"""The small sums of hydraulics, by pencil: valves, friction, evenness, curves, places."""

import math

import numpy as np
import pytest

from euhydra.core.editing.pump_edits import FitPump
from euhydra.core.hydraulics.assemble import zone_network
from euhydra.core.hydraulics.drilled import DRILLS_MM, STILL
from euhydra.core.hydraulics.emitters import driving_head
from euhydra.core.hydraulics.friction import friction_factor, head_loss
from euhydra.core.hydraulics.pumps import LineCurve
from euhydra.core.hydraulics.uniformity import distribution_uniformity, uniformity_class
from euhydra.core.hydraulics.valves import (
    gate_open_eighths,
    k_of,
    lever_deg,
    restrictor_kv,
    restrictor_mm,
)
from euhydra.core.hydraulics.zone_pipes import pipes_of
from gardens import poured

G = 9.80665
# Weisbach, as handbooks reprint him (recalled): degrees shut of a cock, eighths shut of a gate.
COCK = ((5, 0.05), (10, 0.29), (15, 0.75), (20, 1.56), (25, 3.10), (30, 5.47), (35, 9.68),
        (40, 17.3), (45, 31.2), (50, 52.6), (55, 106), (60, 206), (65, 486))
GATE = ((0, 0.05), (1, 0.07), (2, 0.26), (3, 0.81), (4, 2.06), (5, 5.52), (6, 17.0), (7, 97.8))


@pytest.mark.parametrize(("degrees", "k"), COCK)
def test_a_cock_stands_where_its_table_says(degrees, k):
    assert lever_deg(k) == pytest.approx(degrees, abs=1e-9)


@pytest.mark.parametrize(("shut", "k"), GATE)
def test_a_gate_stands_where_its_table_says(shut, k):
    assert gate_open_eighths(k) == pytest.approx(8 - shut, abs=1e-9)


def test_between_two_openings_of_the_table_lies_the_middle_on_a_log_scale():
    assert lever_deg(math.sqrt(0.29 * 0.75)) == pytest.approx(12.5)
    assert gate_open_eighths(math.sqrt(0.26 * 0.81)) == pytest.approx(5.5)
    assert lever_deg(486.1) is None
    assert gate_open_eighths(97.9) is None


def test_a_loss_coefficient_is_on_the_speed_in_the_bore():
    """600 L/h in 13 mm: v = 1.667e-4 ÷ 1.3273e-4 = 1.2557 m/s; K = 2 × 9.80665 × 0.2 ÷ v²."""
    assert k_of(0.2, 600.0, 13.0) == pytest.approx(2 * G * 0.2 / 1.25567**2, rel=1e-4)
    assert k_of(0.2, 0.0, 13.0) == 0.0


@pytest.mark.parametrize(("lost_m", "flow_l_h"), [(5.0, 60.0), (0.3, 8.0), (2.0, 300.0)])
def test_a_plug_s_hole_is_the_nearest_drill_to_the_one_that_loses_so_much(lost_m, flow_l_h):
    area = flow_l_h / 3.6e6 / (STILL * (2 * G * lost_m) ** 0.5)
    wanted = 1000 * (4 * area / math.pi) ** 0.5
    apart = [abs(mm - wanted) for mm in DRILLS_MM]
    assert restrictor_mm(lost_m, flow_l_h) == DRILLS_MM[apart.index(min(apart))]


def test_a_rough_pipe_loses_by_its_roughness_over_its_bore():
    """25 mm of half a millimetre, 3,000 L/h over 10 m: Swamee and Jain from ε/D = 0.02."""
    speed = 3000 / 3.6e6 / (math.pi / 4 * 0.025**2)
    re = speed * 0.025 / (1.792e-6 / (1 + 0.0337 * 15 + 0.000221 * 225))
    f = 0.25 / math.log10(0.02 / 3.7 + 5.74 / re**0.9) ** 2
    assert head_loss(3000, 10, 25, roughness_mm=0.5) == pytest.approx(
        f * 10 / 0.025 * speed**2 / (2 * G), rel=1e-6)
    assert head_loss(3000, 10, 25, roughness_mm=0.5) > 1.5 * head_loss(3000, 10, 25)


@pytest.mark.parametrize("re", [2200.0, 3000.0, 3800.0])
def test_between_laminar_and_turbulent_flow_lies_dunlop_s_cubic(re):
    """The coefficients as the public EPANET 2 manual (appendix D) writes them, ε/D = 0.001."""
    y2 = 0.001 / 3.7 + 5.74 / 4000**0.9
    y3 = -0.86859 * math.log(y2)
    fa = y3**-2
    fb = fa * (2 - 0.00514215 / (y2 * y3))
    x = (7 * fa - fb, 0.128 - 17 * fa + 2.5 * fb, -0.128 + 13 * fa - 2 * fb,
         0.032 - 3 * fa + 0.5 * fb)
    r = re / 2000
    by_hand = x[0] + x[1] * r + x[2] * r**2 + x[3] * r**3
    assert friction_factor(re, 0.001) == pytest.approx(by_hand, rel=1e-12)


def test_evenness_of_one_outlet_of_none_and_at_the_edge_of_a_class():
    assert distribution_uniformity([5.0]) == 1.0
    assert distribution_uniformity([]) == 0.0
    assert distribution_uniformity([0.0, 0.0]) == 0.0
    assert [uniformity_class(eu) for eu in (0.90, 0.80, 0.70, 0.6999)] == [
        "excellent", "good", "fair", "poor"]


def test_a_curve_of_points_is_straight_between_them_and_falls_on_past_the_last():
    curve = LineCurve(((0.0, 20.0), (100.0, 18.0), (200.0, 14.0), (300.0, 8.0)))
    assert [curve.gain_and_fall(q)[0] for q in (0, 50, 150, 250, 300, 350)] == pytest.approx(
        [20, 19, 16, 11, 8, 5])
    assert [curve.gain_and_fall(q)[1] for q in (50, 150, 250, 350)] == pytest.approx(
        [0.02, 0.04, 0.06, 0.06])


def test_each_outlet_stands_its_spacing_from_the_one_before(library):
    """The pieces of pipe between a line's outlets: to the first of them, then a spacing each."""
    garden = poured(library)
    zone = next(z for z in garden.zones if "bed-1" in z.plots)
    network = zone_network(pipes_of(garden, zone), library, 1.0)
    lengths = {pipe.id: pipe.length_m for pipe in network.pipes}
    runs = [o for o in garden.outlets if o.plot == "bed-1" and o.points > 2]
    assert runs
    for run in runs:
        assert lengths[f"{run.line}:0"] == pytest.approx(max(run.first_m, 1e-4))
        for n in range(1, run.points):
            assert lengths[f"{run.line}:{n}"] == pytest.approx(run.spacing_m)


@pytest.mark.parametrize("x", [0.4, 0.5, 0.7])
def test_the_head_that_drives_a_flow_is_the_law_turned_round(x):
    """q = k hˣ at 4.2 m: driven by 4.2 m, at dh/dq = h ÷ (x q)."""
    flow = 1.3 * 4.2**x
    one = [np.array([value]) for value in (flow, 1.3, x, 0.0)]
    head, slope = driving_head(*one)
    assert head[0] == pytest.approx(4.2)
    assert slope[0] == pytest.approx(4.2 / (x * flow))


def test_a_hole_of_three_millimetres_passes_its_kv():
    """a = 7.0686 mm²; at a bar, 10.197 m of water, q = Cd a √(2 g h)."""
    by_hand = STILL * 7.06858e-6 * math.sqrt(2 * G * 10.197) * 3600
    assert restrictor_kv(3.0) == pytest.approx(by_hand, rel=1e-5)


def test_a_suction_hose_has_its_strainer_before_it(library):
    """Foot and strainer lose two and a half times the speed's head (from memory)."""
    garden = FitPump("barrels", "transfer").apply(poured(library), library)
    zone = next(z for z in garden.zones if "bed-1" in z.plots)
    suction = next(p for p in zone_network(pipes_of(garden, zone), library, 1.0).pipes
                   if p.id.endswith("-suction"))
    assert (suction.k, suction.length_m) == (2.5, garden.lifts[0].suction_m)
