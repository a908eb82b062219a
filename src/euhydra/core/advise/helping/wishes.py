"""What a person wants of their garden, and what they will not do for it."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Literal

from euhydra.core.advise.helping.moves import Move, Need
from euhydra.core.advise.helping.weighing import COUNTED_YEARS, Weighed
from euhydra.core.season.thirsty import MANY_DAYS

SAME_THIRST = 0.5  # days a year, all plots together, that are no loss
SAME_L, SAME_H = 50.0, 0.5  # litres and hours a year that are no more
WORTH_A_CHANGE = 3.0  # so much money must one more change spare to be told, from memory
NEARLY, ABOUT = 0.02, 0.005  # of the whole way: as good as what is least, as the nearest
REACHED = 1e-9


@dataclass(frozen=True)
class Goal:
    """One aim. ``far`` is how far a garden is from it, 0 where it is reached.

    What is to be ``least`` is never reached; no garden counts in which more is thirsty for it.
    ``seen`` is the figure that gardens are shown by beside what they cost: less of it is better.
    """

    key: str
    words: str
    far: Callable[[Weighed], float]
    seen: Literal["thirst", "tap_l", "hand_h", "lasts"] = "thirst"
    least: bool = False

    def show_by(self, w: Weighed) -> float:
        """That figure of a garden, turned round where more is better."""
        return -float(w.lasts) if self.seen == "lasts" else float(getattr(w, self.seen))


@dataclass(frozen=True)
class Wish:
    """An aim, and what is refused: needs, more than a sum, more than hours, things left alone.

    ``weeks`` is how long stores should last without rain, where that is the aim.
    """

    goal: str = "sure-8"
    refused: frozenset[Need] = frozenset()
    most_money: float = math.inf
    most_hours: float = math.inf
    alone: frozenset[str] = frozenset()
    weeks: int = 3

    def allows(self, move: Move) -> bool:
        """Whether a change is one that the person would make, taken by itself."""
        return (not move.needs & self.refused and not move.touches & self.alone
                and move.hours <= self.most_hours)

    def affords(self, w: Weighed, start: Weighed) -> bool:
        """Whether changes together stay within the sum and the hours, and within what is refused:
        with no mains water no more of it, with nothing more by hand no more carrying.
        """
        return (w.bought <= self.most_money + 1e-6 and w.hours <= self.most_hours + 1e-6
                and ("mains" not in self.refused or w.tap_l <= start.tap_l + SAME_L)
                and ("carrying" not in self.refused or w.hand_h <= start.hand_h + SAME_H))

    def cost(self, w: Weighed, start: Weighed) -> float:
        """What is bought, and what the tap's water costs more in COUNTED_YEARS than it did.

        Where least money is the aim, less water for the tap counts too.
        """
        more = COUNTED_YEARS * (w.water_cost - start.water_cost)
        return w.bought + (more if self.goal == "money" else max(more, 0.0))

    def rank(self, w: Weighed, start: Weighed) -> tuple[float, float, float, int]:
        """What is better comes first: nearer the aim, then cheaper, less work, fewer changes."""
        return (round(self.far(w, start), 3),
                round(self.cost(w, start) + WORTH_A_CHANGE * w.changes, 2),
                round(w.hours + COUNTED_YEARS * max(w.hand_h - start.hand_h, 0.0), 2), w.changes)

    def far(self, w: Weighed, start: Weighed) -> float:
        """How far a garden is from the aim; infinite where it is more thirsty for it."""
        goal = self.aim
        if goal.least and w.thirst > start.thirst + SAME_THIRST:
            return math.inf
        return goal.far(w)

    def serves(self, far: float, least: float, at_first: float) -> bool:
        """Whether a garden so far from the aim has what is wanted, where the nearest is ``least``.

        Where none reaches it those are as good that come nearly as near, by the way ``at_first``.
        """
        way = NEARLY if self.aim.least else ABOUT if least > REACHED else 0.0
        return far <= least + REACHED + way * abs(at_first)

    @property
    def aim(self) -> Goal:
        """The goal itself. Raises KeyError where there is none of that name."""
        if self.goal == "weeks":
            return Goal("weeks", f"{self.weeks} weeks without rain",
                        lambda w: max(0.0, 7.0 * self.weeks - w.lasts), "lasts")
        return GOALS[self.goal]


def _beyond(share: float) -> Callable[[Weighed], float]:
    """Thirsty days beyond MANY_DAYS that plots have in a year; 0 once enough years are good."""
    return lambda w: 0.0 if w.sure >= share - 1e-9 else max(w.over, _rank(w.worst, share), 1e-3)


def _rank(worst: Sequence[float], share: float) -> float:
    """How far the year that decides is over MANY_DAYS, a little of it."""
    return 0.01 * max(0.0, sorted(worst)[math.ceil(share * len(worst) - 1e-9) - 1] - MANY_DAYS)


GOALS: dict[str, Goal] = {goal.key: goal for goal in (
    Goal("sure-8", "Nothing thirsty in eight years of ten", _beyond(0.8)),
    Goal("sure-9", "Nothing thirsty in nine years of ten", _beyond(0.9)),
    Goal("tap", "Least tap water", lambda w: w.tap_l, "tap_l", least=True),
    Goal("money", "Least money in ten years", lambda w: w.money, least=True),
    Goal("work", "Least carrying", lambda w: w.hand_h, "hand_h", least=True))}
