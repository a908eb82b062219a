"""What a person types of times: a dial's marks, days of the week, months of the year."""

from __future__ import annotations

import re

from euhydra.core.garden.base import WEEK, YEAR, Month, Weekday
from euhydra.core.parsing import BadEntry, short

WEEKDAY_NAMES: dict[Weekday, str] = {
    "Mon": "mondays", "Tue": "tuesdays", "Wed": "wednesdays", "Thu": "thursdays",
    "Fri": "fridays", "Sat": "saturdays", "Sun": "sundays"}


MONTH_NAMES: dict[Month, str] = {
    "Jan": "january", "Feb": "february", "Mar": "march", "Apr": "april", "May": "may",
    "Jun": "june", "Jul": "july", "Aug": "august", "Sep": "september", "Oct": "october",
    "Nov": "november", "Dec": "december"}


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


def parse_months(typed: str) -> tuple[Month, ...]:
    """Months of the year: "Jun-Aug", "june, july" or "6 7"; nothing for all of them.

    A stretch may run over the turn of the year. Raises :class:`BadEntry`.
    """
    found: set[int] = set()
    for word in re.findall(r"[^\s,;]+", re.sub(r"\s*(?:-|–|\bto\b)\s*", "-", typed.lower())):
        ends = [_month(end) for end in word.split("-")]
        if len(ends) > 2 or None in ends:
            raise BadEntry(typed, f"“{short(word)}” is not a month. Type some such as Jul Aug, or "
                                  "Jul-Sep, or nothing for the whole year.")
        first, last = int(ends[0] or 0), int(ends[-1] or 0)
        found |= {(first + n) % 12 for n in range((last - first) % 12 + 1)}
    return tuple(YEAR[m] for m in sorted(found)) if len(found) < 12 else ()


def _month(word: str) -> int | None:
    """The month (0 to 11) of a name's beginning, or of a number from 1."""
    if word.isascii() and word.isdecimal():
        return int(word) - 1 if len(word) < 3 and 1 <= int(word) <= 12 else None
    return next((i for i, m in enumerate(YEAR) if len(word) > 2
                 and MONTH_NAMES[m].startswith(word)), None)
