"""The network: what must hold for any tree of lines, and the odd cases."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from euhydra.core.hydraulics.emitters import outlet_flow
from euhydra.core.hydraulics.network import (
    Emitter,
    Loss,
    NetNode,
    Network,
    Pipe,
)
from euhydra.core.hydraulics.solver import solve
from euhydra.data import library

KINDS = sorted(library().outlets)


@st.composite
def trees(draw):
    """A tree of 2 to 14 nodes with slopes, bores, fittings and outlets of any kind."""
    count = draw(st.integers(2, 14))
    nodes, pipes, losses, emitters = [NetNode("n0", 0.0, 0.0)], [], [], []
    for i in range(1, count):
        nodes.append(NetNode(f"n{i}", draw(st.floats(-3, 2))))
        parent = f"n{draw(st.integers(0, i - 1))}"
        if draw(st.booleans()) or i == 1:
            pipes.append(Pipe(f"p{i}", parent, f"n{i}", draw(st.floats(0.01, 60)),
                              draw(st.sampled_from([4.0, 10.0, 13.6, 22.0])),
                              draw(st.floats(0, 5))))
        else:
            losses.append(Loss(f"l{i}", parent, f"n{i}", draw(st.floats(0.5, 4))))
        if draw(st.integers(0, 3)):
            emitters.append(Emitter(f"e{i}", f"n{i}",
                                    library().outlets[draw(st.sampled_from(KINDS))],
                                    draw(st.integers(1, 12))))
    return Network(tuple(nodes), tuple(pipes), tuple(losses), tuple(emitters))


def under(network: Network, head_m: float) -> Network:
    nodes = (NetNode("n0", 0.0, head_m), *network.nodes[1:])
    return Network(nodes, network.pipes, network.losses, network.emitters)


@settings(deadline=None, max_examples=60)
@given(trees(), st.floats(-2, 40))
def test_mass_balances_at_every_node(tree, head_m):
    solution = solve(under(tree, head_m))
    assert solution.converged
    assert solution.residual_l_h < 0.01
    for emitter in tree.emitters:
        assert solution.flow_l_h[emitter.id] >= 0


@settings(deadline=None, max_examples=60)
@given(trees(), st.floats(0, 20), st.floats(0.05, 10))
def test_more_head_never_gives_less_flow(tree, head_m, more_m):
    low, high = solve(under(tree, head_m)), solve(under(tree, head_m + more_m))
    for emitter in tree.emitters:
        assert high.flow_l_h[emitter.id] >= low.flow_l_h[emitter.id] - 0.01


@settings(deadline=None, max_examples=40)
@given(trees(), st.floats(0.5, 20), st.floats(0.1, 0.9))
def test_a_pipe_told_in_two_pieces_and_outlets_told_one_by_one_change_nothing(tree, head_m, part):
    heights = {n.id: n.z_m for n in tree.nodes}
    joints = [NetNode(f"{p.id}-cut", heights[p.start]) for p in tree.pipes]
    halves = [half for p in tree.pipes for half in (
        Pipe(f"{p.id}-a", p.start, f"{p.id}-cut", p.length_m * part, p.bore_mm, p.k),
        Pipe(f"{p.id}-b", f"{p.id}-cut", p.end, p.length_m * (1 - part), p.bore_mm))]
    ones = [Emitter(f"{e.id}-{i}", e.node, e.kind, 1) for e in tree.emitters
            for i in range(e.count)]
    whole = solve(under(tree, head_m))
    told = solve(under(Network((*tree.nodes, *joints), tuple(halves), tree.losses, tuple(ones)),
                       head_m))
    for e in tree.emitters:
        assert sum(told.flow_l_h[f"{e.id}-{i}"] for i in range(e.count)) == pytest.approx(
            whole.flow_l_h[e.id], rel=1e-4, abs=0.02)


@settings(deadline=None, max_examples=40)
@given(trees(), st.floats(1, 20))
def test_each_outlet_follows_its_own_law(tree, head_m):
    network = under(tree, head_m)
    solution = solve(network)
    levels = {n.id: n.z_m for n in network.nodes}
    for e in network.emitters:
        over = solution.head_m[e.node] - levels[e.node]
        # What is wide open gives much under little: heads are known to some micrometres.
        least, law, most = (float(outlet_flow(e.kind, over + by)) * e.count
                            for by in (-3e-6, 0.0, 3e-6))
        assert solution.flow_l_h[e.id] == pytest.approx(
            law, rel=0.01, abs=0.02 * e.count + most - least)


def row(length_m: float) -> Network:
    kind = library().outlets["plain-4"]
    nodes = (NetNode("tank", 2, 2.0), *(NetNode(f"n{i}", 0) for i in range(10)))
    pipes = tuple(Pipe(f"p{i}", "tank" if i == 0 else f"n{i - 1}", f"n{i}", length_m, 4.0)
                  for i in range(10))
    return Network(nodes, pipes, (), tuple(Emitter(f"e{i}", f"n{i}", kind) for i in range(10)))


def test_a_longer_line_never_raises_the_last_outlet():
    last = [solve(row(length)).flow_l_h["e9"] for length in (0.1, 0.5, 2, 8)]
    assert last == sorted(last, reverse=True)
    assert last[0] > 2 * last[-1]


def test_the_first_outlet_of_a_row_gets_the_most():
    solution = solve(row(1.0))
    flows = [solution.flow_l_h[f"e{i}"] for i in range(10)]
    assert flows == sorted(flows, reverse=True)


def test_an_outlet_above_the_water_stays_dry():
    kind = library().outlets["plain-2"]
    network = Network((NetNode("t", 0, 1.0), NetNode("up", 1.5), NetNode("down", 0)),
                      (Pipe("a", "t", "up", 5, 13.6), Pipe("b", "t", "down", 5, 13.6)), (),
                      (Emitter("eu", "up", kind), Emitter("ed", "down", kind)))
    solution = solve(network)
    assert solution.converged
    assert solution.flow_l_h["eu"] == 0
    assert solution.flow_l_h["ed"] == pytest.approx(0.632, abs=0.005)


def test_a_pipe_joined_to_no_source_is_named():
    network = Network((NetNode("t", 0, 1.0), NetNode("a", 0), NetNode("b", 0)),
                      (Pipe("p", "a", "b", 1, 13.6),), (), ())
    solution = solve(network)
    assert solution.dry == {"a", "b"}
    assert solution.flow_l_h["p"] == 0


def test_a_compensating_outlet_is_flat_when_open_and_weak_before():
    kind = library().outlets["compensating-2"]
    assert outlet_flow(kind, [5, 10, 30]).tolist() == pytest.approx([2, 2, 2])
    assert float(outlet_flow(kind, 1.0)) < 1
    assert float(outlet_flow(kind, -1.0)) == 0
