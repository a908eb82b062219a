"""The rows of a kit: what one kind of thing takes to be bought, drilled, built, tested and kept.

A kit is a file of ``euhydra/data/kits``. Counts and words go by the facts of a thing (see
``core.construction.facts``): ``per`` and ``only`` name one, words hold them in braces.
"""

from __future__ import annotations

from dataclasses import dataclass

from euhydra.core.library.rows import Row


@dataclass(frozen=True, kw_only=True)
class KitPart:
    """A part: ``each`` for every one of the fact ``per``; none where that is 0.

    ``name`` replaces the part's own, its "{}" filled with the fact ``size``; what is ``sold`` by
    that size is called by it in either system. Of what comes in ``sacks`` they are litres.
    ``variant`` keeps unlike ones apart; of a tube it is which. ``price`` is a fact, where the
    table's is not it.
    """

    part: str
    per: str = "one"
    each: float = 1.0
    name: str = ""
    size: str = ""
    sold: bool = False
    sacks: bool = False
    variant: str = ""
    price: str = ""
    reason: str = ""


@dataclass(frozen=True, kw_only=True)
class KitHole:
    """A hole to drill: in what, where in it, its bore (a fact, or ``mm``), ``each`` for every
    ``per``, and what makes it tight, if anything.
    """

    what: str
    where: str
    mm: float = 0.0
    size: str = ""
    per: str = "one"
    each: float = 1.0
    gasket: str = ""


@dataclass(frozen=True, kw_only=True)
class KitStep:
    """A step of the work, in its place among all steps of the same thing by ``order``.

    It is left out where the fact ``only`` is 0. One with words for a ``place`` is the same for all
    such things but for those: its other words name no fact, and a ``part`` heads it.
    """

    id: str
    order: int
    title: str
    how: str
    tool: str = ""
    caution: str = ""
    test: str = ""
    only: str = "one"
    part: str = ""
    place: str = ""


@dataclass(frozen=True, kw_only=True)
class KitCare:
    """What keeps it sound: in ``spring``, in ``autumn``, or through its ``season`` every so often.

    ``every_days`` counts in its season.
    """

    id: str
    when: str
    title: str
    words: str
    every_days: int = 0
    only: str = "one"


@dataclass(frozen=True, kw_only=True)
class Kit(Row):
    """A whole kit, of things of one sort, or of the ``kinds`` named."""

    of: str
    kinds: tuple[str, ...] = ()
    parts: tuple[KitPart, ...] = ()
    holes: tuple[KitHole, ...] = ()
    steps: tuple[KitStep, ...] = ()
    care: tuple[KitCare, ...] = ()
