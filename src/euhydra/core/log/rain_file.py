"""The rain of this year out of a daily file, as entries of the log."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping, Sequence

from euhydra.core.log.entries import LONGEST_NOTE, Entry


def entries_of(fell: Mapping[dt.date, float], log: Sequence[Entry], today: dt.date,
               named: str = "") -> list[Entry]:
    """An entry for each wet day of this year up to today, and for the first and the last of all.

    ``fell`` holds mm by day. The first and the last stand there dry too: a log tells of dry days
    from its first rain on. A day of which someone logged rain by hand stays as it is. A day has
    the same id each time, so that a file that is read again takes the place of what it gave before.
    """
    by_hand = {e.day for e in log if e.kind == "rain" and e.id != id_of(e.day)}
    days = sorted(day for day in fell if day.year == today.year and day <= today)
    return [Entry(id_of(day), day, "rain", value=fell[day], note=named[:LONGEST_NOTE])
            for n, day in enumerate(days)
            if day not in by_hand and (fell[day] > 0 or n in (0, len(days) - 1))]


def id_of(day: dt.date) -> str:
    """What the entry of a day out of a file is called."""
    return f"rain-{day.isoformat()}"


def out_of_files(log: Sequence[Entry], year: int) -> list[Entry]:
    """The entries of a year that came out of daily files."""
    return [e for e in log if e.day.year == year and e.id == id_of(e.day)]
