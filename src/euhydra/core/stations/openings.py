"""Lay, of emitter lines: the spacing that was asked for and the one that is sold."""

from __future__ import annotations

from typing import TYPE_CHECKING

from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Bed
from euhydra.core.layout.rows import openings_apart_m, openings_offered
from euhydra.core.statements.figures import Amount, Phrase, quoted, say
from euhydra.core.statements.findings import Finding, Remedy

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

AS_ASKED_M = 0.01  # an inch size and its metric one are the same line


def as_sold(r: Results) -> list[Finding]:
    """Beds whose openings are as far apart as is sold, and not as was asked for."""
    found = []
    for bed in (p for p in r.garden.plots if isinstance(p, Bed)
                and p.watered == "lines" and openings_offered(p, r.library)):
        laid = openings_apart_m(bed, r.library)
        if bed.openings_m <= 0 or abs(laid - bed.openings_m) <= AS_ASKED_M:
            continue
        found.append(Finding(
            "lay.openings", "note",
            say(f"{quoted(bed.name)}: laid with openings every " + "{a}", a=Amount(laid, "small")),
            say("Every {b} was asked for; this is the nearest that is sold.",
                b=Amount(bed.openings_m, "small")),
            (Remedy(f"as-sold-{bed.id}", say("Every {a}", a=Amount(laid, "small")),
                    Phrase("as it is laid"), SetValue(f"plots/{bed.id}/openings_m", laid)),)))
    return found
