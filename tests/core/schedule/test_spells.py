"""Beyond the month's mean: holds after rain, heat waves, the first weeks, water that runs off."""

import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.editing.values import SetValue
from euhydra.core.schedule import seasonal_adjust
from gardens import poured

JULY = 6


def zone(a, plot):
    return next(z for z in a.garden.zones if plot in z.plots)


def test_a_hold_is_the_rain_over_the_thirst_by_hand(kiln):
    beds = zone(kiln, "bed-3")
    found = []
    for plot in beds.plots:
        t = kiln.demand.thirsts[plot]
        found.append(24 * min(6 * t.area_m2, t.raw_l) / t.use_by_month[JULY])
    hours = seasonal_adjust.hold_after_rain_h(kiln.demand, beds, 6.0, JULY)
    assert hours == pytest.approx(min(found))
    held = [seasonal_adjust.hold_after_rain_h(kiln.demand, beds, mm, JULY)
            for mm in (0, 2, 5, 10, 40, 400)]
    assert held == sorted(held)
    assert held[0] == 0
    assert held[-1] <= seasonal_adjust.LONGEST_HOLD_H


def test_leaves_keep_the_rain_off_pots(kiln):
    assert seasonal_adjust.hold_after_rain_h(kiln.demand, zone(kiln, "pots-1"), 20.0, JULY) == 0


@pytest.mark.parametrize(("hours", "delay"), [(0, 0), (23.9, 0), (24, 24), (60, 48), (500, 72)])
def test_a_dial_holds_in_its_own_steps(hours, delay):
    assert seasonal_adjust.delay_h(hours) == delay


def test_a_heat_wave_wants_a_third_more_or_so(kiln):
    """Common practice: 60 minutes in the place of 45 in a heat wave."""
    for z in kiln.garden.timed_zones:
        assert 1.0 < seasonal_adjust.heat_wave(kiln.demand, z, JULY) < 1.7


@pytest.mark.parametrize(("rate", "takes", "parts"), [(5, 10, 1), (10, 10, 1), (11, 10, 2),
                                                      (31, 10, 4), (0, float("inf"), 1)])
def test_parts_of_a_run(rate, takes, parts):
    assert seasonal_adjust.cycles(rate, takes) == parts


def test_on_clay_a_run_is_split_and_on_sand_not(library):
    def found(soil):
        garden = poured(library, pots=0)
        for plot in garden.plots:
            garden = SetValue(f"plots/{plot.id}/soil", soil).apply(garden, library)
        return {f.rule: f for f in assess(garden, library).station("time").findings}

    assert "time.soak" in found("clay")
    assert "time.soak" not in found("sand")


def test_new_plants_are_watered_daily_for_the_day_s_need(kiln):
    z = zone(kiln, "bed-3")
    minutes = seasonal_adjust.first_weeks_min(kiln.schedule, z, JULY)
    need = kiln.schedule.needs[z.id][JULY]
    assert min(need.gets_l(p.plot, minutes) / p.wanted_l_day for p in need.plots) == (
        pytest.approx(1))
    assert seasonal_adjust.first_weeks_min(kiln.schedule, z, 0) == 0
