"""Today: how long the water lasts, and the few things to do, each by a rule of its own."""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from euhydra.core.garden.base import WEEK
from euhydra.core.log.advice import held
from euhydra.core.log.entries import Entry
from euhydra.core.log.now import AHEAD_DAYS, Now, now
from euhydra.core.results.results import Results
from euhydra.core.schedule.by_hand import AT_H
from euhydra.core.schedule.settings import Setting
from euhydra.core.season.programme import opening_hours
from euhydra.core.statements.figures import NONE, Amount, Phrase, quoted, say

DIP_EVERY_DAYS = 7  # common practice: once a week
MOST_DEEDS = 3


@dataclass(frozen=True)
class Deed:
    """Something to do today: its rule, what, why, and which entry of the log says it was done."""

    rule: str
    what: Phrase
    why: Phrase
    kind: str
    about: str = ""


@dataclass(frozen=True)
class Today:
    """The morning's sentence, what it goes by, and the first things to do."""

    head: Phrase
    by: Phrase
    deeds: tuple[Deed, ...]
    now: Now


@dataclass(frozen=True, eq=False)
class _Case:
    r: Results
    entries: Sequence[Entry]
    today: dt.date
    now: Now


def today_told(r: Results, entries: Sequence[Entry], today: dt.date) -> Today:
    """What there is to say and to do on a morning."""
    case = _Case(r, entries, today, now(r, entries, today))
    deeds = tuple(deed for rule in RULES.values() for deed in rule(case))
    return Today(_head(case), _by(case), deeds[:MOST_DEEDS], case.now)


def _head(case: _Case) -> Phrase:
    world, left = case.r.season.world, case.now.days_left
    if not world.grows[:, case.now.day].any():
        return say("Nothing grows now.")
    if not world.stored.any():
        dry = _dry_plots(case)
        return (say(f"By now {', '.join(quoted(world.names[p]) for p in dry[:MOST_DEEDS])} may be "
                    "thirsty.") if dry else say("Everything that grows should have enough."))
    if left is None:
        return say("Water for {n} and more, if it stays dry.", n=Amount(AHEAD_DAYS, "days"))
    low, middle, high = left
    if middle <= 1:
        one = len(case.r.banks.banks) == 1
        return say(f"The store{' does' if one else 's do'} not last the day without rain.")
    band = ("" if low == high else " {a} to {b} in the years that began like this one.")
    return say("Water for {n}, if it stays dry." + band, n=Amount(middle - 1, "days"),
               a=Amount(max(low - 1, 0), "count"), b=Amount(high - 1, "count"))


def _by(case: _Case) -> Phrase:
    """What the level goes by."""
    banks = case.r.banks.banks
    if not banks or not case.r.season.world.grows[:, case.now.day].any():
        return NONE
    held_l = float(case.now.level[:len(banks)].sum())
    whole = sum(bank.usable_l for bank in banks)
    told = {"v": Amount(held_l, "volume"), "all": Amount(whole, "volume")}
    known = [d for d in case.now.dipped if d is not None]
    if not known:
        return say("{v} of {all}, as in a middle year: nothing was dipped lately.", **told)
    rest = "" if len(known) == len(banks) else "; the rest as in a middle year"
    if max(known) == 0:
        return say(f"{{v}} of {{all}}, dipped today{rest}.", **told)
    return say(f"{{v}} of {{all}}, followed from the dip {{d}} ago{rest}.", **told,
               d=Amount(max(known), "days"))


def _hold(case: _Case) -> list[Deed]:
    """Rain of the last days lets the timer wait."""
    return [Deed("today.hold", f.title, f.why, "rain")
            for f in held(case.r, case.entries, case.today)[:1]
            if case.r.schedule.timer_days and any(
                on[case.now.day] for on in case.r.schedule.timer_days.values())]


def _water(case: _Case) -> list[Deed]:
    """What is watered by hand and is to be watered today."""
    found = []
    for plot, hand in case.r.schedule.by_hand.items():
        setting = hand.setting_in(case.today.month - 1)
        if setting is None or not hand.days[case.now.day] or not _falls_on(setting, case):
            continue
        litres = Amount(hand.litres(setting), "volume")
        found.append(Deed("today.water", say(
            f"Water {quoted(hand.plot.name)}: {{v}}.", v=litres), say(
                "By hand; it wants that today."), "note", plot))
    return found


def _falls_on(setting: Setting, case: _Case) -> bool:
    """Whether a setting runs on the day: by this year's weekday, else as in any year."""
    if setting.weekdays:
        return WEEK[case.today.weekday()] in setting.weekdays
    return case.now.day in opening_hours(setting, AT_H, 1)[0]


def _dip(case: _Case) -> list[Deed]:
    """A store that nobody has dipped in a week."""
    found = []
    for n, bank in enumerate(case.r.banks.banks):
        since = case.now.dipped[n]
        if case.r.season.world.out[n, case.now.day] or (
                since is not None and since < DIP_EVERY_DAYS):
            continue
        why = (say("{d} since the last.", d=Amount(since, "days")) if since is not None
               else say("Nobody has lately; then what is left is known."))
        found.append(Deed("today.dip", say(f"Dip {quoted(bank.stores[0].name)}."), why, "dip",
                          bank.stores[0].id))
    return found


def _feel(case: _Case) -> list[Deed]:
    """The plot whose roots lack more than is easily had in most of the years, the driest first."""
    world = case.r.season.world
    return [Deed("today.feel", say(f"Feel {quoted(world.names[p])}, a hand deep."),
                 say("By now its roots may lack more than they easily have."), "soil",
                 world.plots[p]) for p in _dry_plots(case)[:1]]


def _dry_plots(case: _Case) -> list[int]:
    """Plots whose roots lack more than is easily had in most years, the driest first."""
    world, day = case.r.season.world, case.now.day
    dry = (case.now.depletion > world.ready[:, :, day]).mean(axis=1)
    asked = world.grows[:, day] & ~world.always_on & np.array(
        [plot not in world.washed for plot in world.plots], dtype=bool)
    order = np.argsort(-dry, kind="stable").tolist()
    return [p for p in order if asked[p] and dry[p] > 0.5]


RULES: dict[str, Callable[[_Case], list[Deed]]] = {
    "hold": _hold, "water": _water, "dip": _dip, "feel": _feel}
