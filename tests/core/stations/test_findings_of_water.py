"""Every rule of Place, Catch and Store on sources and stores: where it fires and where not."""

import re
from pathlib import Path

import numpy as np
import pytest

import euhydra
from euhydra.core.assessment.assess import assess
from euhydra.core.editing.edits import UseRecord, set_at
from euhydra.core.editing.pump_edits import FitPump
from euhydra.core.editing.values import SetValue
from euhydra.core.weather.record import Record
from gardens import made, poured, rules_of

LAUNDRY, PUMP = "drains/drain-1", FitPump("drain-1", "submersible-small")
FED = ("+drum", ("plots/bed-1/fed_by", "drain-1"))
STORE, WELL, WET = "stores/barrels", "wells/well-1", "wet_areas/wet-area-1"

TWO = ("+store", "+joint")
ON_WELL = ("+well", (f"{WELL}/tops_up", ""), ("plots/bed-1/fed_by", "well-1"))
BY_HAND = (f"{STORE}/hand_filled", True)
CASES = {
    "catch.gives-first": ((("roofs/roof/gutter_mm", 50.0),), ()),
    "catch.thin-link": (((f"{STORE}/count", 4), (f"{STORE}/link_mm", 8.0)),
                        ((f"{STORE}/count", 4), (f"{STORE}/link_mm", 60.0))),
    "catch.grey-product": (("+drain", (f"{LAUNDRY}/product", "bleach")), ("+drain",)),
    "catch.grey-way-back": (("+drain", (f"{LAUNDRY}/way_back", False)), ("+drain",)),
    "catch.grey-area": (("+drain", (f"{LAUNDRY}/soil", "clay"), (f"{LAUNDRY}/uses/0", 5)),
                        ("+drain", (f"{LAUNDRY}/soil", "sand"))),
    "catch.grey-ponding": (("+drain", (f"{LAUNDRY}/basins/basin-1/depth_m", 0.1)),
                           ("+drain",)),
    "catch.grey-thirst": (("+drain", (f"{LAUNDRY}/basins/basin-1/length_m", 12.0)), ("+drain",)),
    "catch.grey-overflow": ((*FED, (f"{LAUNDRY}/drum_l", 30.0)), (*FED, PUMP)),
    "catch.grey-held": ((*FED, (f"{LAUNDRY}/ground_m", -2.0)),
                        (*FED, (f"{LAUNDRY}/ground_m", -2.0), PUMP)),
    "catch.grey-unled": (("+drum",), FED),
    "catch.grey-raw": (("+drum", ("plots/bed-2/fed_by", "drain-1")), FED),
    "catch.grey-lint": ((*FED, ("plots/bed-1/method", "tape")), FED),
    "catch.grey-lid": ((*FED, (f"{LAUNDRY}/drum_lid", False)), FED),
    "catch.grey-pump": ((*FED, PUMP), FED),
    "catch.grey-rules": (("+drain",), ()),
    "catch.backflow": (("+tap", ("taps/tap/backflow", False)), ("+tap",)),
    "catch.well-short": ((*ON_WELL, (f"{WELL}/recovery_l_h", 0.5)),
                         ("+well", (f"{WELL}/recovery_l_h", 5000.0),
                          (f"{WELL}/hours", 24.0))),
    "catch.well-cold": (("+well", (f"{WELL}/temperature_c", 9.0)),
                        ("+well", (f"{WELL}/temperature_c", 18.0))),
    "store.filled-often": ((BY_HAND, ("roofs/roof/downspouts/d1/to", ""),
                            (f"{STORE}/volume_l", 30.0), (f"{STORE}/count", 1)),
                           (BY_HAND, (f"{STORE}/volume_l", 20000.0))),
    "store.filled-late": ((BY_HAND, ("roofs/roof/downspouts/d1/to", ""), (f"{STORE}/refill_at",
                                                                        0.02)),
                          (BY_HAND, (f"{STORE}/volume_l", 20000.0))),
    "catch.over-edge": ((("roofs/roof/downspouts/d1/restrictor_l_h", 20.0),),
                        (("roofs/roof/downspouts/d1/restrictor_l_h", 4000.0),)),
    "catch.flush": ((("roofs/roof/first_flush_mm", 0.05),), (("roofs/roof/first_flush_mm", 0.3),)),
    "store.idle-room": ((*TWO, ("stores/store-1/stand_m", 0.0)), TWO),
    "store.dry-outlet": ((*TWO, ("stores/store-1/ground_m", -3.0)), TWO),
    "store.siphons": (TWO, (*TWO, ("joints/joint-1/kind", "link"))),
    "store.order": (("+tap",), ()),
    "store.buried": (((f"{STORE}/buried", True),), ()),
    "store.over-gutter": ((("roofs/roof/eave_m", 1.0),), ()),
    "store.overflow-goal": (((f"{STORE}/overflow_to", "nowhere"),), ()),
    "store.overflow-drain": (((f"{STORE}/overflow_to", "drain"),), ()),
    "store.overflow-thin": (((f"{STORE}/overflow_mm", 12.0),), ()),
    "store.rain-garden": (((f"{STORE}/overflow_to", "rain-garden"),),
                          ((f"{STORE}/overflow_to", "rain-garden"), "+rain-garden")),
    "store.rain-garden-slow": (
        ((f"{STORE}/overflow_to", "rain-garden"), "+rain-garden",
         ("rain_gardens/rain-garden-1/soil", "clay")),
        ((f"{STORE}/overflow_to", "rain-garden"), "+rain-garden")),
    "store.outfall": (("+wet-area",), ("+wet-area", (f"{WET}/outfall", "ditch"))),
    "store.wet-ground": (("+wet-area",), ()),
    "store.none": (("+tap", ("taps/tap/tops_up", ""), "-stores/barrels"), ("+tap",)),
}


@pytest.mark.parametrize("rule", CASES)
def test_a_rule_fires_where_it_should_and_not_where_not(library, rule):
    from euhydra.core.editing.edits import Remove

    fires, quiet = CASES[rule]
    last = fires[-1]
    if isinstance(last, str) and last.startswith("-"):
        garden = Remove(last[1:]).apply(made(library, *fires[:-1]), library)
    else:
        garden = made(library, *fires)
    assert rule in rules_of(garden, library)
    assert rule not in rules_of(made(library, *quiet), library)


def test_every_rule_there_is_has_a_case():
    here = Path(__file__).parents[1]
    tested = "".join(p.read_text() for p in here.rglob("test_*.py"))
    stations = Path(euhydra.__file__).parent / "core" / "stations"
    rules = {rule for p in stations.glob("*.py")
             for rule in re.findall(r'"((?:place|catch|store|grow|lay|push|time|prove|build)\.'
                                    r'[a-z-]+)"', p.read_text())}
    assert len(rules) > 50
    untested = {rule for rule in rules if f'"{rule}"' not in tested} - {"push.unsettled"}
    assert untested == set()


@pytest.mark.parametrize("rule", [
    "catch.grey-product", "catch.grey-way-back", "catch.grey-area", "catch.grey-lid",
    "catch.grey-overflow", "catch.grey-held", "catch.grey-lint", "catch.backflow",
    "store.idle-room", "store.buried",
    "store.over-gutter", "store.overflow-goal", "store.overflow-thin", "store.rain-garden",
    "catch.thin-link", "catch.well-cold", "catch.well-short", "catch.over-edge",
    "catch.flush", "store.filled-often", "store.filled-late"])
def test_the_first_remedy_ends_what_was_found(library, rule):
    changes = {"beds": ()} if rule == "catch.well-cold" else {}
    steps = CASES[rule][0]
    if rule == "catch.well-cold":
        steps = (*steps, "+bed", "+store", ("plots/bed-2/plantings/p1/crop", "tomato"),
                 ("roofs/roof/downspouts/d1/to", "store-1"))
    garden = made(library, *steps, **changes)
    finding = rules_of(garden, library)[rule]
    assert finding.remedies
    after = finding.remedies[0].edit.apply(garden, library)
    left = rules_of(after, library).get(rule)
    assert left is None or left.title != finding.title


def test_a_well_s_tap_and_a_house_s_are_guarded_for_their_own_reasons(library):
    bare = (*ON_WELL, (f"{WELL}/backflow", False))
    well = rules_of(made(library, *bare), library)["catch.backflow"]
    assert "down the well" in well.why.show("metric")
    assert "burst main" not in well.why.show("metric")
    after = well.remedies[0].edit.apply(made(library, *bare), library)
    assert after.wells[0].backflow
    tap = rules_of(made(library, "+tap", ("taps/tap/backflow", False)), library)["catch.backflow"]
    assert "burst main" in tap.why.show("metric")
    filling = made(library, "+well", (f"{WELL}/backflow", False))
    assert "catch.backflow" not in rules_of(filling, library), "through air into the barrel"


def test_who_gives_in_what_order_is_told_of_what_is_there(library):
    """Wells and taps that fill a barrel, one that gives a share, and those that feed lines."""
    said = {}
    for name, steps in {
            "well": ("+well",), "both": ("+well", "+tap"), "straight": ON_WELL,
            "half": ("+well", (f"{WELL}/share", 0.5), (f"{WELL}/recovery_l_h", 500.0))}.items():
        garden = made(library, *steps)
        found = rules_of(garden, library)["store.order"]
        said[name] = found.title.show("metric")
        if name == "half":
            season = assess(garden, library).season
            assert "Who decides is you" in found.why.show("metric")
            assert found.why.amounts["w"].value == pytest.approx(
                (season.asked.sum() / 2 + season.beyond.sum()) / season.years), "it never lacks"
    assert said == {"well": "Rain first, then the well",
                    "both": "Rain first, then the well and then the tap",
                    "straight": "Each source waters its own plots",
                    "half": "50\u00a0% of each draw from Well, the rest from rain"}


def record_of(years):
    rng = np.random.default_rng(2)
    rain = np.where(rng.random((years, 365)) < 0.3, rng.gamma(1, 8, (years, 365)), 0)
    return Record(2001, rain, np.full((years, 365), 6.0), np.full((years, 365), 18.0))


def test_few_measured_years_are_told_and_many_are_not(library):
    for years, told in ((4, True), (12, False)):
        record = record_of(years)
        garden = UseRecord(record.id, record.normals()).apply(poured(library), library)
        found = rules_of(garden, library, record)
        assert ("place.short-record" in found) == told
        assert "place.record-gone" not in found
        assert assess(garden, library, record).years == years
    assert "place.record-gone" in rules_of(garden, library)
    normal = found and SetValue("site/reckon_with", "normals").apply(garden, library)
    assert assess(normal, library, record).years == 30


def test_months_of_one_s_own_count_before_a_record(library):
    record = record_of(12)
    garden = UseRecord(record.id, record.normals()).apply(poured(library), library)
    assert assess(garden, library, record).measured
    for path, value in (("site/climate/rain_mm/6", 80.0), ("site/climate/archetype", "oceanic")):
        typed = set_at(path, value).apply(garden, library)
        assert not assess(typed, library, record).measured
    again = SetValue("site/reckon_with", "record").apply(typed, library)
    assert assess(again, library, record).measured
