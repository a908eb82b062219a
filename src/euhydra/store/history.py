"""A garden's changes as they are kept, to take them elsewhere whole."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from euhydra.store.database import Database


@dataclass(frozen=True)
class Past:
    """A change as it is kept: after which, hanging on which, when, what, and its frame."""

    change: int
    before: int | None
    base: int | None
    made_at: str
    title: str
    name: str
    body: bytes


def past(database: Database, garden_id: str) -> list[Past]:
    """The changes that led to how a garden stands, the first first; what they hang on too."""
    with database.read() as db:
        found = db.execute(
            "WITH RECURSIVE way (id) AS ("
            " SELECT head FROM garden WHERE id = ?1"
            " UNION SELECT before_id FROM change JOIN way USING (id) WHERE before_id NOTNULL"
            " UNION SELECT base_id FROM state JOIN way ON change_id = way.id"
            "  WHERE base_id NOTNULL)"
            " SELECT change.id, before_id, base_id, made_at, title, name, body FROM change"
            " JOIN state ON change_id = change.id WHERE change.id IN (SELECT id FROM way)"
            " ORDER BY change.id", (garden_id,)).fetchall()
    return [Past(*row) for row in found]


def adopt(database: Database, garden_id: str, changes: Iterable[Past]) -> None:
    """Put the changes that a garden went through elsewhere before the one it was added with."""
    with database.write() as db:
        first = db.execute("SELECT head FROM garden WHERE id = ?", (garden_id,)).fetchone()[0]
        ids: dict[int, int] = {}
        last = None
        for one in changes:
            cursor = db.execute(
                "INSERT INTO change (garden_id, before_id, made_at, title, name)"
                " VALUES (?, ?, ?, ?, ?)",
                (garden_id, ids.get(one.before or 0), one.made_at, one.title, one.name))
            last = ids[one.change] = int(cursor.lastrowid or 0)
            db.execute("INSERT INTO state (change_id, base_id, body) VALUES (?, ?, ?)",
                       (last, ids.get(one.base or 0), one.body))
        db.execute("UPDATE change SET before_id = ? WHERE id = ?", (last, first))
