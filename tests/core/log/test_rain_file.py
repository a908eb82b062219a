"""A year's rain out of a daily file: what is in the file is what Today goes by."""

import datetime as dt

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from euhydra.core.assessment.assess import assess
from euhydra.core.log.entries import BadEntryOf, Entry, checked
from euhydra.core.log.rain_file import entries_of, out_of_files
from euhydra.core.log.so_far import so_far
from euhydra.core.log.through import logged_rain
from euhydra.core.weather.lines import BadWeather
from euhydra.core.weather.rain_days import rain_by_day
from gardens import poured

JULY = dt.date(2026, 7, 14)
NEW_YEAR = dt.date(2026, 1, 1)


def file_of(rain, head="date,rain (mm)", first=NEW_YEAR):
    return "\n".join([head, *(f"{first + dt.timedelta(days=n)},{mm}"
                              for n, mm in enumerate(rain))])


def test_the_year_so_far_has_the_rain_of_the_file(library):
    a = assess(poured(library), library)
    rain = [round(float(mm), 1) for mm in a.season.in_year(a.weather.rain_mm, 4)[:195]]
    fell, refused = rain_by_day(file_of(rain))
    told = so_far(a, entries_of(fell, (), JULY), JULY)
    assert refused == ()
    assert told.rain_mm[:195] == pytest.approx(rain)


def test_inches_and_a_service_s_own_dress_are_the_same_rain():
    mm, _ = rain_by_day(file_of([0.0, 25.4, 12.7]))
    inches, _ = rain_by_day(file_of([0, 1, 0.5], head="Day;Precip [in]").replace(",", ";"))
    bare, _ = rain_by_day("\n".join(f"XX000012345,2026010{n + 1},PRCP,{tenths},,,E,"
                                    for n, tenths in enumerate((0, 254, 127))))
    assert list(mm) == list(inches) == list(bare)
    assert list(mm.values()) == pytest.approx(list(inches.values()))
    assert list(mm.values()) == pytest.approx(list(bare.values()))


def test_a_day_logged_by_hand_stays_and_other_years_stay_out():
    fell = {dt.date(2025, 12, 31): 9.0, NEW_YEAR: 0.0, dt.date(2026, 7, 2): 4.0,
            dt.date(2026, 7, 3): 6.0, JULY: 0.0, dt.date(2026, 7, 15): 8.0}
    log = [Entry("rain-0001", dt.date(2026, 7, 3), "rain", value=5.0)]  # as a gauge may call it
    made = entries_of(fell, log, JULY, "north.csv")
    assert {e.day.isoformat(): e.value for e in made} == {
        "2026-01-01": 0.0, "2026-07-02": 4.0, "2026-07-14": 0.0}
    assert out_of_files([*log, *made], 2026) == made
    again = entries_of(fell | {dt.date(2026, 7, 2): 4.5}, [*log, *made], JULY)
    assert [e.id for e in again] == [e.id for e in made]


def test_what_is_no_rain_is_said():
    for text, words in (("date,rain\n2026-07-01,5", "does not say its unit"),
                        ("date,low\n2026-07-01,5", "No column was found for rain"),
                        ("date,rain (mm)\n07/01/2026,5", "do not tell day from month")):
        with pytest.raises(BadWeather, match=words):
            rain_by_day(text)
    fell, refused = rain_by_day("date,rain (mm)\n2026-07-01,wet\n2026-07-02,-4\n2026-07-03,na")
    assert fell == {}
    assert [r.line for r in refused] == [2, 3]


@settings(max_examples=60, deadline=None)
@given(st.lists(st.one_of(st.none(), st.floats(0, 80), st.floats(490, 510)), min_size=1,
                max_size=220),
       st.integers(0, 3), st.sets(st.integers(0, 240), max_size=5))
def test_any_file_of_rain_is_told_by_the_log_day_by_day(rain, begins, by_hand):
    first = NEW_YEAR + dt.timedelta(days=begins)
    fell, _ = rain_by_day(file_of(["na" if mm is None else repr(mm) for mm in rain], first=first))
    log = [Entry(f"hand-{n:05d}", NEW_YEAR + dt.timedelta(days=n), "rain", value=1.0)
           for n in by_hand]
    try:
        made = [checked(e, JULY) for e in entries_of(fell, log, JULY)]
    except BadEntryOf:
        assert max(fell.values()) > 500  # over what the log bears of a day
        return
    told = logged_rain([e for e in (*log, *made) if e.day <= JULY], JULY, 200) or {}
    hands = {e.day for e in log}
    for day, mm in fell.items():
        if day <= JULY:
            assert told.get((JULY - day).days, 0.0) == (1.0 if day in hands else mm)
