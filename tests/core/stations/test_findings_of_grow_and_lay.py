"""Every rule of Grow and Lay on plots of every kind: where it fires, where not, what ends it."""

import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.editing.hand_laying import AddRow
from euhydra.core.editing.plan_edits import DrawAt, MoveBy, RemoveAll
from gardens import made, rules_of

CHAIN, GUTTER, FLOATS = "plots/chain-3", "plots/gutter-3", "plots/float-pots-3"
BED = "plots/bed-1"
PATH = DrawAt("path", 7.0, -2.0, 0.8, 6.0)
OWN_TANK = ("+float-pots", "+hand-tank", (f"{FLOATS}/fed_by", "store-1"))
CASES = {
    "grow.chain-starves": (("+chain", (f"{CHAIN}/count", 12)),
                           ("+chain", (f"{CHAIN}/plantings/p1/crop", "lettuce"))),
    "grow.gutter-long": (("+gutter", (f"{GUTTER}/count", 10)),
                         ("+gutter", (f"{GUTTER}/count", 9))),
    "grow.tank-low": ((*OWN_TANK, ("stores/store-1/stand_m", 0.1)), OWN_TANK),
    "grow.does-not-wick": (("+gutter", (f"{GUTTER}/soil", "loam")), ("+gutter",)),
    "grow.feed": (("+gutter",), ()),
    "grow.own-measure": (((f"{BED}/own_mm_week", 5.0),), ((f"{BED}/own_mm_week", 60.0),)),
    "grow.habits": ((), ((f"{BED}/mulch", "straw"), ("plots/bed-2/mulch", "straw"),
                         ("plots/pots-1/mulch", "straw"), (f"{BED}/shade", "cloth"),
                         ("plots/bed-2/shade", "cloth"), ("plots/pots-1/shade", "cloth"),
                         (f"{BED}/soil", "coir-mix"), ("plots/bed-2/soil", "coir-mix"),
                         ("plots/pots-1/soil", "coir-mix"))),
    "grow.frost": (((f"{BED}/plantings/p1/crop", "tomato"),
                    (f"{BED}/plantings/p1/planted", "04-01")),
                   ((f"{BED}/plantings/p1/crop", "tomato"),
                    (f"{BED}/plantings/p1/planted", "05-20"))),
    "lay.dry-plants": ((AddRow("bed-1"), RemoveAll(tuple(f"{BED}/rows/row{i}" for i in (2, 3, 4)))),
                       ()),
    "lay.overlap": ((MoveBy((BED,), 0.0, 1.0),), ()),
    "lay.through-building": ((DrawAt("building", 5.0, -1.0, 1.0, 2.0),),
                             (DrawAt("building", 6.5, -2.0, 1.0, 1.0),)),
    "lay.crossings": ((PATH,), ()),
    "lay.by-hand": ((AddRow("bed-1"),), ()),
    "time.always-on": (("+gutter",), ()),
    "time.as-it-comes": (("+drum", ("plots/bed-1/fed_by", "drain-1")), ("+drum",)),
}


@pytest.mark.parametrize("rule", CASES)
def test_a_rule_fires_where_it_should_and_not_where_not(library, rule):
    fires, quiet = CASES[rule]
    assert rule in rules_of(made(library, *fires), library)
    assert rule not in rules_of(made(library, *quiet), library)


@pytest.mark.parametrize("rule", [
    "grow.chain-starves", "grow.tank-low", "grow.does-not-wick", "lay.by-hand"])
def test_the_first_remedy_ends_what_was_found(library, rule):
    garden = made(library, *CASES[rule][0])
    finding = rules_of(garden, library)[rule]
    after = finding.remedies[0].edit.apply(garden, library)
    assert rule not in rules_of(after, library)


def test_one_row_more_reaches_plants_that_stood_dry(library):
    garden = made(library, *CASES["lay.dry-plants"][0])
    finding = rules_of(garden, library)["lay.dry-plants"]
    before = len(assess(garden, library).wetted["bed-1"].thirsty)
    for remedy in finding.remedies:
        after = remedy.edit.apply(garden, library)
        assert len(assess(after, library).wetted["bed-1"].thirsty) < before


def test_each_habit_saves_what_it_promises(library):
    a = assess(made(library), library)
    finding = next(f for f in a.station("grow").findings if f.rule == "grow.habits")
    peak = a.demand.peak_month
    assert len(finding.remedies) >= 2
    for remedy in finding.remedies:
        then = a.after(remedy.edit).demand
        saved = float(a.demand.need_by_month[peak] - then.need_by_month[peak])
        promised = remedy.effect.amounts["l"].value
        assert promised == pytest.approx(saved, abs=1e-6)
        assert promised > 0
