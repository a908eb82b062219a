"""Friction and networks against reference libraries; handbook values."""

import fluids
import numpy as np
import pytest

from euhydra.core import parsing, units
from euhydra.core.hydraulics.friction import (
    christiansen,
    friction_factor,
    kinematic_viscosity,
    kv_resistance,
)
from euhydra.core.hydraulics.uniformity import (
    distribution_uniformity,
    emission_uniformity,
    uniformity_class,
)

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
    assert parsing.parse("0.4335 psi", "head", "us") == pytest.approx(0.3048, rel=1e-3)


def test_emission_uniformity_worked():
    # Keller & Karmeli 1974, recalled: Cv 0.05, one outlet a plant, q_min/q_avg 0.9 -> 0.843.
    flows = [1.8, 2.0, 2.0, 2.2]
    assert emission_uniformity(flows, 0.05) == pytest.approx((1 - 1.27 * 0.05) * 0.9)
    assert uniformity_class(emission_uniformity(flows, 0.05)) == "good"


def test_low_quarter_uniformity_worked():
    assert distribution_uniformity([1, 2, 3, 4, 5, 6, 7, 8]) == pytest.approx(1.5 / 4.5)
