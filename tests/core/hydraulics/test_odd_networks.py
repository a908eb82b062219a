"""Pumps, regulators, check valves and whatever else can be drawn: an answer, always."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.sparse import csc_array

from euhydra.core.garden.pump_curves import BadCurve
from euhydra.core.hydraulics.elimination import Elimination
from euhydra.core.hydraulics.network import (
    Emitter,
    Loss,
    NetNode,
    Network,
    Pipe,
    Pump,
    Regulator,
)
from euhydra.core.hydraulics.pumps import (
    LineCurve,
    PowerCurve,
    atmosphere_m,
    curve_of,
    most_flow_l_h,
    suction_left_m,
    vapour_m,
    water_power_w,
)
from euhydra.core.hydraulics.solver import solve
from euhydra.data import library

OUTLETS = library().outlets
CURVE = ((0.0, 20.0), (500.0, 15.0), (1000.0, 6.0), (1200.0, 0.5))
NODES = [f"n{i}" for i in range(7)]


def test_a_regulator_holds_and_lets_go():
    def under(head):
        return solve(Network(
            (NetNode("t", 0, head), NetNode("a", 0.0), NetNode("b", 1.0)),
            (Pipe("p", "t", "a", 5, 13.6),), (), (Emitter("e", "b", OUTLETS["plain-4"], 40),),
            (), (Regulator("r", "a", "b", 2.0, 8.0),)))

    held = under(30.0)
    assert held.holding == {"r"}
    assert held.head_m["b"] == pytest.approx(9.0)
    assert held.flow_l_h["e"] == pytest.approx(40 * 1.2649 * math.sqrt(8.0), rel=1e-3)
    assert held.flow_l_h["r"] == pytest.approx(held.flow_l_h["e"], rel=1e-6)
    weak = under(6.0)
    assert weak.holding == frozenset()
    assert weak.head_m["b"] < 6.0


def test_two_regulators_in_a_row_both_hold_where_they_can():
    network = Network(
        (NetNode("t", 0, 40.0), *(NetNode(n, 0.0) for n in "abc")),
        (Pipe("p", "b", "c", 3, 13.6),), (), (Emitter("e", "c", OUTLETS["plain-2"], 20),), (),
        (Regulator("r1", "t", "a", 2.0, 20.0), Regulator("r2", "a", "b", 2.0, 10.0)))
    said = solve(network)
    assert said.converged
    assert (said.head_m["a"], said.head_m["b"]) == (pytest.approx(20), pytest.approx(10))


def test_a_check_valve_keeps_the_higher_tank_from_the_lower():
    network = Network(
        (NetNode("low", 0, 2.0), NetNode("high", 0, 5.0), NetNode("m", 0.0)),
        (Pipe("a", "low", "m", 4, 13.6, one_way=True), Pipe("b", "high", "m", 4, 13.6)), (),
        (Emitter("e", "m", OUTLETS["plain-2"], 5),))
    said = solve(network)
    assert said.flow_l_h["a"] == 0
    assert said.flow_l_h["b"] == pytest.approx(said.flow_l_h["e"], abs=2e-3)


def test_a_pump_meets_its_lines_at_one_point():
    network = Network((NetNode("t", 0, 0.5), NetNode("a", 0), NetNode("b", 6.0)),
                      (Pipe("p", "a", "b", 20, 13.6),), (),
                      (Emitter("e", "b", OUTLETS["plain-4"], 100),), (Pump("u", "t", "a", CURVE),))
    said = solve(network)
    gain = said.head_m["a"] - said.head_m["t"]
    assert gain == pytest.approx(np.interp(said.flow_l_h["u"], *zip(*CURVE, strict=True)), abs=1e-3)


def test_two_pumps_in_opposition_push_nothing_through_each_other():
    network = Network((NetNode("t", 0, 0.0), NetNode("a", 0), NetNode("b", 0)),
                      (Pipe("ab", "a", "b", 5, 13.6),), (), (),
                      (Pump("one", "t", "a", CURVE), Pump("two", "t", "b", ((300.0, 6.0),))))
    said = solve(network)
    assert said.converged
    assert said.flow_l_h["one"] == pytest.approx(0, abs=1e-2)
    assert said.flow_l_h["two"] == 0


def test_curves_of_one_three_and_more_points():
    one = curve_of(((600.0, 12.0),))
    assert isinstance(one, PowerCurve)
    assert one.gain_and_fall(0)[0] == pytest.approx(16.0)
    assert one.gain_and_fall(600.0)[0] == pytest.approx(12.0, abs=1e-3)
    assert most_flow_l_h(((600.0, 12.0),)) == pytest.approx(1200, abs=1)
    three = curve_of(((0.0, 20.0), (500.0, 16.0), (1000.0, 4.0)))
    assert [three.gain_and_fall(q)[0] for q in (0.0, 500.0, 1000.0)] == pytest.approx(
        [20, 16, 4], abs=2e-3)
    assert isinstance(curve_of(CURVE), LineCurve)
    for bad in ((), ((0.0, 5.0), (0.0, 3.0)), ((0.0, 5.0), (10.0, 6.0)), ((0.0, 5.0),),
                ((-1.0, 5.0), (3.0, 1.0))):
        with pytest.raises(BadCurve):
            curve_of(bad)


def test_power_and_suction_by_hand():
    # 1000 L/h lifted 10 m: 1000/3600 kg/s × 9.80665 × 10 = 27.2 W.
    assert water_power_w(1000, 10) == pytest.approx(27.24, abs=0.01)
    # Standard atmosphere: 10.33 m at the sea, 9.17 m at 1000 m (89.87 kPa), recalled.
    assert atmosphere_m(0) == pytest.approx(10.33, abs=0.01)
    assert atmosphere_m(1000) == pytest.approx(9.165, abs=0.01)
    # Vapour pressure at 20 °C 2.338 kPa (FAO-56 Annex 2, Table 2.3, recalled): 0.238 m.
    assert vapour_m(20) == pytest.approx(0.2384, abs=0.001)
    assert suction_left_m(0, 20, 5.0, 0.6) == pytest.approx(10.33 - 0.238 - 5.6, abs=0.01)


@st.composite
def odd(draw):
    """Any links between a few nodes: loose ends, zero lengths, loops, nothing joined, all shut."""
    nodes = [NetNode(n, draw(st.floats(-5, 5)),
                     draw(st.sampled_from([None, None, None, 0.0, 3.0, 40.0]))) for n in NODES]
    node = st.sampled_from(NODES)

    def ends():
        a = draw(node)
        b = draw(node.filter(lambda n: n != a))
        return a, b

    pipes = [Pipe(f"p{i}", *ends(), draw(st.sampled_from([1e-4, 0.5, 300.0])),
                  draw(st.sampled_from([2.0, 4.0, 13.6, 60.0])), draw(st.floats(0, 50)),
                  draw(st.booleans())) for i in range(draw(st.integers(0, 9)))]
    losses = [Loss(f"l{i}", *ends(), draw(st.sampled_from([1e-6, 0.5, 20.0])),
                   draw(st.booleans()), draw(st.sampled_from([1.0, 400.0])))
              for i in range(draw(st.integers(0, 4)))]
    pumps = [Pump(f"u{i}", *ends(), draw(st.sampled_from([CURVE, ((600.0, 12.0),), (
        (0.0, 100.0), (1.0, 0.0))]))) for i in range(draw(st.integers(0, 3)))]
    regulators = [Regulator(f"r{i}", *ends(), 2.0, draw(st.floats(0, 30)))
                  for i in range(draw(st.integers(0, 3)))]
    emitters = [Emitter(f"e{i}", draw(node), OUTLETS[draw(st.sampled_from(sorted(OUTLETS)))],
                        draw(st.integers(1, 500))) for i in range(draw(st.integers(0, 6)))]
    return Network(tuple(nodes), tuple(pipes), tuple(losses), tuple(emitters), tuple(pumps),
                   tuple(regulators))


def test_short_wide_pipes_side_by_side_carry_no_endless_ring_of_water():
    nodes = (NetNode("a", 0.0), NetNode("b", 0.0), NetNode("tank", 0.0, 0.0))
    said = solve(Network(nodes, (
        Pipe("in", "tank", "a", 1e-4, 2.0), Pipe("one", "a", "b", 1e-4, 60.0),
        Pipe("two", "b", "a", 1e-4, 60.0))))
    assert said.converged
    assert said.flow_l_h == pytest.approx({"in": 0, "one": 0, "two": 0}, abs=1e-3)


@settings(deadline=None, max_examples=120)
@given(odd())
def test_an_odd_network_gets_an_answer_or_says_where_it_could_not(network):
    said = solve(network)
    assert all(math.isfinite(h) for h in said.head_m.values())
    assert all(math.isfinite(q) for q in said.flow_l_h.values())
    assert set(said.head_m) == {n.id for n in network.nodes}
    assert set(said.flow_l_h) == {x.id for x in (*network.joins, *network.emitters)}
    if said.converged:
        assert said.residual_l_h < 0.01
    else:
        assert said.worst_node in said.head_m
    if not network.regulators:
        assert said.converged
    for emitter in network.emitters:
        if emitter.node in said.dry:
            assert said.flow_l_h[emitter.id] == 0


@settings(deadline=None, max_examples=60)
@given(odd(), st.floats(-40, 40))
def test_another_datum_changes_no_flow(network, by):
    bare = Network(network.nodes, network.pipes, network.losses, network.emitters, network.pumps)
    moved = Network(tuple(NetNode(n.id, n.z_m + by, None if n.fixed_head_m is None else
                                  n.fixed_head_m + by) for n in bare.nodes), bare.pipes,
                    bare.losses, bare.emitters, bare.pumps)
    one, other = solve(bare), solve(moved)
    most = max((abs(q) for q in one.flow_l_h.values()), default=0.0)
    # What runs round through a pipe of no length loses no head that could tell how much it is.
    none = {p.id for p in bare.pipes if p.length_m < 1e-3}
    for link, flow in one.flow_l_h.items():
        assert link in none or other.flow_l_h[link] == pytest.approx(flow, abs=2e-3 + 1e-5 * most)


def test_two_like_halves_get_the_same(tmp_path):
    def half(side):
        return ((NetNode(f"a{side}", 0.0), NetNode(f"b{side}", 0.5)),
                (Pipe(f"p{side}", "t", f"a{side}", 9, 10.0), Pipe(f"q{side}", f"a{side}",
                                                                    f"b{side}", 4, 4.0)),
                (Emitter(f"e{side}", f"b{side}", OUTLETS["plain-2"], 9),))

    one, two = half(1), half(2)
    tank = NetNode("t", 0.0, 4.0)
    alone = solve(Network((tank, *one[0]), one[1], (), one[2]))
    both = solve(Network((tank, *one[0], *two[0]), (*one[1], *two[1]), (), (*one[2], *two[2])))
    assert both.flow_l_h["e1"] == pytest.approx(alone.flow_l_h["e1"], rel=1e-6)
    assert both.flow_l_h["e2"] == pytest.approx(alone.flow_l_h["e1"], rel=1e-6)


@given(st.integers(2, 25), st.integers(0, 30), st.randoms(use_true_random=False))
def test_what_fills_in_is_solved_as_a_dense_matrix_is(junctions, loops, dice):
    matrix = np.diag([10 ** dice.uniform(-6, 2) if i < 2 else 0.0 for i in range(junctions)])
    ways = [(i, dice.randrange(i)) for i in range(1, junctions)] + [
        tuple(dice.sample(range(junctions), 2)) for _ in range(loops)]
    for a, b in ways:
        passes = 10 ** dice.uniform(-3, 3)
        matrix[[a, b], [a, b]] += passes
        matrix[[a, b], [b, a]] -= passes
    kept, right = csc_array(matrix), np.array([dice.uniform(-9, 9) for _ in range(junctions)])
    found = Elimination(kept.indptr, kept.indices).solve(kept.data, right)
    assert matrix @ found == pytest.approx(right, abs=1e-6 * (1 + np.abs(found).max()))
    with pytest.raises(RuntimeError):
        Elimination(np.array([0, 1, 2]), np.array([0, 1])).solve(np.array([1.0, 0.0]), right[:2])
