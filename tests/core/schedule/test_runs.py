"""How long a run must be for what a plot wants, and how often a weekday timer makes it."""

import math

import pytest

from euhydra.core.schedule.settings import settings
from euhydra.core.schedule.timing import MonthNeed, PlotNeed


@pytest.mark.parametrize(("need", "zone_l_h", "minutes"), [
    (PlotNeed("p", 6.0, 12.0), 24.0, 60 * (12 / 12 + 2 / 24)),  # two days' 12 L at 12 L/h
    (PlotNeed("p", 0.5, 12.0, 0.6), 24.0, 60 * 1.0 / (0.6 * 24)),  # what drains is enough
    (PlotNeed("p", 0.5, 0.0, 0.6), 24.0, 60 * 1.0 / (0.6 * 24)),  # so it is with no flow of its own
    (PlotNeed("p", 6.0, 0.5), 0.6, 60 * (12 / 0.5 + 2 / 0.6)),  # a trickle is a flow
    (PlotNeed("p", 6.0, 0.0), 24.0, math.inf),
    (PlotNeed("p", 6.0, 12.0), 0.0, math.inf),
    (PlotNeed("p", 0.04, 12.0), 24.0, 0.0)])
def test_a_run_gives_what_so_many_days_want_once_the_lines_are_full(need, zone_l_h, minutes):
    # Two days; two litres drain after each run and are filled again first.
    assert need.run_min(2.0, 2.0, zone_l_h) == pytest.approx(minutes)
    if 0 < minutes < math.inf:
        assert need.gets_l(minutes, 2.0, zone_l_h) == pytest.approx(2 * need.wanted_l_day)


def test_a_run_shorter_than_the_fill_gives_of_what_drains_alone():
    need = PlotNeed("p", 6.0, 12.0, 0.25)
    assert need.gets_l(3.0, 2.0, 24.0) == pytest.approx(0.25 * 1.2)
    assert need.gets_l(30.0, 2.0, 0.0) == 0.0


def test_a_zone_runs_for_its_thirstiest_plot():
    plots = (PlotNeed("a", 2.0, 4.0), PlotNeed("b", 6.0, 6.0))
    zone = MonthNeed(6, 8.0, 60.0, 48.0, plots, drained_l=1.0, flow_l_h=10.0)
    assert zone.run_min(2.0) == pytest.approx(60 * (2 + 0.1))
    assert zone.gets_l("a", 126.0) == pytest.approx(8.0)
    assert zone.gets_l("elsewhere", 126.0) == 0


@pytest.mark.parametrize("share", [0.14, 0.16, 0.3, 0.45, 0.6, 0.9, 1.1, 1.6])
def test_a_run_that_is_too_long_is_made_on_more_days_and_no_more_than_needed(library, share):
    """With a week's gap: the fewest of 1, 2, 3, 4, 7 days on which a run is within the timer's."""
    timer = library.timers["weekday-ball"]
    longest = max(timer.minutes)
    set_to = settings(timer, (MonthNeed(6, 40.0, share * longest, 168.0),), 30.0)[0]
    within = [n for n in (1, 2, 3, 4, 7) if share * 7 / n <= 1]
    assert len(set_to.weekdays) == (within[0] if within else 7)
    starts = 1 if within else math.ceil(share)
    assert set_to.starts_a_day == starts
    assert set_to.exact_min == pytest.approx(
        share * longest * 7 / len(set_to.weekdays) / starts)
    assert set_to.runs_a_week == len(set_to.weekdays) * starts
