"""Downspouts that merge into one pipe: what it carries, what is bought, marked and built."""

import math

import pytest

from euhydra.core import storage
from euhydra.core.assessment.assess import assess
from euhydra.core.construction import setting_out
from euhydra.core.construction.steps import steps as steps_to_build
from euhydra.core.storage import storm
from euhydra.core.supply.runoff import flush_chamber_l
from gardens import made


def steps_of(r):
    return steps_to_build(r.season_inputs)


TWO_ROOFS = ("+roof", ("roofs/roof-1/width_m", 4.0), ("roofs/roof-1/depth_m", 2.0),
             ("roofs/roof-1/downspouts/d1/to", "barrels"), ("roofs/roof-1/first_flush_mm", 0.5))
MERGED = (*TWO_ROOFS, ("stores/barrels/merged_mm", 32.0), ("stores/barrels/merged_m", 8.0))


def test_one_pipe_carries_what_its_bore_and_fall_let_it(library):
    """32 mm, 8 m, from an eave of 2.4 m to a barrel's top at 0.4 + 0.88 m: 1.12 m of head, of
    which entry, exit and friction (0.03 × 8 ÷ 0.032) leave v = √(2 g h ÷ 9).
    """
    garden = made(library, *MERGED)
    speed = math.sqrt(2 * 9.81 * 1.12 / (1.5 + 0.03 * 8 / 0.032))
    by_hand = math.pi / 4 * 0.032**2 * speed * 3.6e6
    assert storm.merged_l_h(garden.roofs, garden.store) == pytest.approx(by_hand, rel=1e-3)
    limits = {x.part: x for x in storm.limits(garden, library, storage.banks_of(garden))}
    runs_off = (15 + 8) * 0.95
    assert limits["merged pipe"].gives_at_mm_h == pytest.approx(by_hand / runs_off, rel=1e-3)
    assert "diverter" not in limits
    came = storm.inflow_l_h(garden.roofs, library, garden.store, 500.0)
    assert came == pytest.approx(by_hand, rel=1e-3)
    little = storm.inflow_l_h(garden.roofs, library, garden.store, 20.0)
    assert little == pytest.approx(20 * runs_off)


def test_a_pipe_to_a_store_over_the_eave_carries_nothing(library):
    garden = made(library, *MERGED, ("stores/barrels/stand_m", 2.0))
    assert storm.merged_l_h(garden.roofs, garden.store) == 0
    assert storm.inflow_l_h(garden.roofs, library, garden.store, 20.0) == 0


def test_what_merges_is_bought_marked_and_built_as_one(library):
    apart, one = (assess(made(library, *steps), library) for steps in (TWO_ROOFS, MERGED))
    parts = [{p.key: p for p in r.parts} for r in (apart, one)]
    assert parts[0]["diverter"].quantity == 2
    assert "merged-pipe" not in parts[0]
    assert "diverter" not in parts[1]
    assert (parts[1]["wye"].quantity, parts[1]["leaf-screen"].quantity) == (1, 2)
    assert parts[1]["merged-pipe"].quantity == math.ceil(8 * 1.05)
    assert parts[1]["first-flush"].quantity == 1
    litres = 0.3 * 15 + 0.5 * 8
    assert flush_chamber_l(one.garden.roofs, "barrels") == pytest.approx(litres)
    whats = [mark.what for mark in setting_out.marks(one.garden, one.garden.store)]
    assert "inlet of the rain pipe" in whats
    assert not [what for what in whats if "diverter" in what]
    steps = {step.id: step for step in steps_of(one)}
    assert "merge-barrels" in steps
    assert not [key for key in steps if key.startswith("diverter")]
    chamber = steps["flush-chamber-barrels"]
    assert chamber.title.amounts["chamber"].value == pytest.approx(litres)
    assert chamber.how.amounts["drip"].value == pytest.approx(litres / 24)
    assert chamber.caution == ""
    assert "catch.drilling" not in {f.rule for f in one.station("catch").findings}


def test_a_buried_chamber_is_called_so_and_has_its_caution(library):
    r = assess(made(library, *MERGED, ("stores/barrels/flush_buried", True)), library)
    assert "Buried" in next(p.name for p in r.parts if p.key == "first-flush")
    chamber = next(step for step in steps_of(r) if step.id.startswith("flush-chamber"))
    assert "before you dig" in chamber.caution
    assert "gravel" in chamber.how.show("metric")
