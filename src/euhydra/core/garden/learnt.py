"""What a garden was taught by its gardener's readings: values of its own, and their days."""

from __future__ import annotations

import datetime as dt
from typing import TYPE_CHECKING, Any

from pydantic import Field, model_validator

from euhydra.core.garden.base import Part

if TYPE_CHECKING:
    from euhydra.core.garden.model import Garden

TABLE = {"own_runoff": 0.0, "leak_l_day": 0.0, "thirst": 1.0, "read_l_h": 0.0, "read_at": 0.5,
         "falls_a_week": 0.0}


class Learnt(Part):
    """Values put at paths of the garden by readings from ``first`` to ``last``, so many of them.

    What they taught lies from ``low`` to ``high``, nine times in ten. True as long as those values
    stand there; typed otherwise, they are one's own entry.
    """

    key: str = Field(max_length=120)
    paths: tuple[str, ...] = Field(min_length=1, max_length=40)
    values: tuple[float, ...] = Field(min_length=1, max_length=40)
    first: dt.date
    last: dt.date
    readings: int = Field(ge=1, le=100_000)
    low: float
    high: float

    @model_validator(mode="after")
    def _of_the_tables(self) -> Learnt:
        if len(self.paths) != len(self.values):
            raise ValueError(f"{self.key}: {len(self.paths)} places and {len(self.values)} values")
        odd = [path for path in self.paths if path.split("/")[-1] not in TABLE]
        if odd:
            raise ValueError(f"{self.key}: “{odd[0][:40]}” is nothing that readings teach")
        return self

    @property
    def moves_times(self) -> bool:
        """Whether timers are set otherwise for it, so that readings before it are of other runs."""
        return any(path.split("/")[-1] in ("thirst", "read_l_h") for path in self.paths)

    @property
    def source(self) -> str:
        """Where the values come from, in words."""
        return (f"your readings, {self.first.day} {self.first:%B %Y} to {self.last.day} "
                f"{self.last:%B %Y}")


def source_of(garden: Garden, path: str) -> str:
    """Where a value of one's own comes from: readings, as long as it is what they taught."""
    for learnt in garden.learnt:
        if path in learnt.paths and learnt.values[learnt.paths.index(path)] == _at(garden, path):
            return learnt.source
    return "your entry"


def _at(garden: Garden, path: str) -> Any:
    """What stands at a path of two or of no things; None where it is gone."""
    kind, _, rest = path.partition("/")
    if not rest:
        return getattr(garden, kind, None)
    thing, _, key = rest.partition("/")
    return next((getattr(x, key, None) for x in getattr(garden, kind, ()) if x.id == thing), None)
