"""What the log says to do: readings held against the reckoning, a step at a time."""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Store, Zone
from euhydra.core.log.entries import Entry
from euhydra.core.log.levels import bank_l, beside_plan, caught_l_mm, drawn_l_day, rain_mm
from euhydra.core.schedule import seasonal_adjust
from euhydra.core.schedule.timing import efficiency
from euhydra.core.statements.figures import Amount, Phrase, quoted, say
from euhydra.core.statements.findings import Finding, Remedy

if TYPE_CHECKING:
    from euhydra.core.results.results import Results
    from euhydra.core.storage import Bank

LOOK_BACK_DAYS, SETTLES_DAYS = 21, 7  # a change is felt in a week, from memory
HEAVY_MM, AFTER_RAIN_DAYS = 10.0, 3
STEP = 0.1  # of a run, the most it moves at once; from memory
LEAST, MOST = -0.5, 1.0
FALLS, CLEAN_AT = 0.1, 0.7  # of the first reading: told, and no longer left; from memory
MOST_AHEAD_DAYS = 180
DIP_APART_DAYS = 30
APART = 0.1  # of the usable water, between a dip and what it should be
RAISES_MM = 5.0  # rain that must be seen in a barrel, from memory


def advice(r: Results, entries: Sequence[Entry], today: dt.date) -> list[Finding]:
    """All that follows from the log up to today."""
    past = sorted((e for e in entries if e.day <= today), key=lambda e: e.day)
    found: list[Finding] = []
    for zone in r.garden.timed_zones:
        found += feel(r, zone, past, today)
        found += blockage(zone, past)
    for store in r.garden.stores:
        found += dipped(r, store, past, today)
    return [*found, *held(r, past, today)]


def votes(zone: Zone, entries: Sequence[Entry], today: dt.date) -> list[int]:
    """What was felt in a zone since its run was last changed: 1 too dry, −1 too wet, 0 right.

    Mud within three days of heavy rain says nothing of the run, nor do drooping leaves by
    themselves: they may want water or drown.
    """
    mine = [e for e in entries if e.about in (zone.id, *zone.plots)]
    changed = max((e.day for e in mine if e.kind == "changed"), default=dt.date.min)
    since = max(changed, today - dt.timedelta(days=LOOK_BACK_DAYS))
    found = []
    for e in mine:
        if e.day <= since or e.kind not in ("soil", "leaf"):
            continue
        rained = rain_mm(entries, e.day - dt.timedelta(days=AFTER_RAIN_DAYS), e.day) >= HEAVY_MM
        if e.word in ("muddy", "yellow") and not rained:
            found.append(-1)
        elif e.word in ("dry", "crisp"):
            found.append(1)
        elif e.word == "right":
            found.append(0)
    return found


def feel(r: Results, zone: Zone, entries: Sequence[Entry], today: dt.date) -> list[Finding]:
    """Two alike, the last two of what was felt, move the run by a tenth; not twice in a week."""
    mine = [e.day for e in entries if e.kind == "changed" and e.about == zone.id]
    if mine and (today - max(mine)).days < SETTLES_DAYS:
        return []
    said = votes(zone, entries, today)[-2:]
    if len(said) < 2 or said[0] != said[1] or said[0] == 0:
        return []
    wet, name = said[0] < 0, quoted(zone.name)
    moved = min(max(round(zone.longer + said[0] * STEP, 2), LEAST), MOST)
    if moved == zone.longer:
        return [Finding(
            "keep.no-further", "care", Phrase(f"{name}: the run moves no further this way"),
            say("It stands at {x} already. Look for another reason: its outlets, its mix, its "
                "roots.", x=Amount(zone.longer, "share")))]
    if not wet and (full := _sinks(r, zone)) is not None:
        return [Finding(
            "keep.oftener", "care", Phrase(f"{name} is dry, and its roots hold no more a run"),
            say("A run gives {a} of what the roots hold easily; more would sink. Water it oftener.",
                a=Amount(full, "share")), _oftener(r, zone))]
    return [Finding(
        "keep.longer", "care",
        Phrase(f"{name}: " + ("too wet, twice" if wet else "too dry, twice")),
        say(("Shorter" if wet else "Longer") + " by {s}, then feel again two days later. It moves "
            "no more than that in a week: soil answers slowly.", s=Amount(STEP, "share")),
        (Remedy(f"run-{zone.id}", say(f"{name}: runs longer by " + "{x}", x=Amount(moved, "share")),
                say("it was {x}", x=Amount(zone.longer, "share")),
                SetValue(f"zones/{zone.id}/longer", moved), zone.id),))]


def _sinks(r: Results, zone: Zone) -> float | None:
    """What a run a step longer gives the fullest plot over what its roots hold easily, if more."""
    setting = r.schedule.setting_in(zone.id, r.demand.peak_month)
    if setting is None:
        return None
    flow, thirsts = r.flows[zone.id]["half"], r.demand.thirsts
    hours = setting.minutes / 60 * r.flows.read_share(zone) * efficiency(flow) * (1 + STEP)
    runs = [flow.plot_flow_l_h(p) * hours / thirsts[p].raw_l
            for p in zone.plots if thirsts[p].raw_l > 0]
    most = max(runs, default=0.0)
    return most if most > 1 + STEP else None


def _oftener(r: Results, zone: Zone) -> tuple[Remedy, ...]:
    setting = r.schedule.setting_in(zone.id, r.demand.peak_month)
    days = 7 / setting.runs_a_week if setting else 0.0
    if days <= 1 or any(r.demand.thirsts[p].potted for p in zone.plots):
        return ()
    wanted = float(max(math.ceil(days) - 1, 1))
    return (Remedy(f"often-{zone.id}", say("Every {d}", d=Amount(wanted, "days")),
                   say("it was every {d}", d=Amount(days, "days")),
                   SetValue("every_days", wanted), zone.id),)


@dataclass(frozen=True)
class Decline:
    """A zone's readings that fall since its lines were last seen to, and when to rinse by."""

    zone: Zone
    first_l_h: float
    last_l_h: float
    days: int
    rinse_by: dt.date


def decline(zone: Zone, entries: Sequence[Entry]) -> Decline | None:
    """How a zone's flow declines; None where it does not, or by less than a tenth."""
    seen_to = max((e.day for e in entries if e.kind in ("filter", "repair")
                   and e.about in (zone.id, *zone.plots)), default=dt.date.min)
    read = [e for e in entries if e.kind == "flow" and e.about == zone.id and e.value
            and e.day >= seen_to]
    if len(read) < 2 or read[0].day == read[-1].day:
        return None
    days = np.array([(e.day - read[0].day).days for e in read], dtype=float)
    flows = np.array([e.value for e in read], dtype=float)
    slope = float(np.polyfit(days, flows, 1)[0])
    if flows[-1] > (1 - FALLS) * flows[0] or slope >= 0:
        return None
    left = max((flows[-1] - CLEAN_AT * flows[0]) / -slope, 0.0)
    return Decline(zone, float(flows[0]), float(flows[-1]), int(days[-1]),
                   read[-1].day + dt.timedelta(days=min(math.floor(left), MOST_AHEAD_DAYS)))


def rinse_by(zone: Zone, entries: Sequence[Entry]) -> dt.date | None:
    """By when to rinse a zone: as its readings fall, else by what they taught that it loses a week.

    None where neither is known, or nobody logged yet when it was last rinsed.
    """
    if told := decline(zone, entries):
        return told.rinse_by
    seen_to = [e.day for e in entries if e.kind in ("filter", "repair")
               and e.about in (zone.id, *zone.plots)]
    if not seen_to or zone.falls_a_week <= 0:
        return None
    weeks = math.log(CLEAN_AT) / math.log(1 - zone.falls_a_week)
    return max(seen_to) + dt.timedelta(days=min(math.floor(7 * weeks), MOST_AHEAD_DAYS))


def blockage(zone: Zone, entries: Sequence[Entry]) -> list[Finding]:
    """Readings that fall since the lines were last seen to: by when to rinse."""
    told = decline(zone, entries)
    if told is None:
        return []
    return [Finding(
        "keep.blockage", "care",
        say(f"{quoted(zone.name)} gives " + "{x} less than when first read",
            x=Amount(1 - told.last_l_h / told.first_l_h, "share")),
        say("From {a} to {b} in {d}. Rinse the filter and flush the ends by "
            f"{told.rinse_by.day} {told.rinse_by:%B}: at this rate the flow is then down to seven "
            "tenths.", a=Amount(told.first_l_h, "flow"), b=Amount(told.last_l_h, "flow"),
            d=Amount(told.days, "days")), seen=f"{zone.id}~weak")]


def dipped(r: Results, store: Store, entries: Sequence[Entry], today: dt.date
           ) -> list[Finding]:
    """The last two dips of a store, against what rain and the timer should have made of it."""
    dips = [e for e in entries if e.kind == "dip" and e.about == store.id][-2:]
    if len(dips) < 2 or dips[0].day == dips[1].day or (
            dips[1].day - dips[0].day).days > DIP_APART_DAYS:
        return []
    bank = r.banks.holding(store.id)
    before, after = (bank_l(bank, store, e.value or 0.0) for e in dips)
    days = (dips[1].day - dips[0].day).days
    fell = rain_mm(entries, dips[0].day, dips[1].day)
    came = fell * caught_l_mm(r, store)
    beside = beside_plan(r, bank, entries)
    taken = drawn_l_day(r, store, dips[1].day.month - 1) * days + sum(
        beside(dips[0].day + dt.timedelta(days=n + 1)) for n in range(days))
    goes = taken + bank.leak_l_day * days
    low = float(np.clip(before - goes, 0, bank.usable_l))
    expected = float(np.clip(before + came - goes, 0, bank.usable_l))
    off, name = after - expected, quoted(store.name)
    told = {"a": Amount(after, "volume"), "b": Amount(expected, "volume"),
            "r": Amount(fell, "rain"), "t": Amount(taken, "volume"), "d": Amount(days, "days")}
    if abs(off) <= APART * bank.usable_l:
        return []
    if off < 0 and fell >= RAISES_MM and after - low < (expected - low) / 2 and (
            expected - low > APART * bank.usable_l) and after >= low - APART * bank.usable_l:
        return [Finding("keep.gutter", "care", Phrase(f"{name}: the rain did not reach it"),
                        say("{r} fell and it holds {a} where {b} was to be. Look into the gutter, "
                            "the guard, the diverter and its hose.", **told),
                        seen=f"{bank.id}~stays-low")]
    if off < 0:
        return [Finding("keep.leak", "stop", Phrase(f"Less in {name} than there should be"),
                        say("In {d} the timer takes about {t}, and {r} fell: {b} should be there, "
                            "and it is {a}. A drip at a joint, a tap left on, a run set longer? "
                            "Evaporation from a lidded barrel is next to nothing.", **told),
                        seen=f"{bank.id}~falls")]
    if taken > APART * bank.usable_l:
        return [Finding("keep.not-drawn", "care", Phrase(f"More in {name} than there should be"),
                        say("In {d} the timer was to take {t}; {b} should be there, and it is {a}. "
                            "Does the valve open? Battery, filter, a kink; or it rained and was "
                            "not logged.", **told), seen=_undrawn(r, bank))]
    return []


def _undrawn(r: Results, bank: Bank) -> str:
    """What to look into where a bank is not drawn from: its zone, the first of several."""
    mine = {s.id for s in bank.stores}
    zones = [zone.id for zone in r.garden.timed_zones if zone.source in mine]
    return f"{zones[0]}~{'nothing' if len(zones) == 1 else ''}" if zones else ""


def held(r: Results, entries: Sequence[Entry], today: dt.date) -> list[Finding]:
    """Rain logged in the last two days: how long the timer may stay shut."""
    fell = rain_of_late_mm(entries, today)
    waits = delays_h(r, fell, today.month - 1)
    if not waits:
        return []
    names = ", ".join(quoted(z.name) for z in r.garden.timed_zones if z.id in waits)
    return [Finding(
        "keep.hold", "note", say("{mm} fell: the timer can wait", mm=Amount(fell, "rain")),
        say(f"{names}: delay {{h}}. Pots and what stands under a roof cannot.",
            h=Amount(float(min(waits.values())), "hours", 0)))]


def rain_of_late_mm(entries: Sequence[Entry], today: dt.date) -> float:
    """Rain that was logged in the last two days."""
    return rain_mm(entries, today - dt.timedelta(days=2), today)


def delays_h(r: Results, mm: float, month: int) -> dict[str, int]:
    """Hours that timed zones can wait after so much rain, by zone; who cannot is left out."""
    hours = {z.id: seasonal_adjust.delay_h(seasonal_adjust.hold_after_rain_h(
        r.demand, z, mm, month)) for z in r.garden.timed_zones}
    return {zone: h for zone, h in hours.items() if h}
