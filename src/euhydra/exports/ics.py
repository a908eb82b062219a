"""What falls due as an iCalendar file (RFC 5545), for calendar programs."""

from __future__ import annotations

import datetime as dt

from icalendar import Calendar, Event

from euhydra.core.assessment.assess import Assessment
from euhydra.core.construction.care import due
from euhydra.core.log.coming import by_decline
from euhydra.core.schedule.calendar import Due


def calendar_ics(r: Assessment, today: dt.date) -> bytes:
    """What falls due every year, from its next time on; and what the log asks for, once."""
    book = Calendar()
    book.add("prodid", "-//Euhydra//Garden watering//EN")
    book.add("version", "2.0")
    book.add("x-wr-calname", f"{r.garden.name}: watering")
    for item in due(r.garden, r.schedule):
        month, day = (int(x) for x in item.day.split("-"))
        when = dt.date(today.year, month, day)
        if when < today:
            when = when.replace(year=today.year + 1)
        book.add_component(_event(r, item, when, today, yearly=True))
    for when, item in by_decline(r, r.log):
        book.add_component(_event(r, item, max(when, today), today, yearly=False))
    return bytes(book.to_ical())


def _event(r: Assessment, item: Due, when: dt.date, today: dt.date, *, yearly: bool) -> Event:
    event = Event()
    event.add("uid", f"{item.key}@{r.garden.id}.euhydra")
    event.add("dtstamp", dt.datetime.combine(today, dt.time(), dt.UTC))
    event.add("dtstart", when)
    if yearly:
        event.add("rrule", {"freq": "yearly"})
    event.add("summary", f"{r.garden.name}: {item.title}")
    event.add("description", item.words)
    event.add("transp", "TRANSPARENT")
    return event
