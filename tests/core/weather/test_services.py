"""GHCN-Daily in its three dresses: the same days, tenths made whole, what failed left out."""

import datetime as dt

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from euhydra.core.weather.reading import read_weather
from euhydra.core.weather.services import known

STATION = "XX000000001"
YEAR = [dt.date(2021, 1, 1) + dt.timedelta(days=i) for i in range(365)]
HEAT = {day: (50 + day.month * 10, 150 + day.month * 10) for day in YEAR}  # tenths of °C


def of_day(day):
    low, high = HEAT[day]
    return {"PRCP": 25 if day.day % 5 == 0 else 0, "TMIN": low, "TMAX": high, "AWND": 31}


def dly(flaw=()):
    """A month a line: 31 times value, then flags of measure, quality and source."""
    lines = []
    for month in range(1, 13):
        for element in ("PRCP", "TMIN", "TMAX", "AWND", "SNWD"):
            cells = ""
            for n in range(1, 32):
                try:
                    day = dt.date(2021, month, n)
                    value = of_day(day).get(element, 0)
                except ValueError:
                    value, day = -9999, None
                cells += f"{value:5d} {'I' if (day, element) in flaw else ' '}S"
            lines.append(f"{STATION}2021{month:02d}{element}{cells}")
    return "\n".join(lines)


def bare(flaw=()):
    """A value a line, without heads."""
    return "\n".join(f"{STATION},{day:%Y%m%d},{element},{value},,"
                     f"{'I' if (day, element) in flaw else ''},S,"
                     for day in YEAR for element, value in of_day(day).items())


def upright(flaw=()):
    """A column an element, each with a column of its flags."""
    heads = ["PRCP", "TMIN", "TMAX", "AWND"]
    lines = ['"STATION","DATE","NAME",' + ",".join(f'"{h}","{h}_ATTRIBUTES"' for h in heads)]
    for day in YEAR:
        cells = ",".join(f'"{of_day(day)[h]:>5}",",{"I" if (day, h) in flaw else ""},S"'
                         for h in heads)
        lines.append(f'"{STATION}","{day}","MADE UP, XX",{cells}')
    return "\n".join(lines)


@pytest.mark.parametrize("dress", [dly, bare, upright])
def test_each_dress_gives_the_same_days(dress):
    told = known(dress())
    assert told is not None
    assert told.lacks == ()
    record = read_weather(told.table).record
    assert (record.first_year, record.years) == (2021, 1)
    assert record.rain_mm[0, [3, 4]] == pytest.approx([0, 2.5])
    assert record.tmin_c[0, 0] == pytest.approx(6.0)
    assert record.tmax_c[0, 364] == pytest.approx(27.0)
    assert record.rain_mm.sum() == pytest.approx(2.5 * sum(d.day % 5 == 0 for d in YEAR))
    assert record.method == "Penman–Monteith", "there is wind"


@pytest.mark.parametrize("dress", [dly, bare, upright])
def test_what_failed_its_check_counts_as_not_measured(dress):
    wrong = {(YEAR[9], "TMAX"), (YEAR[40], "PRCP")}
    read = read_weather(known(dress(wrong)).table)
    assert read.filled.filled_days == 2
    assert [g.start for g in read.filled.gaps] == [YEAR[9], YEAR[40]]


def test_an_order_in_whole_degrees_of_the_same_service_is_read_by_its_heads():
    text = upright().replace('"PRCP","PRCP_ATTRIBUTES"', '"PRCP","PRCP_ATTRIBUTES"')
    rows = [line.replace('"  ', '"').split('","') for line in text.splitlines()]
    metric = "\n".join('","'.join(f"{int(c) / 10:.1f}" if i in (3, 5, 7, 9) and n else c
                                  for i, c in enumerate(row)) for n, row in enumerate(rows))
    assert known(metric) is None


def test_a_station_without_temperatures_says_what_it_lacks():
    only_rain = "\n".join(line for line in bare().splitlines() if "PRCP" in line)
    assert known(only_rain).lacks == ("the day's low", "the day's high")


def test_a_plain_table_is_left_to_its_heads():
    assert known("date,rain (mm),tmin,tmax\n2021-01-01,1,2,3") is None


@given(st.text(max_size=200) | st.text(max_size=60).map(lambda x: dly()[:600] + x)
       | st.text(max_size=60).map(lambda x: f"{STATION},20210101,PRCP,{x}"))
def test_any_text_is_known_or_not(text):
    told = known(text)
    assert told is None or told.table.startswith("date")


def test_the_days_are_sorted_whatever_their_order():
    lines = bare().splitlines()
    np.random.default_rng(3).shuffle(lines)
    assert known("\n".join(lines)).table == known(bare()).table
