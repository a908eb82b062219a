"""Plots left to cans or a hose: what they get, out of what, and what work that is."""

import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.construction.care import due
from euhydra.core.editing.trees import EditRefused
from euhydra.core.editing.values import SetValue
from euhydra.core.log.levels import taken_l_day
from euhydra.core.schedule.by_hand import CAN_MIN, hose_l_h
from euhydra.core.season import absence, spared
from euhydra.core.stations.season import ledger
from euhydra.core.weather.generator import MONTH_OF_DAY
from gardens import made

JUNE, POTS = 5, "pots-1"


def by_hand(library, plot, way, *more, **changes):
    return assess(made(library, (f"plots/{plot}/watered", way), *more,
                       **{"fall_m": 3.0, "barrels": 12} | changes), library)


@pytest.mark.parametrize("way", ["can", "hose"])
def test_what_is_watered_by_hand_has_no_lines_no_valve_and_nothing_to_buy(library, way):
    laid = assess(made(library, fall_m=3.0, barrels=12), library)
    a = by_hand(library, "bed-1", way)
    assert not [x for x in a.garden.lines if x.plot == "bed-1"]
    assert not [x for x in a.garden.outlets if x.plot == "bed-1"]
    assert all("bed-1" not in z.plots for z in a.garden.zones)
    assert {f.rule for f in a.station("lay").findings} <= {
        f.rule for f in laid.station("lay").findings}, "nothing of its ground is called dry"
    assert not [f for f in a.station("lay").figures if f.key == "rows_bed-1"]
    counted = [sum(p.quantity for p in x.parts if p.key == "timer") for x in (laid, a)]
    assert counted == [3, 2]
    back = SetValue("plots/bed-1/watered", "lines").apply(a.garden, library)
    assert {z.plots for z in back.zones} == {z.plots for z in laid.garden.zones}


def test_cans_are_whole_and_as_many_as_the_plot_drinks(library):
    a = by_hand(library, POTS, "can", ("today/can_l", 8.0))
    each, thirst = a.schedule.by_hand[POTS], a.demand.thirsts[POTS]
    for s in each.settings:
        wants = thirst.net_in_season(s.month) * 7 / s.runs_a_week
        assert each.litres(s) == s.minutes * 8.0
        assert abs(each.litres(s) - wants) <= 4.0 + 1e-9 or s.minutes == 1
        assert each.work_min(s) == pytest.approx(s.minutes * CAN_MIN * 0.8)


def test_a_hose_gives_what_its_tap_gives(library):
    a = by_hand(library, POTS, "hose", ("plots/bed-1/own_valve", True), waters=("tap",))
    tap = a.garden.taps[0]
    each = a.schedule.by_hand[POTS]
    assert each.source == tap.id
    assert each.flow_l_h == hose_l_h(a.garden) == 3600 * tap.bucket_l / tap.bucket_s
    s = each.setting_in(JUNE)
    assert each.litres(s) == pytest.approx(s.minutes / 60 * each.flow_l_h)


def test_the_season_carries_just_what_is_set_out_of_the_plot_s_source(library):
    a = by_hand(library, "bed-1", "can")
    each, season = a.schedule.by_hand["bed-1"], a.season
    i = season.world.plots.index("bed-1")
    s = each.setting_in(JUNE)
    june = (MONTH_OF_DAY == JUNE) & each.days
    planned = each.litres(s) * s.runs_a_week / 7 * june.sum()
    asked = season.given[i][:, june].sum(axis=1) + season.lacking[i][:, june].sum(axis=1)
    assert asked.mean() == pytest.approx(planned, rel=0.1)
    assert season.world.bank[i] == a.banks.of_store["barrels"]
    with_it = taken_l_day(a, ("barrels",), JUNE)
    without = taken_l_day(assess(made(
        library, ("plots/bed-1/watered", "lines"), fall_m=3.0, barrels=12), library),
        ("barrels",), JUNE)
    assert with_it > 0 < without
    both = [sum(e.litres for e in ledger(a) if e.comes == side) for side in (True, False)]
    assert both[0] == pytest.approx(both[1], abs=0.1)


def test_nobody_carries_cans_while_away_and_the_neighbour_is_asked(library):
    a = by_hand(library, POTS, "can")
    on = absence.days_of(190, 10)
    i = a.season.world.plots.index(POTS)
    assert a.season.given[i][:, on].sum() > 0
    gone = absence.season_away(a.season_inputs, a.season, 190, 10)
    assert gone.given[i][:, on].sum() == 0
    told = absence.away(a.season_inputs, a.season, 190, 10)
    note = " ".join(p.show("metric") for p in absence.neighbour_note(a.season, told))
    assert a.garden.plot(POTS).name in note


def test_work_by_hand_is_told_and_not_counted_as_spared(library):
    laid = assess(made(library, fall_m=3.0, barrels=12), library)
    a = by_hand(library, "bed-1", "can")
    assert spared.minutes_after(laid.season, laid.schedule) == 0
    each = a.schedule.by_hand["bed-1"]
    minutes = sum(each.work_min(s) * s.runs_a_week / 7 * (
        each.days & (s.month == MONTH_OF_DAY)).sum() for s in each.settings)
    days = a.season.world.grows.any(axis=0).sum()
    assert spared.minutes_after(a.season, a.schedule) == pytest.approx(minutes / days)
    assert spared.litres_not_carried(a.season) < spared.litres_not_carried(laid.season)
    words = "\n".join(d.words for d in due(a.garden, a.schedule) if d.key.startswith("by-hand"))
    assert "Bed 1: " in words
    assert "can" in words


def test_its_own_litres_run_it_where_its_gardener_says_so(library):
    a = by_hand(library, "bed-1", "can", ("plots/bed-1/own_l_day", 20.0),
                ("plots/bed-1/run_by", "own"), ("every_days", 2.0))
    each = a.schedule.by_hand["bed-1"]
    s = each.setting_in(JUNE)
    assert each.litres(s) * s.runs_a_week / 7 == pytest.approx(20.0, abs=5.0)


def test_not_everything_is_left_to_the_hand_nor_what_floats(library):
    garden = made(library, ("plots/bed-1/watered", "can"), ("plots/bed-2/watered", "hose"))
    with pytest.raises(EditRefused, match="Leave one at least on its lines"):
        SetValue(f"plots/{POTS}/watered", "can").apply(garden, library)
    row = made(library, "+gutter")
    wet = next(p.id for p in row.plots if p.kind == "gutter")
    with pytest.raises(EditRefused, match="float valve"):
        SetValue(f"plots/{wet}/watered", "can").apply(row, library)
