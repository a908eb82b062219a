"""Counting: what every thing of a garden takes, piece by piece."""

from __future__ import annotations

import math

from euhydra.core.construction.facts import Built, kits_of
from euhydra.core.construction.parts import (
    BULK_SPARE,
    PIPE_SPARE,
    SACKS,
    PartLine,
    part_id,
    rolls_sold,
)
from euhydra.core.library import Library
from euhydra.core.library.kits import KitPart
from euhydra.core.units import NNBSP, System, show


class Count:
    """Lines of the list as they are counted; like things add up to one line."""

    def __init__(self, library: Library, system: System) -> None:
        self.library, self.system = library, system
        self.entries: dict[tuple[str, str], tuple[float, str, float, float]] = {}
        self.shown: dict[tuple[str, str], str] = {}

    def add(self, key: str, quantity: float = 1, detail: str = "", reason: str = "",
            price: float | None = None, roll_m: float = 0.0, *, size: float = 0.0,
            kind: str = "", sold: str = "", variant: str = "") -> None:
        """``detail`` and ``price`` replace the part's general ones; unlike ones stay apart.

        That is by their ``variant``, a key of a table, or by the detail where there is none. A
        detail's "{}" is filled with its ``size``, of a kind, in the garden's units; what is
        ``sold`` by a size is called by that too. The line goes by the same id in either system.
        """
        part = self.library.parts[key]
        name = detail.replace("{}", show(size, kind, "metric") if kind else "").replace(NNBSP, "")
        which = key, variant or name
        so_far, why, *_ = self.entries.get(which, (0.0, "", 0.0, 0.0))
        self.entries[which] = (so_far + quantity, why or reason,
                               part.price if price is None else price, roll_m)
        self.shown[which] = name or part.name
        if kind:
            own = show(size, kind, self.system)
            both = f"{sold} ({own})" if sold and self.system == "us" else own
            self.shown[which] = detail.replace("{}", both)

    def add_tube(self, tube: str, metres: float, reason: str) -> None:
        """So many metres of a tube of the table."""
        laid = self.library.tubes[tube]
        self.add("tube", metres, laid.name, reason, laid.price, laid.roll_m, variant=tube)

    def add_sacks(self, key: str, litres: float, what: str = "") -> None:
        """So many litres in sacks as the country sells them; ``what`` is in them."""
        size, words = SACKS[self.system]
        metric = f"{what}, sacks of {SACKS['metric'][1]}" if what else ""
        self.add(key, litres / size, variant=metric)
        part = self.library.parts[key]
        self.shown[key, metric] = f"{what or part.name}, sacks of {words}"

    def lines(self) -> list[PartLine]:
        """What has been counted."""
        out = []
        for (key, which), (quantity, reason, price, roll_m) in self.entries.items():
            part = self.library.parts[key]
            if quantity <= 0:
                continue
            out.append(PartLine(part_id(key, which), key, self.shown[key, which],
                                _sold(quantity, part.sold_by), part.sold_by, part.need,
                                reason or part.reason, price,
                                roll_m=rolls_sold(roll_m, self.system), swap=part.swap))
        return out


def _sold(quantity: float, sold_by: str) -> float:
    """What is bought of it: whole pieces, metres and squares; loads to a tenth."""
    if sold_by == "bulk":
        return math.ceil(quantity * BULK_SPARE * 10 - 1e-6) / 10
    return math.ceil(quantity * (PIPE_SPARE if sold_by in ("metre", "area") else 1.0) - 1e-6)


def kit_parts(count: Count, thing: Built) -> None:
    """What the kits of a thing take."""
    for kit in kits_of(thing, count.library):
        for part in kit.parts:
            if (times := thing.number(part.per) * part.each) > 0:
                _kit_part(count, thing, part, times)


def _kit_part(count: Count, thing: Built, part: KitPart, times: float) -> None:
    if part.part == "tube":
        count.add_tube(part.variant, times, part.reason)
        return
    if part.sacks:
        count.add_sacks(part.part, times, thing.say(part.name).show("metric"))
        return
    size = thing.amounts[part.size] if part.size else None
    metric = show(size.value, size.kind, "metric") if size else ""
    count.add(
        part.part, times, _named(thing, part.name), part.reason,
        thing.number(part.price) if part.price else None,
        size=size.value if size else 0.0, kind=size.kind if size else "",
        sold=metric if part.sold else "", variant=thing.say(part.variant).show("metric"))


def _named(thing: Built, name: str) -> str:
    """A part's own name, with a place left for its size."""
    return thing.say(name.replace("{}", "{{}}")).show("metric")
