"""The counted parts list, from what was laid."""

from __future__ import annotations

import math
import re
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

from euhydra.core.garden.model import (
    Garden,
)
from euhydra.core.layout.work import stem
from euhydra.core.library import Library
from euhydra.core.units import System, show

PIPE_SPARE = 1.05  # five in a hundred for cuts, from memory
NEEDS = ("must", "optional", "tool")
BAG_L, PEBBLES_M = 10.0, 0.05  # common practice
# Sacks and rolls as they are sold: litres and words; feet.
SACKS = {"metric": (50.0, "50 L"), "us": (56.634, "2 cu ft")}
ROLLS_FT = (50, 100, 250, 500)
FOOT_M = 0.3048
OUTLETS_A_SPARE, LEAST_SPARE = 20, 2  # from memory
VESSEL_PRICE, LITRE_PRICE = 15.0, 0.14  # invented price book
BULK_SPARE = 1.1  # a tenth more of what settles and spills, from memory
T_M3 = {"gravel": 1.6}  # tonnes a cubic metre of what is sold by the load, from memory
LOADS = {"metric": ("t", 1.0), "us": ("short tons", 1.1023)}
# What a quantity is of, and its decimals; pieces have no kind.
SOLD_BY = {"metre": ("length", 0), "bulk": ("bulk", 1), "area": ("area", 0)}


@dataclass(frozen=True)
class PartLine:
    """So many of a thing. ``quantity`` is pieces, or what ``SOLD_BY`` says of ``sold_by``.

    ``price`` is one's, or a metre's, a square or a cubic metre's: the gardener's own where
    ``own_price`` says so, else from an invented price book; they ``have`` so many already.
    ``roll_m`` is the roll that a pipe is sold in (0: none); ``swap`` what may stand in its place,
    if anything.
    """

    id: str
    key: str
    name: str
    quantity: float
    sold_by: str
    need: str
    reason: str
    price: float
    have: float = 0.0
    own_price: bool = False
    roll_m: float = 0.0
    swap: str = ""

    @property
    def to_buy(self) -> float:
        """How much is still to be bought."""
        return max(self.quantity - self.have, 0.0)

    @property
    def rolls(self) -> int:
        """Rolls to buy; 0 where it is not sold in rolls."""
        return math.ceil(self.to_buy / self.roll_m - 1e-9) if self.roll_m > 0 else 0

    @property
    def offcut_m(self) -> float:
        """What is left over of the last roll."""
        return self.rolls * self.roll_m - self.to_buy if self.rolls else 0.0

    @property
    def cost(self) -> float:
        """What that costs, pipe by the whole roll."""
        return (self.to_buy + self.offcut_m) * self.price


def cost_of(parts: Sequence[PartLine], need: str = "must") -> float:
    """What is still to be bought of the must-haves, or of the optional parts, costs together."""
    return sum(part.cost for part in parts if part.need == need)


def shown(part: PartLine, quantity: float, system: System) -> str:
    """So much of a part in words: pieces, lengths, areas, or a load with its tonnes."""
    if part.sold_by not in SOLD_BY:
        return f"{quantity:g}"
    kind, decimals = SOLD_BY[part.sold_by]
    words = show(quantity, kind, system, decimals)
    if part.key not in T_M3:
        return words
    unit, each = LOADS[system]
    return f"{words} ({quantity * T_M3[part.key] * each:.1f}\u00a0{unit})"


def rolls_sold(roll_m: float, system: System) -> float:
    """The roll that a pipe comes in, m: in feet the next one up that is sold, or near it."""
    if roll_m <= 0 or system == "metric":
        return roll_m
    near = [feet for feet in ROLLS_FT if feet * FOOT_M >= 0.98 * roll_m]
    return (near[0] if near else ROLLS_FT[-1]) * FOOT_M


def part_id(key: str, variant: str = "") -> str:
    """What a line of the list goes by, whatever it is called: its part, and which of its kind."""
    slug = re.sub(r"[^a-z0-9]+", "-", f"{key} {variant}".lower()).strip("-")
    return stem(slug)


@dataclass(frozen=True)
class Cut:
    """So many like pieces of a tube."""

    tube: str
    length_m: float
    pieces: int
    where: str


def cut_list(garden: Garden, library: Library) -> tuple[Cut, ...]:
    """Pieces of pipe to cut, those of like tube, length and place together, longest first."""
    names = {p.id: p.name for p in garden.plots} | {z.id: z.name for z in garden.zones}
    pieces = Counter((library.tubes[line.tube].name, round(line.length_m, 2),
                      names[line.plot or line.zone]) for line in garden.lines)
    return tuple(sorted((Cut(tube, length, n, where)
                         for (tube, length, where), n in pieces.items() if length > 0),
                        key=lambda cut: (cut.tube, -cut.length_m, cut.where)))
