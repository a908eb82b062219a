"""What the timer does through the year as it is set: minutes open by day and part of the day.

A day has four parts of six hours.
"""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from euhydra.core.garden.base import WEEK, day_of_year
from euhydra.core.schedule.rhythm import FIRST_START_H
from euhydra.core.schedule.settings import Setting
from euhydra.core.weather.generator import MONTH_OF_DAY, DailyWeather

Array = NDArray[np.float64]
PARTS, PART_H = 4, 6.0
ADJUSTS_OVER_DAYS, MOST_ADJUSTED = 3, 1.5  # a weather-adjusting timer, from memory
KEPT = 64  # zones' runs, for the states of a garden that differ in something else
RAIN_DAYS = 2  # days back over which rain is counted for a hold


def start_hours(setting: Setting, first_h: float = FIRST_START_H, days: int = 7) -> list[float]:
    """Hours from Monday midnight at which the valve opens, in so many days."""
    found: list[float] = _starts_on(setting, first_h, np.arange(days)).tolist()
    return found


def _starts_on(setting: Setting, first_h: float, days: NDArray[np.intp], begins: int = 0) -> Array:
    """Hours from the first midnight of each start on some days, the first of all a Monday or what
    weekday it ``begins`` on; an interval runs on from the first.
    """
    if not setting.weekdays:
        return np.arange(first_h, len(days) * 24, setting.every_h, dtype=float)
    week = np.array([day in setting.weekdays for day in WEEK])
    of_a_day = (first_h + np.arange(setting.starts_a_day) * setting.period_h) % 24
    return np.asarray(days[week[(days + begins) % 7]][:, None] * 24.0 + of_a_day).ravel()


@lru_cache(maxsize=KEPT)
def runs(settings: tuple[Setting, ...], first_h: tuple[float, ...], years: int,
         begins: int | None = None) -> Array:
    """Runs of a zone by year, day and part of the day, (years, 365, 4); not to be written to.

    One setting a month, each with the hour of its first start. With ``begins`` all years begin on
    that weekday, from Monday 0, as one of a calendar; else they run on from a Monday.
    """
    found = np.zeros((years, 365, PARTS))
    for setting, start in zip(settings, first_h, strict=True):
        days, hours = (opening_hours(setting, start, years) if begins is None else
                       opening_hours(setting, start, 1, begins))
        at = days * PARTS + (hours // PART_H).astype(np.intp)
        whole = years * 365 if setting.weekdays and begins is None else 365
        found += np.bincount(at, minlength=whole * PARTS).reshape(-1, 365, PARTS)
    found.flags.writeable = False
    return found


def opening_hours(setting: Setting, first_h: float, years: int, begins: int = 0
                  ) -> tuple[NDArray[np.intp], Array]:
    """The days of its month on which a setting opens, and the hour of each start.

    Years of 365 days run on from a Monday, or what weekday they ``begin`` on, so that a week's
    pattern falls on other days in each and its days count through all of them; every other setting
    is alike in each year.
    """
    month = np.flatnonzero(setting.month == MONTH_OF_DAY)
    hours = _starts_on(setting, first_h, np.add.outer(365 * np.arange(years), month).ravel()
                       if setting.weekdays else np.arange(365), begins)
    days = (hours // 24).astype(np.intp)
    mine = MONTH_OF_DAY[days % 365] == setting.month
    return days[mine], hours[mine] % 24


def hours_on(setting: Setting, first_h: float, date: dt.date) -> tuple[float, ...]:
    """The hours at which a setting opens on a date; a week's pattern by the date's own weekday."""
    days, hours = opening_hours(setting, first_h, 1, first_weekday(date))
    return tuple(hours[days == day_of_year(date.isoformat()[5:])].tolist())


def first_weekday(date: dt.date) -> int:
    """The weekday, from Monday 0, that a year of 365 days begins on so that a date has its own."""
    return (date.weekday() - day_of_year(date.isoformat()[5:])) % 7


def opened(settings: Sequence[Setting], first_h: Sequence[float], weather: DailyWeather,
           on: NDArray[np.bool_], *, adjusts: bool = False, hold_mm: float = 0.0,
           begins: int | None = None) -> tuple[Array, Array]:
    """Minutes that a zone is open and its runs, (years, 365, 4) each, on the days it is ``on``.

    A timer that ``adjusts`` follows the thirst of the air of the last days against the month's
    mean. With ``hold_mm`` above 0 it stays shut after so much rain in the last two days.
    ``begins`` is as in :func:`runs`.
    """
    each = np.zeros(365)
    for setting in settings:
        each[setting.month == MONTH_OF_DAY] = setting.minutes
    times = runs(tuple(settings), tuple(first_h), weather.years, begins) * on[:, None]
    if hold_mm > 0:
        times *= (_before(weather.rain_mm, RAIN_DAYS) * RAIN_DAYS < hold_mm)[..., None]
    minutes = times * each[:, None]
    if adjusts:
        minutes *= _adjusted(weather)[..., None]
    return minutes, times * (minutes > 0)


def _adjusted(weather: DailyWeather) -> Array:
    month = np.array([weather.eto_mm[:, MONTH_OF_DAY == m].mean() for m in range(12)])
    share = _before(weather.eto_mm, ADJUSTS_OVER_DAYS) / np.maximum(month[MONTH_OF_DAY], 1e-9)
    return np.asarray(np.clip(share, 0, MOST_ADJUSTED))


def _before(daily: Array, days: int) -> Array:
    """Mean of the days before each day; what came before the first is taken from the last."""
    flat = daily.reshape(-1)
    total = np.cumsum(np.concatenate([flat[-days:], flat]))
    total = np.concatenate([[0.0], total])
    return np.asarray(((total[days:-1] - total[:-days - 1]) / days).reshape(daily.shape))
