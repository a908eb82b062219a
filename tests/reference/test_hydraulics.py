"""Friction and networks against reference libraries; handbook values."""

import math
import warnings

import fluids
import numpy as np
import pytest
import wntr

from euhydra.core import units
from euhydra.core.hydraulics.build import zone_network
from euhydra.core.hydraulics.friction import (
    PLASTIC_ROUGHNESS_MM,
    christiansen,
    friction_factor,
    kinematic_viscosity,
    kv_resistance,
)
from euhydra.core.hydraulics.network import Emitter, NetNode, Network, Pipe, solve
from euhydra.core.hydraulics.uniformity import (
    distribution_uniformity,
    emission_uniformity,
    uniformity_class,
)
from euhydra.core.push import water_levels
from gardens import poured

EPANET_VISCOSITY = 1.1e-5 * 0.3048**2  # the engine's unit viscosity, ft²/s to m²/s, recalled


@pytest.mark.parametrize("re", [50, 900, 1999])
def test_laminar_friction_equals_fluids(re):
    assert float(friction_factor(re, 1e-4)) == pytest.approx(fluids.friction.friction_laminar(re))


@pytest.mark.parametrize("re", [4000, 2e4, 3e5])
@pytest.mark.parametrize("rough", [1e-5, 1e-4, 5e-3])
def test_turbulent_friction_equals_fluids(re, rough):
    assert float(friction_factor(re, rough)) == pytest.approx(
        fluids.friction.Swamee_Jain_1976(re, rough), rel=1e-3)


def test_friction_between_joins_without_a_step():
    re = np.linspace(1990, 4010, 400)
    f = friction_factor(re, 1e-4)
    assert np.abs(np.diff(f)).max() < 0.001


def test_viscosity_at_20_degrees():
    # Handbook value, recalled: 1.004e-6 m²/s; the formula is good to about 2 %.
    assert kinematic_viscosity(20) == pytest.approx(1.004e-6, rel=0.02)


@pytest.mark.parametrize(("outlets", "factor"), [(5, 0.457), (10, 0.402), (20, 0.376)])
def test_christiansen_factor(outlets, factor):
    # Published table of F for m = 1.852, recalled.
    assert christiansen(outlets) == pytest.approx(factor, abs=5e-4)


def test_kv_by_its_definition():
    # Kv is m³/h at 1 bar (10.2 m of water).
    assert float(kv_resistance(2.0)) * 2000**2 == pytest.approx(10.197, abs=0.001)


def test_a_foot_of_water_is_0_4335_psi():
    pressure = units.pressure_kpa(0.3048)
    assert units.convert(pressure, "pressure", "us") == pytest.approx(0.4335, abs=1e-4)
    assert units.parse("0.4335 psi", "head", "us") == pytest.approx(0.3048, rel=1e-3)


def test_emission_uniformity_worked():
    # Keller & Karmeli 1974, recalled: Cv 0.05, one outlet a plant, q_min/q_avg 0.9 -> 0.843.
    flows = [1.8, 2.0, 2.0, 2.2]
    assert emission_uniformity(flows, 0.05) == pytest.approx((1 - 1.27 * 0.05) * 0.9)
    assert uniformity_class(emission_uniformity(flows, 0.05)) == "good"


def test_low_quarter_uniformity_worked():
    assert distribution_uniformity([1, 2, 3, 4, 5, 6, 7, 8]) == pytest.approx(1.5 / 4.5)


def epanet_model(network: Network, temperature_c: float = 15.0) -> wntr.network.WaterNetworkModel:
    """The same network for the EPANET 2 engine; pipes are P0, P1 … Emitters of x = 0.5 only."""
    model = wntr.network.WaterNetworkModel()
    hydraulic = model.options.hydraulic
    with warnings.catch_warnings(action="ignore"):
        hydraulic.headloss = "D-W"
    hydraulic.emitter_exponent = 0.5
    hydraulic.viscosity = kinematic_viscosity(temperature_c) / EPANET_VISCOSITY
    hydraulic.accuracy, hydraulic.trials, hydraulic.inpfile_units = 1e-7, 200, "LPS"
    model.options.time.duration = 0
    names = {n.id: f"N{i}" for i, n in enumerate(network.nodes)}
    for node in network.nodes:
        if node.fixed_head_m is not None:
            model.add_reservoir(names[node.id], base_head=node.fixed_head_m)
        else:
            model.add_junction(names[node.id], base_demand=0, elevation=node.z_m)
    for i, pipe in enumerate(network.pipes):
        model.add_pipe(f"P{i}", names[pipe.start], names[pipe.end], length=pipe.length_m,
                       diameter=pipe.bore_mm / 1000, roughness=PLASTIC_ROUGHNESS_MM / 1000,
                       minor_loss=pipe.k)
    for i, loss in enumerate(network.losses):
        # A component of Kv as a short wide pipe with the same loss: K = 2 g r A².
        bore = 0.025
        area = math.pi / 4 * bore**2
        k = 2 * 9.80665 * float(kv_resistance(loss.kv)) * 3.6e6**2 * area**2
        model.add_pipe(f"L{i}", names[loss.start], names[loss.end], length=0.001, diameter=bore,
                       roughness=PLASTIC_ROUGHNESS_MM / 1000, minor_loss=k)
    for emitter in network.emitters:
        assert emitter.kind.x == 0.5
        model.get_node(names[emitter.node]).emitter_coefficient = (
            emitter.kind.k * emitter.count / 3.6e6)
    return model


def epanet_flows(network: Network) -> dict[str, float]:
    """Flows by the EPANET 2 engine, L/h by pipe id."""
    results = wntr.sim.EpanetSimulator(epanet_model(network)).run_sim()
    flows = results.link["flowrate"].iloc[0] * 3.6e6
    return {pipe.id: float(flows[f"P{i}"]) for i, pipe in enumerate(network.pipes)}


def assert_agrees(network: Network) -> None:
    ours = solve(network)
    assert ours.converged
    theirs = epanet_flows(network)
    largest = max(abs(v) for v in theirs.values())
    for name, flow in theirs.items():
        assert ours.flow_l_h[name] == pytest.approx(flow, rel=0.01, abs=0.0005 * largest)


@pytest.mark.parametrize("fall_m", [0.5, 3.0, 12.0])
def test_a_laid_garden_agrees_with_epanet(library, fall_m, tmp_path, monkeypatch):
    # The EPANET 2 engine of wntr, Darcy–Weisbach: a tree with outlets and levels, within 1 %.
    monkeypatch.chdir(tmp_path)
    garden = poured(library, fall_m=fall_m, pots=12)
    for zone in garden.zones:
        assert_agrees(zone_network(garden, library, zone, water_levels(garden)["half"]))


def test_a_loop_agrees_with_epanet(library, tmp_path, monkeypatch):
    monkeypatch.chdir(tmp_path)
    kind = library.outlets["plain-4"]
    corners = [("a", 0.0), ("b", 0.3), ("c", -0.4), ("d", 0.1)]
    nodes = (NetNode("tank", 2.0, 6.0), *(NetNode(n, z) for n, z in corners))
    pipes = (Pipe("in", "tank", "a", 8, 13.6, 1.5), Pipe("ab", "a", "b", 12, 13.6),
             Pipe("bc", "b", "c", 9, 10.0), Pipe("cd", "c", "d", 15, 13.6),
             Pipe("da", "d", "a", 6, 8.0, 2.0))
    emitters = tuple(Emitter(f"e{n}", n, kind, 20) for n, _ in corners)
    assert_agrees(Network(nodes, pipes, (), emitters))
