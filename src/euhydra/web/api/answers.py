"""What the API answers with: today's plan, and how stores and plots stand this morning."""

from __future__ import annotations

import datetime as dt
from typing import Literal

from pydantic import BaseModel, Field

from euhydra.core.assessment.assess import Assessment
from euhydra.core.daily.year import TONES
from euhydra.core.garden.base import Weekday
from euhydra.core.garden.model import Zone
from euhydra.core.log.deeds import Deed
from euhydra.core.log.now import Now
from euhydra.core.log.this_year import this_year
from euhydra.core.log.today import Today, today_told

Stands = Literal["full", "enough", "low", "thirsty", "bare"]


class Refused(BaseModel):
    """Why something was not done."""

    refused: str


class Start(BaseModel):
    """One opening of a valve: when, for how long, and what comes where the source has it."""

    at: dt.time
    minutes: float
    litres: float


class ZonePlan(BaseModel):
    """A zone of a timer: how it is set this month, its runs of today, whether they can wait."""

    zone: str
    name: str
    source: str
    minutes: int
    every_h: int = Field(description="hours from run to run, 0 where weekdays are set")
    weekdays: list[Weekday]
    starts_a_day: int
    flow_l_h: float = Field(description="of the zone with half the water, litres an hour")
    runs: list[Start] = Field(description="today's, whether they are held or not")
    hold: bool
    hold_h: int = Field(description="hours that today's run can wait")
    why: str = Field(description="why it is held; empty where it is not")


class ByHand(BaseModel):
    """A plot that is to be watered with cans or a hose today."""

    plot: str
    name: str
    source: str
    litres: float
    done: bool = Field(description="the log has it that it was watered today")


class ToDo(BaseModel):
    """One of the first things to do today, in words, by the rule that asks for it."""

    rule: str
    what: str
    why: str
    about: str = Field(description="id of a store, zone or plot; empty where it is about none")


class Plan(BaseModel):
    """Today's plan of a garden."""

    garden: str
    day: dt.date
    says: str
    zones: list[ZonePlan]
    by_hand: list[ByHand]
    to_do: list[ToDo]
    hold_after_rain_mm: float = Field(description="where its rain sensor holds a timer; 0: none")


class StoreState(BaseModel):
    """A store, or several joined ones that share a level."""

    store: str
    name: str
    joined: list[str] = Field(description="ids of all that share the level")
    litres: float
    usable_l: float
    share: float
    dipped_days_ago: int | None = Field(description="none where a middle year's level is told")


class PlotState(BaseModel):
    """A plot: what is left of what its roots hold, and how that stands."""

    plot: str
    name: str
    left: float
    stands: Stands


class DaysLeft(BaseModel):
    """On which day from today the stores first fail if it stays dry but for what is forecast.

    1 is today. Of the years that began like this one: a tenth fail by ``low``, half by
    ``middle``, nine tenths by ``high``.
    """

    low: int
    middle: int
    high: int


class State(BaseModel):
    """How a garden stands this morning, by its log."""

    garden: str
    day: dt.date
    says: str
    stores: list[StoreState]
    plots: list[PlotState]
    days_left: DaysLeft | None = Field(description="none where they last 60 days and more, or "
                                                   "nothing is fed from a store")


class Kept(BaseModel):
    """How many readings were kept, and how many the log knew already."""

    kept: int
    known: int


def plan(a: Assessment, day: dt.date) -> Plan:
    """What is to be run, held, watered and seen to on a day, as the garden's page says it."""
    told, system = today_told(a, a.log, day, a.forecast, _stands(a, day)), a.garden.units
    watered = {e.about for e in a.log if e.kind == "water" and e.day == day}
    return Plan(
        garden=a.garden.id, day=day, says=told.head.show(system),
        zones=[_zone(a, told, zone, day.month - 1) for zone in a.garden.timed_zones],
        by_hand=[ByHand(plot=o.of, name=o.name, source=o.source, litres=round(o.litres, 1),
                        done=o.of in watered) for o in told.openings if o.by_hand],
        to_do=[_to_do(a, deed) for deed in told.deeds],
        hold_after_rain_mm=a.garden.rain_hold_mm)


def _stands(a: Assessment, day: dt.date) -> Now | None:
    return a.stands if a.today == day else None


def _to_do(a: Assessment, deed: Deed) -> ToDo:
    system = a.garden.units
    return ToDo(rule=deed.rule, what=deed.what.show(system), why=deed.why.show(system),
                about=deed.about)


def _zone(a: Assessment, told: Today, zone: Zone, month: int) -> ZonePlan:
    now = a.schedule.setting_in(zone.id, month)
    hold = next((h for h in told.holds if h.zone.id == zone.id), None)
    return ZonePlan(
        zone=zone.id, name=zone.name, source=zone.source, minutes=now.minutes if now else 0,
        every_h=now.every_h if now else 0, weekdays=list(now.weekdays) if now else [],
        starts_a_day=now.starts_a_day if now else 0,
        flow_l_h=round(a.flows.run_flow_l_h(zone), 2),
        runs=[Start(at=_clock(o.start_h), minutes=o.minutes, litres=round(o.litres, 1))
              for o in told.openings if o.of == zone.id],
        hold=hold is not None, hold_h=hold.hours if hold else 0,
        why="" if hold is None else "rain is forecast" if hold.forecast else "it rained")


def _clock(hour: float) -> dt.time:
    minute = round(hour * 60) % 1440
    return dt.time(minute // 60, minute % 60)


def state(a: Assessment, day: dt.date) -> State:
    """How stores and plots stand on a day's morning, as the garden's picture shows them."""
    year = this_year(a, a.log, day, a.season.typical_year, a.forecast, _stands(a, day))
    now = year.now
    stores = [StoreState(
        store=bank.id, name=bank.name, joined=[s.id for s in bank.stores],
        litres=round(float(level), 1), usable_l=round(bank.usable_l, 1),
        share=round(min(float(level) / max(bank.usable_l, 1e-9), 1.0), 4), dipped_days_ago=dipped)
        for bank, level, dipped in zip(a.banks.banks, now.level.tolist(), now.dipped, strict=False)
        if a.garden.stores]
    plots = [PlotState(plot=plot, name=year.season.world.name_of(plot),
                       left=round(float(year.left[p, now.day]), 4),
                       stands=TONES[year.tone[p, now.day]]) for p, plot in enumerate(year.plots)]
    low, middle, high = now.days_left or (0, 0, 0)
    return State(garden=a.garden.id, day=day,
                 says=today_told(a, a.log, day, a.forecast, now).head.show(a.garden.units),
                 stores=stores, plots=plots,
                 days_left=DaysLeft(low=low, middle=middle, high=high) if middle else None)
