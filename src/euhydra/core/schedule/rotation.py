"""A timer whose hoses are moved in turn: which zone hangs on it on which day of the week."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import product

from euhydra.core.garden.base import WEEK
from euhydra.core.garden.model import Zone
from euhydra.core.schedule.timing import MonthNeed

WEEK_DAYS = 7
PATTERNS = {1: ((0, 1, 2, 3, 4, 5, 6),), 2: ((0, 2, 4, 6), (1, 3, 5, 6)),
            3: ((0, 2, 4), (1, 3, 5), (2, 4, 6), (0, 3, 5), (1, 4, 6))}
Wanting = Sequence[tuple[Zone, MonthNeed]]


@dataclass(frozen=True)
class Turn:
    """A hose's days in the week (0 is Monday), the minutes of each run, and whether it may wait.

    ``zones`` hang on the timer at once: one, or two behind a splitter. ``waits`` is False where
    their roots cannot bridge the days between; such a zone wants a timer of its own.
    """

    zones: tuple[str, ...]
    days: tuple[int, ...]
    minutes: float
    waits: bool


def turns(wanting: Wanting, at_once: int = 1, longest_min: float = math.inf
          ) -> tuple[Turn, ...]:
    """The week's plan for zones that want water, with as few hoses to move on any day as can be.

    Each zone opens as seldom as its roots bridge and the timer's longest run allows, or on its
    gardener's own days; of the days left, those are taken that spread the moves best. Those that
    hang ``at_once`` run as long as the one of them that wants most.
    """
    shared = [wanting[i:i + at_once] for i in range(0, len(wanting), at_once)]
    if not shared:
        return ()
    choices = [_choices(pair, longest_min) for pair in shared]
    best = min(_tried(choices), key=_busiest)
    return tuple(_turn(pair, days) for pair, days in zip(shared, best, strict=True))


def moves_on(plan: tuple[Turn, ...]) -> tuple[int, ...]:
    """How many times hoses are hung on the timer on each day of the week."""
    return tuple(sum(day in turn.days for turn in plan) for day in range(WEEK_DAYS))


def _choices(pair: Wanting, longest_min: float) -> tuple[tuple[int, ...], ...]:
    named = sorted({WEEK.index(day) for zone, _ in pair for day in zone.days})
    if named:
        return (tuple(named),)
    bridged = min(max(1, min(3, int(need.longest_gap_h // 24))) for _, need in pair)
    return next((PATTERNS[between] for between in range(bridged, 1, -1)
                 if _run_min(pair, len(PATTERNS[between][0])) <= longest_min), PATTERNS[1])


def _run_min(pair: Wanting, days: int) -> float:
    """The run on each of so many days a week that gives all of them what they want."""
    return max(need.run_min(WEEK_DAYS / days) for _, need in pair)


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


def _turn(pair: Wanting, days: tuple[int, ...]) -> Turn:
    minutes = _run_min(pair, len(days))
    apart = max((b - a - 1) % WEEK_DAYS + 1
                for a, b in zip(days, (*days[1:], days[0]), strict=True))
    return Turn(tuple(zone.id for zone, _ in pair), days, minutes, all(
        need.longest_gap_h >= 24 * apart - 1e-9 for _, need in pair))
