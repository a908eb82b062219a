"""The season day by day: by hand, against a plain loop, its books, the timer's runs, days away."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra import numpy as hnp

from euhydra.core.advise import while_away
from euhydra.core.assessment.assess import assess
from euhydra.core.editing.edits import Remove
from euhydra.core.garden.base import WEEK
from euhydra.core.schedule.settings import Setting
from euhydra.core.season import absence
from euhydra.core.season.programme import PARTS, runs, start_hours
from euhydra.core.season.simulate import run_days, run_season
from euhydra.core.season.state import THIRSTY, World
from worlds import random_world, world
from worlds import well as a_well


def test_ten_days_by_hand():
    """1 m² of bed: 1 L is 1 mm. Total 40, ready 20. Watered 9 mm early on days 4 and 8.

    From FAO-56 eq. 84 and 85, worked with a pencil; half of each day's thirst falls before noon.
    """
    use, rain, minutes = np.zeros((1, 365)), np.zeros((1, 365)), np.zeros((1, 365, PARTS))
    use[0, :10] = [5, 6, 7, 6, 5, 6, 8, 6, 4, 5]
    rain[0, [4, 8]] = 3, 20
    minutes[0, [3, 7], 0] = 9.0
    season = run_season(world(use, rain, minutes, total=40.0, ready=20.0), start_share=0.5)
    # Day 4: 18 − 9 + 6 = 15. Day 5: 20 less 3 of rain. Day 6: 17 + 3 = 20, + 3 = 23.
    # Day 7: 4 × (40 − 23)/20 = 3.4 → 26.4; 4 × 13.6/20 = 2.72 → 29.12.
    # Day 8: 20.12; 3 × 19.88/20 = 2.982 → 23.102; 3 × 16.898/20 = 2.535 → 25.637.
    # Day 9: 2 × 14.363/20 = 1.436 → 27.073; 2 × 12.927/20 = 1.293 → 28.366, rain 20 → 8.366.
    assert season.depletion[0, 0, :10] == pytest.approx(
        [5, 11, 18, 15, 17, 23, 29.12, 25.637, 8.366, 13.366], abs=0.01)
    assert season.fed[0, 0, 6] == pytest.approx(2.72 / 4)
    assert season.given.sum() == pytest.approx(18)


def flow_at(w, litres):
    """A plot's flow with so much in its bank, on straight lines between the three levels."""
    share, (low, half, full) = litres / w.size[0], w.flow_l_h[0]
    return (low + (half - low) * share / 0.5 if share <= 0.5
            else half + (full - half) * (share - 0.5) / 0.5)


def plain(w, starts):
    """The same days by a plain loop over numbers, for one plot and one bank, years in a row."""
    level, depletion = starts
    out = []
    for y in range(w.inflow.shape[1]):
        for d in range(365):
            there = level
            given = fed = 0.0
            fed = 1.0
            for part in range(4):
                hours = w.minutes[0, y, d, part] / 60
                at_first = min(flow_at(w, there) * hours, there)
                got = min(flow_at(w, there - at_first / 2) * hours, there)
                there -= got
                given += got
                depletion -= min(got * w.works[0], depletion)
                if part in (1, 2):
                    use = w.use[0, y, d] / 2
                    hold, ready = w.hold[0, d], w.ready[0, y, d]
                    ks = min(max((hold - depletion) / (hold - ready), 0), 1)
                    drunk = min(use * ks, hold - depletion)
                    depletion += drunk
                    fed = min(fed, drunk / use if use > 1e-9 else 1.0)
            depletion = max(depletion - w.rain[0, y, d], 0.0)
            level = min(there + w.inflow[0, y, d], w.size[0])
            out.append((given, fed, depletion, level))
    return np.array(out).reshape(-1, 365, 4)


@pytest.mark.parametrize("seed", range(4))
def test_years_side_by_side_are_those_of_a_plain_loop(seed):
    w = random_world(seed)
    season = run_season(w, start_share=0.5)
    told = plain(w, (w.size[0] / 2, 0.0))
    for i, found in enumerate((season.given, season.fed, season.depletion, season.level)):
        assert found[0] == pytest.approx(told[..., i], abs=1e-6)


@settings(deadline=None, max_examples=10)
@given(hnp.arrays(float, (2, 2, 365), elements=st.floats(0, 40)), st.floats(0, 300),
       st.floats(0, 300), st.booleans(), st.floats(0, 30), st.booleans(), st.integers(0, 364),
       st.floats(0, 0.9), st.integers(0, 90))
def test_the_books_close_for_any_banks(come, one, two, tapped, well, over, begins, mark,
                                         frost):
    rng = np.random.default_rng(int(one * 7 + two))
    w = World(
        plots=("a", "b", "c"), names=("A", "B", "C"),
        grey=rng.uniform(0, 3, (3, 2, 365)) * (rng.random((3, 2, 365)) < 0.3),
        drained=np.full((2, 365), 12.0), bank=np.array([0, 1, -1]), zone=np.array([0, 1, 1]),
        flow_l_h=rng.uniform(0, 90, (3, 3)), works=np.array([0.7, 1.0, 0.9]),
        minutes=rng.uniform(0, 40, (2, 2, 365, 4)), runs=np.ones((2, 2, 365, 4)),
        refilled=np.array([0.0, -0.2, 0.2]), always_on=np.array([False, True, False]),
        reservoir=np.array([0.0, 15.0, 0.0]), hold=rng.uniform(5, 80, (3, 365)),
        full=np.full(3, 90.0), ready=rng.uniform(1, 5, (3, 2, 365)),
        bare=rng.uniform(0, 2, (3, 2, 365)), caught=rng.uniform(0, 1, (3, 365)),
        use=rng.uniform(0, 9, (3, 2, 365)),
        rain=rng.uniform(0, 3, (3, 2, 365)), size=np.array([one, two]), inflow=come,
        over_to=(1, -1) if over else (-1, -1), feeds=((0, 1),), **a_well(1, well, share=mark),
        tapped=np.array([tapped, False]), grows=np.ones((3, 365), dtype=bool),
        stuck=np.zeros(3, dtype=bool), begins=begins,
        filled_at=np.array([0.0, two * mark]), leak=rng.uniform(0, 20, (2, 2, 365)),
        out=np.stack([np.arange(365) < frost, np.zeros(365, dtype=bool)]))
    season = run_season(w)
    book = season.ledger
    into = sum(book[key] for key in ("start", "rain", "well", "tap", "used", "carried"))
    assert into == pytest.approx(book["given"] + book["spilled"] + book["emptied"] + book["leaked"]
        + book["end"],
                                 abs=0.2)
    assert (season.fed >= 0).all()
    assert (season.fed <= 1 + 1e-9).all()
    assert (season.level >= -1e-9).all()
    assert (season.level <= w.size[:, None, None] + 1e-9).all()
    gave = season.rain + season.filled_in + season.lacking.sum(axis=0)
    assert gave == pytest.approx(season.asked.sum(axis=0), abs=1e-6)
    left_in = book["carried"] - season.by_hand.sum()
    assert season.over.sum() == pytest.approx(
        book["start"] + book["rain"] + left_in - season.rain.sum() - book["end"]
        - book["emptied"] - book["leaked"], abs=1e-3)


def test_demo_gardens_close_and_carry_over(kiln):
    season = kiln.season
    book = season.ledger
    assert book["used"] > 0
    assert book["start"] + book["rain"] + book["tap"] + book["used"] == pytest.approx(
        book["given"] + book["spilled"] + book["emptied"] + book["leaked"]
        + book["end"], abs=0.1 * kiln.years)
    assert season.drunk.sum() <= season.world.use.sum() + 1e-6


def dial(every, minutes=10, month=6):
    return Setting(month, every, (), 1, minutes, 10.0, 0.0, 0.0, True)


def weekly(days, starts, minutes=10):
    return Setting(6, 0, days, starts, minutes, 10.0, 0.0, 0.0, True)


@pytest.mark.parametrize("setting", [
    dial(4), dial(8), dial(12), dial(24), dial(48), dial(72), weekly(("Mon", "Wed", "Fri"), 1),
    weekly(WEEK, 3), weekly(WEEK, 5)])
@pytest.mark.parametrize("first_h", [5.0, 23.5])
def test_a_clock_stepped_minute_by_minute_opens_as_often_as_the_season_counts(setting, first_h):
    opened = np.zeros((2, 365, PARTS))
    for year in range(2):
        for day in range(365):
            for minute in range(0, 1440, 6):
                hour = day * 24 + minute / 60
                if setting.weekdays:
                    on = WEEK[(year * 365 + day) % 7] in setting.weekdays
                    gap = 24 / setting.starts_a_day
                    opens = on and any(abs((first_h + i * gap) % 24 - minute / 60) < 1e-6
                                       for i in range(setting.starts_a_day))
                else:
                    opens = hour >= first_h - 1e-6 and (hour - first_h) % setting.every_h < 1e-6
                if opens:
                    opened[year, day, minute // 360] += 1
    months = (setting,)
    found = runs(months, (first_h,), 2)
    july = slice(181, 212)
    assert found[:, july].sum() == opened[:, july].sum()
    assert (found[:, july] == opened[:, july]).all()


def test_the_week_drawn_is_the_week_run():
    assert start_hours(dial(48)) == [5, 53, 101, 149]
    assert start_hours(weekly(("Mon", "Fri"), 2)) == [5, 17, 101, 113]


def test_the_plot_that_fails_first_is_the_one_that_days_run_one_by_one_show(kiln):
    """Kiln Yard's pilot valve stays shut on its barrels, so nothing but rain comes."""
    first, days = 181, 14
    told = absence.away(kiln.season_inputs, kiln.season, first, days)
    world_ = kiln.season.world
    seen = {}
    for i, plot in enumerate(world_.plots):
        failing = []
        for y in range(kiln.years):
            depletion = 0.0
            for n in range(days):
                use = world_.use[i, y, first + n] / 2
                fed = 1.0
                for _ in range(2):
                    if world_.always_on[i]:
                        continue  # the tap tops the tote up, and float valves let it in
                    hold, ready = world_.hold[i, first + n], world_.ready[i, y, first + n]
                    ks = min(max((hold - depletion) / (hold - ready), 0), 1)
                    depletion += use * ks
                    fed = min(fed, ks)
                if fed < THIRSTY:
                    failing.append(n + 1)
                    break
                fell = world_.rain[i, y, first + n] - world_.caught[i, first + n]
                depletion = max(depletion - max(fell, 0), 0)
        seen[plot] = (1 - len(failing) / kiln.years, int(np.median(failing)) if failing else 0)
    assert {p.plot: (pytest.approx(p.holds), p.fails_on) for p in told.plots} == seen
    assert told.first_to_fail.plot == min(seen, key=lambda p: seen[p])
    remedies = {r.key: r for r in while_away.helps(kiln, told)}
    after = assess(remedies["ball-valve"].edit.apply(kiln.garden, kiln.tables), kiln.tables)
    better = absence.away(after.season_inputs, after.season, first, days)
    then = {p.plot: p.thirsty_days for p in better.plots}
    assert all(then[p.plot] <= p.thirsty_days for p in told.plots)
    assert then[told.first_to_fail.plot] < told.first_to_fail.thirsty_days - 1
    assert remedies["weather-timer"].effect.amounts["x"].value > told.first_to_fail.holds


def test_a_tap_opened_by_hand_gives_nothing_while_away(kiln):
    hand = assess(Remove("timers/timer").apply(kiln.garden, kiln.tables), kiln.tables)
    on = absence.days_of(200, 10)
    season = absence.season_away(hand.season_inputs, hand.season, 200, 10)
    assert season.given[~season.world.always_on][:, :, on].sum() == 0
    assert hand.season.given[~season.world.always_on][:, :, on].sum() > 0


def test_days_over_new_year_and_a_garden_without_stores(library, kiln):
    assert list(absence.days_of(363, 4)) == [363, 364, 0, 1]
    assert absence.away(kiln.season_inputs, kiln.season, 363, 4).holds == 1.0
    w = random_world(9)
    season = run_days(w, np.full((1, 4), w.size[0]), np.zeros((1, 4)), np.zeros((1, 4)),
                      np.array([364, 0]))
    assert season.given[:, :, 1:364].sum() == 0


def test_the_loops_are_compiled_once_for_every_garden_and_journey(kiln, library):
    from euhydra.core.season import kernel

    assert kiln.season.years == kiln.years
    absence.away(kiln.season_inputs, kiln.season, 190, 14)
    run_season(world(np.ones((2, 365)), np.zeros((2, 365)), np.zeros((2, 365, PARTS))))
    assert len(kernel.run_year.signatures) == 1
