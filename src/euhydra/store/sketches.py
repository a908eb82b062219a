"""Pictures under ground plans, kept by their content."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass

from euhydra.core.garden.model import Garden
from euhydra.store.database import Database


@dataclass(frozen=True)
class Picture:
    """A JPEG and its size in pixels."""

    jpeg: bytes
    width: int
    height: int

    @property
    def id(self) -> str:
        """What it goes by."""
        return hashlib.sha256(self.jpeg).hexdigest()[:16]


class Sketches:
    """The pictures in a database; those that no garden lies on go with the next purge."""

    def __init__(self, database: Database) -> None:
        self.database = database

    def add(self, picture: Picture, garden_id: str = "") -> None:
        """Keep a picture, once; a garden that is named has lain on it."""
        with self.database.write() as db:
            db.execute("INSERT INTO sketch (id, jpeg, width, height) VALUES (?, ?, ?, ?)"
                       " ON CONFLICT (id) DO NOTHING",
                       (picture.id, picture.jpeg, picture.width, picture.height))
            if garden_id:
                db.execute("INSERT OR IGNORE INTO sketch_use VALUES (?, ?)",
                           (garden_id, picture.id))

    def load(self, sketch_id: str) -> Picture | None:
        """The picture of that id, if there is one."""
        with self.database.read() as db:
            row = db.execute("SELECT jpeg, width, height FROM sketch WHERE id = ?",
                             (sketch_id,)).fetchone()
        return Picture(*row) if row else None

    def of(self, garden: Garden) -> Picture | None:
        """The picture under a garden's plan, if one lies there."""
        return self.load(garden.sketch.picture) if garden.sketch else None

    def ever_under(self, garden_id: str) -> list[Picture]:
        """All that lay under a garden's plan at any change of it."""
        with self.database.read() as db:
            rows = db.execute("SELECT jpeg, width, height FROM sketch JOIN sketch_use"
                              " ON sketch_id = id WHERE garden_id = ? ORDER BY id",
                              (garden_id,)).fetchall()
        return [Picture(*row) for row in rows]
