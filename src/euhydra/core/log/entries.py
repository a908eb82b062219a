"""Entries of the log: what kinds there are, what each is about and how it is measured."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass

from euhydra.core.garden.model import Garden


class BadEntryOf(ValueError):
    """The entry cannot be; the message says why."""


@dataclass(frozen=True)
class Kind:
    """A kind of entry. ``unit`` is a unit kind, "" where nothing is measured.

    ``about`` is "store", "zone", "plot", "any", or "" for the whole garden; ``words`` are those
    that it is said in, where it is not measured; ``most`` bounds the number, in the unit inside.
    """

    label: str
    about: str
    unit: str = ""
    words: tuple[str, ...] = ()
    most: float = 0.0
    ask: str = ""


KINDS: dict[str, Kind] = {
    "dip": Kind("Tank dip", "store", "small", most=4.0, ask="water over the vessel's base"),
    "flow": Kind("Jug or meter", "zone", "flow", most=20000.0, ask="what the whole zone gives"),
    "rain": Kind("Rain", "", "rain", most=500.0, ask="fell since the last entry"),
    "soil": Kind("Soil feel", "plot", words=("dry", "right", "muddy")),
    "leaf": Kind("Leaf signs", "plot", words=("well", "drooping", "crisp", "yellow")),
    "repair": Kind("Repair", "any"),
    "filter": Kind("Filter rinsed", "zone"),
    "battery": Kind("Battery", ""),
    "harvest": Kind("Harvest", "plot", "mass", most=5000.0, ask="picked"),
    "feed": Kind("Feed", "plot"),
    "photo": Kind("Photo", "any"),
    "note": Kind("Note", "any"),
    "lesson": Kind("Lesson", "any"),
    "changed": Kind("Timer changed", "zone"),
}
FIVE = ("dip", "flow", "rain", "soil", "leaf")
LONGEST_NOTE = 400


@dataclass(frozen=True)
class Entry:
    """One line of the log. ``about`` is the id of a store, zone or plot; ``value`` in the unit
    inside, None where the kind measures nothing; ``word`` one of the kind's; ``named`` what the
    thing was called then.
    """

    id: str
    day: dt.date
    kind: str
    about: str = ""
    value: float | None = None
    word: str = ""
    note: str = ""
    named: str = ""


def things_of(garden: Garden, about: str) -> dict[str, str]:
    """The names of what an entry can be about, by id; "" is the whole garden."""
    if about == "any":
        return {"": "the whole garden", **things_of(garden, "plot"), **things_of(garden, "zone"),
                **things_of(garden, "store"), **things_of(garden, "drain")}
    things = {"store": garden.stores, "zone": garden.zones, "plot": garden.plots,
              "drain": garden.drains}.get(about, ())
    return {thing.id: thing.name for thing in things}


def name_of(garden: Garden, entry: Entry) -> str:
    """What an entry is about by its name; its old one where it is gone from the garden."""
    there = things_of(garden, KINDS[entry.kind].about)
    return there.get(entry.about) or entry.named or entry.about


def kinds_about(garden: Garden, thing: str) -> tuple[str, ...]:
    """The kinds of entry that a thing can have, those of its own sort first."""
    mine = [key for key, kind in KINDS.items()
            if kind.about != "any" and thing in things_of(garden, kind.about)]
    other = [key for key, kind in KINDS.items() if kind.about == "any"]
    return tuple(key for key in (*mine, *other) if key != "changed")


def checked(entry: Entry, today: dt.date) -> Entry:
    """The entry, if it can be. Raises :class:`BadEntryOf` saying what is allowed.

    What it is about need not be in the garden any more.
    """
    kind = KINDS.get(entry.kind)
    if kind is None:
        raise BadEntryOf(f"“{entry.kind[:40]}” is no kind of entry. There are: {', '.join(KINDS)}.")
    if entry.day > today:
        raise BadEntryOf(f"{entry.day.isoformat()} is still to come. Log what was, up to "
                         f"{today.isoformat()}.")
    if entry.day.year < 1990:
        raise BadEntryOf(f"{entry.day.isoformat()} is too long ago: from 1990 on.")
    if kind.unit and (entry.value is None or not 0 <= entry.value <= kind.most):
        raise BadEntryOf(f"{kind.label}: the number is missing or out of reach.")
    if kind.words and entry.word not in kind.words:
        raise BadEntryOf(f"{kind.label}: “{entry.word[:40]}” is none of {', '.join(kind.words)}.")
    if len(entry.note) > LONGEST_NOTE:
        raise BadEntryOf(f"The note is {len(entry.note)} signs long; {LONGEST_NOTE} are kept.")
    return entry
