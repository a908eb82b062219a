"""Store, those filled by hand: how often one has to, and what makes it less often."""

from __future__ import annotations

import math
from collections.abc import Iterator
from functools import partial
from typing import TYPE_CHECKING

from euhydra.core.editing.values import SetValue
from euhydra.core.season.hand_filling import Carrying, fillings
from euhydra.core.season.state import SAME
from euhydra.core.statements.figures import Amount, Figure, Phrase, Term, Working, quoted, say
from euhydra.core.statements.findings import Finding, Later, Remedy
from euhydra.core.stations.place import MONTHS
from euhydra.core.weather.generator import MONTH_OF_DAY

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

SOON_DAYS = 2.0  # one that is filled more often is told, from memory
SPARE_DAYS = 0.5
LATE_DAYS = 2.0  # a year: the first filling of dry mix and gutters may take more than a tank
MOST_L = 20000.0


def figures(r: Results) -> Iterator[Figure]:
    """How often each is filled, and the litres that are carried in a year."""
    for one in fillings(r.season, r.banks):
        bank = r.banks.banks[one.bank]
        how = Working(
            "days on which it stands under its mark in the morning, and is filled",
            (Term("usable when full", Amount(bank.usable_l, "volume")),
             Term("filled again under", Amount(bank.filled_at_l, "volume")),
             Term("carried at a time", Amount(one.each_l, "volume")),
             Term("times in a year", Amount(one.times, "count", 0))),
            "season by day, the timer as it is set", "published")
        if one.times:
            yield Figure(f"filled_every_{bank.id}",
                         f"{one.name}: filled by hand in {MONTHS[one.month]}, every",
                         Amount(one.every_days, "days", 1), how)
        yield Figure(f"carried_{bank.id}", f"{one.name}: carried in a year",
                     Amount(one.litres, "yearly"), how)


def verdict(r: Results) -> Phrase | None:
    """Store's first words where no rain comes and a person fills; None where it is not so."""
    often = min(fillings(r.season, r.banks), key=lambda f: f.every_days, default=None)
    if often is None or r.season.world.inflow.any():
        return None
    usable = Amount(r.usable_l, "volume")
    if not often.times:
        return say("{v} can come out, filled by hand.", v=usable)
    return say("{v} can come out, filled by hand every {d} in " + f"{MONTHS[often.month]}.",
               v=usable, d=Amount(often.every_days, "days", 1))


def findings(r: Results) -> list[Finding]:
    """A store that has to be filled oftener than every second day, or that is filled too late."""
    return [finding for one in fillings(r.season, r.banks)
            for finding in (*_often(r, one), *_late(r, one))]


def _often(r: Results, one: Carrying) -> list[Finding]:
    if one.every_days >= SOON_DAYS:
        return []
    return [Finding(
        "store.filled-often", "care",
        say(f"{quoted(one.name)} is filled every " + "{d} in " + MONTHS[one.month],
            d=Amount(one.every_days, "days", 1)),
        say("It is filled up with {l} left, {e} at a time.", e=Amount(one.each_l, "volume"),
            l=Amount(r.banks.banks[one.bank].filled_at_l, "volume")),
        Later(partial(_larger, r, one)))]


def _late(r: Results, one: Carrying) -> list[Finding]:
    """What stands over the mark in the morning is not always a day's water."""
    days = _dry_days(r, one)
    if days < LATE_DAYS:
        return []
    return [Finding(
        "store.filled-late", "care",
        say(f"{quoted(one.name)} runs dry before the next morning on " + "{d} a year",
            d=Amount(days, "days", 0)),
        say("It is looked at once a day and filled with {l} or less left, and a hot day draws more "
            "than that.", l=Amount(r.banks.banks[one.bank].filled_at_l, "volume")),
        Later(partial(_sooner, r, one)))]


def _dry_days(r: Results, one: Carrying) -> float:
    return float((r.season.beyond[one.bank] > SAME).sum()) / r.years


def _sooner(r: Results, one: Carrying) -> Iterator[Remedy]:
    """A mark so high that it is reached a day before the store is out."""
    store = next(s for s in r.banks.banks[one.bank].stores if s.hand_filled)
    for share in (0.5, 0.7, 0.9):
        if share <= store.refill_at:
            continue
        edit = SetValue(f"stores/{store.id}/refill_at", share)
        after = r.after(edit)
        then = next(f for f in fillings(after.season, after.banks) if f.bank == one.bank)
        if _dry_days(after, then) < LATE_DAYS:
            yield Remedy(f"sooner-{store.id}", say("Fill it with {x} left", x=Amount(
                share, "share")), say("every {d} in " + MONTHS[then.month], d=Amount(
                    then.every_days, "days", 1)), edit)
            return


def _larger(r: Results, one: Carrying) -> Iterator[Remedy]:
    """The same vessel so much larger that it lasts, as tall as it is now."""
    bank = r.banks.banks[one.bank]
    store = next(s for s in bank.stores if s.hand_filled)
    asked = r.season.asked[r.season.world.bank == one.bank]
    # What other stores take from it through a float valve is asked of them, and shows in its fills.
    a_day = max(float(asked[..., one.month == MONTH_OF_DAY].sum(axis=0).mean()),
                one.each_l / one.every_days)
    lasts = (bank.usable_l - bank.filled_at_l) / a_day
    more = math.ceil(store.volume_l * (SOON_DAYS + SPARE_DAYS) / lasts / 10) * 10.0
    if more > MOST_L:
        return
    edit = SetValue(f"stores/{store.id}/volume_l", more)
    after = r.after(edit)
    then = next((f for f in fillings(after.season, after.banks) if f.bank == one.bank), None)
    if then is not None and then.every_days > one.every_days:
        yield Remedy(f"larger-{store.id}", say("One of {v}", v=Amount(more, "volume")),
                     say("every {d}", d=Amount(then.every_days, "days", 1)), edit)
