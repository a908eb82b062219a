"""This morning by the log: levels from dips, roots from rain and what was felt, days left."""

import datetime as dt

import numpy as np
import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.daily.year import TONES
from euhydra.core.log.entries import Entry
from euhydra.core.log.levels import followed
from euhydra.core.log.now import AHEAD_DAYS, now
from euhydra.core.log.this_year import this_year
from euhydra.core.log.today import today_told
from fifteen import fifteen
from gardens import made, poured

JULY = dt.date(2026, 7, 14)


def back(days):
    return JULY - dt.timedelta(days=days)


def dip(days, m=0.6, about="barrels"):
    return Entry(f"dip-{days:04d}-{about}", back(days), "dip", about, m)


def rain(days, mm):
    return Entry(f"rain-{days:04d}", back(days), "rain", "", mm)


def felt(days, word, about="bed-1", kind="soil"):
    return Entry(f"{kind}-{days:04d}-{about}", back(days), kind, about, None, word)


@pytest.fixture(scope="module")
def a(library):
    return assess(poured(library), library)


def test_a_level_is_the_one_that_keep_follows_from_the_dip(a):
    log = (dip(6), rain(2, 9.0))
    told = now(a, log, JULY)
    bank = a.banks.banks[0]
    keeps = followed(a, bank, log, back(120), JULY)
    assert told.level[0] == pytest.approx(keeps.level_l[-1])
    assert told.dipped == (6,)


def test_without_a_dip_the_level_is_a_middle_years(a):
    told = now(a, (), JULY)
    assert told.dipped == (None,)
    assert told.level[0] == pytest.approx(np.median(a.season.level[0, :, told.day]))
    assert told.alike.all()


def test_logged_rain_wets_roots_and_its_want_dries_them(a):
    wet = now(a, (rain(20, 2.0), rain(1, 60.0)), JULY).depletion
    dry = now(a, (rain(20, 2.0),), JULY).depletion
    assert (wet <= dry + 1e-9).all()
    assert wet[0].mean() < dry[0].mean()


@pytest.mark.parametrize(("word", "kind"), [("dry", "soil"), ("muddy", "soil"), ("right", "soil"),
                                            ("crisp", "leaf"), ("yellow", "leaf")])
def test_what_was_felt_today_bounds_the_roots(a, word, kind):
    told = now(a, (felt(0, word, kind=kind),), JULY)
    ready = a.season.world.ready[0, :, told.day]
    if word in ("dry", "crisp"):
        assert (told.depletion[0] >= ready - 1e-9).all()
    elif word == "right":
        assert (told.depletion[0] <= ready + 1e-9).all()
    else:
        assert told.depletion[0] == pytest.approx(np.zeros(a.years))
    other = now(a, (), JULY)
    assert told.depletion[1] == pytest.approx(other.depletion[1])


def test_what_was_felt_long_ago_says_nothing_any_more(a):
    assert now(a, (felt(41, "muddy"),), JULY).depletion == pytest.approx(
        now(a, (), JULY).depletion)


def test_the_years_alike_are_those_of_such_a_month(a):
    told = now(a, (rain(25, 0.0), rain(3, 4.0)), JULY)
    days = (told.day - np.arange(30)) % 365
    off = np.abs(a.weather.rain_mm[:, days].sum(axis=1) - 4.0)
    assert told.alike.sum() == round(a.years / 3)
    assert off[told.alike].max() <= off[~told.alike].min()


def test_more_water_lasts_longer_and_none_fails_at_once(a):
    left = [now(a, (dip(0, m),), JULY).days_left for m in (0.2, 0.45, 0.8)]
    middles = [days[1] if days else AHEAD_DAYS for days in left]
    assert middles == sorted(middles)
    assert middles[0] < middles[-1]
    assert now(a, (dip(0, 0.0),), JULY).days_left[1] <= 3
    assert all(low <= middle <= high for low, middle, high in filter(None, left))


def test_this_years_picture_has_this_morning_in_it(a):
    log = (dip(6), felt(0, "dry"))
    year = this_year(a, log, JULY, 3)
    day = year.now.day
    assert year.level[:, day] == pytest.approx(year.now.level)
    assert year.level[:, day + 1] == pytest.approx(year.of(a.season.level)[:, day + 1])
    assert TONES[year.tone[0, day]] in ("low", "thirsty")
    assert day not in year.runs_by_day
    assert year.runs_by_day
    assert year.tap[day] == year.over[day] == year.used[day] == 0
    wet = this_year(a, (rain(0, 7.0),), JULY, 3)
    assert wet.rain_mm[day] == 7.0
    week = this_year(a, (rain(8, 3.0),), JULY, 3)
    assert week.rain_mm[day - 8:day + 1].tolist() == [3.0, *[0.0] * 8]
    assert week.rain_known
    assert not year.rain_known


def rules(a, log=(), day=JULY):
    return [d.rule for d in today_told(a, log, day).deeds]


def test_each_deed_stands_where_it_is_to_be_done(a, library):
    assert rules(a)[0] == "today.dip"
    assert "today.dip" in rules(a, (dip(7),))
    assert "today.dip" not in rules(a, (dip(6),))
    assert "today.hold" in rules(a, (dip(1), rain(0, 30.0)))
    assert "today.hold" not in rules(a, (dip(1),))
    assert "today.feel" in rules(a, (dip(1), felt(0, "dry")))
    wet = tuple(felt(0, "muddy", p) for p in ("bed-1", "bed-2", "pots-1"))
    assert "today.feel" not in rules(a, (dip(1), *wet))
    hose = assess(made(library, ("plots/pots-1/watered", "hose")), library)
    days = [JULY + dt.timedelta(days=n) for n in range(14)]
    watered = [("today.water" in rules(hose, (dip(1),), day)) for day in days]
    setting = hose.schedule.by_hand["pots-1"].setting_in(6)
    assert sum(watered) == pytest.approx(2 * setting.runs_a_week, abs=1)
    assert "today.water" not in rules(a)


def test_the_sentence_says_how_long_and_goes_by_what(a, library):
    told = today_told(a, (dip(3),), JULY)
    low, middle, high = told.now.days_left
    assert told.head.show("metric").startswith(f"Water for {middle - 1}\u00a0day")
    assert ("in the years that began like this one" in told.head.show("us")) == (low != high)
    assert "followed from the dip 3\u00a0days ago" in told.by.show("metric")
    assert "dipped today" in today_told(a, (dip(0),), JULY).by.show("metric")
    assert "middle year" in today_told(a, (), JULY).by.show("metric")
    winter = today_told(a, (), dt.date(2026, 1, 5))
    assert winter.head.show("metric") == "Nothing grows now."
    assert winter.by.template == ""
    assert {d.rule for d in winter.deeds} <= {"today.due"}
    taps = today_told(assess(fifteen()["twelve pots"](library), library), (), JULY)
    assert taps.by.template == ""
    dry = any(d.rule == "today.feel" for d in taps.deeds)
    assert taps.head.show("us").endswith("thirsty." if dry else "have enough.")


def test_every_kind_of_garden_has_a_today(library):
    for make in fifteen().values():
        a = assess(make(library), library)
        for day in (JULY, dt.date(2026, 2, 28), dt.date(2024, 2, 29), dt.date(2026, 12, 31)):
            told = today_told(a, (), day)
            for phrase in (told.head, told.by, *(d.what for d in told.deeds)):
                assert "{" not in phrase.show("us")
            assert np.isfinite(told.now.depletion).all()
