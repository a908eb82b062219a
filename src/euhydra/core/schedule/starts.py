"""At which hours zones open first, so that no two draw from one source at once."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

from euhydra.core.garden.base import WEEK
from euhydra.core.schedule.settings import Allowed, Setting

NEXT_DAY: dict[str, str] = {day: WEEK[(i + 1) % 7] for i, day in enumerate(WEEK)}
MOMENT_H = 1e-6


@dataclass(frozen=True)
class Opening:
    """What opens at one hour: zones of a source with one rhythm, the longest run of them.

    Two hoses on one timer open together.
    """

    zones: tuple[str, ...]
    source: str
    allowed: Allowed
    setting: Setting

    @property
    def hours(self) -> float:
        """How long it is open each time."""
        return self.setting.minutes / 60


@dataclass(frozen=True)
class Start:
    """An opening at its hour of the day; ``late`` where it found no free one that is allowed."""

    opening: Opening
    at_h: float
    late: bool = False

    @property
    def days(self) -> frozenset[str]:
        """The weekdays on which it may be open."""
        named: frozenset[str] = frozenset(self.opening.setting.weekdays or WEEK)
        over = self.at_h % 24 + self.opening.hours > 24
        return named | {NEXT_DAY[day] for day in named} if over else named

    def clashes(self, other: Start) -> bool:
        """Whether the two are ever open at once.

        Rhythms of so many hours meet again and again: all that counts is where each begins
        within the longest time that goes into both.
        """
        if not self.days & other.days:
            return False
        shared = math.gcd(*(max(round(60 * s.opening.setting.period_h), 1)
                            for s in (self, other))) / 60
        after = (other.at_h - self.at_h) % shared
        return (after < self.opening.hours - MOMENT_H
                or shared - after < other.opening.hours - MOMENT_H)


def placed(openings: Iterable[Opening]) -> tuple[Start, ...]:
    """Each opening at the first hour that is allowed and free, in turn.

    Where none is, it begins as the one before it on its source ends, and is ``late``.
    """
    found: list[Start] = []
    for opening in openings:
        mine = [s for s in found if s.opening.source == opening.source]
        found.append(_first_free(opening, mine))
    return tuple(found)


def _first_free(opening: Opening, mine: list[Start]) -> Start:
    allowed = opening.allowed
    ends = [s.at_h + s.opening.hours for s in mine]
    at = [allowed.first_h, *ends[-1:], *sorted(e % 24 for e in ends if e % 24 > allowed.first_h)]
    for hour in at:
        start = Start(opening, hour)
        if _is_allowed(start) and not any(start.clashes(other) for other in mine):
            return start
    return Start(opening, ends[-1] if ends else allowed.first_h, late=True)


def _is_allowed(start: Start) -> bool:
    """Whether each of its runs on a day begins and ends within the hours that are allowed."""
    opening, allowed = start.opening, start.opening.allowed
    if allowed.until_h - allowed.from_h >= 24:
        return start.at_h < 24
    last = start.at_h + _last_after_h(opening.setting) + opening.hours
    return allowed.from_h <= start.at_h and last <= allowed.until_h + MOMENT_H


def _last_after_h(setting: Setting) -> float:
    """Hours from a day's first start to its last one."""
    if setting.weekdays:
        return (setting.starts_a_day - 1) * setting.period_h
    return 24.0 - setting.every_h if setting.every_h < 24 else 0.0
