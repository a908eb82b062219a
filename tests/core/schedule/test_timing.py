"""Timing: the dial, the weekdays, the rounding left over."""

import math
from types import SimpleNamespace

import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.editing.values import SetValue
from euhydra.core.schedule.settings import settings
from euhydra.core.schedule.timing import MonthNeed, _gap_hours
from gardens import poured


def need(minutes_a_day: float, gap_h: float) -> tuple[MonthNeed, ...]:
    return (MonthNeed(6, 40.0, minutes_a_day, gap_h),)


def test_the_dial_takes_the_longest_rhythm_the_roots_bridge(library):
    dial = library.timers["dial-ball"]
    # 30 min a day for 48 h: 60 exactly.
    setting = settings(dial, need(30, 50), 30)[0]
    assert (setting.every_h, setting.minutes) == (48, 60)
    assert setting.exact_min == pytest.approx(60)
    assert setting.left_over == pytest.approx(0)


def test_the_dial_shortens_the_rhythm_when_a_run_is_too_long(library):
    setting = settings(library.timers["dial-ball"], need(82, 72), 30)[0]
    assert setting.every_h == 24
    assert setting.exact_min == pytest.approx(82)
    assert setting.minutes == 90
    assert setting.left_over == pytest.approx(8 / 82)
    assert setting.left_over_l_week == pytest.approx(8 / 60 * 30 * 7)


def test_pots_in_a_heat_run_twice_a_day(library):
    setting = settings(library.timers["dial-ball"], need(40, 13), 10)[0]
    assert setting.every_h == 12
    assert setting.minutes == 20


def test_the_dial_says_when_it_cannot_hold(library):
    setting = settings(library.timers["dial-ball"], need(900, 24), 5)[0]
    assert not setting.fits
    assert setting.minutes == 120


@pytest.mark.parametrize(("gap_h", "days"), [(72, 3), (50, 4), (30, 7)])
def test_weekdays_never_leave_a_gap_past_what_roots_bridge(library, gap_h, days):
    setting = settings(library.timers["weekday-ball"], need(20, gap_h), 30)[0]
    assert len(setting.weekdays) == days
    week = [d in setting.weekdays for d in ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun")]
    longest = max(len(run) for run in "".join("x" if on else "-" for on in week * 2).split("x"))
    assert (longest + 1) * 24 <= gap_h
    assert setting.minutes * days == pytest.approx(20 * 7, abs=0.5 * days)


def test_a_weekday_timer_splits_a_run_it_cannot_hold(library):
    setting = settings(library.timers["weekday-ball"], need(400, 24), 30)[0]
    assert setting.starts_a_day == 2
    assert setting.fits


def test_a_tap_opened_by_hand_is_set_in_fives_and_seldom(library):
    setting = settings(library.timers["hand"], need(33, 6), 30)[0]
    assert (setting.starts_a_day, setting.minutes) == (2, 15)  # 33 ÷ 2 = 16.5
    assert not settings(library.timers["hand"], need(600, 6), 30)[0].fits


def test_a_timer_set_by_phone_waters_as_often_as_roots_ask(library):
    assert settings(library.timers["multi-ball"], need(48, 3.9), 30)[0].starts_a_day == 7


def test_a_plot_without_flow_is_not_given_a_time(library):
    setting = settings(library.timers["dial-ball"], need(math.inf, 24), 0.0)[0]
    assert not setting.fits
    weekday = settings(library.timers["weekday-ball"], need(math.inf, 24), 0.0)[0]
    assert not weekday.fits


def test_minutes_give_the_litres_that_are_wanted(kiln):
    for zone in kiln.garden.timed_zones:
        flow = kiln.flows[zone.id]["half"].flow_l_h
        for setting in kiln.schedule.settings[zone.id]:
            need = kiln.schedule.needs[zone.id][setting.month]
            gets = {p.plot: need.gets_l(p.plot, setting.exact_min) for p in need.plots}
            wants = {p.plot: p.wanted_l_day * 7 / setting.runs_a_week for p in need.plots}
            # The thirstiest plot sets the time, and gets just what it wants.
            assert min(gets[p] / wants[p] for p in gets) == pytest.approx(1)
            if set(gets) == set(zone.plots):
                assert sum(gets.values()) == pytest.approx(flow * setting.exact_min / 60)


def read(a, zone, litres, library, at=0.5):
    garden = SetValue(f"zones/{zone}/read_at", at).apply(a.garden, library)
    return assess(SetValue(f"zones/{zone}/read_l_h", litres).apply(garden, library), library)


def told(a):
    return {f.rule: f for f in a.station("time").findings}


def test_a_reading_takes_the_solved_flow_s_place(kiln, library):
    zone = kiln.garden.zones[0]
    solved = kiln.flows[zone.id]["half"].flow_l_h
    half = read(kiln, zone.id, solved / 2, library)
    after_zone = half.garden.zones[0]
    assert half.flows.run_flow_l_h(after_zone) == pytest.approx(solved / 2)
    needs = kiln.schedule.needs[zone.id], half.schedule.needs[zone.id]
    for before, after in zip(*needs, strict=True):
        assert after.minutes_a_day == pytest.approx(2 * before.minutes_a_day)
    assert half.flows.fill_minutes(after_zone) == pytest.approx(2 * kiln.flows.fill_minutes(zone))
    other = kiln.garden.zones[1].id
    assert half.schedule.needs[other] == kiln.schedule.needs[other]
    # A reading taken from full barrels is held against the flow from full barrels.
    full = kiln.flows[zone.id]["full"].flow_l_h
    assert read(kiln, zone.id, full, library, at=1.0).flows.read_share(
        zone.model_copy(update={"read_l_h": full, "read_at": 1.0})) == pytest.approx(1)


def test_a_low_reading_names_the_filter_that_would_explain_it(kiln, library):
    zone = kiln.garden.zones[0]
    dirty = SetValue(f"zones/{zone.id}/filter_blocked", 0.9).apply(kiln.garden, library)
    flow = assess(dirty, library).flows[zone.id]["half"].flow_l_h
    clean = kiln.flows[zone.id]["half"].flow_l_h
    if flow < 0.9 * clean:
        finding = told(read(kiln, zone.id, flow, library))["time.read-apart"]
        assert "90" in finding.why.show("metric")
    little = told(read(kiln, zone.id, clean / 50, library))["time.read-apart"]
    assert "More than a blocked filter" in little.why.show("metric")
    much = told(read(kiln, zone.id, clean * 1.5, library))["time.read-apart"]
    assert "split hose" in much.why.show("metric")
    near = told(read(kiln, zone.id, clean * 1.03, library))
    assert "time.read-agrees" in near
    assert "time.read-apart" not in near
    assert "time.read-apart" not in told(kiln)


def test_an_evening_start_moves_every_run_and_is_weighed(kiln, library):
    evening = assess(SetValue("timers/timer/opens", "evening").apply(kiln.garden, library), library)
    assert min(evening.schedule.first_hours.values()) == 19.0
    assert min(kiln.schedule.first_hours.values()) == 5.0
    assert "time.evening" in told(evening)
    assert "time.evening" not in told(kiln)
    assert told(evening)["time.evening"].remedies[0].edit.apply(
        evening.garden, library) == kiln.garden


@pytest.mark.parametrize("timer", ["dial-ball", "weekday-ball", "multi-ball"])
def test_pulses_part_the_day_and_give_no_less(library, timer):
    garden = SetValue("timers/timer/kind", timer).apply(poured(library, fall_m=3.0), library)
    plain, pulsed = (assess(g, library) for g in (
        garden, SetValue("timers/timer/opens", "pulses").apply(garden, library)))
    for zone in pulsed.garden.timed_zones:
        settings = plain.schedule.settings[zone.id], pulsed.schedule.settings[zone.id]
        for one, other in zip(*settings, strict=True):
            assert other.runs_a_week >= max(one.runs_a_week, 14)
            # What fills and drains again at each run leaves the store and is not lost.
            drained = pulsed.flows.refills[zone.id].litres
            flow = pulsed.flows[zone.id]["half"].flow_l_h
            more = 60 * drained / flow * (other.runs_a_week - one.runs_a_week)
            weeks = (other.exact_min * other.runs_a_week, one.exact_min * one.runs_a_week)
            assert weeks[1] - 1e-6 <= weeks[0] <= weeks[1] + more + 1e-6


def test_roots_bridge_parts_of_an_hour_too():
    """10 L ready at 7 L a day last a day and three sevenths: 34.29 hours."""
    plot = SimpleNamespace(potted=False, seedlings=False, raw_by_month=[10.0] * 12,
                           use_in_season=lambda month: 7.0)
    assert _gap_hours(plot, 6) == pytest.approx(24 * 10 / 7)
    assert _gap_hours(plot, 6, 2.0) == 48.0
