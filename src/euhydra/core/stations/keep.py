"""Keep: what the log says of the garden, and what falls due."""

from __future__ import annotations

import datetime as dt
from typing import TYPE_CHECKING

from euhydra.core.construction.care import due
from euhydra.core.log.advice import advice
from euhydra.core.log.coming import coming
from euhydra.core.log.entries import Entry
from euhydra.core.statements.figures import Amount, Figure, Phrase, Term, Working, say
from euhydra.core.statements.findings import Finding, StationReport, worst_first

if TYPE_CHECKING:
    from euhydra.core.assessment.assess import Assessment


def report(r: Assessment) -> StationReport:
    """What Keep says of the log, on the day it is read; without a day it asks for nothing."""
    entries, today = r.log, r.today
    found: tuple[Finding, ...] = tuple(worst_first(advice(r, entries, today))) if today else ()
    wants = [f for f in found if f.level != "note"]
    soon = coming(r, entries, today) if today else []
    if wants:
        verdict = wants[0].title
    elif soon:
        verdict = Phrase(f"{soon[0][1].title}: due {_when(soon[0][0])}.")
    else:
        verdict = (say("{n:entry|entries}, and nothing to act on.", n=Amount(len(entries), "count"))
                   if entries else Phrase(
                       "Nothing logged yet: " + (f"dip the {r.garden.vessel} first."
                                                 if r.garden.stores else
                                                 "begin with what you feel or read off.")))
    return StationReport("keep", "Keep", verdict,
                         say("{n} due", n=Amount(len(
                             soon if today else due(r.garden, r.schedule)), "count")),
                         _figures(entries, today), found)


def _when(days: int) -> str:
    return "today" if days == 0 else "tomorrow" if days == 1 else f"in {days} days"


def _figures(entries: tuple[Entry, ...], today: dt.date | None) -> tuple[Figure, ...]:
    year = [e for e in entries if today and e.day.year == today.year]
    fell = sum(e.value or 0.0 for e in year if e.kind == "rain")
    picked = sum(e.value or 0.0 for e in year if e.kind == "harvest")
    return (
        Figure("entries", "Entries in the log", Amount(len(entries), "count"), Working(
            "entries that stand", (Term("this year", Amount(len(year), "count")),), "your log",
            "your entry")),
        Figure("rain_logged", "Rain logged this year", Amount(fell, "rain"), Working(
            "rain entries added up", (Term("entries", Amount(
                sum(e.kind == "rain" for e in year), "count")),), "your log", "your entry")),
        Figure("picked", "Picked this year", Amount(picked, "mass"), Working(
            "harvests added up", (Term("entries", Amount(
                sum(e.kind == "harvest" for e in year), "count")),), "your log", "your entry")))
