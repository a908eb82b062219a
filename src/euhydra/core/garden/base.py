"""What every part of a garden is made from: frozen bases, and the makers of typed fields."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Any, Literal, get_args

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, StringConstraints

Weekday = Literal["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"]
WEEK: tuple[Weekday, ...] = get_args(Weekday)
Month = Literal["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov",
                "Dec"]
YEAR: tuple[Month, ...] = get_args(Month)
DAYS_BEFORE_MONTH = (0, 31, 59, 90, 120, 151, 181, 212, 243, 273, 304, 334)


def _whole_text(text: str) -> str:
    if any(ord(c) < 32 or 0xD800 <= ord(c) <= 0xDFFF for c in text):
        raise ValueError("holds control characters that cannot be kept")
    return text


def _month_day(text: str) -> str:
    if text:
        dt.date.fromisoformat(f"2001-{text}")
    return text


Id = Annotated[str, StringConstraints(pattern=r"^[a-z0-9][a-z0-9-]{0,63}$")]
OptionalId = Annotated[str, StringConstraints(pattern=r"^([a-z0-9][a-z0-9-]{0,63})?$")]
Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80),
                 AfterValidator(_whole_text)]
Note = Annotated[str, StringConstraints(max_length=2000), AfterValidator(_whole_text)]
MonthDay = Annotated[str, StringConstraints(pattern=r"^(\d\d-\d\d)?$"), AfterValidator(_month_day)]
Level = Annotated[float, Field(ge=-100, le=100)]


def measure(label: str, kind: str, low: float, high: float, default: Any = ...) -> Any:
    """A number a person may type: its label, kind (see ``units.KINDS``) and bounds, inclusive."""
    return Field(default, title=label, ge=low, le=high, json_schema_extra={"kind": kind})


def pick(label: str, table: str, default: Any = ..., only: str | tuple[str, ...] = "",
         but: str = "") -> Any:
    """A key of a table in the library; a person picks among those that start with ``only``.

    The row ``but`` is not among them.
    """
    return Field(default, title=label, max_length=64,
                 json_schema_extra={"table": table, "but": but, "only": (
                     only if isinstance(only, str) else list(only))})


def day(label: str, default: Any = ..., **more: Any) -> Any:
    """A day of the year as month-day."""
    return Field(default, title=label, json_schema_extra={"kind": "monthday"}, **more)


def refer(label: str, things: str, default: Any = ...) -> Any:
    """The id of another thing of the garden; a default of "" lets it stay empty."""
    return Field(default, title=label, json_schema_extra={"refers": things})


class Part(BaseModel):
    """Base of all parts: frozen, no unknown keys, no NaN."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


class Thing(Part):
    """A part with a lasting id and the name a person gave it."""

    id: Id
    name: Name = Field(title="name")


EDGE_M = 1000.0  # how far the plan reaches from its datum
HIGHEST_M = 30.0  # how far the ground lies over or under it


class Point(Part):
    """A place in plan, metres on the site grid."""

    x_m: float = measure("east", "length", -EDGE_M, EDGE_M)
    y_m: float = measure("north", "length", -EDGE_M, EDGE_M)


def day_of_year(month_day: str) -> int:
    """0 for ``"01-01"``, 364 for ``"12-31"``, in a year of 365 days (29 February counts as 28)."""
    month, day = int(month_day[:2]), int(month_day[3:])
    return DAYS_BEFORE_MONTH[month - 1] + (min(day, 28) if month == 2 else day) - 1


def month_day(day: int) -> str:
    """The month-day of a day of the year from 0, wrapping round."""
    day %= 365
    month = max(m for m in range(12) if DAYS_BEFORE_MONTH[m] <= day)
    return f"{month + 1:02d}-{day - DAYS_BEFORE_MONTH[month] + 1:02d}"
