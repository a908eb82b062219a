"""One run of a day: when, for how long, what came."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Run:
    """One opening of a valve, or one round with cans or a hose.

    ``of`` is a zone's id, or that of a plot that is watered by hand. ``litres`` came, ``lacking``
    would have come had there been any; of a day with more runs each has its share by its minutes.
    """

    of: str
    day: int
    start_h: float
    minutes: float
    litres: float
    lacking: float
    by_hand: bool = False

    @property
    def flow_l_h(self) -> float:
        """Mean flow of the run at the level of its day, L/h."""
        return self.litres / self.minutes * 60 if self.minutes > 0 else 0.0
