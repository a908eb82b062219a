"""What a change buys and what it makes worse, in words."""

from __future__ import annotations

from collections.abc import Iterator

from euhydra.core.advise.helping.weighing import Weighed
from euhydra.core.statements.figures import Amount, Phrase, say

DAYS, LITRES, HOURS, SHARE = 0.5, 50.0, 0.5, 0.03  # less is not told


def buys(before: Weighed, after: Weighed) -> tuple[Phrase, ...]:
    """What is better after than before, the weightiest first."""
    return tuple(_told(before, after))


def worsens(before: Weighed, after: Weighed) -> tuple[Phrase, ...]:
    """What is worse after than before."""
    return tuple(_told(after, before, better=False))


def _told(worse: Weighed, good: Weighed, *, better: bool = True) -> Iterator[Phrase]:
    """How much less one garden lacks than another, in words of gain or of loss."""
    less, more = ("less", "longer") if better else ("more", "shorter")
    if (days := worse.thirst - good.thirst) >= DAYS:
        yield say("{d} a year " + less + " of thirst", d=_days(days))
    if good.sure - worse.sure >= SHARE:
        first, then = (worse, good) if better else (good, worse)
        yield say("good years {a} → {b}", a=Amount(first.sure, "share"),
                  b=Amount(then.sure, "share"))
    if (litres := worse.tap_l - good.tap_l) >= LITRES:
        yield say("{v} a year " + less + " from the tap", v=Amount(litres, "yearly"))
    if (hours := worse.hand_h - good.hand_h) >= HOURS:
        yield say("{h} a year " + less + " of carrying", h=Amount(hours, "hours"))
    if good.lasts > worse.lasts:
        yield say("full stores last {d} " + more, d=Amount(good.lasts - worse.lasts, "days"))


def costs(before: Weighed, after: Weighed) -> tuple[Phrase, ...]:
    """What it takes: money for what is bought, and work."""
    found = []
    if (bought := after.bought - before.bought) >= 0.5:
        found.append(say("{m} to buy", m=Amount(bought, "money", 0)))
    found.append(say("{h} of work", h=Amount(max(after.hours - before.hours, 0.1), "hours", 1)))
    return tuple(found)


def _days(days: float) -> Amount:
    return Amount(days, "days", 0 if days >= 3 else 1)
