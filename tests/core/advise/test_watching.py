"""Stand-ins and what is made of their readings: each fault named, and no fault where none is."""

import pytest

from euhydra.core.advise import watching
from euhydra.core.assessment.assess import assess
from euhydra.core.editing.edits import Remove
from euhydra.core.editing.values import SetValue
from euhydra.core.season.inputs import world_of
from euhydra.standins import FAULTS, Bench
from gardens import made

NAMED = {"flat-battery": "watch.not-opened", "blocked-filter": "watch.little",
         "stuck-float": "watch.gauge-stuck", "split-hose": "watch.much"}
JULY = 6


BY_HAND = Remove("timers/timer")
DIAL, WEEKDAY, MULTI = (SetValue("timers/timer/kind", f"{style}-ball") for style in (
    "dial", "weekday", "multi"))


def bench_of(library, *edits, **changes):
    garden = made(library, *edits, **{"barrels": 6, "pots": 0} | changes)
    a = assess(garden, library)
    return Bench(a, a.garden.timed_zones[0].source, JULY)


def found(bench):
    runs = watching.planned_runs(bench.r, bench.source, bench.month, bench.day + 1)
    over = [run for run in runs if run.end <= bench.minute]
    return {f.rule for f in watching.suspicions(bench.r, over, bench.readings, bench.usable_l)}


def filled(bench):
    bench.level_l = bench.usable_l
    return bench


def test_whole_devices_raise_no_suspicion(library):
    bench = bench_of(library)
    for _ in range(6):
        filled(bench).advance(1440)
        assert found(bench) == set()
    assert bench.meter_l > 0


@pytest.mark.parametrize("fault", sorted(FAULTS))
def test_each_fault_is_named_from_the_readings_and_forgotten_when_mended(library, fault):
    bench = bench_of(library)
    bench.advance(1440)
    bench.give(fault)
    for _ in range(3):
        filled(bench).advance(1440)
    assert found(bench) == {NAMED[fault]}
    bench.give("")
    for _ in range(3):
        filled(bench).advance(1440)
    assert found(bench) == set()


def test_a_fault_that_is_none_is_refused(library):
    with pytest.raises(KeyError):
        bench_of(library).give("moon")


def test_a_pilot_valve_on_a_barrel_counts_nothing_and_says_why(library):
    bench = bench_of(library, ("timers/timer/kind", "dial-pilot"))
    bench.advance(3 * 1440)
    assert bench.meter_l == 0
    runs = watching.planned_runs(bench.r, bench.source, JULY, 3)
    finding = watching.suspicions(bench.r, [x for x in runs if x.end <= bench.minute],
                                  bench.readings, bench.usable_l)[0]
    assert "too little pressure" in finding.why.show("metric")


@pytest.mark.parametrize("timer", [DIAL, WEEKDAY, MULTI, BY_HAND])
def test_the_timer_minute_by_minute_opens_as_the_season_has_it(library, timer):
    """Over four weeks, across midnights: open minutes of the device against the season's runs."""
    bench = bench_of(library, timer)
    starts = watching.planned_runs(bench.r, bench.source, JULY, 28)
    opened = 0
    for _ in range(28 * 1440):
        bench.level_l = bench.usable_l
        bench.advance(1)
        opened += bool(bench.readings[-1].open_zone)
    due = sum(min(run.end, 28 * 1440) - run.start for run in starts)
    several = len({run.zone for run in starts}) > 1
    assert opened == pytest.approx(due, rel=0.02 if several else 0.001)
    world = world_of(bench.r.season_inputs)
    july = slice(181, 181 + 28)
    for i, zone in enumerate(bench.r.garden.zones):
        runs = world.runs[i, 0, july].sum()
        mine = sum(run.zone == zone.id for run in starts)
        assert runs == pytest.approx(mine, abs=2)


def test_rain_holds_the_timer_and_is_told_as_a_hold(library):
    bench = bench_of(library, ("rain_hold_mm", 5.0))
    bench.rain_mm[:] = 9.0
    bench.advance(3 * 1440)
    assert bench.meter_l == 0
    assert found(bench) == {"watch.held"}


def test_the_books_of_the_bench_close(library):
    bench = bench_of(library)
    bench.come_l[:] = 0
    bench.advance(4 * 1440)
    assert bench.usable_l - bench.level_l == pytest.approx(bench.meter_l, abs=0.01)


def test_the_feed_ends(library):
    bench = bench_of(library)
    bench.minute = 28 * 1440 - 5
    bench.advance(100)
    assert bench.ended
    assert bench.minute == 28 * 1440


@pytest.mark.parametrize("timer", [DIAL, WEEKDAY, BY_HAND])
@pytest.mark.parametrize("hours", [1, -1])
def test_when_clocks_change_a_dial_keeps_its_interval_and_a_clock_keeps_its_hour(
        library, timer, hours):
    def opened(changed):
        bench = bench_of(library, timer)
        at, was = [], False
        for minute in range(14 * 1440):
            if changed and minute == 6 * 1440 + 120:  # Sunday at two
                bench.change_clock(hours)
            bench.level_l = bench.usable_l
            bench.advance(1)
            now = bool(bench.readings[-1].open_zone)
            if now and not was:
                at.append(minute)
            was = now
        return at, bench.meter_l

    (before, litres), (after, then) = opened(False), opened(True)
    late = [m - n for m, n in zip(after, before, strict=True)]
    assert set(late) == ({0} if timer is DIAL else {0, -60 * hours})
    assert then == pytest.approx(litres, rel=0.05)
