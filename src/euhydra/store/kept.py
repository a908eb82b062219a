"""What the store gives out: a garden as it is kept, a change, a line of the list; its refusals."""

from __future__ import annotations

import re
from dataclasses import dataclass

from euhydra.core.garden.model import Garden
from euhydra.core.library import Library


class NoSuchGarden(LookupError):
    """There is no garden of that id."""


class Overtaken(RuntimeError):
    """The garden was changed elsewhere since it was read."""


class Unreadable(RuntimeError):
    """No state of the garden can be read; its stored text is still there."""

    def __init__(self, garden_id: str, why: str) -> None:
        super().__init__(why)
        self.garden_id = garden_id


@dataclass(frozen=True)
class HeldBack:
    """A change that stands last and cannot be read: what it was, when it was made, and why not."""

    change: int
    title: str
    made_at: str
    why: str


@dataclass(frozen=True)
class Kept:
    """A garden as it stands, with where it stands in its history.

    ``head`` is the change that stands last. Where that cannot be read, ``garden`` is its last
    readable state, made by ``change``, and ``held_back`` says what is missing from it.
    ``made_at`` and ``made_by`` are of that change: when, and by which browser's mark.
    ``library`` has the garden's own copies of rows that the tables have no more.
    """

    garden: Garden
    library: Library
    change: int
    head: int
    title: str
    undo: str | None
    redo: str | None
    made_at: str = ""
    made_by: str = ""
    held_back: HeldBack | None = None


@dataclass(frozen=True)
class Made:
    """A change, and the one that it was made on."""

    change: int
    before: int
    title: str


@dataclass(frozen=True)
class Listed:
    """A line of the list of gardens; ``gone_at`` is when it was deleted, empty where it was not."""

    id: str
    name: str
    changed_at: str
    gone_at: str = ""


def slug(name: str) -> str:
    """An id from a name: ``"Plot 27!"`` -> ``"plot-27"``; "garden" when nothing is left."""
    return re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:48].strip("-") or "garden"


def free_id(wanted: str, taken: set[str]) -> str:
    """The id itself, or with the first free number behind it."""
    if wanted not in taken:
        return wanted
    number = 2
    while f"{wanted[:56]}-{number}" in taken:
        number += 1
    return f"{wanted[:56]}-{number}"
