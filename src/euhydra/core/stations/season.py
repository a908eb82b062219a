"""Prove: thirst by plot, where each litre came from and went, the timer as it is set."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import partial
from typing import TYPE_CHECKING

from euhydra.core.editing.edits import Add, Edit
from euhydra.core.editing.values import SetValue
from euhydra.core.schedule.by_hand import CAN_L, CAN_MIN
from euhydra.core.season.spared import (
    PRICE_M3,
    litres_not_carried,
    minutes_after,
    minutes_before,
)
from euhydra.core.season.state import THIRSTY
from euhydra.core.season.thirsty import MANY_DAYS, thirst_of
from euhydra.core.statements.figures import Amount, Figure, Phrase, Term, Working, quoted, say
from euhydra.core.statements.findings import Finding, Later, Remedy

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

LONGER = 0.2
FEW_LITRES = 0.02  # of all the timer opened for


@dataclass(frozen=True)
class Entry:
    """A line of the ledger: litres a year, into the garden's water or out of it."""

    name: str
    litres: float
    comes: bool


def ledger(r: Results) -> list[Entry]:
    """Every litre of a mean year, by where it came from and where it went; both sides agree."""
    season, n = r.season, r.years
    came = [Entry(f"rain from {roof.name}",
                  float(r.inflow.yields[roof.id].caught_l.sum()) / n, True)
            for roof in r.garden.roofs]
    came += [Entry("used water", float(season.used.sum()) / n, True),
             Entry("wells", float(season.well.sum()) / n, True),
             Entry("tap", float(season.tap.sum()) / n, True),
             Entry("carried, by hand", float(season.poured.sum()) / n, True),
             Entry("standing there at the start, a year's part", float(season.start.sum()) / n,
                   True)]
    went = []
    for i, plot in enumerate(season.world.plots):
        name = season.world.name_of(plot)
        given, past = float(season.given[i].sum()) / n, float(season.wasted[i].sum()) / n
        went += [Entry(f"{name}, to its roots", given - past, False),
                 Entry(f"{name}, past its roots", past, False)]
    went += [Entry("spilled", float(season.spilled.sum()) / n, False),
             Entry("emptied before the frost", float(season.emptied.sum()) / n, False),
             Entry("lost by leaks", float(season.leaked.sum()) / n, False),
             Entry("left at the end, a year's part", float(season.end.sum()) / n, False)]
    return [e for e in came + went if abs(e.litres) > 0.05]


def figures(r: Results) -> list[Figure]:
    """What the plots got, and what that spared."""
    season, book = r.season, r.season.ledger
    n = r.years
    closes = Working(
        f"start + rain + wells + tap + {'carried + ' if book['carried'] else ''}used = given + "
        f"spilled + {'emptied + ' if book['emptied'] else ''}"
        f"{'leaked + ' if book['leaked'] else ''}end, over {n} years of days",
        tuple(Term(name, Amount(litres, "volume")) for name, litres in book.items()
              if name not in ("carried", "emptied", "leaked") or litres),
        "FAO-56 eq. 84 and 85 by day, recalled", "published")
    found = [Figure("given_year", "Given to the plots in a year",
                    Amount(book["given"] / n, "yearly"), closes)]
    plot, days = next(iter(thirst_of(r.season, r.demand)), ("", 0.0))
    if plot:
        found.append(Figure(
            "thirsty", f"Thirsty days, {season.world.name_of(plot)}", Amount(days, "days"), Working(
                "days on which a crop gets less than four fifths of what it would drink",
                tuple(Term(season.world.name_of(p), Amount(d, "days", 0))
                      for p, d in thirst_of(r.season, r.demand)),
                "middle of the years, timer as set; four fifths from memory", "from memory")))
    found += [
        Figure("past_roots", "Past the roots in a year",
               Amount(float(season.wasted.sum()) / n, "yearly"), closes)]
    return [*found, *_by_hand(r), *(_saved(r) if season.world.inflow.any() else [])]


def _by_hand(r: Results) -> list[Figure]:
    """Cans not carried, and the minutes by hand before and after."""
    litres, today = litres_not_carried(r.season), r.garden.today
    found = []
    if litres >= CAN_L:
        found.append(Figure(
            "cans", "Cans not carried in a year", Amount(litres / CAN_L, "count"), Working(
                "what comes to roots of itself ÷ a can", (
                    Term("given to roots, not by hand", Amount(litres, "yearly")),
                    Term("a can", Amount(CAN_L, "volume"))),
                "a full can, common practice", "common practice")))
    if today.way in ("can", "hose"):
        found.append(Figure(
            "hand_before", "By hand a day, until now", Amount(minutes_before(today), "minutes"),
            Working("cans × the minutes that a can takes, by its size" if today.way == "can" else
                    "minutes with the hose", (
                        (Term("cans a day", Amount(today.cans, "count")),
                         Term("a can holds", Amount(today.can_l, "volume")),
                         Term("a full can takes", Amount(CAN_MIN, "minutes")))
                        if today.way == "can" else ()),
                    "your entry; 2½ minutes for a can of 10 L, from memory", "your entry")))
    if minutes_before(today) or r.season.poured.any():
        carried = r.season.a_year(r.season.poured.sum(axis=0))
        found.append(Figure(
            "hand_after", "By hand a day, as planned",
            Amount(minutes_after(r.season, r.schedule), "minutes"),
            Working("what is filled in by hand ÷ a can × the minutes a can takes ÷ days in season",
                    (Term("filled in by hand", Amount(carried, "yearly")),
                     Term("a can", Amount(CAN_L, "volume")),
                     Term("a full can takes", Amount(CAN_MIN, "minutes"))),
                    "the season as it is set", "from memory")))
    return found


def _saved(r: Results) -> list[Figure]:
    """What rain spares of tap water."""
    rain = r.season.a_year(r.season.rain)
    return [
        Figure("saved", "Tap water not bought in a year", Amount(rain / 1000 * PRICE_M3, "money"),
               Working("rain given × the price of water", (
                   Term("rain given", Amount(rain, "yearly")),
                   Term("that much tap water costs", Amount(PRICE_M3, "money")),
                   Term("for", Amount(1000.0, "yearly"))),
                   "made-up price book", "from memory"))]


def lacking_share(r: Results) -> float:
    """The share of what the timer opened for that no source had."""
    return float(r.season.lacking.sum()) / max(float(r.season.asked.sum()), 1e-9)


def thirsty(r: Results) -> list[Finding]:
    """The plot that is thirsty on most days, where they are many."""
    plot, days = next(iter(thirst_of(r.season, r.demand)), ("", 0.0))
    if days <= MANY_DAYS or not r.flows.opens:
        return []
    lacking = lacking_share(r)
    return [Finding(
        "prove.thirsty", "care",
        say(f"{quoted(r.garden.plot(plot).name)}: thirst on " + "{d} of a typical year",
            d=Amount(days, "days")),
        say("On those it gets less than {s} of what it would drink. " + (
            "The stores had not enough for {l} of what the timer opened for."
            if lacking > FEW_LITRES else
            "Runs set by a month's mean are short in its hottest days."),
            s=Amount(THIRSTY, "share"), l=Amount(lacking, "share")),
        Later(partial(_if_less, r, plot, days)))]


def _change(r: Results) -> tuple[str, str, Edit] | None:
    """What may help where a plot is thirsty: a longer run, or a tap where water lacks."""
    _, days = next(iter(thirst_of(r.season, r.demand)), ("", 0.0))
    if days <= MANY_DAYS or not r.flows.opens:
        return None
    if lacking_share(r) > FEW_LITRES:
        return None if r.garden.taps else ("tap", "Top up from a tap", Add("tap"))
    if r.garden.longer + LONGER > 1:
        return None
    return ("longer", "Run everything a fifth longer",
            SetValue("longer", round(r.garden.longer + LONGER, 2)))


def _if_less(r: Results, plot: str, days: float) -> Iterator[Remedy]:
    """The change, offered where the plot is thirsty less often with it."""
    change = _change(r)
    if change is None:
        return
    key, label, edit = change
    then = dict(thirst_of(r.after(edit).season, r.after(edit).demand))[plot]
    if then < days:
        yield Remedy(key, Phrase(label), say("{d} thirsty", d=Amount(then, "days")), edit)
