"""The log of each garden. What is taken out is kept aside, so that it can be put back."""

from __future__ import annotations

import datetime as dt
import secrets
import sqlite3
import time
from collections.abc import Iterable

from euhydra.core.log import Entry
from euhydra.store.database import Database
from euhydra.store.gardens import require_garden


def fresh_id() -> str:
    """An id for an entry that has none yet."""
    return secrets.token_hex(8)


class Log:
    """The entries in a database."""

    def __init__(self, database: Database) -> None:
        self.database = database

    def of(self, garden_id: str) -> tuple[Entry, ...]:
        """All that stands, the oldest first; those of one day in the order they were made in."""
        with self.database.read() as db:
            rows = db.execute("SELECT id, day, kind, about, value, word, note, named FROM log"
                              " WHERE garden_id = ? AND gone = 0 ORDER BY day, first_ms, id",
                              (garden_id,)).fetchall()
        return tuple(_entry(row) for row in rows)

    def put(self, garden_id: str, entries: Iterable[Entry], *, back: bool = True) -> None:
        """Keep entries; one of an id that is there takes its place, and what it said is kept aside.

        What was taken out comes back, unless ``back`` says that it stays out. Raises
        :class:`~euhydra.store.gardens.NoSuchGarden`.
        """
        now, entries = time.time_ns() // 1_000_000, tuple(entries)
        with self.database.write() as db:
            require_garden(db, garden_id)
            db.executemany(
                "INSERT INTO log_was SELECT garden_id, id, (SELECT coalesce(max(number), 0) + 1"
                " FROM log_was AS w WHERE w.garden_id = log.garden_id AND w.id = log.id),"
                " day, kind, about, value, word, note FROM log WHERE garden_id = ? AND id = ?"
                " AND (gone = 0 OR ?)"
                " AND (day, kind, about, value, word, note) IS NOT (?, ?, ?, ?, ?, ?)",
                [(garden_id, e.id, back, e.day.isoformat(), e.kind, e.about, e.value, e.word,
                  e.note) for e in entries])
            db.executemany(
                "INSERT INTO log (garden_id, id, day, kind, about, value, word, note, named,"
                " first_ms) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)"
                " ON CONFLICT (garden_id, id) DO UPDATE SET day = excluded.day,"
                " kind = excluded.kind, about = excluded.about, value = excluded.value,"
                " word = excluded.word, note = excluded.note, named = excluded.named, gone = 0,"
                " gone_at = NULL WHERE gone = 0 OR ?",
                [(garden_id, e.id, e.day.isoformat(), e.kind, e.about, e.value, e.word, e.note,
                  e.named, now + i, back) for i, e in enumerate(entries)])

    def knows(self, garden_id: str, entry: str) -> bool:
        """Whether an entry of that id was ever kept, taken out or not."""
        with self.database.read() as db:
            return db.execute("SELECT 1 FROM log WHERE garden_id = ? AND id = ?",
                              (garden_id, entry)).fetchone() is not None

    def undo(self, garden_id: str, entry: str) -> bool:
        """Let an entry say again what it said before it was last changed; whether it was."""
        with self.database.write() as db:
            was = db.execute("SELECT * FROM log_was WHERE garden_id = ? AND id = ?"
                             " ORDER BY number DESC LIMIT 1", (garden_id, entry)).fetchone()
            if was is None:
                return False
            db.execute("UPDATE log SET day = ?, kind = ?, about = ?, value = ?, word = ?, note = ?"
                       " WHERE garden_id = ? AND id = ?",
                       (was["day"], was["kind"], was["about"], was["value"], was["word"],
                        was["note"], garden_id, entry))
            db.execute("DELETE FROM log_was WHERE garden_id = ? AND id = ? AND number = ?",
                       (garden_id, entry, was["number"]))
            return True

    def take_out(self, garden_id: str, entry: str, *, back: bool = False) -> bool:
        """Take an entry out, or put it back; whether there is one of that id."""
        with self.database.write() as db:
            changed = db.execute(
                "UPDATE log SET gone = ?, gone_at = ? WHERE garden_id = ? AND id = ?",
                (0 if back else 1, None if back else _now(), garden_id, entry))
            return changed.rowcount > 0


def _now() -> str:
    return dt.datetime.now(dt.UTC).isoformat(timespec="seconds")


def _entry(row: sqlite3.Row) -> Entry:
    return Entry(row["id"], dt.date.fromisoformat(row["day"]), row["kind"], row["about"],
                 row["value"], row["word"], row["note"], row["named"])
