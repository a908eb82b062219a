"""Store: water that stands in stores and that no zone can draw."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from typing import TYPE_CHECKING

from euhydra.core.editing.edits import Edit, Together
from euhydra.core.editing.trees import EditRefused
from euhydra.core.editing.values import SetValue
from euhydra.core.statements.figures import Amount, Phrase, quoted, say
from euhydra.core.statements.findings import Finding, Later, Remedy
from euhydra.core.storage import Bank, total_l

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

LITTLE_L = 5.0  # so little more within reach is not worth a joint


def findings(r: Results) -> list[Finding]:
    """The banks that nothing draws from, with what would bring them within reach."""
    dead = [bank for i, bank in enumerate(r.banks.banks)
            if i not in r.reached and bank.usable_l > LITTLE_L]
    if not dead or not r.garden.zones:
        return []
    names = quoted(" and ".join(bank.name for bank in dead))
    why, join = (("An overflow only passes on what spills. ", "join them at the bottom, or ")
                 if r.reached else ("", ""))
    return [Finding(
        "store.unreached", "care",
        say("{v} that nothing draws from", v=Amount(unreached_l(r), "volume")),
        Phrase(f"{why}What stands in {names} waters nothing: {join}let a plot draw from them."),
        Later(partial(_remedies, r, dead)))]


def unreached_l(r: Results) -> float:
    """Usable water in stores that no zone can draw from."""
    return sum(bank.usable_l for i, bank in enumerate(r.banks.banks) if i not in r.reached)


def _remedies(r: Results, dead: list[Bank]) -> Iterator[Remedy]:
    for key, label, edit in _ways(r, dead):
        try:
            then = r.after(edit)
        except EditRefused:
            continue
        if then.usable_l > (r.usable_l if r.reached else 0.0) + LITTLE_L:
            yield Remedy(key, label, say("{v} within reach, rain gives {s}",
                                         v=Amount(then.usable_l, "volume"),
                                         s=Amount(then.season.rain_share, "share")), edit)


def _ways(r: Results, dead: list[Bank]) -> Iterator[tuple[str, Phrase, Edit]]:
    """Link the chain at the bottom; draw all from the largest store; share the plots out."""
    garden = r.garden
    chain = [joint for joint in garden.joints if joint.kind == "overflow"]
    if chain:
        yield ("link", Phrase("Join them at the bottom"), Together(tuple(
            SetValue(f"joints/{joint.id}/kind", "link") for joint in chain)))
    largest = max((s for bank in dead for s in bank.stores), key=total_l)
    fed = [plot for plot in garden.plots if garden.source_of(plot) in r.banks.of_store]
    if len(fed) > 1:
        need = {plot.id: float(r.demand.thirsts[plot.id].net_l.sum()) for plot in fed}
        half = sorted(fed, key=lambda plot: -need[plot.id])[1]
        yield (f"share-{largest.id}", Phrase(f"Let {quoted(half.name)} draw from "
                                             f"{quoted(largest.name)}"),
               SetValue(f"plots/{half.id}/fed_by", largest.id))
    if not fed:
        need = {p.id: float(r.demand.thirsts[p.id].net_l.sum()) for p in garden.plots}
        most = max(garden.plots, key=lambda p: need[p.id])
        yield (f"share-{largest.id}", Phrase(f"Let {quoted(most.name)} draw from "
                                             f"{quoted(largest.name)}"),
               SetValue(f"plots/{most.id}/fed_by", largest.id))
    if fed:
        yield (f"draw-{largest.id}", Phrase(f"Draw everything from {quoted(largest.name)}"),
               Together(tuple(SetValue(f"plots/{plot.id}/fed_by", largest.id) for plot in fed)))
