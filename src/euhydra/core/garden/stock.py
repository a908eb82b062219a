"""What the gardener has of a part already, and what they pay for it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from euhydra.core.garden.base import Id, Part, measure

if TYPE_CHECKING:
    from euhydra.core.garden.model import Garden
    from euhydra.core.library import Library

UNPRICED = -1.0  # stands for the price book's own


class Holding(Part):
    """Of one line of the parts list: how much is there (pieces or metres), and its own price."""

    id: Id
    have: float = measure("have already", "count", 0, 9999, 0.0)
    price: float = measure("price of one", "money", UNPRICED, 99999, UNPRICED)


@dataclass(frozen=True)
class SetHolding:
    """Note of a part how much is there already, or its price; ``None`` leaves that as it is.

    A price of ``UNPRICED`` goes back to the price book.
    """

    part: str
    have: float | None = None
    price: float | None = None

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with the note; one that says nothing is dropped."""
        old = next((h for h in garden.holdings if h.id == self.part), Holding(id=self.part))
        new = Holding(id=self.part, have=old.have if self.have is None else self.have,
                      price=old.price if self.price is None else self.price)
        others = tuple(h for h in garden.holdings if h.id != self.part)
        blank = new == Holding(id=self.part)
        return garden.model_copy(update={"holdings": others if blank else (*others, new)})
