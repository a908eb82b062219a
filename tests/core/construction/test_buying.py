"""What is there already, what a part costs, and what is left to buy."""

import json
import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from euhydra.core.assessment.assess import assess
from euhydra.core.construction.parts import PartLine, cost_of
from euhydra.core.construction.parts_list import parts_list
from euhydra.core.construction.setting_out import marks
from euhydra.core.editing.answers import BedAnswer
from euhydra.core.editing.file import from_json, to_json
from euhydra.core.editing.relaying import relaid
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Point
from euhydra.core.garden.stock import UNPRICED, SetHolding
from gardens import poured


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


def test_two_combs_pots_on_both_sides_and_three_barrels_equal_the_hand_count(library):
    """Counted with a pencil on the plan: three rows of 2.3 m a bed, five pots each side of 3 m."""
    beds = tuple(BedAnswer(length_m=2.4, width_m=1.2, group="fruiting") for _ in range(2))
    garden = poured(library, beds=beds, pots=5, barrels=3)
    near = garden.plot("pots-1")
    over = near.model_copy(update={"id": "pots-2", "name": "Across", "corner": Point(
        x_m=near.corner.x_m, y_m=near.corner.y_m - 3)})
    garden = relaid(garden.model_copy(update={"plots": (*garden.plots, over)}), library)
    must = [p for p in parts_list(garden, library) if p.need == "must"]
    assert {p.key: p.quantity for p in must if p.key != "tube"} == {
        "barrel": 3, "stand": 1, "footing": 3 * 4,  # each 0.55 m wide
        "bottom-link": 2, "overflow": 1, "bulkhead": 1,
        "clamp": 2 * 2 + 1,  # both ends of each link, and the overflow
        "child-lock": 3, "diverter": 1, "winter-cap": 1,
        "screen": 3 + 1,  # a barrel each, and the overflow
        "timer": 2, "filter": 2, "adapter": 2, "splitter": 1, "thread-adapter": 1, "label": 2,
        "tee": 1 + 2 * 2 + 1,  # the pipe parts to the beds; two on each header; and to the pots
        "elbow": 1 + 2 * 2 + 1 + 1 + 1,  # beds' pipe, header ends, into bed 2; pots' pipe, its end
        "flush-end": 2 * 3 + 2,  # every row, and each side's header
        "dripper": 10, "end-plug": 2, "punch-barb": 2,
        "pot": 10, "small-tee": 10, "stake": 10,  # one of each for a pot with one dripper
        "small-elbow": 2, "small-clamp": 2 * 4,  # where a tube goes up; every 60 cm of 2.02 m
        "mix": 4}  # 10 × 0.9 × π/4 × 0.3² × 0.3 m³ = 191 L
    tubes = {p.name: p for p in must if p.key == "tube"}
    half, drip, quarter = (tubes[library.tubes[key].name]
                           for key in ("poly-16", "dripline", "quarter-inch"))
    # Each and a twentieth, up to whole metres.
    assert half.quantity == 19  # 4.85 + 1.8 + 2 × 1.08 to the beds, 5 + 3 + 2 × 0.42 to the pots
    # Five pots at 0.38 m and 0.5 m up are 2.02 m a side; and up each pot 0.3 m and 0.1 m over.
    assert quarter.quantity == 9
    assert drip.quantity == 15  # 6 × 2.3 m
    assert (drip.rolls, drip.offcut_m) == (1, 15)


def test_rolls_cover_what_is_to_buy_and_no_roll_is_bought_in_vain(kiln):
    for part in kiln.parts:
        if part.rolls:
            assert 0 <= part.offcut_m < part.roll_m
            assert part.rolls * part.roll_m == pytest.approx(part.to_buy + part.offcut_m)
        else:
            assert part.roll_m == 0 or part.to_buy == 0


def test_a_hole_saw_for_every_size_that_is_drilled(kiln):
    marked = {round(m.drill_mm) for s in kiln.garden.stores for m in marks(kiln.garden, s)
              if m.drill_mm > 0}
    saws = {p.name.replace("\u00a0", " ") for p in kiln.parts if p.key == "hole-saw"}
    bits = {p.name.replace("\u00a0", " ") for p in kiln.parts if p.key == "drill-bit"}
    # The gutter's buckets: a net pot of 75 mm goes into 76 mm, its float valve into 21 mm.
    assert saws == {f"Hole saw, {bore} mm" for bore in marked | {76, 21}}
    assert bits == {"Drill bit, 6 mm", "Drill bit, 10 mm"}  # air holes; pots' and towers' drains
    assert all(p.need == "tool" for p in kiln.parts if p.key in ("hole-saw", "drill-bit"))


def test_a_coupling_where_one_roll_ends_and_the_next_begins(kiln, library):
    rolls = {p.name: p.rolls for p in kiln.parts if p.roll_m}
    assert max(rolls.values()) > 1
    joined = [p.quantity for p in kiln.parts if p.key == "coupling"]
    assert joined == [sum(n - 1 for n in rolls.values() if n > 1)]
    small = parts_list(poured(library, pots=0), library)
    assert not any(p.key == "coupling" for p in small)


def test_what_may_stand_in_a_part_s_place_is_said_where_anything_may(kiln):
    said = {p.key: p.swap for p in kiln.parts}
    assert "food-grade" in said["barrel"]
    assert said["backflow"] == ""  # nothing keeps mains water clean in its place


def test_a_garden_in_gallons_has_its_parts_in_gallons_and_what_is_noted_stays(library):
    garden = poured(library, barrel_l=208.198, units="metric")
    metric = {p.id: p for p in parts_list(garden, library)}
    us = {p.id: p for p in parts_list(garden.model_copy(update={"units": "us"}), library)}
    assert list(us) == list(metric), "what is on the shelf already stays noted"
    barrel = next(p for p in us.values() if p.key == "barrel")
    assert barrel.name.replace("\u00a0", " ") == "Barrel, 55 gal, with lid and spigot"
    assert metric[barrel.id].name.replace("\u00a0", " ") == "Barrel, 208 L, with lid and spigot"
    saws = {p.name.replace("\u00a0", " ") for p in us.values() if p.key == "hole-saw"}
    assert {"Hole saw, 1 9/16 in", "Hole saw, 1 in", "Hole saw, 1 15/16 in"} >= saws
    assert len(saws) > 1
    sacks = next(p for p in us.values() if p.key == "mix")
    assert sacks.name.replace("\u00a0", " ").endswith("sacks of 2 cu ft")
    pots = garden.plot("pots-1")
    litres = 4 * 0.9 * math.pi / 4 * pots.diameter_m**2 * pots.height_m * 1000
    assert (sacks.quantity, metric[sacks.id].quantity) == (
        math.ceil(litres / 56.634), math.ceil(litres / 50))
    rolls = {round(p.roll_m / 0.3048) for p in us.values() if p.roll_m}
    assert rolls <= {50, 100, 250, 500}, "pipe comes in rolls of feet"
    assert all(p.rolls * p.roll_m >= p.to_buy for p in us.values() if p.roll_m)


def test_what_was_noted_under_a_part_s_old_name_is_still_noted(library):
    """Version 2 called lines of the list by their names, which have changed since."""
    garden = poured(library)
    tree = json.loads(to_json(garden)) | {"version": 2}
    tree["garden"]["holdings"] = [
        {"id": "tube-16-mm-polyethylene-pipe-half-inch", "have": 7.0, "price": 0.5},
        {"id": "dripper-plain-2-l-h-emitter", "have": 3.0, "price": -1.0},
        {"id": "barrel-barrel-210-l-with-lid-and-spigot", "have": 1.0, "price": -1.0}]
    held = {p.id: p for p in assess(from_json(json.dumps(tree), library), library).parts}
    assert (held["tube-poly-16"].have, held["tube-poly-16"].price) == (7.0, 0.5)
    assert held["dripper-plain-2"].have == 3.0
    assert held["barrel-barrel-210-l-with-lid-and-spigot"].have == 1.0
    us = assess(garden.model_copy(update={"units": "us"}), library)
    assert {p.id for p in us.parts} == set(held)
