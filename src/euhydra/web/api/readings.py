"""What devices tell: readings of gauges and meters as entries of the log, and a week's forecast."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from euhydra.core.assessment.assess import Assessment
from euhydra.core.log.entries import ID, KINDS, BadEntryOf, Entry, checked, felt_of, things_of
from euhydra.core.log.levels import dip_m
from euhydra.core.log.now import MOST_FORECAST_DAYS
from euhydra.store.log import fresh_id

Number = Annotated[float, Field(allow_inf_nan=False)]
About = Annotated[str, Field(max_length=64)]


class _Reading(BaseModel, extra="forbid"):
    day: dt.date | None = Field(None, description="today where none is given")
    id: str = Field("", pattern=f"^({ID})?$",
                    description="a reading that is sent twice under one id stands once")


class Rain(_Reading):
    """Rain in mm that fell on the day, or since the last reading."""

    kind: Literal["rain"]
    value: Number


class Flow(_Reading):
    """What a zone gives, litres an hour."""

    kind: Literal["flow"]
    about: About = Field(description="a zone's id")
    value: Number


class Dip(_Reading):
    """Water over the base of a store, m."""

    kind: Literal["dip"]
    about: About = Field(description="a store's id")
    value: Number


class Level(_Reading):
    """What a gauge shows of a store, and of all that are joined with it: usable litres."""

    kind: Literal["level"]
    about: About = Field(description="a store's id")
    litres: Number


class Water(_Reading):
    """Litres that a zone or a plot was given beside what its timer is set to."""

    kind: Literal["water"]
    about: About = Field(description="a zone's or a plot's id")
    litres: Number


class Soil(_Reading):
    """How the soil of a plot feels to a hand."""

    kind: Literal["soil"]
    about: About = Field(description="a plot's id")
    word: Literal["dry", "right", "muddy"]


class Tension(_Reading):
    """Soil water tension in a plot, kPa: under 10 it is muddy, over 60 dry."""

    kind: Literal["tension"]
    about: About = Field(description="a plot's id")
    value: Annotated[float, Field(ge=0, le=2000)]


Reading = Annotated[Rain | Flow | Dip | Level | Water | Soil | Tension,
                    Field(discriminator="kind")]


class Readings(BaseModel, extra="forbid"):
    """What a device has to say, now or for some days; all of it is kept, or none."""

    readings: list[Reading] = Field(min_length=1, max_length=200)


class RainOfDay(BaseModel, extra="forbid"):
    """Rain that is forecast for a day, mm."""

    day: dt.date
    rain_mm: Annotated[float, Field(ge=0, le=500)]


class Forecast(BaseModel, extra="forbid"):
    """Rain to come, in place of all that was forecast before; nothing where it is empty."""

    days: list[RainOfDay] = Field(max_length=MOST_FORECAST_DAYS)


def entry_of(a: Assessment, one: Reading, today: dt.date) -> Entry:
    """A reading as an entry of the log. Raises :class:`BadEntryOf` saying what is allowed."""
    kind, value, word, note = _said(a, one)
    about = getattr(one, "about", "")
    there = things_of(a.garden, KINDS[kind].about)
    if KINDS[kind].about and about not in there:
        raise BadEntryOf(f"“{about[:40]}” is none of: {', '.join(there)}.")
    return checked(Entry(one.id or fresh_id(), one.day or today, kind, about, value, word, note,
                         there.get(about, "")), today)


def _said(a: Assessment, one: Reading) -> tuple[str, float | None, str, str]:
    """The kind of entry that a reading is, its number, its word, what is noted with it."""
    if isinstance(one, Soil):
        return "soil", None, one.word, ""
    if isinstance(one, Tension):
        return "soil", None, felt_of(one.value), f"{one.value:g} kPa by a gauge"
    if isinstance(one, Level):
        return "dip", _depth(a, one), "", ""
    if isinstance(one, Water):
        return "water", one.litres, "", ""
    return one.kind, one.value, "", ""


def _depth(a: Assessment, one: Level) -> float:
    """The dip of a store that holds so many litres with those it is joined to."""
    if one.about not in things_of(a.garden, "store"):
        return 0.0  # told below, with the stores that there are
    bank = a.banks.holding(one.about)
    if not 0 <= one.litres <= bank.usable_l:
        raise BadEntryOf(f"{one.litres:g} L is out of reach: from 0 to {bank.usable_l:.0f} L.")
    return dip_m(bank, next(s for s in bank.stores if s.id == one.about), one.litres)
