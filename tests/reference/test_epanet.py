"""Our solution against the EPANET 2 engine, on the INP file that the app itself exports.

The engine comes from the test-only package wntr. Friction by Darcy–Weisbach in both; flows and
heads agree within 1 %.
"""

import numpy as np
import pytest

from epanet import run, run_through
from euhydra.core.assessment.assess import assess
from euhydra.core.editing.answers import BedAnswer
from euhydra.core.editing.file import from_json
from euhydra.core.editing.pump_edits import FitPump
from euhydra.core.editing.values import SetValue
from euhydra.core.hydraulics.assemble import zone_network
from euhydra.core.hydraulics.network import (
    Emitter,
    Loss,
    NetNode,
    Network,
    Pipe,
    Pump,
    Regulator,
)
from euhydra.core.hydraulics.solver import solve
from euhydra.core.hydraulics.surfaces import zone_levels
from euhydra.core.hydraulics.zone_pipes import pipes_of
from euhydra.core.results.results import Results
from euhydra.core.season.drawdown import one_watering
from euhydra.core.season.simulate import run_season
from euhydra.core.storage import outlet_z_m
from euhydra.data import garden_text, library
from euhydra.exports.inp import as_inp
from gardens import poured
from worlds import world

LIBRARY = library()
GARDENS = ("kiln-yard", "balcony", "plot-27")


def assert_agrees(network, folder, abs_flow=0.02):
    ours, theirs = solve(network), run(network, folder)
    assert ours.converged
    assert theirs.warning == 0
    span = max(n.fixed_head_m for n in network.nodes if n.fixed_head_m is not None) - min(
        n.z_m for n in network.nodes) + max((h for p in network.pumps for _, h in p.points),
                                            default=0.0)
    for link, flow in theirs.flow_l_h.items():
        assert ours.flow_l_h[link] == pytest.approx(flow, rel=0.01, abs=abs_flow), link
    for node, head in theirs.head_m.items():
        if node not in ours.dry:
            assert ours.head_m[node] == pytest.approx(head, abs=0.01 * max(span, 1.0)), node


@pytest.mark.parametrize("name", GARDENS)
@pytest.mark.parametrize("level", ["full", "low"])
def test_every_zone_of_the_demo_gardens(name, level, tmp_path):
    garden = from_json(garden_text(name), LIBRARY)
    drinks = Results(garden, LIBRARY).demand.drinks
    for zone in garden.zones:
        water = zone_levels(garden, zone)[level]
        network = zone_network(pipes_of(garden, zone, drinks), LIBRARY, water)
        assert_agrees(network, tmp_path)


@pytest.mark.parametrize("kind", sorted(LIBRARY.pumps))
def test_a_garden_on_a_pump(kind, tmp_path):
    garden = FitPump("barrels", kind, 170.0 if kind == "booster" else 0.0).apply(
        poured(LIBRARY, fall_m=-1.0), LIBRARY)
    for zone in garden.zones:
        network = zone_network(pipes_of(garden, zone), LIBRARY, zone_levels(garden, zone)["low"])
        assert len(network.pumps) == 1
        assert_agrees(network, tmp_path)


@pytest.mark.parametrize("method", ["soaker", "dripline-pc", "tape", "drilled", "drippers"])
def test_each_kind_of_outlet(method, tmp_path):
    garden = poured(LIBRARY, fall_m=9.0, method="dripline", pots=0)
    for bed in ("bed-1", "bed-2"):
        garden = SetValue(f"plots/{bed}/method", method).apply(garden, LIBRARY)
    for zone in garden.zones:
        half = zone_levels(garden, zone)["half"]
        assert_agrees(zone_network(pipes_of(garden, zone), LIBRARY, half), tmp_path)


def random_garden(seed):
    """A tree with a few loops, slopes, outlets, check valves, a pump, regulators."""
    rng = np.random.default_rng(seed)
    pick = rng.choice
    source = float(rng.uniform(1.5, 30))
    nodes = [NetNode("s", 0.0, source)]
    pipes, losses, emitters, pumps, regulators = [], [], [], [], []
    first = "s"
    if seed % 3 == 0:
        nodes.append(NetNode("pumped", 0.0))
        curve = ((0.0, 20.0), (400.0, 16.0), (900.0, 9.0), (1500.0, 1.0)) if seed % 2 else (
            (600.0, 12.0),)
        pumps.append(Pump("pump", "s", "pumped", curve))
        first = "pumped"
    if seed % 4 == 1:
        nodes.append(NetNode("held", float(rng.uniform(-0.5, 0.5))))
        nodes.append(NetNode("before", 0.0))
        losses.append(Loss("tap", first, "before", 2.0, one_way=bool(seed % 8 == 1)))
        regulators.append(Regulator("reg", "before", "held", 2.0, float(rng.uniform(4, 25))))
        first = "held"
    count = int(rng.integers(4, 26))
    names = [first]
    for i in range(count):
        node, parent = f"n{i}", names[int(rng.integers(0, len(names)))]
        nodes.append(NetNode(node, float(rng.uniform(-1.0, 1.0))))
        length, bore = float(rng.uniform(0.2, 40)), float(pick([4.0, 10.0, 13.6, 17.6, 22.0]))
        if rng.random() < 0.15:
            losses.append(Loss(f"l{i}", parent, node, float(rng.uniform(0.8, 4)),
                               one_way=bool(rng.random() < 0.5),
                               clogged=float(pick([1.0, 1.0, 4.0]))))
        else:
            pipes.append(Pipe(f"p{i}", parent, node, length, bore, float(rng.uniform(0, 4)),
                              one_way=bool(rng.random() < 0.1)))
        names.append(node)
        if rng.random() < 0.7:
            kind = LIBRARY.outlets[str(pick(["plain-2", "plain-4", "plain-2"]))]
            emitters.append(Emitter(f"e{i}", node, kind, int(rng.integers(1, 30))))
    for i in range(int(rng.integers(0, 4))):
        a, b = rng.choice(len(names), 2, replace=False)
        pipes.append(Pipe(f"loop{i}", names[a], names[b], float(rng.uniform(1, 20)), 13.6, 1.0))
    return Network(tuple(nodes), tuple(pipes), tuple(losses), tuple(emitters), tuple(pumps),
                   tuple(regulators))


@pytest.mark.parametrize("seed", range(60))
def test_any_garden(seed, tmp_path):
    network = random_garden(seed)
    ours = solve(network)
    assert ours.converged
    assert ours.residual_l_h < 0.01
    level = {n.id: n.z_m for n in network.nodes}
    if any(ours.head_m[e.node] < level[e.node] + 0.01 for e in network.emitters):
        # The engine lets air in as if it were water: only what runs full can be compared.
        wet = tuple(e for e in network.emitters if ours.head_m[e.node] > level[e.node] + 0.3)
        network = Network(network.nodes, network.pipes, network.losses, wet, network.pumps,
                          network.regulators)
    assert_agrees(network, tmp_path, abs_flow=0.05)


@pytest.mark.parametrize(("count", "litres", "method"), [(2, 210.0, "dripline"),
                                                         (1, 60.0, "drippers"),
                                                         (1, 120.0, "soaker")])
def test_a_tank_that_falls_through_one_watering(count, litres, method, tmp_path):
    """EPANET's extended period, half-minute steps: one watering 0.2 %, a season's day 1 %."""
    garden = poured(LIBRARY, fall_m=1.0, method=method, pots=0, barrels=count, barrel_l=litres,
                    beds=(BedAnswer(length_m=2.4, width_m=1.2, group="fruiting"),))
    a = assess(garden, LIBRARY)
    (zone,), bank = garden.zones, a.banks.banks[0]
    low, top = outlet_z_m(garden.store), bank.full_z_m
    minutes = a.schedule.setting_in(zone.id, 6).minutes
    network = zone_network(pipes_of(garden, zone), LIBRARY, top)
    path = tmp_path / "falls.inp"
    path.write_text(as_inp(network, "falls"), encoding="ascii")
    source = next(n.id for n in network.nodes if n.fixed_head_m is not None)
    left = run_through(path, network, minutes, base_z_m=low,
                       area_m2=bank.usable_l / 1000 / (top - low))
    told = one_watering(a.season_inputs, garden.store, 6)
    drawn = told.left_l[0] - np.interp(minutes, told.minutes, told.left_l)
    assert drawn > 0.08 * bank.usable_l  # the level does fall
    assert drawn == pytest.approx(-left[source], rel=2e-3)
    # The season's own day, from a full bank, less what drained lines keep and give back.
    day = np.zeros((1, 365, 4))
    day[0, 0, 0] = minutes
    flows = [a.flows[zone.id][level].flow_l_h for level in ("low", "half", "full")]
    season = run_season(world(np.zeros((1, 365)) + 1e-9, np.zeros((1, 365)), day, total=1e9,
                              size=bank.usable_l, flow=tuple(flows)), start_share=1.0)
    assert season.given[0, 0, 0] == pytest.approx(-left[source], rel=0.01)
