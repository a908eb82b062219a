"""What falls due as an iCalendar file (RFC 5545), each entry once a year, for calendar programs."""

from __future__ import annotations

import datetime as dt

from icalendar import Calendar, Event

from euhydra.core.calendar import due
from euhydra.core.reckoning import Reckoning


def calendar_ics(r: Reckoning, today: dt.date) -> bytes:
    """Every day of :func:`~euhydra.core.calendar.due`, from its next time on."""
    book = Calendar()
    book.add("prodid", "-//Euhydra//Garden watering//EN")
    book.add("version", "2.0")
    book.add("x-wr-calname", f"{r.garden.name}: watering")
    for item in due(r):
        month, day = (int(x) for x in item.day.split("-"))
        when = dt.date(today.year, month, day)
        if when < today:
            when = when.replace(year=today.year + 1)
        event = Event()
        event.add("uid", f"{item.key}@{r.garden.id}.euhydra")
        event.add("dtstamp", dt.datetime.combine(today, dt.time(), dt.UTC))
        event.add("dtstart", when)
        event.add("rrule", {"freq": "yearly"})
        event.add("summary", f"{r.garden.name}: {item.title}")
        event.add("description", item.words)
        event.add("transp", "TRANSPARENT")
        book.add_component(event)
    return bytes(book.to_ical())
