"""Entries of the log: what kinds there are, what each is about and how it is measured."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field

from euhydra.core.garden.model import Garden


class BadEntryOf(ValueError):
    """The entry cannot be; the message says why."""


@dataclass(frozen=True)
class EntryKind:
    """A kind of entry. ``unit`` is a unit kind, "" where nothing is measured.

    ``about`` is "store", "zone", "plot", "watered" (zones and plots), "any", or "" for the whole
    garden; ``words`` are those that it is said in, each with what it tells of the ground: "dry",
    "right" or "wet"; ``most`` bounds the number, in the unit inside. ``lane`` is how Keep's year
    draws it: "done" a mark for each, "felt" a sign for what was felt; "level", "flow", "rain" and
    "across" as they are named. The first entries are ``quick``, some are ``by_hand`` never.
    ``note`` asks for what is written with it; one is made of a ``picture``.
    """

    label: str
    about: str
    unit: str = ""
    words: Mapping[str, str] = field(default_factory=dict)
    most: float = 0.0
    ask: str = ""
    lane: str = "done"
    quick: bool = False
    by_hand: bool = True
    note: str = "Note"
    picture: bool = False


KINDS: dict[str, EntryKind] = {
    "dip": EntryKind("Tank dip", "store", "small", most=4.0, ask="depth of its water",
                     lane="level", quick=True),
    "flow": EntryKind("Jug or meter", "zone", "flow", most=20000.0,
                      ask="what the whole zone gives", lane="flow", quick=True),
    "rain": EntryKind("Rain", "", "rain", most=500.0, ask="fell since the last entry",
                      lane="rain", quick=True),
    "soil": EntryKind("Soil feel", "plot", words={"dry": "dry", "right": "right", "muddy": "wet"},
                      lane="felt", quick=True),
    "leaf": EntryKind("Leaf signs", "plot", words={"well": "", "drooping": "dry", "crisp": "dry",
                                                   "yellow": "wet"}, lane="felt", quick=True),
    "repair": EntryKind("Repair", "any"),
    "filter": EntryKind("Filter rinsed", "zone"),
    "battery": EntryKind("Battery", ""),
    "harvest": EntryKind("Harvest", "plot", "mass", most=5000.0, ask="picked"),
    "feed": EntryKind("Feed", "plot"),
    "water": EntryKind("Watered", "watered", "volume", most=20000.0,
                       ask="given by hand, or by a run of your own"),
    "photo": EntryKind("Photo", "any", picture=True),
    "note": EntryKind("Note", "any"),
    "lesson": EntryKind("Lesson", "any", note="What the next year should know"),
    "changed": EntryKind("Timer changed", "zone", lane="across", by_hand=False),
}
LONGEST_NOTE = 400
ID = r"[a-z0-9-]{8,40}"  # what an entry may be called by whoever makes it
WET_KPA, DRY_KPA = 10.0, 60.0  # of soil water tension in a loam; common practice


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
    if about == "watered":
        return {**things_of(garden, "zone"), **things_of(garden, "plot")}
    things = {"store": garden.stores, "zone": garden.zones, "plot": garden.plots,
              "drain": garden.drains}.get(about, ())
    return {thing.id: thing.name for thing in things}


def name_of(garden: Garden, entry: Entry) -> str:
    """What an entry is about by its name; its old one where it is gone from the garden."""
    there = things_of(garden, KINDS[entry.kind].about)
    return there.get(entry.about) or entry.named or entry.about


def felt(entry: Entry) -> str:
    """What an entry tells of the ground: dry, right, wet, or "" where it tells nothing."""
    return KINDS[entry.kind].words.get(entry.word, "")


def felt_of(tension_kpa: float) -> str:
    """How soil at a tension would be felt: muddy, right or dry, as the words of an entry."""
    if tension_kpa < WET_KPA:
        return "muddy"
    return "dry" if tension_kpa > DRY_KPA else "right"


def in_lane(entries: Iterable[Entry], lane: str) -> list[Entry]:
    """The entries that are drawn in one way."""
    return [e for e in entries if KINDS[e.kind].lane == lane]


def kinds_about(garden: Garden, thing: str) -> tuple[str, ...]:
    """The kinds of entry that a thing can have, those of its own sort first."""
    mine = [key for key, kind in KINDS.items()
            if kind.about != "any" and thing in things_of(garden, kind.about)]
    other = [key for key, kind in KINDS.items() if kind.about == "any"]
    return tuple(key for key in (*mine, *other) if KINDS[key].by_hand)


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
