"""What was read before a change of the timer, beside what was read after it."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from dataclasses import dataclass

from euhydra.core.garden.model import Garden
from euhydra.core.log.entries import KINDS, Entry, felt, in_lane
from euhydra.core.statements.figures import Amount

FELT = tuple(key for key, kind in KINDS.items() if kind.lane == "felt")
SPAN_DAYS = 42


@dataclass(frozen=True)
class Beside:
    """One row: its label, before and after; None where nothing was read."""

    label: str
    before: Amount | None
    after: Amount | None


def changes(entries: Sequence[Entry]) -> list[Entry]:
    """The timer's changes, the latest first."""
    return sorted(in_lane(entries, "across"), key=lambda e: e.day, reverse=True)


def before_and_after(garden: Garden, entries: Sequence[Entry], change: Entry, today: dt.date
                     ) -> list[Beside]:
    """Six weeks on each side of a change, or up to the next one of the same zone."""
    zone = next((z for z in garden.zones if z.id == change.about), None)
    about = {change.about, *(zone.plots if zone else ())}
    others = [e.day for e in changes(entries) if e.about == change.about and e.id != change.id]
    span = dt.timedelta(days=SPAN_DAYS)
    first = max([change.day - span, *(d for d in others if d < change.day)])
    last = min([change.day + span, today, *(d for d in others if d > change.day)])
    sides = ([e for e in entries if first <= e.day < change.day],
             [e for e in entries if change.day < e.day <= last])
    lengths = ((change.day - first).days, (last - change.day).days)

    def row(label: str, kind: str, kinds: tuple[str, ...], how: str,
            feels: str = "") -> Beside:
        both: list[Amount | None] = []
        for side in sides:
            mine = [e for e in side if e.kind in kinds
                    and (e.kind == "rain" or e.about in about)]
            told = [e for e in mine if not feels or felt(e) == feels]
            if not mine:
                both.append(None)
            elif how == "count":
                both.append(Amount(len(told), kind))
            else:
                total = sum(e.value or 0.0 for e in mine)
                both.append(Amount(total / len(mine) if how == "mean" else total, kind))
        return Beside(label, both[0], both[1])

    return [Beside("Days looked at", *(Amount(n, "days") for n in lengths)),
            row("Rain", "rain", ("rain",), "sum"),
            row("Felt or seen too dry", "count", FELT, "count", "dry"),
            row("Felt right", "count", ("soil",), "count", "right"),
            row("Felt or seen too wet", "count", FELT, "count", "wet"),
            row("Flow read, mean", "flow", ("flow",), "mean"),
            row("Picked", "mass", ("harvest",), "sum")]
