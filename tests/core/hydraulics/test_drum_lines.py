"""A laundry's drum as a source of lines: its flow, its shares, its months, the ground it waters."""

import numpy as np
import pytest

from euhydra.audit import audit
from euhydra.core.assessment.assess import STATIONS, assess
from euhydra.core.construction.labels import GREY_WATER, labels
from euhydra.core.editing.edits import Remove
from euhydra.core.editing.pump_edits import FitPump
from euhydra.core.editing.trees import EditRefused
from euhydra.core.editing.values import SetValue
from euhydra.core.weather import frost
from euhydra.core.weather.generator import MONTH_OF_DAY
from gardens import made

DRUM = "drains/drain-1"
FED = ("+drum", ("plots/bed-1/fed_by", "drain-1"), ("plots/bed-2/fed_by", "drain-1"))
PUMP = FitPump("drain-1", "submersible-small")
SUMMER = ("plots/bed-2/open_in", ("Jul", "Aug"))


def test_all_that_a_drum_feeds_is_one_zone_that_no_timer_opens(library):
    garden = made(library, *FED, ("plots/bed-2/ground_m", -2.0), ("plots/bed-2/method", "soaker"))
    (zone,) = [z for z in garden.zones if z.source == "drain-1"]
    assert (zone.plots, zone.timed, zone.filter) == (("bed-1", "bed-2"), False, "filter-lint")
    back = made(library, *FED, ("plots/bed-1/fed_by", "barrels"), ("plots/bed-2/fed_by", "barrels"))
    assert all(z.timed and z.filter == "filter-screen" for z in back.zones)


def test_what_comes_is_shared_by_the_flow_of_what_is_open(library):
    a = assess(made(library, *FED, PUMP, SUMMER), library)
    months = a.drums["drain-1"].months
    assert months[4].shares == {"bed-1": 1.0}
    assert sum(months[6].shares.values()) == pytest.approx(1)
    both = a.flows["zone-bed-1"]["half"]
    assert months[6].leaves.half_l_h == pytest.approx(both.flow_l_h)
    assert 0.4 * both.flow_l_h < months[4].leaves.half_l_h < 0.6 * both.flow_l_h
    # Two loads of 70 L a week; nothing spills: 20 L a day, all of it to the one bed in May.
    world, runs = a.season.world, frost.timer_days(a.garden.site)
    grey = {p: world.grey[world.plots.index(p)] for p in ("bed-1", "bed-2")}
    in_may = grey["bed-1"][:, MONTH_OF_DAY == 4][:, runs[MONTH_OF_DAY == 4]]
    assert in_may.mean() == pytest.approx(20, rel=0.05)
    assert grey["bed-2"][:, MONTH_OF_DAY == 4].sum() == 0
    assert grey["bed-1"][:, ~runs].sum() == 0, "back to the sewer in frost"
    assert not audit(a).differ
    ledger = a.season.ledger
    came = sum(ledger[k] for k in ("start", "rain", "well", "tap", "carried", "used"))
    assert came == pytest.approx(sum(ledger[k] for k in ("given", "spilled", "emptied", "end")))


def test_a_drum_that_cannot_push_spills_what_it_cannot_hold(library):
    low = made(library, *FED, (f"{DRUM}/ground_m", -3.0), (f"{DRUM}/uses/0", 5))
    a = assess(low, library)
    season = a.season
    assert a.drums["drain-1"].months[6].leaves.half_l_h == 0
    i = season.world.plots.index("bed-1")
    # 350 L into a drum of 200 L with what stands under its outlet in it: that much never leaves.
    drum = low.drums[0].drum
    dead = 200 * drum.outlet_m / drum.height_m
    monday = season.world.grey[:, :, MONTH_OF_DAY == 6].sum(axis=(1, 2))
    assert season.used.sum() > 0
    assert monday[i] / season.used[:, MONTH_OF_DAY == 6].sum() < (200 - dead) / 350


def test_a_garden_that_waters_from_a_drum_alone_is_whole(library):
    garden = made(library, *FED, PUMP, ("plots/pots-1/fed_by", "drain-1"), Remove("stores/barrels"),
                  Remove("roofs/roof"))
    assert [s.id for s in garden.sources] == ["drain-1"]
    a = assess(garden, library)
    assert not audit(a).differ
    assert garden.vessel == "drum"
    for key in STATIONS:
        said = a.station(key)
        phrases = [said.verdict, *(p for f in said.findings if f.rule != "store.by-drum"
                                   for p in (f.title, f.why)),
                   *(x for figure in said.figures for x in (
                       figure.name, figure.working.formula,
                       *(f"{t.name} {t.note}" for t in figure.working.terms)))]
        for words in phrases:
            assert "barrel" not in getattr(words, "template", words).lower(), (key, words)
    assert "store.by-drum" in {f.rule for f in a.station("store").findings}
    valve = next(x for x in labels(garden, library) if x.hangs_on == "valve")
    assert valve.sign == GREY_WATER
    names = {part.key for part in a.parts}
    assert {"drum", "drum-hose", "three-way", "pump", "residual-current", "filter"} <= names
    assert not names & {"timer", "battery", "barrel", "backflow"}
    with pytest.raises(EditRefused, match="Nothing would be left to water from"):
        SetValue(f"{DRUM}/school", "basins").apply(garden, library)


@pytest.mark.parametrize(("steps", "says"), [
    (("+drum", "+gutter", ("plots/gutter-3/fed_by", "drain-1")), "would run over"),
    ((*FED, ("plots/bed-1/watered", "can")), "nothing is left in it to carry")])
def test_what_would_leave_a_drum_full_is_refused(library, steps, says):
    with pytest.raises(EditRefused, match=says):
        made(library, *steps)


def test_led_to_basins_again_its_plots_go_back_to_the_first_source(library):
    garden = made(library, *FED, PUMP, (f"{DRUM}/school", "basins"))
    assert garden.lifts == ()
    assert {garden.source_of(p) for p in garden.plots} == {"barrels"}
    assert all(z.timed for z in garden.zones)


def test_a_tap_of_its_own_is_a_valve_on_the_branch(library):
    garden = made(library, *FED, SUMMER)
    valves = [f.line for f in garden.fittings if f.kind == "valve"]
    assert valves == ["bed-2-branch"]
    flows = assess(garden, library).drums["drain-1"].months
    assert np.isfinite([m.leaves.half_l_h for m in flows]).all()
