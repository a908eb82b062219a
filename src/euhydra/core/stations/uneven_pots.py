"""Time, of pots on one run: which get less than others, and the drippers that even it."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from typing import TYPE_CHECKING

from euhydra.core.advise.even_drippers import WITHIN, Served, apart, fewest_even
from euhydra.core.editing.edits import Together
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Pots, Tower, Zone
from euhydra.core.layout.containers import drippers_in
from euhydra.core.statements.figures import Amount, Phrase, quoted, say
from euhydra.core.statements.findings import Finding, Later, Remedy
from euhydra.core.stations.shares import shares

if TYPE_CHECKING:
    from euhydra.core.results.results import Results


def pot_shares(r: Results, zone: Zone, month: int) -> dict[str, float]:
    """What each row of pots or towers in a zone gets of what it wants in a month."""
    return {plot: share for plot, share in shares(r, zone, month).items()
            if isinstance(r.garden.plot(plot), Pots | Tower)}


def uneven_pots(r: Results, month: int) -> list[Finding]:
    """Rows on one run of which one gets over a tenth less of its thirst than another."""
    return [finding for zone in r.garden.timed_zones for finding in _of(r, zone, month)]


def _of(r: Results, zone: Zone, month: int) -> Iterator[Finding]:
    given = pot_shares(r, zone, month)
    if apart(list(given.values())) <= WITHIN:
        return
    worst, best = min(given, key=given.__getitem__), max(given, key=given.__getitem__)
    yield Finding(
        "time.uneven-pots", "note",
        say(f"{quoted(r.garden.plot(worst).name)} gets " + "{x} less of its thirst than "
            + quoted(r.garden.plot(best).name), x=Amount(apart(list(given.values())), "share")),
        Phrase("They open together: one run serves both, so their drippers decide. What the best "
               "served does not want runs out at the foot of its pots."),
        Later(partial(_remedies, r, zone, month)))


def _remedies(r: Results, zone: Zone, month: int) -> Iterator[Remedy]:
    given = pot_shares(r, zone, month)
    plots = [p for p in r.garden.plots if p.id in given and isinstance(p, Pots | Tower)]
    each = fewest_even({p.id: Served(p.count, drippers_in(p), given[p.id]) for p in plots})
    if each is None:
        return
    edit = Together(tuple(SetValue(f"plots/{key}/each", n) for key, n in each.items()))
    then = r.after(edit)
    # More drippers may be more than one valve carries: then they no longer open together.
    home = next((z for z in then.garden.zones if set(given) <= set(z.plots)), None)
    left = apart(list(pot_shares(then, home, month).values())) if home else 1.0
    if left < apart(list(given.values())):
        words = ", ".join(f"{each[p.id]} in {quoted(p.name)}" for p in plots)
        yield Remedy(f"even-{zone.id}", Phrase(f"Drippers a pot: {words}"),
                     say("within {x} of each other", x=Amount(left, "share")), edit)
