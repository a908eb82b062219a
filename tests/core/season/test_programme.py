"""What the timer does through the year: its hours, and how one that follows the air adjusts."""

import numpy as np
import pytest

from euhydra.core.schedule.settings import Setting
from euhydra.core.season.programme import opened, start_hours
from euhydra.core.weather.generator import MONTH_OF_DAY, DailyWeather

ALWAYS = np.ones(365, dtype=bool)


def every_day(month, minutes=10, starts=1):
    return Setting(month, 0, ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"), starts, minutes,
                   minutes, 0.0, 0.0, True)


def weather(eto, rain=0.0, years=2):
    by_day = np.broadcast_to(np.asarray(eto, dtype=float), (years, 365)).copy()
    none = np.zeros((years, 365))
    return DailyWeather(none + rain, none + 15, none + 25, by_day)


def test_starts_of_a_day_stand_evenly_apart_and_round_the_clock():
    assert start_hours(every_day(6, starts=3), 19.0, days=2) == [19, 3, 11, 43, 27, 35]
    assert start_hours(every_day(6, starts=5), 0.0, days=1) == pytest.approx(
        [0, 4.8, 9.6, 14.4, 19.2])


def test_a_timer_that_follows_the_air_holds_its_month_s_mean():
    """Through a month of even thirst it runs as set; a hotter week a half longer at the most."""
    eto = MONTH_OF_DAY + 1.0
    hot = eto.copy()
    hot[190:195] = 30.0
    july = (MONTH_OF_DAY == 6) & (np.arange(365) >= 184)
    year = [every_day(m) for m in range(12)]
    even, _ = opened(year, [5.0] * 12, weather(eto), ALWAYS, adjusts=True)
    assert even.sum(axis=2)[:, july] == pytest.approx(10.0)
    warm, _ = opened(year, [5.0] * 12, weather(hot), ALWAYS, adjusts=True)
    mean = hot[MONTH_OF_DAY == 6].mean()
    by_day = warm.sum(axis=2)[0]
    assert by_day[189] == pytest.approx(10 * 7 / mean)
    assert by_day[191] == pytest.approx(10 * min((7 + 7 + 30) / 3 / mean, 1.5))
    assert by_day[194] == pytest.approx(15.0), "no more than half as long again"


def test_a_cold_day_or_none_at_all_shortens_its_run():
    eto = np.full(365, 4.0)
    eto[190:193] = 1.0
    eto[250:253] = 0.0
    by_day = opened([every_day(m) for m in range(12)], [5.0] * 12, weather(eto), ALWAYS,
                    adjusts=True)[0].sum(axis=2)[0]
    assert by_day[193] == pytest.approx(10 * 1 / eto[MONTH_OF_DAY == 6].mean())
    assert by_day[253] == 0


def test_it_stays_shut_after_so_much_rain_in_two_days():
    rain = np.zeros(365)
    rain[100:102] = 4.0, 5.0
    minutes, runs = opened([every_day(3)], [5.0], weather(3.0, rain), ALWAYS, hold_mm=8.0)
    shut = np.flatnonzero(minutes[0].sum(axis=1) == 0)
    assert [day for day in shut if MONTH_OF_DAY[day] == 3] == [102]
    assert runs[0, 102].sum() == 0
    assert runs[0, 103].sum() == 1


def test_a_month_s_setting_stands_in_its_month_alone():
    minutes, _ = opened([every_day(5, 12), every_day(6, 20, starts=2)], [5.0, 6.0], weather(3.0),
                        ALWAYS)
    by_day = minutes[1].sum(axis=1)
    assert by_day == pytest.approx(np.select([MONTH_OF_DAY == 5, MONTH_OF_DAY == 6], [12.0, 40.0]))
