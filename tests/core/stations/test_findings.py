"""Every rule: a garden on which it fires and one on which it does not; its remedies."""

import pytest

from euhydra.core.assessment.assess import STATIONS, assess
from euhydra.core.editing.answers import BedAnswer
from euhydra.core.editing.edits import Add
from euhydra.core.editing.values import SetValue
from euhydra.core.stations.time import peak_month
from euhydra.core.stations.timer_findings import ROUGH
from euhydra.core.units import show
from gardens import climate_of, poured


def edited(library, *edits, **changes):
    garden = poured(library, **changes)
    for path, value in edits:
        garden = SetValue(path, value).apply(garden, library)
    return garden


def levels(garden, library):
    """Rule -> worst level it speaks at."""
    a = assess(garden, library)
    found = {}
    for key in STATIONS:
        for finding in a.station(key).findings:
            found.setdefault(finding.rule, finding.level)
    return found


TWO_ALIKE = (BedAnswer(length_m=2.4, width_m=1.2, group="fruiting"),) * 2
TIMER = "timers/timer"
LOCKED, SCREENED = "stores/barrels/lid_locked", "stores/barrels/screened"
CASES = [
    ("place.dry-gap", {}, {"climate": "wet-tropics", "latitude_deg": 1.5}),
    ("catch.too-little", {"roof_width_m": 1.0, "roof_depth_m": 1.0}, {"roof_width_m": 12.0}),
    ("catch.material", {"roof_material": "wood"}, {"roof_material": "tile"}),
    ("store.too-small", {"barrels": 1}, {"barrels": 24, "barrel_l": 1000.0, "edits": [
        ("stores/barrels/indoors", True)]}),
    ("store.winter", {}, {"edits": [("stores/barrels/buried", True)]}),
    ("catch.winter", {}, {"climate": "mediterranean"}),
    ("place.turned", {"latitude_deg": -37.0}, {"latitude_deg": 37.0}),
    ("store.deck-load", {"edits": [("stores/barrels/footing", "deck")]}, {}),
    ("store.soil-load", {"edits": [("stores/barrels/height_m", 4.0),
                                   ("stores/barrels/shell_kg", 2000.0)]}, {}),
    ("store.tipping", {"stand_m": 1.4}, {"stand_m": 0.3}),
    ("store.backflow", {"tap": True}, {}),
    ("grow.pot-waterings", {"pot_diameter_m": 0.1,
                            "edits": [("plots/pots-1/plantings/p1/crop", "tomato")]},
     {"pot_diameter_m": 0.8}),
    ("lay.long-run", {"method": "soaker", "edits": [("plots/bed-1/length_m", 60.0)]},
     {"method": "soaker"}),
    ("lay.flow-limit", {"fall_m": 18.0, "edits": [("plots/bed-1/length_m", 60.0),
                                                  ("plots/bed-1/width_m", 3.2)]}, {}),
    ("lay.fast-water", {"fall_m": 20.0, "edits": [("plots/bed-1/length_m", 60.0),
                                                  ("plots/bed-1/width_m", 5.0)]}, {}),
    ("push.valve-shut", {"edits": [(f"{TIMER}/kind", "dial-pilot")]}, {}),
    ("push.starved", {"fall_m": 0.0, "stand_m": 0.1}, {"fall_m": 2.0}),
    ("push.uneven", {"fall_m": 0.2, "stand_m": 0.2, "method": "soaker", "beds": TWO_ALIKE,
                     "edits": [("plots/bed-2/ground_m", 0.25)]},
     {"fall_m": 0.2, "stand_m": 0.2, "method": "soaker", "beds": TWO_ALIKE}),
    ("push.high-stand", {"stand_m": 1.0}, {"stand_m": 0.5}),
    ("time.cannot-hold", {"fall_m": 0.0, "stand_m": 0.0,
                          "edits": [("plots/bed-1/rim_m", 0.55)]},
     {"fall_m": 3.0}),
    ("time.window", {"edits": [(f"{TIMER}/until_h", 5.5)]},
     {"fall_m": 3.0, "edits": [(f"{TIMER}/until_h", 24.0)]}),
    ("time.seldom", {"fall_m": 3.0, "edits": [(f"{TIMER}/kind", "weekday-ball"),
                                              ("every_days", 7.0)]},
     {"fall_m": 3.0, "edits": [("every_days", 1.0)]}),
    ("time.pulses", {"edits": [(f"{TIMER}/opens", "pulses")]},
     {"edits": [(f"{TIMER}/opens", "evening")]}),
    ("time.more-valves", {"fall_m": 3.0, "pots": 0, "edits": [(f"{TIMER}/kind", "weekday-ball")]},
     {"fall_m": 3.0, "edits": [(f"{TIMER}/kind", "weekday-ball-2")]}),
    ("time.falling-level", {"fall_m": 0.2}, {"fall_m": 5.0}),
    ("prove.thirst", {"barrels": 1, "climate": "mediterranean"}, {"barrels": 1, "tap": True}),
    ("prove.tap", {"tap": True}, {}),
    ("build.backflow", {"tap": True}, {}),
]


@pytest.mark.parametrize(("rule", "fires", "quiet"), CASES, ids=[c[0] for c in CASES])
def test_a_rule_fires_where_it_should_and_not_where_not(library, rule, fires, quiet):
    def garden(changes):
        changes = dict(changes)
        if "climate" in changes:
            changes["climate"] = climate_of(library, changes["climate"])
        return edited(library, *changes.pop("edits", ()), **changes)

    assert rule in levels(garden(fires), library)
    assert rule not in levels(garden(quiet), library)


@pytest.mark.parametrize(("path", "rule", "level"), [
    (LOCKED, "store.children", "stop"), (SCREENED, "store.mosquitoes", "care")])
def test_cautions_rise_when_a_guard_is_missing(library, path, rule, level):
    assert levels(edited(library, (path, False)), library)[rule] == level
    assert rule not in levels(edited(library), library)


@pytest.mark.parametrize("rule", ["place.local-rules", "catch.drilling", "store.weight",
                                  "store.lids", "store.screens",
                                  "store.overflow", "grow.non-potable", "lay.digging",
                                  "build.labels", "build.filters", "time.first-weeks"])
def test_standing_cautions_stand(library, rule):
    assert levels(poured(library), library)[rule] == "note"


def test_a_note_on_local_rules_stands_with_the_caution(library):
    garden = edited(library, ("site/local_rules", "Two barrels {at most}."))
    finding = next(f for f in assess(garden, library).station("place").findings
                   if f.rule == "place.local-rules")
    assert finding.why.show("us").endswith("Your note: Two barrels {at most}.")


def test_rounding_is_told_only_when_rough(library):
    # The dial's marks lie far apart: among many falls, some runs come well between two.
    told = set()
    for fall in range(2, 30, 2):
        garden = edited(library, ("plots/bed-2/soil", "sand"), fall_m=fall / 10, pots=0)
        a = assess(garden, library)
        month = peak_month(a)
        worst = max(abs(s.left_over) for z in garden.zones for s in a.schedule.settings[z.id]
                    if s.month == month and s.fits)
        rule = any(f.rule == "time.rounding" for f in a.station("time").findings)
        assert rule == (worst > ROUGH)
        told.add(rule)
    assert told == {True, False}


def all_remedies(garden, library):
    a = assess(garden, library)
    return [(key, finding, remedy) for key in STATIONS for finding in a.station(key).findings
            for remedy in finding.remedies]


def test_each_remedy_is_an_edit_whose_effect_comes_true(library):
    garden = edited(library, (f"{TIMER}/kind", "dial-pilot"), (LOCKED, False), (SCREENED, False),
                    ("stores/barrels/footing", "deck"), fall_m=0.0, stand_m=0.1, barrels=1)
    offered = all_remedies(garden, library)
    assert {r.key for _, _, r in offered} >= {
        "ball-valve", "lock-lids-barrels", "fit-screens-barrels", "on-paving-barrels", "stand"}
    effects_come_true(garden, offered, library)


def test_more_barrels_and_a_tap_do_what_they_say(library):
    garden = edited(library, barrels=1)
    offered = all_remedies(garden, library)
    assert {r.key for _, _, r in offered} >= {"barrels-2", "fit-tap"}
    effects_come_true(garden, offered, library)
    # What a tap would give is what was lacking, and with it nothing is short.
    tapped = assess(next(r for _, _, r in offered if r.key == "fit-tap").edit.apply(
        garden, library), library)
    assert tapped.season.tap.sum() == pytest.approx(
        assess(garden, library).season.lacking.sum(), rel=0.05)
    assert not tapped.season.short.any()


def effects_come_true(garden, offered, library):
    for key, finding, remedy in offered:
        after = assess(remedy.edit.apply(garden, library), library)
        before = assess(garden, library)
        rules = {f.rule for f in after.station(key).findings if f.level != "note"}
        if remedy.key == "stand":
            assert finding.rule not in rules
            spare = after.station("push").figure("head_to_spare").amount.value
            assert spare >= -1e-6
        elif remedy.key.startswith("barrels-"):
            assert after.season.rain_share > before.season.rain_share
            assert remedy.effect.show("metric") == show(after.season.rain_share, "share", "metric")
        elif remedy.key in ("ball-valve", "lock-lids-barrels", "fit-screens-barrels",
                            "on-paving-barrels"):
            assert finding.rule not in rules
        elif "h" in remedy.effect.amounts and finding.rule == "push.starved":
            worst = min((after.flows[z.id]["low"].worst for z in after.garden.zones),
                        key=lambda o: o.head_m - o.least_head_m)
            assert remedy.effect.amounts["h"].value >= worst.head_m - 1e-6
        else:  # it does something about what was found, or it is no remedy
            same = [f for f in after.station(key).findings if f.rule == finding.rule]
            told = finding.title.show("metric"), finding.why.show("metric")
            assert all((f.title.show("metric"), f.why.show("metric")) != told for f in same), (
                finding.rule, remedy.key)


def test_the_stand_offered_is_the_lowest_that_cures(library):
    garden = edited(library, fall_m=0.0, stand_m=0.1)
    remedy = next(r for _, _, r in all_remedies(garden, library) if r.key == "stand")
    lower = SetValue(remedy.edit.path, remedy.edit.value - 0.05).apply(garden, library)
    assert assess(lower, library).station("push").figure("head_to_spare").amount.value < 0


def test_a_tap_is_offered_where_nothing_fills_in(library):
    garden = edited(library, barrels=1)
    tapped = Add("tap").apply(garden, library)
    assert any(r.key == "fit-tap" for *_, r in all_remedies(garden, library))
    assert not any(r.key == "fit-tap" for *_, r in all_remedies(tapped, library))


def test_names_with_braces_do_no_harm(library):
    garden = edited(library, ("plots/bed-1/name", "{x} {0}"), fall_m=0.0, stand_m=0.0)
    for key in STATIONS:
        report = assess(garden, library).station(key)
        assert all(f.title.show("metric") and f.why.show("us") for f in report.findings)
