"""Photos of a garden's log, each with the entry that it belongs to."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from euhydra.store.database import Database


@dataclass(frozen=True)
class Photo:
    """A JPEG, its entry and its size in pixels."""

    entry: str
    jpeg: bytes
    width: int
    height: int


class Photos:
    """The photos in a database. One of an entry that stands in no log is not kept."""

    def __init__(self, database: Database) -> None:
        self.database = database

    def put(self, garden_id: str, photos: Iterable[Photo]) -> None:
        """Keep photos; one of an entry that has one takes its place."""
        with self.database.write() as db:
            db.executemany(
                "INSERT INTO photo (garden_id, entry, jpeg, width, height)"
                " SELECT garden_id, id, ?, ?, ? FROM log WHERE garden_id = ? AND id = ?"
                " ON CONFLICT (garden_id, entry) DO UPDATE SET jpeg = excluded.jpeg,"
                " width = excluded.width, height = excluded.height",
                [(p.jpeg, p.width, p.height, garden_id, p.entry) for p in photos])

    def load(self, garden_id: str, entry: str) -> Photo | None:
        """The photo of an entry, if there is one."""
        with self.database.read() as db:
            row = db.execute("SELECT * FROM photo WHERE garden_id = ? AND entry = ?",
                             (garden_id, entry)).fetchone()
        return Photo(entry, row["jpeg"], row["width"], row["height"]) if row else None

    def of(self, garden_id: str) -> frozenset[str]:
        """The entries that have one, and stand."""
        with self.database.read() as db:
            rows = db.execute("SELECT entry FROM photo JOIN log USING (garden_id)"
                              " WHERE garden_id = ? AND log.id = entry AND gone = 0",
                              (garden_id,)).fetchall()
        return frozenset(row["entry"] for row in rows)
