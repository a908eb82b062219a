"""Today: how long the water lasts, and the few things to do."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from dataclasses import dataclass

from euhydra.core.log.days_ahead import Opening, openings
from euhydra.core.log.deeds import RULES, Case, Deed, Hold, dry_plots, holds_of
from euhydra.core.log.entries import Entry
from euhydra.core.log.now import AHEAD_DAYS, NO_FORECAST, Forecast, Now, now
from euhydra.core.results.results import Results
from euhydra.core.statements.figures import NONE, Amount, Phrase, quoted, say

MOST_DEEDS = 3


@dataclass(frozen=True)
class Today:
    """The morning's sentence, what it goes by, the first things to do, what is opened or held."""

    head: Phrase
    by: Phrase
    deeds: tuple[Deed, ...]
    now: Now
    openings: tuple[Opening, ...]
    holds: tuple[Hold, ...]


def today_told(r: Results, entries: Sequence[Entry], today: dt.date,
               forecast: Forecast = NO_FORECAST, stands: Now | None = None) -> Today:
    """What there is to say and to do on a morning; ``forecast`` is rain to come, mm by date.

    ``stands`` is how the garden stands then, where that is reckoned already.
    """
    past = [e for e in entries if e.day <= today]
    case = Case(r, past, today, stands or now(r, past, today, forecast), forecast,
                 openings(r, today))
    deeds = tuple(deed for rule in RULES.values() for deed in rule(case))
    return Today(_head(case), _by(case), deeds[:MOST_DEEDS], case.now, case.openings,
                 holds_of(case))


def _head(case: Case) -> Phrase:
    world, left = case.r.season.world, case.now.days_left
    if not world.grows[:, case.now.day].any():
        return say("Nothing grows now.")
    if not case.now.drawn:
        dry = dry_plots(case)
        return (say(f"By now {', '.join(quoted(world.names[p]) for p in dry[:MOST_DEEDS])} may be "
                    "thirsty.") if dry else say("Everything that grows should have enough."))
    dry_on = ", if it stays dry" if world.inflow.any() else ""  # rain fills no tank without a roof
    if left is None:
        return say(f"Water for {{n}} and more{dry_on}.", n=Amount(AHEAD_DAYS, "days"))
    low, middle, high = left
    if middle <= 1:
        one = len(case.r.banks.banks) == 1
        return say(f"The store{' does' if one else 's do'} not last the day"
                   f"{' without rain' if dry_on else ''}{_fills_in(case)}.")
    band = ("" if low == high else " {a} to {b} in the years that began like this one.")
    return say(f"Water for {{n}}{dry_on}{_fills_in(case)}." + band,
               n=Amount(middle - 1, "days"), a=Amount(max(low - 1, 0), "count"),
               b=Amount(high - 1, "count"))


def _fills_in(case: Case) -> str:
    """What comes in place of the stores' water once they are dry."""
    world, banks = case.r.season.world, range(len(case.r.banks.banks))
    if any(world.tapped[b] for b in banks):
        return "; then the tap fills in"
    if any(bank in banks for _, bank in world.well_to):
        return "; then the well fills in"
    return "; then it is to be filled" if any(world.filled_at[b] > 0 for b in banks) else ""


def _by(case: Case) -> Phrase:
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
