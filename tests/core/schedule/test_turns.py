"""One timer moved in turn: every zone often enough, the moves spread over the week."""

import pytest

from euhydra.core.schedule.rotation import PATTERNS, moves_on, turns

JULY = 6


def plan_of(a):
    return a.schedule.turns(a.garden.timers[0], JULY)


def test_no_zone_waits_longer_than_its_roots_bridge(kiln):
    for turn in plan_of(kiln):
        need = kiln.schedule.needs[turn.zones[0]][JULY]
        gaps = [(b - a) % 7 or 7 for a, b in zip(turn.days, (*turn.days[1:], turn.days[0]),
                                                 strict=True)]
        assert turn.waits == (need.longest_gap_h >= 24)
        if turn.waits:
            assert max(gaps) * 24 <= need.longest_gap_h + 1e-6


def test_runs_bring_the_week_s_need(kiln):
    for turn in plan_of(kiln):
        need = kiln.schedule.needs[turn.zones[0]][JULY]
        shares = [need.gets_l(p.plot, turn.minutes) * len(turn.days) / (7 * p.wanted_l_day)
                  for p in need.plots]
        assert min(shares) == pytest.approx(1)


def test_moves_are_spread(kiln):
    plan = plan_of(kiln)
    moves = moves_on(plan)
    daily = sum(len(t.days) == 7 for t in plan)
    assert sum(moves) == sum(len(t.days) for t in plan)
    assert max(moves) - daily <= max(1, len(plan) - daily - 1) or len(plan) - daily <= 1


def test_zones_out_of_season_take_no_turn(kiln):
    assert kiln.schedule.turns(kiln.garden.timers[0], 0) == ()
    assert turns(()) == ()


@pytest.mark.parametrize("between", sorted(PATTERNS))
def test_patterns_leave_no_longer_gap_than_they_say(between):
    for days in PATTERNS[between]:
        gaps = [(b - a) % 7 or 7 for a, b in zip(days, (*days[1:], days[0]), strict=True)]
        assert max(gaps) <= between


def test_a_run_too_long_for_the_timer_is_spread_over_more_days(kiln):
    wanting = kiln.schedule.wanting(kiln.garden.timed_zones, JULY)
    zone, need = max(wanting, key=lambda pair: pair[1].longest_gap_h)
    assert need.longest_gap_h >= 48
    (seldom,), (daily,) = (turns([(zone, need)], longest_min=most) for most in (1e9, 1.0))
    assert len(seldom.days) < len(daily.days) == 7
    assert daily.minutes < seldom.minutes
