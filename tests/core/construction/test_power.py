"""What a pump draws as one measured it: its battery's hours, told the same on Push and on Build."""

import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.construction.steps import of_water
from gardens import made


def test_a_battery_s_hours_go_by_the_watts_that_were_measured(library):
    """Half of 100 Wh at 40 W is an hour and a quarter; the table's 50 W would be one hour."""
    steps = ("+pump", ("lifts/pump-1/kind", "diaphragm-12v"), ("lifts/pump-1/power", "battery"),
             ("lifts/pump-1/battery_wh", 100.0))
    table, own = (made(library, *steps, ("lifts/pump-1/watts", w)) for w in (0.0, 40.0))
    hours = [next(s for s in of_water(g, library) if s.id == "power-pump-1").how.amounts[
        "lasts_h"].value for g in (table, own)]
    assert hours == [1.0, 1.25]
    a, b = (assess(g, library) for g in (table, own))
    spent = [next(f for f in x.station("push").figures if f.key == "energy_pump-1") for x in (a, b)]
    assert spent[1].amount.value / spent[0].amount.value == pytest.approx(40 / 50)
    assert spent[1].working.terms[0].note == "as you measured"
