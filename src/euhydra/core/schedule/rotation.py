"""One timer for hoses that are moved in turn: which zone hangs on it on which day of the week."""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import product

from euhydra.core.garden.model import Zone
from euhydra.core.schedule.schedule import Schedule
from euhydra.core.schedule.timing import MonthNeed

WEEK_DAYS = 7
PATTERNS = {1: ((0, 1, 2, 3, 4, 5, 6),), 2: ((0, 2, 4, 6), (1, 3, 5, 6)),
            3: ((0, 2, 4), (1, 3, 5), (2, 4, 6), (0, 3, 5), (1, 4, 6))}


@dataclass(frozen=True)
class Turn:
    """A zone's days in the week (0 is Monday), the minutes of each run, and whether it may wait.

    ``waits`` is False where its roots cannot bridge the days between; such a zone wants a timer
    of its own.
    """

    zone: str
    days: tuple[int, ...]
    minutes: float
    waits: bool


def turns(schedule: Schedule, source: str, month: int) -> tuple[Turn, ...]:
    """The week's plan for the zones of a source, with as few hoses to move on any day as can be.

    Each zone opens as seldom as its roots bridge; of the days that allows, those are taken that
    spread the moves best.
    """
    wanting = [(z, need) for z in schedule.zones if z.source == source
               and 0 < (need := schedule.needs[z.id][month]).minutes_a_day < math.inf]
    if not wanting:
        return ()
    choices = [PATTERNS[_days_between(need)] for _, need in wanting]
    best = min(_tried(choices), key=_busiest)
    return tuple(_turn(zone, need, days)
                 for (zone, need), days in zip(wanting, best, strict=True))


def moves_on(plan: tuple[Turn, ...]) -> tuple[int, ...]:
    """How many zones hang on the timer on each day of the week."""
    return tuple(sum(day in turn.days for turn in plan) for day in range(WEEK_DAYS))


def _days_between(need: MonthNeed) -> int:
    return max(1, min(3, int(need.longest_gap_h // 24)))


def _tried(choices: list[tuple[tuple[int, ...], ...]]) -> list[tuple[tuple[int, ...], ...]]:
    """All plans where they are few, else each zone's best beside those before it."""
    if math.prod(len(c) for c in choices) <= 4000:
        return list(product(*choices))
    plan: tuple[tuple[int, ...], ...] = ()
    for days in choices:
        plan = min(((*plan, d) for d in days), key=_busiest)
    return [plan]


def _busiest(plan: tuple[tuple[int, ...], ...]) -> tuple[int, int]:
    moves = [sum(day in days for days in plan) for day in range(WEEK_DAYS)]
    return max(moves), sum(m * m for m in moves)


def _turn(zone: Zone, need: MonthNeed, days: tuple[int, ...]) -> Turn:
    minutes = need.run_min(WEEK_DAYS / len(days))
    return Turn(zone.id, days, minutes, need.longest_gap_h >= 24 - 1e-9)
