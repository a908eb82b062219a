"""What a zone needs by month and what a timer is set to for it, worked by hand on stand-ins."""

import math
from dataclasses import replace
from types import SimpleNamespace

import numpy as np
import pytest

from euhydra.core.hydraulics.refilling import Refill
from euhydra.core.schedule.settings import Allowed, on_days, settings
from euhydra.core.schedule.timing import MonthNeed, month_needs

FLOW = SimpleNamespace(flow_l_h=30.0, low_quarter=0.8, plot_flow_l_h=lambda plot: 10.0)
JULY = 6


def plot(days=range(365), *, potted=False, seedlings=False, raw=20.0, use=5.0, net=4.0, key="p"):
    """A plot in season on some days: it holds 20 L for its roots, uses 5 L and wants 4 L a day."""
    kc = np.zeros(365)
    kc[list(days)] = 1.0
    return SimpleNamespace(plot=key, kc=kc, potted=potted, seedlings=seedlings,
                           raw_by_month=np.full(12, raw), use_in_season=lambda month: use,
                           net_in_season=lambda month: net + month / 100)


def test_a_need_is_what_the_plots_want_over_the_share_that_does_its_work():
    need = month_needs(FLOW, [plot(), plot(key="q")])[JULY]
    each = (4 + 0.06) / 0.8
    assert need.wanted_l_day == pytest.approx(2 * each)
    assert need.minutes_a_day == pytest.approx(60 * each / 10)
    assert need.flow_l_h == 30.0
    assert need.month == JULY
    read = month_needs(FLOW, [plot()], longer=0.1, read_share=0.5,
                       refill=Refill(1.5, {"p": 0.25}))[JULY]
    assert read.wanted_l_day == pytest.approx(1.1 * each)
    assert (read.flow_l_h, read.drained_l) == (15.0, 1.5)
    assert (read.plots[0].flow_l_h, read.plots[0].lands) == (5.0, 0.25)
    # A day's minutes are those out of full lines: what they are filled with counts by the run.
    assert read.minutes_a_day == pytest.approx(60 * 1.1 * each / 5)


@pytest.mark.parametrize(("there", "hours"), [
    (plot(raw=5.0, use=5.0), 24.0), (plot(raw=7.5, use=5.0), 36.0), (plot(), 72.0),
    (plot(use=0.0), 72.0), (plot(raw=2.0, use=0.5), 72.0), (plot(use=0.0, potted=True), 24.0),
    (plot(raw=1.0, use=4.0, potted=True), 6.0), (plot(seedlings=True), 12.0),
    (plot(seedlings=True, raw=1.0, use=4.0), 6.0)])
def test_a_gap_is_as_long_as_the_roots_hold_out(there, hours):
    assert month_needs(FLOW, [there])[JULY].longest_gap_h == pytest.approx(hours)


def test_a_gardener_s_own_gap_goes_before_it_in_the_ground_and_pulses_before_that():
    grown = [plot(), plot(key="pots", potted=True)]
    assert month_needs(FLOW, grown[:1], every_days=5.0)[JULY].longest_gap_h == 120.0
    assert month_needs(FLOW, grown, every_days=5.0)[JULY].longest_gap_h == 24.0
    assert month_needs(FLOW, grown[:1], pulses=True)[JULY].longest_gap_h == 8.0
    assert month_needs(FLOW, [plot(raw=1.0, use=4.0)], pulses=True)[JULY].longest_gap_h == 6.0


@pytest.mark.parametrize(("days", "month", "like"), [
    (range(361, 365), 11, None),  # the last four days of December, and no January
    ([*range(361, 365), *range(60)], 11, 0),  # they go on into January
    ([*range(300, 365), 0, 1, 2], 0, 11),  # the first three of January end what December was
    (range(178, 230), 5, 6),  # the last days of June
    (range(130, 184), 6, 5)])  # the first days of July
def test_a_month_of_few_days_is_set_as_the_month_that_it_belongs_to(days, month, like):
    needs = month_needs(FLOW, [plot(days)])
    if like is None:
        assert needs[month].plots == ()
        return
    assert needs[like].plots
    assert needs[month] == replace(needs[like], month=month)


def need(minutes_a_day, gap_h=72.0):
    return MonthNeed(JULY, 40.0, minutes_a_day, gap_h)


def set_to(timer, minutes_a_day, gap_h=72.0, flow_l_h=30.0):
    return settings(timer, (need(minutes_a_day, gap_h),), flow_l_h)[0]


def dial(library, every_hours=(4, 6, 8, 12, 24, 48, 72), minutes=(5, 10, 20, 40)):
    return replace(library.timers["dial-ball"], every_hours=every_hours, minutes=minutes)


@pytest.mark.parametrize(("minutes_a_day", "gap_h", "every_h", "minutes", "fits"), [
    (13.0, 72.0, 72, 40, True),  # 39 min in three days
    (10.0, 48.0, 48, 20, True),
    (10.0, 47.0, 24, 10, True),
    (13.9, 72.0, 72, 40, True),  # 41.7 min: within a twentieth of the longest mark
    (14.1, 72.0, 48, 20, True),  # 42.3 min are too long for it
    (240.0, 4.0, 4, 40, True),
    (300.0, 4.0, 4, 40, False),  # 50 min every four hours: the dial has no more
    (10.0, 3.0, 12, 5, True),
    (10.0, 2.0, 12, 5, True)])  # roots that hold out two hours: as often as it is sold to be set
def test_a_dial_is_set_to_the_longest_rhythm_that_its_marks_hold(
        library, minutes_a_day, gap_h, every_h, minutes, fits):
    said = set_to(dial(library), minutes_a_day, gap_h)
    assert (said.every_h, said.minutes, said.fits) == (every_h, minutes, fits)
    exact = minutes_a_day * every_h / 24
    assert said.exact_min == pytest.approx(exact)
    assert said.left_over == pytest.approx((minutes - exact) / exact)
    assert said.runs_a_week == pytest.approx(168 / every_h)
    assert said.left_over_l_week == pytest.approx((minutes - exact) / 60 * 30 * 168 / every_h)
    assert said.weekdays == ()
    assert said.starts_a_day == 1


def test_no_dial_is_set_to_open_more_often_than_every_four_hours(library):
    assert set_to(dial(library, (1, 2, 3, 4, 6)), 240.0, 4.0).every_h == 4
    assert set_to(dial(library, (1, 2, 3, 5, 6)), 240.0, 4.0).every_h == 5


def test_a_rhythm_one_step_shorter_is_taken_where_its_mark_is_nearer(library):
    # 33 min in three days leave 7 on 40; 22 in two leave 2 on 20 too few.
    said = set_to(dial(library, (4, 24, 48, 72)), 11.0)
    assert (said.every_h, said.minutes) == (48, 20)
    # Where that is nearer by less than a twentieth the longer stands.
    assert set_to(dial(library, (4, 24, 48, 72), (5, 21, 32)), 11.0).every_h == 72


def test_a_run_without_end_is_set_to_the_longest_there_is_and_does_not_fit(library):
    for timer in (dial(library), library.timers["weekday-ball"]):
        said = set_to(timer, math.inf)
        assert said.minutes == max(timer.minutes)
        assert not said.fits
        assert math.isnan(said.left_over_l_week)


def test_a_weekday_timer_is_set_to_its_step_and_half_a_step_over_fits(library):
    timer = replace(library.timers["weekday-ball"], minutes=(5, 60), step_min=5, most_starts=2)
    said = set_to(timer, 9.0, 168.0)  # 63 min a week are too long for one run
    assert (said.weekdays, said.minutes) == (("Mon", "Thu"), 30)
    assert said.exact_min == pytest.approx(31.5)
    assert said.left_over_l_week == pytest.approx(-1.5 / 60 * 30 * 2)
    assert said.fits
    over = set_to(timer, 122.0, 12.0)  # twice a day, 61 min each: rounds to 60
    assert (over.starts_a_day, over.minutes, over.fits) == (2, 60, True)
    assert (over.runs_a_week, over.every_h) == (14, 0)
    assert over.left_over_l_week == pytest.approx(-1 / 60 * 30 * 14)
    assert not set_to(timer, 130.0, 12.0).fits
    assert set_to(timer, 0.5, 24.0).minutes == 5


def test_months_that_need_nothing_are_not_set(library):
    assert settings(dial(library), (need(0.0), need(13.0)), 30.0)[0].minutes == 40
    assert len(settings(dial(library), (need(0.0), need(10.0)), 30.0)) == 1


@pytest.mark.parametrize(("gap_h", "days"), [
    (168.0, 1), (167.0, 2), (96.0, 2), (95.5, 3), (72.0, 3), (71.0, 4), (48.0, 4), (47.0, 7),
    (24.0, 7)])
def test_a_weekday_timer_waits_as_many_days_as_the_roots_bridge_to_the_hour(library, gap_h, days):
    """Mon; Mon, Thu; Mon, Wed, Fri; four days; all: gaps of 7, 4, 3, 2 and 1 days."""
    said = set_to(library.timers["weekday-ball"], 10.0, gap_h)
    assert len(said.weekdays) == days


@pytest.mark.parametrize(("longest", "fits"), [(60, True), (59, True), (58, False)])
def test_a_hose_s_run_fits_up_to_half_a_step_past_the_longest(library, longest, fits):
    timer = replace(library.timers["weekday-ball"], minutes=(1, longest), step_min=2)
    assert on_days(timer, need(20.0), 30.0, ("Mon", "Thu"), 60.0).fits is fits


def test_a_run_of_less_than_a_minute_tells_how_much_its_mark_is_over(library):
    said = set_to(library.timers["weekday-ball"], 0.5, 24.0)
    assert (said.minutes, said.left_over) == (1, pytest.approx(1.0))


def test_starts_fall_into_the_hours_allowed_and_none_at_their_end():
    assert Allowed(8.0, 8.0, 20.5).holds(12), "at 8 and at 20"
    assert not Allowed(8.0, 8.0, 20.0).holds(12)
    assert not Allowed(8.0, 9.0, 24.0).holds(12)
    assert not Allowed(10.0, 8.0, 20.0).holds(12), "22 is past the end"
    assert Allowed(0.0).holds(4), "from midnight on where nothing is said"
