"""When zones open first: never two at once on a source, never outside the hours allowed."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from euhydra.core.schedule.settings import WEEKDAY_PATTERNS, Allowed, Setting
from euhydra.core.schedule.starts import Opening, placed
from euhydra.core.season.programme import start_hours

DAYS = 42  # rhythms of up to 72 h and of weeks meet in it


def dial(every_h, minutes):
    return Setting(6, every_h, (), 1, minutes, minutes, 0.0, 0.0, True)


def weekly(days, starts, minutes, span_h=24.0):
    return Setting(6, 0, days, starts, minutes, minutes, 0.0, 0.0, True, span_h)


WINDOWS = st.sampled_from([Allowed(), Allowed(19.0), Allowed(8.0, 8.0, 20.0),
                           Allowed(6.0, 6.0, 11.0)])


@st.composite
def openings(draw):
    found = []
    for n in range(draw(st.integers(1, 7))):
        allowed, minutes = draw(WINDOWS), draw(st.integers(5, 240))
        setting = draw(st.one_of(
            st.sampled_from([4, 6, 8, 12, 24, 48, 72]).map(lambda h, m=minutes: dial(h, m)),
            st.tuples(st.sampled_from([*WEEKDAY_PATTERNS.values(), ("Tue", "Thu"), ("Sun",)]),
                      st.integers(1, 3)).map(
                lambda x, m=minutes, a=allowed: weekly(x[0], x[1], m, a.span_h))))
        found.append(Opening((f"zone-{n}",), draw(st.sampled_from(["barrel", "tap"])), allowed,
                             setting))
    return found


def minutes_open(start):
    """Which minutes of six weeks a valve stands open (DAYS × 1440,), run by run."""
    open_ = np.zeros(DAYS * 1440, dtype=int)
    for hour in start_hours(start.opening.setting, start.at_h % 24, DAYS):
        begin = round(hour * 60)
        open_[begin:begin + start.opening.setting.minutes] += 1
    return open_


@given(openings())
def test_no_source_gives_two_at_once_and_none_opens_when_it_may_not(wanted):
    starts = placed(wanted)
    assert [s.opening for s in starts] == wanted
    for source in {o.source for o in wanted}:
        free = [s for s in starts if s.opening.source == source and not s.late]
        if all(not s.late for s in starts if s.opening.source == source):
            assert sum((minutes_open(s) for s in free), np.zeros(DAYS * 1440, int)).max() <= 1
    clock = np.arange(DAYS * 1440) % 1440 / 60
    for start in (s for s in starts if not s.late):
        allowed = start.opening.allowed
        if allowed.until_h - allowed.from_h < 24:
            at = clock[minutes_open(start) > 0]
            assert at.min() >= allowed.from_h - 1e-6
            assert at.max() < allowed.until_h + 1e-6


def test_what_finds_a_free_hour_takes_it_and_what_finds_none_is_late():
    night = Allowed(5.0, 5.0, 6.0)
    one, two = (Opening((name,), "barrel", night, dial(24, 40)) for name in ("a", "b"))
    assert [(s.at_h, s.late) for s in placed([one, two])] == [(5.0, False), (5 + 40 / 60, True)]
    other = Opening(("c",), "tap", night, dial(24, 40))
    assert not any(s.late for s in placed([one, other])), "each source by itself"


def test_hoses_of_other_days_open_at_the_same_hour():
    tue, wed = (Opening((day,), "tap", Allowed(), weekly((day,), 1, 200)) for day in (
        "Tue", "Wed"))
    assert [s.at_h for s in placed([tue, wed])] == [5.0, 5.0]


@pytest.mark.parametrize(("every_h", "minutes", "second_h"), [(24, 30, 5.5), (12, 30, 5.5)])
def test_runs_follow_one_another(every_h, minutes, second_h):
    both = placed([Opening((n,), "barrel", Allowed(), dial(every_h, minutes)) for n in "ab"])
    assert [s.at_h for s in both] == [5.0, second_h]
