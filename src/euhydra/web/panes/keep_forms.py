"""What the templates of Keep are given."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from euhydra.web.panes.base import Form

Words = tuple[str, str]


@dataclass(frozen=True)
class EntryForm:
    """The form of one entry, new or being changed; ``about`` are the things it can be about."""

    kind: str
    picture: bool
    label: str
    ask: str
    words: Sequence[str]
    about: Mapping[str, str]
    has_value: bool
    entry: str
    typed: str
    word: str
    chosen: str
    day: str
    today: str
    note: str
    note_asks: str
    example: str


@dataclass(frozen=True)
class EntryRow:
    """An entry as the log shows it."""

    id: str
    day: str
    label: str
    about: str
    said: str
    note: str
    photo: bool


@dataclass(frozen=True)
class JustDone:
    """What was just done to an entry, and how it is undone."""

    words: str
    do: str
    back: str
    entry: str
    undo: str


@dataclass(frozen=True)
class Log(Form):
    """The log: kinds to enter, the form that is open, those for a phone, the last entries."""

    template = "_log.html"
    five: Sequence[Words]
    more: Sequence[Words]
    form: EntryForm | None
    forms: Mapping[str, EntryForm]
    said: JustDone | None
    count: int
    entries: Sequence[EntryRow]


@dataclass(frozen=True)
class OneThing(Form):
    """One bed, valve or barrel, where its label leads."""

    template = "_one.html"
    about: str
    name: str
    things: Mapping[str, str]
    line: str
    sign: str
    set: str
    buttons: Sequence[Words]
    entries: Sequence[EntryRow]
    count: int


@dataclass(frozen=True)
class YearEnd(Form):
    """What a year came to; ``figures`` are name, amount, formula and source."""

    template = "_year.html"
    year: int
    undipped: Sequence[str]
    figures: Sequence[tuple[str, str, str, str]]
    failed: Sequence[str]
    lessons: Sequence[str]
