"""The frost at a site: when timer, pump and lines come in before it, and go out after it."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from euhydra.core.garden.base import day_of_year, month_day
from euhydra.core.garden.site import Site

BEFORE_FROST_DAYS, AFTER_FROST_DAYS = 7, 3  # common practice: before the first hard one


def timer_in(site: Site) -> str:
    """The day (``MM-DD``) on which the timer comes in; "" where there is no frost."""
    return month_day(day_of_year(site.first_frost) - BEFORE_FROST_DAYS) if site.first_frost else ""


def timer_out(site: Site) -> str:
    """The day (``MM-DD``) on which it goes out again; "" where there is no frost."""
    return month_day(day_of_year(site.last_frost) + AFTER_FROST_DAYS) if site.last_frost else ""


def timer_days(site: Site) -> NDArray[np.bool_]:
    """Days of the year on which the timer is out (365,): all where there is no frost."""
    if not (site.first_frost and site.last_frost):
        return np.ones(365, dtype=bool)
    out, into = day_of_year(timer_out(site)), day_of_year(timer_in(site))
    since = (np.arange(365) - out) % 365
    return np.asarray(since < (into - out) % 365)
