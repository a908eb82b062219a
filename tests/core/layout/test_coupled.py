"""Soaker hoses that go on from bed to bed, in one run with quick couplers."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from euhydra.core.assessment.assess import assess
from euhydra.core.construction.parts_list import parts_list
from euhydra.core.editing.answers import BedAnswer
from euhydra.core.editing.edits import Remove
from euhydra.core.editing.file import from_json, to_json
from euhydra.core.editing.values import SetValue
from euhydra.core.hydraulics.balancing import balanced
from gardens import made, rules_of

BED = {"length_m": 2.4, "width_m": 1.2, "group": "fruiting"}
PAIR = (("plots/bed-2/after", "bed-1"),)


def soakers(library, *steps, beds=2):
    return made(library, *steps, method="soaker", pots=0, waters=("tap",),
                beds=(BedAnswer(count=beds, **BED),))


def test_two_beds_on_one_run(library):
    """One branch and one end less, a pair of couplers, a length of pipe from bed to bed."""
    apart, pair = soakers(library), soakers(library, *PAIR)
    ends = [sum(f.kind == "flush-end" for f in g.fittings) for g in (apart, pair)]
    assert ends == [2, 1]
    between = next(x for x in pair.lines if x.id == "bed-2-branch")
    assert between.start == "bed-1-end"
    # the tap stands by the last row of the one, so that its hose ends at the first: 15 cm from
    # its edge, past 1.2 m of bed, over 60 cm and 15 cm into the other
    assert between.length_m == pytest.approx(1.2 - 0.15 + 0.6 + 0.15, abs=0.06)
    found = {p.id: p.quantity for p in parts_list(pair, library)}
    assert found["quick-coupler"] == 2
    assert "quick-coupler" not in {p.id for p in parts_list(apart, library)}
    assert "lay.long-run" not in rules_of(pair, library)
    assert "lay.not-coupled" not in rules_of(pair, library)


def test_the_second_bed_gets_what_the_first_lets_by(library):
    a, b = assess(soakers(library), library), assess(soakers(library, *PAIR), library)
    (zone,) = b.garden.zones
    half = b.flows[zone.id]["half"]
    assert 0 < half.plot_flow_l_h("bed-2") < half.plot_flow_l_h("bed-1")
    assert half.evenness < a.flows[zone.id]["half"].evenness


def test_a_third_bed_in_the_run_is_too_much_and_is_fed_by_itself(library):
    garden = soakers(library, *PAIR, ("plots/bed-3/after", "bed-2"), beds=3)
    told = rules_of(garden, library)["lay.long-run"]
    (remedy,) = told.remedies
    then = remedy.edit.apply(garden, library)
    assert "lay.long-run" not in rules_of(then, library)
    assert sum(f.kind == "quick-coupler" for f in then.fittings) == 2


@pytest.mark.parametrize(("step", "why"), [
    (("plots/bed-1/method", "dripline"), "no soaker hose"),
    (("plots/bed-1/layout", "comb"), "one run"),
    (("plots/bed-2/own_valve", True), "does not open with it"),
    (("plots/bed-2/after", "bed-2"), "does not open with it")])
def test_a_hose_that_cannot_go_on_is_laid_by_itself_and_that_is_said(library, step, why):
    garden = soakers(library, *PAIR, step)
    told = rules_of(garden, library)["lay.not-coupled"]
    assert why in told.why.show("metric")
    assert not any(f.kind == "quick-coupler" for f in garden.fittings)
    assert "lay.not-coupled" not in rules_of(told.remedies[0].edit.apply(garden, library), library)


def test_only_one_hose_goes_on_from_another(library):
    garden = soakers(library, *PAIR, ("plots/bed-3/after", "bed-1"), beds=3)
    assert "already" in rules_of(garden, library)["lay.not-coupled"].why.show("metric")
    assert sum(f.kind == "quick-coupler" for f in garden.fittings) == 2


@given(st.lists(st.tuples(st.integers(1, 4), st.integers(0, 4),
                          st.sampled_from(["after", "opens_with"])), max_size=6))
def test_however_hoses_are_coupled_every_bed_is_laid_once_and_the_file_opens(library, steps):
    garden = soakers(library, beds=4)
    for bed, on, key in steps:
        garden = SetValue(f"plots/bed-{bed}/{key}", f"bed-{on}" if on else "").apply(
            garden, library)
    assert sorted({o.plot for o in garden.outlets}) == [f"bed-{i}" for i in range(1, 5)]
    assert len({x.id for x in garden.lines}) == len(garden.lines)
    assert from_json(to_json(garden), library) == garden


def test_a_bed_that_is_taken_out_leaves_the_next_one_on_the_header(library):
    left = Remove("plots/bed-1").apply(soakers(library, *PAIR), library)
    (bed,) = left.plots
    assert bed.after == ""


def test_a_coupled_pair_is_one_branch_of_the_manifold(library):
    """Its one valve serves both beds: two branches of three beds, evened by what stands behind."""
    garden = soakers(library, *PAIR, beds=3)
    a = assess(garden, library)
    (zone,) = garden.zones
    half = a.flows[zone.id]["half"]
    branches = {b.key: b for b in balanced(garden, library, zone, half)}
    assert set(branches) == {"bed-1", "bed-3"}
    assert branches["bed-1"].before_l_h == pytest.approx(
        half.plot_flow_l_h("bed-1") + half.plot_flow_l_h("bed-2"))
    assert branches["bed-1"].after_l_h == pytest.approx(2 * branches["bed-3"].after_l_h, rel=0.01)
