"""Catch, the first flush: whether its volume suits its roof."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from typing import TYPE_CHECKING

from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Roof
from euhydra.core.statements.figures import Amount, quoted, say
from euhydra.core.statements.findings import Finding, Later, Remedy
from euhydra.core.supply.runoff import flush_l

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

CLEAN_MM = 0.2  # first flush of a clean roof, rainwater manuals, recalled
FLUSH_MM = (CLEAN_MM / 2, 2.0)  # far under it, and a dirty roof's most, recalled


def findings(r: Results) -> list[Finding]:
    """A first flush far too small or far too large for its roof."""
    found = []
    for roof in r.garden.roofs:
        least, most = (mm * roof.area_m2 for mm in FLUSH_MM)
        litres = flush_l(roof)
        if not 0 < litres < least and litres <= most:
            continue
        found.append(Finding(
            "catch.flush", "care",
            say(f"{quoted(roof.name)}: a first flush of " + "{v} is far too "
                + ("small" if litres < least else "large"), v=Amount(litres, "drop")),
            say("That is {d} of rain on {a} of roof. Usual are {low} where this roof is clean to "
                "{high} where it is dirty (rainwater manuals, recalled).",
                d=Amount(roof.first_flush_mm, "depth"), a=Amount(roof.area_m2, "area"),
                low=Amount(CLEAN_MM * roof.area_m2, "drop"), high=Amount(most, "drop")),
            Later(partial(_usual_flush, r, roof))))
    return found


def _usual_flush(r: Results, roof: Roof) -> Iterator[Remedy]:
    usual = r.library.roof_materials[roof.material].first_flush_mm
    edit = SetValue(f"roofs/{roof.id}/first_flush_mm", usual)
    caught = float(r.after(edit).inflow.total_l.sum()) / r.years
    yield Remedy(f"flush-{roof.id}", say("One of {v}", v=Amount(usual * roof.area_m2, "drop")),
                 say("{v} a year caught", v=Amount(caught, "yearly")), edit)
