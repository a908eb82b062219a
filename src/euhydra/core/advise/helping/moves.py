"""The changes that a garden can be helped by: each a real edit, with what it asks of a person."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from euhydra.core.editing.edits import Edit, Together
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Garden
from euhydra.core.statements.figures import Phrase, quoted

Need = Literal["mains", "power", "digging", "carrying"]
REMEDY_HOURS = 1.0


@dataclass(frozen=True)
class Move:
    """One change. ``key`` lasts, and is made of letters, digits and hyphens.

    ``touches`` are the ids of what it changes, ``hours`` the work of making it (from memory, as all
    of them), ``needs`` what not everyone has or wants, ``caution`` what is said where it is chosen.
    """

    key: str
    label: Phrase
    edit: Edit
    touches: frozenset[str]
    hours: float
    needs: frozenset[Need] = frozenset()
    caution: str = ""

    @cached_property
    def takes(self) -> frozenset[str]:
        """What it settles. Of moves that settle the same one alone can be made."""
        return frozenset(e.path if isinstance(e, SetValue) else repr(e)
                         for e in Together((self.edit,)).each)


    @cached_property
    def lays(self) -> bool:
        """Whether lines may lie otherwise for it."""
        return not all(isinstance(e, SetValue) and not e.lays and not e.ends()
                       for e in Together((self.edit,)).each)


def as_one(moves: Sequence[Move]) -> Together:
    """Moves as one edit, whatever order they are given in: first what may lay lines anew."""
    return Together(tuple(move.edit for move in sorted(
        moves, key=lambda move: (not move.lays, move.key))))


def offered(garden: Garden, key: str, label: Phrase, edit: Edit) -> Move:
    """A remedy of a station as a move; it touches, and is told of, whatever its paths name."""
    paths = [e.path.split("/") for e in Together((edit,)).each if isinstance(e, SetValue)]
    touched = dict.fromkeys(p[1] for p in paths if len(p) > 2)
    of_all = timed(garden) if any(len(p) < 3 or p[0] == "timers" for p in paths) else ()
    named = {x.id: x.name for x in (*garden.plots, *garden.stores, *garden.roofs, *garden.zones)}
    name = quoted(named.get(next(iter(touched), ""), ""))
    if name and name not in label.template:
        label = Phrase(f"{name}: {label.template[0].lower()}{label.template[1:]}", label.amounts)
    return Move(key, label, edit, frozenset({*touched, *of_all}), REMEDY_HOURS)


def unlike(moves: Iterable[Move]) -> tuple[Move, ...]:
    """Those that differ in their edit and their key; the first of like ones stays."""
    edits: dict[Edit, Move] = {}
    for move in moves:
        edits.setdefault(move.edit, move)
    return tuple({move.key: move for move in reversed(edits.values())}.values())[::-1]


def plots_on(garden: Garden, source: str) -> Iterator[str]:
    """The plots that water of a source."""
    return (plot.id for plot in garden.plots if garden.source_of(plot) == source)


def timed(garden: Garden) -> Iterator[str]:
    """The timers, with the zones and the plots that they open."""
    yield from (timer.id for timer in garden.timers)
    for zone in garden.timed_zones:
        yield from (zone.id, *zone.plots)
