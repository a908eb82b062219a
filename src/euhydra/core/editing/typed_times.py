"""What a person types of times: a dial's marks, days of the week."""

from __future__ import annotations

import re

from euhydra.core.garden.base import WEEK, Weekday
from euhydra.core.parsing import BadEntry, short

WEEKDAY_NAMES: dict[Weekday, str] = {
    "Mon": "mondays", "Tue": "tuesdays", "Wed": "wednesdays", "Thu": "thursdays",
    "Fri": "fridays", "Sat": "saturdays", "Sun": "sundays"}


def parse_marks(typed: str) -> tuple[int, ...]:
    """What stands on a dial: whole numbers, "1 2 4 8 12"; nothing for the usual ones.

    Raises :class:`BadEntry`.
    """
    words = re.findall(r"[^\s,;]+", typed)
    if any(not word.isascii() or not word.isdecimal() or len(word) > 4 for word in words):
        raise BadEntry(typed, f"“{short(typed)}” is not what stands on a dial. Type whole numbers "
                              "such as 5 10 15 30 60, or nothing for the usual ones.")
    return tuple(sorted({int(word) for word in words}))


def parse_weekdays(typed: str) -> tuple[Weekday, ...]:
    """Days of the week: "Mon Thu" or "monday, thursday"; nothing where any will do.

    Raises :class:`BadEntry`.
    """
    found: set[Weekday] = set()
    for word in re.findall(r"[^\s,;]+", typed.lower()):
        day = next((d for d in WEEK if len(word) > 1 and WEEKDAY_NAMES[d].startswith(word)), None)
        if day is None:
            raise BadEntry(typed, f"“{short(word)}” is not a day of the week. Type some such as "
                                  "Mon Thu, or nothing for those that spread the moves best.")
        found.add(day)
    return tuple(day for day in WEEK if day in found)
