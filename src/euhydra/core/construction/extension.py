"""A few more pots: what to add to what is there already, and what that does to the rest."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from euhydra.core.construction.parts import PartLine
from euhydra.core.editing.additions import made
from euhydra.core.editing.makers import CannotAdd
from euhydra.core.editing.relaying import relaid
from euhydra.core.editing.trees import EditRefused, checked
from euhydra.core.garden.model import Garden, Pots
from euhydra.core.library import Library
from euhydra.core.statements.findings import Finding

MOST = 20


@dataclass(frozen=True)
class MorePots:
    """Put more pots to a row of pots, or, where ``beside`` is empty, make a row of their own.

    A new row is like the garden's last one: its pots, its crop.
    """

    beside: str
    count: int

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with the pots, laid anew."""
        if not 1 <= self.count <= MOST:
            raise EditRefused(f"{self.count} pots cannot be added at once: 1 to {MOST}.")
        tree = garden.model_dump()
        if self.beside:
            row = next((p for p in tree["plots"] if p["id"] == self.beside
                        and isinstance(garden.plot(self.beside), Pots)), None)
            if row is None:
                raise EditRefused(f"“{self.beside[:60]}” is no row of pots in this garden.")
            row["count"] += self.count
            return relaid(checked(tree), library, garden)
        try:
            _, new = made(garden, "pots")
        except CannotAdd as error:
            raise EditRefused(str(error)) from None
        rows = rows_of_pots(garden)
        same = ("diameter_m", "height_m", "apart_m", "soil", "plantings", "fed_by")
        like = {key: value for key, value in (rows[-1].model_dump() if rows else {}).items()
                if key in same}
        tree["plots"] = (*tree["plots"], new.model_dump() | like | {"count": self.count})
        return relaid(checked(tree), library, garden)


def rows_of_pots(garden: Garden) -> list[Pots]:
    """The rows that pots can be put to."""
    return [p for p in garden.plots if isinstance(p, Pots) and p.kind == "pots"]


def to_add(before: Sequence[PartLine], after: Sequence[PartLine]) -> list[tuple[PartLine, float]]:
    """Every part that it takes more of, and how many more; what is freed is below zero."""
    had = {p.id: p.quantity for p in before}
    now = {p.id: p for p in after}
    found = [(p, p.quantity - had.get(p.id, 0.0)) for p in after]
    found += [(p, -p.quantity) for p in before if p.id not in now]
    return [(p, more) for p, more in found if abs(more) > 1e-9]


def new_findings(before: Sequence[Finding], after: Sequence[Finding]) -> list[Finding]:
    """What is said now that was not said before, notes left out."""
    said = {(f.rule, f.title.template) for f in before}
    return [f for f in after if f.level != "note" and (f.rule, f.title.template) not in said]
