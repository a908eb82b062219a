"""Gardens and their changes: every edit one transaction with a change row; undo and redo."""

from __future__ import annotations

import datetime as dt
import re
import sqlite3
from dataclasses import dataclass

from euhydra.core.garden.file import BadFile, from_json, kept_text
from euhydra.core.garden.model import Garden
from euhydra.core.library import Library
from euhydra.store.database import Database


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
    """

    garden: Garden
    change: int
    head: int
    title: str
    undo: str | None
    redo: str | None
    held_back: HeldBack | None = None


@dataclass(frozen=True)
class Listed:
    """A line of the list of gardens."""

    id: str
    name: str
    changed_at: str


def require_garden(db: sqlite3.Connection, garden_id: str) -> None:
    """Raise :class:`NoSuchGarden` unless there is one of that id."""
    if db.execute("SELECT 1 FROM garden WHERE id = ?", (garden_id,)).fetchone() is None:
        raise NoSuchGarden(garden_id)


class Gardens:
    """The gardens in a database."""

    def __init__(self, database: Database, library: Library) -> None:
        self.database = database
        self.library = library

    def listed(self) -> list[Listed]:
        """All gardens, the last changed first."""
        with self.database.read() as db:
            rows = db.execute(
                "SELECT garden.id, change.name, change.made_at FROM garden"
                " JOIN change ON change.id = garden.head ORDER BY change.id DESC").fetchall()
        return [Listed(*row) for row in rows]

    def load(self, garden_id: str) -> Kept:
        """The garden as it stands. Raises :class:`NoSuchGarden` or :class:`Unreadable`."""
        with self.database.read() as db:
            return self._kept(db, garden_id)

    def text(self, garden_id: str) -> str:
        """The stored text of the change that stands last, readable or not."""
        with self.database.read() as db:
            row = db.execute("SELECT doc FROM garden JOIN change ON change.id = garden.head"
                             " WHERE garden.id = ?", (garden_id,)).fetchone()
        if row is None:
            raise NoSuchGarden(garden_id)
        return str(row["doc"])

    def at_change(self, garden_id: str, change: int) -> Garden | None:
        """The garden as it stood after a change of its own; None when none such can be read."""
        with self.database.read() as db:
            row = db.execute("SELECT doc FROM change WHERE id = ? AND garden_id = ?",
                             (change, garden_id)).fetchone()
        try:
            return from_json(row["doc"], self.library) if row else None
        except BadFile:
            return None

    def add(self, garden: Garden, title: str) -> Garden:
        """Keep a new garden. Its id is made free by a number when it is taken; returns it so."""
        with self.database.write() as db:
            taken = {row[0] for row in db.execute("SELECT id FROM garden")}
            garden = garden.model_copy(update={"id": free_id(garden.id, taken)})
            db.execute("INSERT INTO garden (id, made_at, head) VALUES (?, ?, -1)",
                       (garden.id, _now()))
            change = self._change(db, garden, None, title)
            db.execute("UPDATE garden SET head = ? WHERE id = ?", (change, garden.id))
        return garden

    def edit(self, garden: Garden, title: str, since: Kept) -> None:
        """Keep a garden changed from how it stood at ``since``.

        Raises :class:`NoSuchGarden`, :class:`Overtaken` when it has moved on meanwhile, and
        :class:`~euhydra.core.garden.file.BadFile` when it could not be opened again.
        """
        with self.database.write() as db:
            if self._head(db, garden.id) != since.head:
                raise Overtaken(garden.id)
            change = self._change(db, garden, since.change, title)
            db.execute("UPDATE garden SET head = ? WHERE id = ?", (change, garden.id))

    def head(self, garden_id: str) -> int:
        """The change that stands last. Raises :class:`NoSuchGarden`."""
        with self.database.read() as db:
            return self._head(db, garden_id)

    def undo(self, garden_id: str) -> None:
        """Step back one change, readable or not; where there is none, stay."""
        self._move(garden_id, "SELECT before_id FROM change WHERE id = ?")

    def redo(self, garden_id: str) -> None:
        """Step forward to the newest change made from here; where there is none, stay."""
        self._move(garden_id, "SELECT max(id) FROM change WHERE before_id = ?")

    def history(self, garden_id: str) -> list[str]:
        """Titles of the changes that led to how the garden stands, the last first."""
        with self.database.read() as db:
            rows = db.execute(
                "WITH RECURSIVE way (id, before_id, title) AS ("
                " SELECT change.id, before_id, title FROM change JOIN garden"
                " ON garden.head = change.id WHERE garden.id = ?"
                " UNION ALL SELECT change.id, change.before_id, change.title"
                " FROM change JOIN way ON change.id = way.before_id)"
                " SELECT title FROM way ORDER BY id DESC", (garden_id,)).fetchall()
        return [row["title"] for row in rows]

    def _move(self, garden_id: str, where: str) -> None:
        with self.database.write() as db:
            there = db.execute(where, (self._head(db, garden_id),)).fetchone()[0]
            if there is not None:
                db.execute("UPDATE garden SET head = ? WHERE id = ?", (there, garden_id))

    @staticmethod
    def _head(db: sqlite3.Connection, garden_id: str) -> int:
        row = db.execute("SELECT head FROM garden WHERE id = ?", (garden_id,)).fetchone()
        if row is None:
            raise NoSuchGarden(garden_id)
        return int(row["head"])

    def _kept(self, db: sqlite3.Connection, garden_id: str) -> Kept:
        head = row = self._row(db, self._head(db, garden_id))
        why = ""
        while True:
            try:
                garden = from_json(row["doc"], self.library)
                break
            except BadFile as error:
                why = why or str(error)
            if row["before_id"] is None:
                raise Unreadable(garden_id, why)
            row = self._row(db, row["before_id"])
        held = HeldBack(head["id"], head["title"], head["made_at"], why) if why else None
        undo = head["title"] if head["before_id"] is not None else None
        return Kept(garden, row["id"], head["id"], head["title"], undo, head["redo"], held)

    @staticmethod
    def _row(db: sqlite3.Connection, change: int) -> sqlite3.Row:
        row: sqlite3.Row = db.execute(
            "SELECT id, title, made_at, doc, before_id,"
            " (SELECT title FROM change AS later WHERE later.before_id = change.id"
            "  ORDER BY later.id DESC LIMIT 1) AS redo FROM change WHERE id = ?",
            (change,)).fetchone()
        return row

    def _change(self, db: sqlite3.Connection, garden: Garden, before: int | None,
                title: str) -> int:
        cursor = db.execute(
            "INSERT INTO change (garden_id, before_id, made_at, title, name, doc)"
            " VALUES (?, ?, ?, ?, ?, ?)",
            (garden.id, before, _now(), title, garden.name, kept_text(garden, self.library)))
        return int(cursor.lastrowid or 0)


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


def _now() -> str:
    return dt.datetime.now(dt.UTC).isoformat(timespec="seconds")
