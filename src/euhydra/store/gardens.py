"""Gardens and their changes: every edit one transaction with a change row; undo and redo."""

from __future__ import annotations

import datetime as dt
import sqlite3

from euhydra.core.editing.file import BadFile, from_json, kept_text
from euhydra.core.garden.model import Garden
from euhydra.core.library import Library
from euhydra.store import rows, states
from euhydra.store.database import Database
from euhydra.store.kept import (
    HeldBack,
    Kept,
    Listed,
    Made,
    NoSuchGarden,
    Overtaken,
    Unreadable,
    free_id,
)

MOST_TITLES = 100
LATELY = 4  # gardens whose text is not read again


def require_garden(db: sqlite3.Connection, garden_id: str) -> None:
    """Raise :class:`NoSuchGarden` unless there is one of that id."""
    if db.execute("SELECT 1 FROM garden WHERE id = ? AND gone_at IS NULL",
                  (garden_id,)).fetchone() is None:
        raise NoSuchGarden(garden_id)


DEMO_TITLE = "Demo garden"


class Gardens:
    """The gardens in a database."""

    def __init__(self, database: Database, library: Library) -> None:
        self.database = database
        self.library = library
        self._lately: dict[tuple[str, str], Garden] = {}

    def listed(self) -> list[Listed]:
        """All gardens that stand, the last changed first."""
        return [one for one in self._listed() if not one.gone_at]

    def gone(self) -> list[Listed]:
        """Those deleted that can still be put back."""
        return [one for one in self._listed() if one.gone_at]

    def _listed(self) -> list[Listed]:
        with self.database.read() as db:
            found = db.execute(
                "SELECT garden.id, change.name, change.made_at, coalesce(gone_at, '') FROM garden"
                " JOIN change ON change.id = garden.head ORDER BY change.id DESC").fetchall()
        return [Listed(*row) for row in found]

    def load(self, garden_id: str) -> Kept:
        """The garden as it stands. Raises :class:`NoSuchGarden` or :class:`Unreadable`."""
        with self.database.read() as db:
            return self._kept(db, garden_id)

    def text(self, garden_id: str) -> str:
        """The stored text of the change that stands last, readable as a garden or not.

        Raises :class:`Unreadable` where even that is damaged.
        """
        with self.database.read() as db:
            try:
                return states.read(db, self._head(db, garden_id))
            except states.Damaged as error:
                raise Unreadable(garden_id, f"Of its last change not even the text is left: "
                                            f"{error}.") from None

    def tables_of(self, garden_id: str) -> Library:
        """The tables, with a garden's own copies of rows that they have no more."""
        with self.database.read() as db:
            return rows.library_of(db, garden_id, self.library)

    def at_change(self, garden_id: str, change: int) -> Garden | None:
        """The garden as it stood after a change of its own; None when none such can be read."""
        with self.database.read() as db:
            if db.execute("SELECT 1 FROM change WHERE id = ? AND garden_id = ?",
                          (change, garden_id)).fetchone() is None:
                return None
            try:
                return from_json(states.read(db, change),
                                 rows.library_of(db, garden_id, self.library))
            except (BadFile, states.Damaged):
                return None

    def add(self, garden: Garden, title: str, library: Library | None = None) -> Garden:
        """Keep a new garden. Its id is made free by a number when it is taken; returns it so.

        A copy brings the ``library`` of the garden that it is made from.
        """
        with self.database.write() as db:
            taken = {row[0] for row in db.execute("SELECT id FROM garden")}
            garden = garden.model_copy(update={"id": free_id(garden.id, taken)})
            db.execute("INSERT INTO garden (id, made_at, head) VALUES (?, ?, -1)",
                       (garden.id, _now()))
            change = self._change(db, garden, None, title, library or self.library)
            db.execute("UPDATE garden SET head = ? WHERE id = ?", (change, garden.id))
        return garden

    def edit(self, garden: Garden, title: str, since: Kept, by: str = "") -> None:
        """Keep a garden changed from how it stood at ``since``.

        Raises :class:`NoSuchGarden`, :class:`Overtaken` when it has moved on meanwhile, and
        :class:`~euhydra.core.editing.file.BadFile` when it could not be opened again.
        """
        with self.database.write() as db:
            if self._head(db, garden.id) != since.head:
                raise Overtaken(garden.id)
            change = self._change(db, garden, since, title, since.library, by)
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

    def last_of(self, garden_id: str, by: str) -> Made | None:
        """The last change a browser made, of the many last that led to how the garden stands."""
        with self.database.read() as db:
            found = db.execute(
                "WITH RECURSIVE way (id, before_id, title, made_by, steps) AS ("
                " SELECT change.id, before_id, title, made_by, 1 FROM change JOIN garden"
                " ON garden.head = change.id WHERE garden.id = ?"
                " UNION ALL SELECT change.id, change.before_id, change.title, change.made_by,"
                " steps + 1 FROM change JOIN way ON change.id = way.before_id WHERE steps < ?)"
                " SELECT id, before_id, title FROM way WHERE made_by = ? AND before_id NOTNULL"
                " ORDER BY steps LIMIT 1", (garden_id, MOST_TITLES, by)).fetchone()
        return Made(*found) if found else None

    def history(self, garden_id: str) -> list[str]:
        """Titles of the last changes that led to how the garden stands, the last first."""
        with self.database.read() as db:
            found = db.execute(
                "WITH RECURSIVE way (id, before_id, title, steps) AS ("
                " SELECT change.id, before_id, title, 1 FROM change JOIN garden"
                " ON garden.head = change.id WHERE garden.id = ?"
                " UNION ALL SELECT change.id, change.before_id, change.title, steps + 1"
                " FROM change JOIN way ON change.id = way.before_id WHERE steps < ?)"
                " SELECT title FROM way ORDER BY steps", (garden_id, MOST_TITLES)).fetchall()
        return [row["title"] for row in found]

    def as_it_came(self, garden_id: str, title: str) -> Garden | None:
        """The garden as it was first kept, where that was under a title; None where it was not."""
        with self.database.read() as db:
            first = db.execute("SELECT id, title FROM change WHERE garden_id = ? ORDER BY id"
                               " LIMIT 1", (garden_id,)).fetchone()
        if first is None or first["title"] != title:
            return None
        return self.at_change(garden_id, first["id"])

    @staticmethod
    def unreadable_in(db: sqlite3.Connection, library: Library) -> tuple[str, ...]:
        """The gardens of a file whose last change cannot be read."""
        bad = []
        for garden_id, head in db.execute("SELECT id, head FROM garden").fetchall():
            try:
                from_json(states.read(db, head), rows.library_of(db, garden_id, library))
            except (BadFile, states.Damaged):
                bad.append(str(garden_id))
        return tuple(bad)

    def _move(self, garden_id: str, where: str) -> None:
        with self.database.write() as db:
            there = db.execute(where, (self._head(db, garden_id),)).fetchone()[0]
            if there is not None:
                db.execute("UPDATE garden SET head = ? WHERE id = ?", (there, garden_id))

    @staticmethod
    def _head(db: sqlite3.Connection, garden_id: str) -> int:
        row = db.execute("SELECT head FROM garden WHERE id = ? AND gone_at IS NULL",
                         (garden_id,)).fetchone()
        if row is None:
            raise NoSuchGarden(garden_id)
        return int(row["head"])

    def _kept(self, db: sqlite3.Connection, garden_id: str) -> Kept:
        head = row = self._row(db, self._head(db, garden_id))
        library, why = rows.library_of(db, garden_id, self.library), ""
        while True:
            try:
                garden = self._parsed(garden_id, states.read(db, row["id"]), library)
                break
            except (BadFile, states.Damaged) as error:
                why = why or str(error)
            if row["before_id"] is None:
                raise Unreadable(garden_id, why)
            row = self._row(db, row["before_id"])
        held = HeldBack(head["id"], head["title"], head["made_at"], why) if why else None
        undo = head["title"] if head["before_id"] is not None else None
        # One that was brought in under another name keeps its states as they were written.
        garden = garden.model_copy(update={"id": garden_id})
        return Kept(garden, library, row["id"], head["id"], head["title"], undo, head["redo"],
                    head["made_at"], head["made_by"], held)

    def _parsed(self, garden_id: str, text: str, library: Library) -> Garden:
        """The garden that a text holds; one that was read lately is not read again."""
        garden = self._lately.get((garden_id, text))
        if garden is None:
            garden = from_json(text, library)
            self._keep_parsed(garden_id, text, garden)
        return garden

    def _keep_parsed(self, garden_id: str, text: str, garden: Garden) -> None:
        self._lately[garden_id, text] = garden
        for old in list(self._lately)[:-LATELY]:
            self._lately.pop(old, None)

    @staticmethod
    def _row(db: sqlite3.Connection, change: int) -> sqlite3.Row:
        row: sqlite3.Row = db.execute(
            "SELECT id, title, made_at, made_by, before_id,"
            " (SELECT title FROM change AS later WHERE later.before_id = change.id"
            "  ORDER BY later.id DESC LIMIT 1) AS redo FROM change WHERE id = ?",
            (change,)).fetchone()
        return row

    def _change(self, db: sqlite3.Connection, garden: Garden, since: Kept | None,
                title: str, library: Library, by: str = "") -> int:
        text = kept_text(garden, library, since.garden if since else None)
        self._keep_parsed(garden.id, text, garden)
        before = since.change if since else None
        cursor = db.execute(
            "INSERT INTO change (garden_id, before_id, made_at, title, name, made_by)"
            " VALUES (?, ?, ?, ?, ?, ?)", (garden.id, before, _now(), title, garden.name, by))
        change = int(cursor.lastrowid or 0)
        states.write(db, change, before, text)
        rows.keep(db, garden, library)
        if garden.site.record:
            db.execute("INSERT OR IGNORE INTO weather_use VALUES (?, ?)",
                       (garden.id, garden.site.record))
        if garden.sketch:
            db.execute("INSERT OR IGNORE INTO sketch_use VALUES (?, ?)",
                       (garden.id, garden.sketch.picture))
        return change


def _now() -> str:
    return dt.datetime.now(dt.UTC).isoformat(timespec="seconds")
