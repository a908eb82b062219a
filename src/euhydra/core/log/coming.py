"""What falls due after a day: the year's care, and filters that their own readings call for."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence

from euhydra.core.construction.care import due
from euhydra.core.garden.base import day_of_year
from euhydra.core.log.advice import rinse_by
from euhydra.core.log.entries import Entry
from euhydra.core.results.results import Results
from euhydra.core.schedule.calendar import Due

SOON_DAYS = 14


def coming(r: Results, entries: Sequence[Entry], today: dt.date, within: int = SOON_DAYS
           ) -> list[tuple[int, Due]]:
    """What falls due in so many days, with in how many; what is late, today."""
    now = day_of_year(today.isoformat()[5:])
    days = [((day_of_year(d.day) - now) % 365, d) for d in due(r.garden, r.schedule)]
    days += [(max((day - today).days, 0), d) for day, d in by_decline(r, entries)]
    return sorted(((n, d) for n, d in days if n <= within), key=lambda pair: pair[0])


def by_decline(r: Results, entries: Sequence[Entry]) -> list[tuple[dt.date, Due]]:
    """Filters to rinse by the day that readings name, once."""
    told = [(zone, by) for zone in r.garden.timed_zones if (by := rinse_by(zone, entries))]
    return [(by, Due(f"rinse-{zone.id}", by.isoformat()[5:],
                     f"Rinse the filter of {zone.name}, flush its ends",
                     "Its flow falls, by your readings; read it again afterwards."))
            for zone, by in told]
