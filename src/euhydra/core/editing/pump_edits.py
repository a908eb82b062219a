"""The edit that fits a pump to a store, of a kind, with what goes with it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from euhydra.core.editing.makers import CannotAdd, pump_on
from euhydra.core.editing.relaying import relaid
from euhydra.core.editing.trees import EditRefused, checked
from euhydra.core.garden.model import Garden
from euhydra.core.library import Library


@dataclass(frozen=True)
class FitPump:
    """Hang all lines of a store, or of a drain's drum, on a pump of a kind.

    It takes the place of the one there may be. A ``regulator_kpa`` of 0 fits none.
    """

    store: str
    kind: str
    regulator_kpa: float = 0.0

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with the pump."""
        if self.kind not in library.pumps:
            raise EditRefused(f"“{self.kind[:40]}” is none of: {', '.join(library.pumps)}.")
        if not any(s.id == self.store for s in garden.vessels):
            raise EditRefused(f"“{self.store[:60]}” is not a store of this garden.")
        others = tuple(x for x in garden.lifts if x.draws_from != self.store)
        try:
            lift = pump_on(garden, garden.store_of(self.store), self.kind)
        except CannotAdd as error:
            raise EditRefused(str(error)) from None
        lift = lift.model_copy(update={"regulator_kpa": self.regulator_kpa,
                                       "power": power_of(library, self.kind)})
        tree = garden.model_dump() | {"lifts": tuple(x.model_dump() for x in (*others, lift))}
        return relaid(checked(tree), library, garden)


def power_of(library: Library, kind: str) -> Literal["battery", "mains"]:
    """What a kind of pump runs on: those for 12 V on a battery."""
    return "battery" if "12" in library.pumps[kind].name else "mains"
