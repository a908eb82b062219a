"""Soaker hoses coupled from bed to bed: where they cannot be, and where the run gets too long."""

from __future__ import annotations

from typing import TYPE_CHECKING

from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import AnyPlot, Bed, Zone
from euhydra.core.layout.coupled import coupled, why_apart
from euhydra.core.statements.figures import Amount, Phrase, quoted, say
from euhydra.core.statements.findings import Finding, Remedy

if TYPE_CHECKING:
    from euhydra.core.results.results import Results


def coupling_findings(r: Results) -> list[Finding]:
    """A finding for each hose that was to go on from another's and does not, or goes on too far."""
    return [*_not_coupled(r), *_too_long(r)]


def _apart(bed: AnyPlot) -> Remedy:
    return Remedy(f"apart-{bed.id}", Phrase(f"Feed {quoted(bed.name)} by itself"),
                  Phrase("a branch of its own off the header"),
                  SetValue(f"plots/{bed.id}/after", ""))


def _not_coupled(r: Results) -> list[Finding]:
    return [Finding("lay.not-coupled", "care", Phrase(
        f"{quoted(bed.name)}: its hose goes on from no other"), Phrase(
            f"It was to be coupled on, but {quoted(why)}. It is fed by itself."), (_apart(bed),))
            for bed in r.garden.plots
            if isinstance(bed, Bed) and bed.after and bed.watered == "lines"
            and (why := why_apart(r.garden, r.library, bed) or _taken(r, bed))]


def _taken(r: Results, bed: Bed) -> str:
    """Why a bed that could be coupled is not: another hose goes on from there already."""
    zone = next(z for z in r.garden.zones if bed.id in z.plots)
    return "" if bed.id in coupled(r.garden, r.library, zone) else (
        "another hose goes on from there already")


def _too_long(r: Results) -> list[Finding]:
    found = []
    for zone in r.garden.zones:
        after = coupled(r.garden, r.library, zone)
        for last in (key for key in after if key not in after.values()):
            long, most = _run_m(r, zone, last)
            if long > most:
                bed = r.garden.plot(last)
                found.append(Finding("lay.long-run", "care", say(
                    f"{quoted(bed.name)}: " + "{m} of hose coupled in one run",
                    m=Amount(long, "length")), say(
                        "Past {most} its end is starved: at most about two beds in one run.",
                        most=Amount(most, "length")), (_apart(bed),)))
    return found


def _run_m(r: Results, zone: Zone, last: str) -> tuple[float, float]:
    """Metres of soaker in the run that ends in a bed, and how many there may be."""
    after, run = coupled(r.garden, r.library, zone), [last]
    while run[-1] in after:
        run.append(after[run[-1]])
    lines = [x for x in r.garden.lines if x.plot in run and r.library.tubes[x.tube].outlet]
    return sum(x.length_m for x in lines), min(
        r.library.tubes[x.tube].longest_run_m for x in lines)
