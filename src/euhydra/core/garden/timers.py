"""Timers as things of the garden: each opens its zones, by valves or by hoses that are moved."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from euhydra.core.garden.base import Thing, measure, pick

BY_HAND = "hand"  # the row of the table that stands for a tap opened by hand
Marks = tuple[int, ...]
MOST_MARK = 720  # minutes or hours on a dial


class Timer(Thing):
    """A timer of one kind at its zones' sources: as many alike as their valves ask for.

    It opens first in the morning, in the evening or in pulses through the day, never before
    ``from_h`` nor after ``until_h`` (hours of the clock). With ``hoses`` over 0 there is one, and
    so many hoses hang on it at once, moved by hand among its zones; else each zone has a valve.
    ``marks_h`` and ``marks_min`` are what stands on one's own dial (hours between runs, minutes a
    run), () for what its kind usually has.
    """

    kind: str = pick("kind of timer", "timers", "dial-ball", but=BY_HAND)
    opens: Literal["morning", "evening", "pulses"] = Field("morning", title="opens in")
    from_h: float = measure("not before", "clock", 0, 23.5, 0.0)
    until_h: float = measure("not after", "clock", 0.5, 24, 24.0)
    hoses: int = measure("hoses moved by hand", "count", 0, 2, 0)
    marks_h: Marks = Field((), max_length=24, title="hours on its dial",
                           json_schema_extra={"kind": "marks"})
    marks_min: Marks = Field((), max_length=24, title="minutes on its dial",
                             json_schema_extra={"kind": "marks"})

    @model_validator(mode="after")
    def _can_open(self) -> Timer:
        if self.kind == BY_HAND:
            raise ValueError(f"{self.name} is a tap opened by hand, which is no timer: leave its "
                             "zones to the hand")
        if self.from_h >= self.until_h:
            raise ValueError(f"{self.name} may open from {self.from_h:g} until {self.until_h:g} "
                             "o’clock: the first is to come before the second")
        for marks in (self.marks_h, self.marks_min):
            if any(not 1 <= mark <= MOST_MARK for mark in marks):
                raise ValueError(f"{self.name}: what stands on a dial goes from 1 to {MOST_MARK}")
        return self

    @property
    def moved(self) -> bool:
        """Whether its hoses are moved by hand among its zones."""
        return self.hoses > 0
