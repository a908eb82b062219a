"""The year so far by its log: what was logged is what is shown; no day is told before it came."""

import datetime as dt

import numpy as np
import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.daily.told import day_told
from euhydra.core.daily.year import Year
from euhydra.core.log.days_ahead import days_ahead, openings
from euhydra.core.log.entries import Entry
from euhydra.core.log.levels import followed
from euhydra.core.log.now import now
from euhydra.core.log.so_far import so_far
from fifteen import fifteen
from gardens import made, poured

JULY = dt.date(2026, 7, 14)
DAY = 194


def back(days):
    return JULY - dt.timedelta(days=days)


@pytest.fixture(scope="module")
def a(library):
    return assess(poured(library), library)


def rains(a, which):
    """A log that has every day's rain of one of the years."""
    fell = a.season.in_year(a.weather.rain_mm, which)
    return [Entry(f"rain-{n:05d}", back(DAY - n), "rain", "", float(fell[n]))
            for n in range(DAY + 1)]


def test_a_log_with_a_year_s_rain_makes_that_year_of_the_roots(a):
    for which in (0, 5):
        year, log = Year(a, which), rains(a, which)
        told = so_far(a, log, JULY)
        assert told.which == which
        assert told.rain_mm[:DAY + 1] == pytest.approx(year.rain_mm[:DAY + 1])
        off = np.abs(told.left - year.left)[:, 60:DAY]
        assert off.mean() < 0.06
        assert (told.thirsty[:, :DAY] != year.thirsty[:, :DAY]).mean() < 0.06


def test_its_last_day_is_this_morning_and_no_later_one_is_known(a):
    log = (Entry("dip-00000001", back(30), "dip", "barrels", 0.5),
           Entry("dip-00000002", back(3), "dip", "barrels", 0.2))
    told, stands = so_far(a, log, JULY), now(a, log, JULY)
    assert told.level[:, DAY] == pytest.approx(stands.level)
    keeps = followed(a, a.banks.banks[0], log, back(30), JULY)
    assert told.level[0, DAY - 30:DAY + 1] == pytest.approx(keeps.level_l)
    assert not told.grows[:, DAY + 1:].any()
    assert not told.thirsty[:, DAY + 1:].any()
    assert told.rain_mm[DAY + 1:].sum() == told.level[:, DAY + 1:].sum() == 0
    assert told.caught[:, DAY + 1:].sum() == 0 < told.caught.sum()
    assert all(run.day < DAY or run.litres == 0 for run in told.runs)
    assert all(run.day < DAY for day in told.runs_by_day.values() for run in day)
    assert day_told(told, DAY + 1).head.show("metric") == "This day is still to come."
    assert day_told(told, DAY).head.show("metric") != "This day is still to come."


@pytest.mark.parametrize("today", [JULY, dt.date(2027, 7, 14), dt.date(2028, 7, 14)])
def test_its_runs_fall_on_the_dates_own_weekdays(library, today):
    a = assess(made(library, ("timers/timer/kind", "weekday-ball"),
                    ("zones/zone-bed-1/days", ("Mon", "Thu"))), library)
    told = so_far(a, (), today)
    for n, date in list(told.dates.items())[-60:-1]:
        ran = {run.of for run in told.runs_by_day.get(n, ())}
        assert ran == {o.of for o in openings(a, date)}, date


def test_washing_days_are_the_calendars(library):
    """In the year so far, this morning and in the week to come; none goes by a frosty garden."""
    a = assess(fifteen()["a laundry drum, tape"](library), library)
    (drain,) = a.garden.drains
    told = so_far(a, (), JULY)
    washed = [date for n, date in told.dates.items() if told.used[n] > 0]
    assert len(washed) > 15
    assert {date.weekday() for date in washed} == {n for n, x in enumerate(drain.uses) if x}
    days = days_ahead(a, (), JULY, 14, {})
    assert [d.date for d in days if d.washes] == [
        d.date for d in days if drain.uses[d.date.weekday()]]
    week = sum(w.litres for d in days[:7] for w in d.washes)
    assert week == pytest.approx(drain.litres_a_use * sum(drain.uses))
    assert not any(d.washes for d in days_ahead(a, (), dt.date(2026, 1, 12), 7, {}))


def test_roots_are_wetter_on_the_morning_after_a_washing_day(library):
    """In each of the years that were reckoned with, whatever its own first weekday."""
    a = assess(fifteen()["a laundry drum, tape"](library), library)
    (drain,) = a.garden.drains
    bed = a.season.world.plots.index(a.garden.plots[0].id)
    on = next(back(n) for n in range(7) if drain.uses[back(n).weekday()]
              and not drain.uses[back(n + 1).weekday()])
    before, after = (now(a, (), on + dt.timedelta(days=n)).depletion[bed] for n in (0, 1))
    assert (after < before).mean() > 0.9


def test_what_was_felt_puts_the_roots_right_on_its_day(a):
    p = list(a.season.world.plots).index("bed-1")
    log = (Entry("soil-0000001", back(20), "soil", "bed-1", None, "muddy"),)
    plain, wet = (so_far(a, x, JULY) for x in ((), log))
    before, after = DAY - 22, DAY - 20
    assert wet.depletion[p, before] == pytest.approx(plain.depletion[p, before])
    assert wet.depletion[p, after] <= plain.depletion[p, after] + 1e-9


def test_every_kind_of_garden_has_a_year_so_far_on_any_day(library):
    for make in fifteen().values():
        a = assess(make(library), library)
        for today in (JULY, dt.date(2026, 1, 1), dt.date(2028, 2, 29), dt.date(2026, 12, 31)):
            told = so_far(a, (), today)
            for day in (0, told.now.day, 364):
                for one in day_told(told, day).told:
                    assert "{" not in one.words.show("us")
            assert np.isfinite(told.left).all()
