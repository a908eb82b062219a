"""Pumps at work: energy, starts, duty, suction, and the parts they ask for."""

import numpy as np
import pytest

from euhydra.core.advise import gravity_or_pump, pump_choice
from euhydra.core.assessment.assess import assess
from euhydra.core.construction.joints import head_assembly
from euhydra.core.construction.parts_list import parts_list
from euhydra.core.editing.answers import BedAnswer
from euhydra.core.editing.pump_edits import FitPump
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Lift
from euhydra.core.hydraulics import pump_duty, surfaces, zone_flow
from euhydra.core.hydraulics.pumps import suction_left_m, water_power_w
from gardens import made

ALIKE = tuple(BedAnswer(length_m=4.0, width_m=1.2, group="leafy") for _ in range(4))




def test_a_pump_s_energy_by_hand(library):
    # 50 W for 1.5 h: 75 Wh; three days off half a battery: 450 Wh; five hours of sun at 0.7: 21 W.
    lift = Lift.model_validate({"id": "p", "name": "Pump", "at": {"x_m": 0, "y_m": 0},
                                "draws_from": "s", "kind": "diaphragm-12v", "battery_wh": 600})
    spent = pump_duty.energy(lift, library.pumps["diaphragm-12v"], 1.5, 200.0, 5.0)
    assert spent.wh_day == pytest.approx(75)
    assert spent.battery_wh == pytest.approx(450)
    assert spent.panel_w == pytest.approx(75 / 5 / 0.7)
    assert spent.lasts_days == pytest.approx(4.0)
    assert spent.cost_year == pytest.approx(10 * pump_duty.PRICE_KWH)


def test_duty_agrees_with_the_curves_drawn(manifold, library):
    zone = manifold.zones[0]
    bare = SetValue("lifts/pump-1/regulator_kpa", 0.0).apply(manifold, library)
    low = zone_flow.solve_zone(bare, library, zone, surfaces.zone_levels(bare, zone)["low"])
    at = pump_duty.duty(bare, library, zone, low)
    drawn = pump_duty.curves(bare, library, zone, steps=41)
    assert np.interp(at.flow_l_h, *zip(*drawn.pump, strict=True)) == pytest.approx(at.head_m,
                                                                                   rel=0.01)
    assert np.interp(at.flow_l_h, *zip(*drawn.system, strict=True)) == pytest.approx(at.head_m,
                                                                                     rel=0.02)
    assert at.water_w == pytest.approx(water_power_w(at.flow_l_h, at.head_m))


def test_suction_falls_with_height_warmth_and_lift():
    usual = suction_left_m(0, 20, 2.0, 0.5)
    # 10.33 m of air less 0.24 m of vapour at 20 °C, less lift and loss.
    assert usual == pytest.approx(10.33 - 0.24 - 2.0 - 0.5, abs=0.05)
    assert suction_left_m(2000, 20, 2.0, 0.5) < usual - 1.5
    assert suction_left_m(0, 40, 2.0, 0.5) < usual


def test_both_schools_stand_side_by_side_and_the_pump_offered_serves(library):
    garden = made(library, fall_m=-0.4, stand_m=0.3)
    r = assess(garden, library)
    gravity, pump = gravity_or_pump.sides(r, garden.store)
    assert not gravity.works
    assert gravity.energy is None
    assert gravity.buys == 0
    assert pump.works
    assert pump.spare_m > 0
    assert pump.energy.wh_day > 0
    assert pump.buys > library.pumps[pump.after.garden.lifts[0].kind].price
    cheaper = [k for k in library.pumps.values()
               if k.price < library.pumps[pump.after.garden.lifts[0].kind].price]
    for kind in cheaper:
        fit = FitPump(garden.store.id, kind.key)
        assert pump_choice._served(fit.apply(garden, library), library, garden.store) == "no"
    # With the pump in place the same two sides are told, the other way round.
    back = gravity_or_pump.sides(assess(pump.edit.apply(garden, library), library), garden.store)
    assert [s.works for s in back] == [False, True]
    assert back[0].head_m == pytest.approx(gravity.head_m, abs=1e-6)


def test_a_pump_s_own_parts_are_on_the_list_and_in_its_head(manifold, library):
    def names(garden):
        return {p.key: p.quantity for p in parts_list(garden, library)}

    on = names(manifold)
    assert on["pump"] == on["check-valve"] == on["residual-current"] == 1
    assert on["regulator"] == len(manifold.zones)
    assert "suction-hose" not in on
    assert on["thread-adapter"] == 1  # from the check valve's pipe thread to the hose
    roles = [p.role for p in head_assembly(manifold, library, manifold.zones[0])]
    assert roles[:2] == ["pump", "check"]
    dry = names(FitPump(manifold.store.id, "diaphragm-12v").apply(manifold, library))
    assert {"suction-hose", "foot-valve", "pump-battery", "fuse", "thread-adapter"} <= set(dry)
    assert "residual-current" not in dry
    roles = [p.role for p in head_assembly(FitPump(manifold.store.id, "transfer").apply(
        manifold, library), library, manifold.zones[0])]
    assert roles[:3] == ["inlet", "pump", "check"]
