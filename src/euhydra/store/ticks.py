"""Which steps of a garden are done. A tick may arrive late, and twice: the latest said stands."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from euhydra.store.database import Database
from euhydra.store.gardens import require_garden


@dataclass(frozen=True)
class Tick:
    """A step, whether it is done, and when that was said (milliseconds since 1970)."""

    step: str
    done: bool
    said_ms: int


class Ticks:
    """The ticks in a database."""

    def __init__(self, database: Database) -> None:
        self.database = database

    def of(self, garden_id: str) -> frozenset[str]:
        """The steps that are done."""
        with self.database.read() as db:
            rows = db.execute("SELECT step FROM tick WHERE garden_id = ? AND done = 1",
                              (garden_id,)).fetchall()
        return frozenset(row["step"] for row in rows)

    def said(self, garden_id: str) -> list[Tick]:
        """All that was said of a garden's steps."""
        with self.database.read() as db:
            rows = db.execute("SELECT step, done, said_ms FROM tick WHERE garden_id = ?"
                              " ORDER BY step", (garden_id,)).fetchall()
        return [Tick(row["step"], bool(row["done"]), row["said_ms"]) for row in rows]

    def say(self, garden_id: str, ticks: Iterable[Tick]) -> None:
        """Keep what was said; what was said earlier than what stands changes nothing.

        Raises :class:`~euhydra.store.gardens.NoSuchGarden`.
        """
        with self.database.write() as db:
            require_garden(db, garden_id)
            db.executemany(
                "INSERT INTO tick (garden_id, step, done, said_ms) VALUES (?, ?, ?, ?)"
                " ON CONFLICT (garden_id, step) DO UPDATE"
                " SET done = excluded.done, said_ms = excluded.said_ms"
                " WHERE excluded.said_ms >= tick.said_ms",
                [(garden_id, t.step, int(t.done), t.said_ms) for t in ticks])
