"""What is opened on a date, what falls due, rain that is forecast, water given beside the timer."""

import datetime as dt

import numpy as np
import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.construction.care import due
from euhydra.core.daily.year import Year
from euhydra.core.garden.base import WEEK
from euhydra.core.log.advice import advice
from euhydra.core.log.days_ahead import days_ahead, openings
from euhydra.core.log.entries import Entry
from euhydra.core.log.levels import bank_l, dip_m, followed
from euhydra.core.log.now import now
from euhydra.core.log.today import today_told
from fifteen import fifteen
from gardens import made, poured

JULY = dt.date(2026, 7, 14)


def back(days):
    return JULY - dt.timedelta(days=days)


@pytest.fixture(scope="module")
def a(library):
    return assess(poured(library), library)


def test_openings_are_those_that_the_season_ran(library):
    for make in fifteen().values():
        a = assess(make(library), library)
        timed = {z.id: z for z in a.garden.timed_zones}
        year = Year(a, 0)
        for month in (5, 6, 7):
            days = range(1, 29)
            said = [o for d in days for o in openings(a, dt.date(2026, month, d))]
            first = (dt.date(2026, month, 1) - dt.date(2026, 1, 1)).days
            ran = [run for d in days for run in year.runs_by_day.get(first + d - 1, ())]
            for key in {*timed, *a.schedule.by_hand}:
                mine = [o for o in said if o.of == key]
                its = [run for run in ran if run.of == key]
                style = a.schedule.row(timed[key]).style if key in timed else ""
                if style != "weather" and not a.garden.rain_hold_mm:  # else the sky has a say
                    # Four weeks hold the same weekdays, wherever they begin.
                    assert len(mine) == len(its), (a.garden.name, key, month)
                assert {round(o.start_h, 6) for o in mine} >= {round(r.start_h, 6) for r in its}


def test_a_week_s_pattern_falls_on_the_dates_own_weekdays(library):
    a = assess(made(library, ("timers/timer/kind", "weekday-ball")), library)
    zone = a.garden.timed_zones[0]
    setting = a.schedule.setting_in(zone.id, 6)
    for year in (2026, 2027):
        ran = [dt.date(year, 7, d) for d in range(1, 29) if any(
            o.of == zone.id for o in openings(a, dt.date(year, 7, d)))]
        assert {WEEK[d.weekday()] for d in ran} == set(setting.weekdays)
        assert len(ran) == 4 * len(setting.weekdays)


def test_days_ahead_have_what_falls_due_on_them_and_the_forecast(a):
    rain = {JULY + dt.timedelta(days=2): 6.0}
    told = days_ahead(a, (), JULY, 40, rain)
    assert [d.rain_mm for d in told[:4]] == [None, None, 6.0, None]
    assert [d.date for d in told] == [JULY + dt.timedelta(days=n) for n in range(40)]
    wanted = [d.key for d in due(a.garden, a.schedule)
              if JULY <= dt.date.fromisoformat(f"2026-{d.day}") <= told[-1].date]
    assert sorted(d.key for day in told for d in day.due) == sorted(wanted)
    assert wanted


def test_water_given_beside_the_timer_comes_out_of_the_store_and_into_the_roots(a):
    dip = Entry("dip-00000001", back(6), "dip", "barrels", 0.6)
    zone = a.garden.timed_zones[0]
    ran = Entry("water-000001", back(1), "water", zone.id, 40.0)
    bank = a.banks.banks[0]
    plain, more = (followed(a, bank, log, back(6), JULY) for log in ((dip,), (dip, ran)))
    assert plain.level_l[-2:] - more.level_l[-2:] == pytest.approx([40.0, 40.0])
    rows = [a.season.world.plots.index(p) for p in zone.plots]
    lacked, lacks = (now(a, log, JULY).depletion[rows] for log in ((dip,), (dip, ran)))
    more = np.median((lacked - lacks).sum(axis=0))
    assert 20 < more <= 40.0


def test_rain_that_is_forecast_lengthens_what_the_stores_last(a):
    dip = (Entry("dip-00000001", JULY, "dip", "barrels", 0.3),)
    dry, wet = (now(a, dip, JULY, rain).lasts for rain in ({}, {JULY: 30.0}))
    assert (wet >= dry).all()
    assert np.median(wet) > np.median(dry)
    past = now(a, dip, JULY, {back(1): 30.0}).lasts
    assert (past == dry).all()


def deeds(a, log=(), day=JULY, rain=None):
    return {d.rule: d for d in today_told(a, log, day, rain or {}).deeds}


def test_a_dry_zone_that_the_timer_leaves_is_run_until_the_log_has_it(library):
    a = assess(made(library, ("timers/timer/kind", "weekday-ball"),
                    ("zones/zone-bed-1/days", ("Mon", "Thu"))), library)
    zone = next(z for z in a.garden.timed_zones if z.id == "zone-bed-1")
    felt = [Entry(f"soil-{p}", day, "soil", p, None, "dry") for p in zone.plots
            for day in (JULY, back(1))]
    dip = Entry("dip-00000001", JULY, "dip", "barrels", 0.9)
    left = next(d for d in (JULY + dt.timedelta(days=n) for n in range(14))
                if zone.id not in {o.of for o in openings(a, d)})
    moved = tuple(Entry(e.id, e.day + (left - JULY), e.kind, e.about, e.value, e.word)
                  for e in (*felt, dip))
    told = deeds(a, moved, left)["today.run"]
    assert told.about == zone.id
    assert told.done.value == pytest.approx(a.flows.run_flow_l_h(zone) * a.schedule.setting_in(
        zone.id, left.month - 1).minutes / 60)
    ran = Entry("water-000001", left, "water", zone.id, told.done.value)
    assert "today.run" not in deeds(a, (*moved, ran), left)
    empty = tuple(Entry(e.id, e.day, e.kind, e.about, 0.0 if e.kind == "dip" else e.value, e.word)
                  for e in moved)
    assert "today.run" not in deeds(a, empty, left)


def test_a_timer_is_held_for_rain_to_come_and_not_where_the_roots_are_dry(a):
    dip = Entry("dip-00000001", JULY, "dip", "barrels", 0.9)
    opens = next(d for d in (JULY + dt.timedelta(days=n) for n in range(14))
                 if any(not o.by_hand for o in openings(a, d)))
    zones = [z for z in a.garden.timed_zones if z.id in {o.of for o in openings(a, opens)}]
    plots = [p for z in zones for p in z.plots]
    wet = tuple(Entry(f"soil-{p}", opens, "soil", p, None, "muddy") for p in plots)
    dry = tuple(Entry(f"soil-{p}", opens, "soil", p, None, "dry") for p in plots)
    much = {opens + dt.timedelta(days=1): 40.0}
    assert "today.hold-for" in deeds(a, (dip, *wet), opens, much)
    assert "today.hold-for" not in deeds(a, (dip, *wet), opens, {})
    assert "today.hold-for" not in deeds(a, (dip, *dry), opens, much)


def test_a_filter_is_rinsed_when_its_readings_have_fallen_and_once(a):
    zone = a.garden.timed_zones[0].id
    fell = tuple(Entry(f"flow-{n:05d}", back(days), "flow", zone, value)
                 for n, (days, value) in enumerate(((60, 100.0), (30, 80.0), (1, 60.0))))
    assert deeds(a, fell)["today.rinse"].about == zone
    rinsed = Entry("filter-0001", JULY, "filter", zone)
    assert "today.rinse" not in deeds(a, (*fell, rinsed))
    assert "today.rinse" not in deeds(a)


def test_what_falls_due_is_told_in_its_week(a):
    date = dt.date.fromisoformat(f"2026-{due(a.garden, a.schedule)[0].day}")
    before = date - dt.timedelta(days=3)
    assert any(r == "today.due" for r in deeds(a, (Entry("dip-00000001", before, "dip", "barrels",
                                                         0.9),), before))


def test_days_left_are_told_only_where_something_draws_on_the_stores(library):
    told = 0
    for make in fifteen().values():
        a = assess(make(library), library)
        for day in (JULY, dt.date(2026, 9, 30)):
            morning = today_told(a, (), day)
            if morning.now.drawn:
                continue
            told += 1
            assert "Water for" not in morning.head.show("metric")
            assert "last" not in morning.head.show("metric")
    assert told


def test_a_hand_that_is_logged_waters_as_logged_and_no_more_as_planned(library):
    a = assess(made(library, ("plots/bed-1/watered", "can")), library)
    assert a.garden.source_of(a.garden.plot("bed-1")) == "barrels"
    dip = Entry("dip-00000001", back(10), "dip", "barrels", 0.6)
    once = Entry("water-000001", back(8), "water", "bed-1", 10.0)
    bank = a.banks.banks[0]
    planned, logged = (followed(a, bank, log, back(10), JULY) for log in ((dip,), (dip, once)))
    hand = a.schedule.by_hand["bed-1"].a_day_l(6)
    assert planned.given_l[3] - logged.given_l[3] == pytest.approx(hand)
    assert logged.given_l[2] - planned.given_l[2] == pytest.approx(10.0 - hand)
    p = a.season.world.plots.index("bed-1")
    as_planned, as_logged = (now(a, log, JULY).depletion[p] for log in ((dip,), (dip, once)))
    assert (as_logged >= as_planned - 1e-9).all()
    assert as_logged.mean() > as_planned.mean()


def test_a_run_that_was_logged_is_no_leak(a):
    zone, bank = a.garden.timed_zones[0].id, a.banks.banks[0]
    first = Entry("dip-00000001", back(6), "dip", "barrels", 0.8)
    ran = Entry("water-000001", back(3), "water", zone, 0.25 * bank.usable_l)
    level = followed(a, bank, (first, ran), back(6), JULY).level_l[-1]
    store = bank.stores[0]
    last = Entry("dip-00000002", JULY, "dip", "barrels", dip_m(bank, store, float(level)))
    assert bank_l(bank, store, last.value) == pytest.approx(level, abs=0.5)
    assert "keep.leak" in {f.rule for f in advice(a, (first, last), JULY)}
    assert "keep.leak" not in {f.rule for f in advice(a, (first, ran, last), JULY)}


def test_a_tank_is_filled_when_little_is_left_and_its_words_know_no_rain(library):
    a = assess(next(make for name, make in fifteen().items() if assess(
        make(library), library).season.world.filled_at.any())(library), library)
    store, bank = a.garden.stores[0], a.banks.banks[0]
    low, high = (Entry("dip-00000001", JULY, "dip", store.id, m)
                 for m in (dip_m(bank, store, 0.5 * bank.filled_at_l),
                           dip_m(bank, store, bank.usable_l)))
    told = deeds(a, (low,))["today.fill"]
    assert told.done.value == pytest.approx(high.value)
    assert "today.fill" not in deeds(a, (high,))
    full = Entry("dip-00000002", JULY, "dip", store.id, told.done.value)
    assert "today.fill" not in deeds(a, (low, full))
    if not a.garden.roofs:
        assert "dry" not in today_told(a, (low,), JULY).head.show("metric")
