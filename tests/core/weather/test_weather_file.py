"""Daily weather files: columns in any order and unit, faults by line, gaps by a stated rule."""

import datetime as dt

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from euhydra.core.weather.gaps import Gap
from euhydra.core.weather.lines import BadWeather
from euhydra.core.weather.reading import Choices, read_weather, reading
from euhydra.core.weather.record import Record

ALL_2021 = [dt.date(2021, 1, 1) + dt.timedelta(days=i) for i in range(365)]


def table(days=ALL_2021, head="date,rain (mm),tmin,tmax", row="{d},{i}.5,5.0,15.0", **lines):
    """A file of a line a day; ``lines`` (as l17=...) replaces the line of that number."""
    text = [head, *(row.format(d=d, i=i % 7, y=d.year, m=d.month, day=d.day)
                    for i, d in enumerate(days))]
    for number, line in lines.items():
        text[int(number[1:]) - 1] = line
    return "\n".join(line for line in text if line is not None)


def test_columns_in_any_order_and_unit_give_the_same_record():
    plain = read_weather(table()).record
    odd = read_weather(table(head="Max temp (°F);Rainfall [in];remark;Day;temp_min (f)",
                             row="59,0;{i}.5;x;{day}/{m}/{y};41,0").replace(".5;x", ".5;")).record
    assert np.allclose(odd.tmax_c, plain.tmax_c)
    assert np.allclose(odd.tmin_c, plain.tmin_c)
    assert np.allclose(odd.rain_mm, plain.rain_mm * 25.4)


def test_dates_in_three_columns_and_as_one_number():
    for head, row in (("year,month,day of month,rain_mm,tmin,tmax", "{y},{m},{day},{i}.5,5.0,15.0"),
                      ("date,rain [mm],tmin,tmax", "{d:%Y%m%d},{i}.5,5.0,15.0")):
        assert read_weather(table(head=head, row=row)).record.id == read_weather(table()).record.id


def test_units_are_read_off_the_values_or_chosen():
    warm = table(row="{d},{i}.5,50.0,88.0")
    assert {c.holds: c.unit for c in read_weather(warm).columns}["tmax"] == "degF"
    inches = table(row="{d},0.{i},5.0,15.0", head="date,rain,tmin,tmax")
    assert {c.holds: c.unit for c in read_weather(inches).columns}["rain"] == "inch"
    chosen = read_weather(inches, Choices({"rain": "mm"})).record
    assert chosen.rain_mm.max() == pytest.approx(0.6)


def test_days_that_cannot_be_are_refused_by_line():
    read = read_weather(table(
        l3="2021-02-30,1,5,15", l5="2021-01-01,1,5,15", l7="2021-01-06,-3,5,15",
        l9="2021-01-08,1,20,15", l11="2021-01-10,wet,5,15", l13="2021-01-12,1,5", l15="",
        l17="2021-01-16,1,5,150"))
    why = {r.line: r.why for r in read.refused}
    assert set(why) == {3, 5, 7, 9, 11, 13, 17}
    assert "not a day" in why[3]
    assert "already in line 2" in why[5]
    assert "rain of -3 mm" in why[7]
    assert "over its high" in why[9]
    assert "“wet” is no number for rain" in why[11]
    assert "3 columns" in why[13]
    assert "high of 150 °C" in why[17]
    assert read.filled.filled_days == 8
    assert read.lines == 365


def test_gaps_are_reported_and_filled_by_the_rule():
    days = [*ALL_2021, *(d.replace(year=2022) for d in ALL_2021)]
    row = "{d},{i}.5,5.0,15.0"
    lines = table(days, row=row).splitlines()
    lines[3] = "2021-01-03,NA,7.0,17.0"  # rain missing: from the same day of 2022
    lines[5] = "2021-01-05,2.0,,"  # temperatures missing one day: a straight line
    lines[10:20] = []  # ten days missing: from 2022
    for i in range(12, 17):
        lines[-i] = lines[-i].replace("15.0", "25.0")
    read = read_weather("\n".join(lines))
    record = read.record
    assert read.filled.gaps == (Gap(dt.date(2021, 1, 3), 1), Gap(dt.date(2021, 1, 5), 1),
                                Gap(dt.date(2021, 1, 10), 10))
    assert record.rain_mm[0, 2] == record.rain_mm[1, 2]
    assert record.tmin_c[0, 2] == 7
    assert record.tmin_c[0, 4] == 5
    assert (record.rain_mm[0, 9:19] == record.rain_mm[1, 9:19]).all()
    assert np.isfinite(record.tmax_c).all()


def test_a_leap_day_s_rain_is_kept():
    days = [dt.date(2020, 1, 1) + dt.timedelta(days=i) for i in range(366)]
    read = read_weather(table(days, row="{d},2.5,5.0,15.0", head="date,rain (mm),tmin,tmax"))
    assert read.record.rain_mm.sum() == pytest.approx(366 * 2.5)
    assert read.record.rain_mm[0, 58] == 5.0


def test_only_whole_years_that_follow_on_are_kept():
    days = [dt.date(2018, 11, 1) + dt.timedelta(days=i) for i in range(61 + 365 * 2 + 1 + 90)]
    read = read_weather(table(days))
    assert (read.record.first_year, read.record.years) == (2019, 2)
    assert read.filled.left_out == (2018, 2021)


@pytest.mark.parametrize(("text", "says"), [
    ("", "empty"), ("hello", "one column only"), ("a,b\n1,2", "No column was found for a date"),
    ("date,rain,tmin\n", "the day's high"), (table(ALL_2021[:200]), "300 days or more"),
    (table(ALL_2021[:9], row="{m}/{day}/2021,1,5,15"), "do not tell day from month"),
    ("date,rain,tmin,tmax\n" + "x\n" * 100_001, "is the most")])
def test_what_is_no_daily_weather_is_refused_in_words(text, says):
    with pytest.raises(BadWeather, match=says):
        read_weather(text)


def test_american_dates_are_told_by_their_days():
    read = read_weather(table(row="{m}/{day}/{y},{i}.5,5,15"))
    assert read.day_order == "mdy"
    assert read.record.id == read_weather(table()).record.id


def test_progress_rises_to_the_end():
    steps = list(reading(table(), Choices()))
    shares = steps[:-1]
    assert shares == sorted(shares)
    assert 0 <= shares[0] < shares[-1] <= 1


@settings(deadline=None, max_examples=150)
@given(st.text(max_size=60), st.lists(st.text(alphabet="0123456789-/,;.T\" naé\n", max_size=40),
                                     max_size=12))
def test_any_text_is_read_or_refused(head, rows):
    for first in (head, "date,rain,tmin,tmax"):
        with pytest.raises(BadWeather):
            read_weather("\n".join([first, *rows]))


def test_normals_are_the_means_of_the_years():
    rng = np.random.default_rng(1)
    rain = np.where(rng.random((3, 365)) < 0.3, rng.gamma(1, 6, (3, 365)), 0)
    record = Record(2000, rain, np.full((3, 365), 4.0), np.full((3, 365), 14.0))
    normals = record.normals()
    assert sum(normals.rain_mm) == pytest.approx(rain.sum() / 3, abs=0.1)
    assert normals.tmin_c == (4.0,) * 12
    assert record.method == "Hargreaves"
    windy = Record(2000, rain, record.tmin_c, record.tmax_c, wind_m_s=np.full((3, 365), 4.0))
    still = Record(2000, rain, record.tmin_c, record.tmax_c, wind_m_s=np.full((3, 365), 0.5))
    assert windy.method == "Penman–Monteith"
    assert windy.weather(41, 0).eto_mm.sum() > still.weather(41, 0).eto_mm.sum()
    unknown = Record(2000, rain, record.tmin_c, record.tmax_c,
                     wind_m_s=np.full((3, 365), np.nan))
    usual = Record(2000, rain, record.tmin_c, record.tmax_c, wind_m_s=np.full((3, 365), 2.0))
    assert np.allclose(unknown.weather(41, 0).eto_mm, usual.weather(41, 0).eto_mm)


def test_a_station_s_wind_is_brought_down_to_two_metres():
    # FAO-56 example 14, recalled: 3.2 m/s at 10 m are 2.4 m/s at 2 m.
    text = table(head="date,rain (mm),tmin,tmax,wind (m/s)", row="{d},1,5,15,3.2")
    assert read_weather(text).record.wind_m_s.mean() == pytest.approx(2.4, abs=0.05)
    mast = read_weather(text, Choices(wind_height_m=2.0)).record
    assert mast.wind_m_s.mean() == pytest.approx(3.2, abs=0.01)
