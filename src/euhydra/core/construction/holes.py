"""Every hole that a garden has drilled or sawn: in what, where, how wide, what makes it tight."""

from __future__ import annotations

from dataclasses import dataclass

from euhydra.core.construction.facts import Built, kits_of
from euhydra.core.construction.setting_out import marks
from euhydra.core.construction.things import things
from euhydra.core.garden.model import Garden
from euhydra.core.library import Library
from euhydra.core.library.kits import KitHole
from euhydra.core.statements.figures import Amount, Phrase, say

LEAST_SAW_MM = 16.0  # from here a hole saw makes a rounder hole than a drill, from memory
OUTLET_GASKET = "its gasket, soaped"


@dataclass(frozen=True)
class Hole:
    """Like holes: so many, of a bore in mm, in what and where, and what makes them tight.

    ``about`` is the id of the thing they are in, ``of`` its name.
    """

    about: str
    of: str
    what: str
    where: Phrase
    mm: float
    times: int
    gasket: str


def holes(garden: Garden, library: Library) -> tuple[Hole, ...]:
    """Every hole, by the thing it is in: first the marks of the stores, then those of the kits."""
    found = [Hole(store.id, store.name, m.what, say(
        "{h} over the base" if m.over_base_m is not None else "{h} over the ground",
        h=Amount(m.over_ground_m if m.over_base_m is None else m.over_base_m, "length")),
        m.drill_mm, m.times, OUTLET_GASKET if m.over_base_m is not None else "")
        for store in garden.stores for m in marks(garden, store) if m.drill_mm > 0]
    found += [hole for thing in things(garden, library) for kit in kits_of(thing, library)
              for one in kit.holes if (hole := _hole(thing, one))]
    return tuple(found)


def _hole(thing: Built, hole: KitHole) -> Hole | None:
    times = round(thing.number(hole.per) * hole.each)
    mm = thing.number(hole.size) if hole.size else hole.mm
    return Hole(thing.id, thing.name, hole.what, thing.say(hole.where), mm, times, hole.gasket) if (
        times) else None
