"""What is there already, what a part costs, and what is left to buy."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from euhydra.core.assess import assess
from euhydra.core.garden.buying import UNPRICED, SetHolding
from euhydra.core.garden.edits import SetValue
from euhydra.core.garden.file import from_json, to_json
from euhydra.core.parts import PartLine, cost_of


def line_of(a, key):
    return next(p for p in a.parts if p.key == key)


def test_what_is_there_is_not_bought_and_ones_own_price_counts(kiln):
    barrel = line_of(kiln, "barrel")
    one = kiln.after(SetHolding(barrel.id, have=1.0))
    assert line_of(one, "barrel").to_buy == barrel.quantity - 1
    assert cost_of(one.parts) == pytest.approx(cost_of(kiln.parts) - barrel.price)
    dear = one.after(SetHolding(barrel.id, price=100.0))
    assert line_of(dear, "barrel").have == 1
    assert line_of(dear, "barrel").cost == pytest.approx(100 * (barrel.quantity - 1))
    plain = dear.after(SetHolding(barrel.id, have=0.0, price=UNPRICED))
    assert plain.garden == kiln.garden


def test_notes_last_while_the_garden_changes_and_go_out_with_its_file(kiln, library):
    tee = line_of(kiln, "tee")
    noted = SetHolding(tee.id, have=4.0, price=0.8).apply(kiln.garden, library)
    wider = assess(SetValue("plots/bed-1/width_m", 1.6).apply(noted, library), library)
    assert line_of(wider, "tee").have == 4
    assert line_of(wider, "tee").own_price
    assert from_json(to_json(noted), library) == noted


@given(st.floats(0, 200), st.floats(0, 200), st.floats(0, 50))
def test_nothing_is_bought_twice_nor_sold(quantity, have, price):
    line = PartLine("x", "x", "x", quantity, "each", "must", "", price, have)
    assert 0 <= line.to_buy <= quantity
    assert line.to_buy + min(have, quantity) == pytest.approx(quantity)
    assert line.cost >= 0


def test_all_there_is_said(kiln):
    a = kiln
    for part in kiln.parts:
        a = a.after(SetHolding(part.id, have=part.quantity))
    assert "is there" in a.station("build").verdict.show("metric")
    assert cost_of(a.parts) == 0
