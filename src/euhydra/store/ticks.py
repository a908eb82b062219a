"""Which steps of a garden are done. A tick may arrive late, and twice: the latest said stands.

What is later is told by this machine's clock and how long ago a device says it was said, never by
a device's clock alone: one that is a year ahead or behind neither bars a tick nor takes one back.
"""

from __future__ import annotations

import time
from collections.abc import Iterable
from dataclasses import dataclass

from euhydra.store.database import Database
from euhydra.store.gardens import require_garden

LONGEST_MS = 366 * 24 * 3600 * 1000  # that a tick may wait on a device


@dataclass(frozen=True)
class Tick:
    """A step, whether it is done, and when that was said: ``age_ms`` ago.

    ``device_ms`` is what the device's own clock said then (milliseconds since 1970), if it told.
    """

    step: str
    done: bool
    age_ms: int = 0
    device_ms: int | None = None


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
        now = _now_ms()
        with self.database.read() as db:
            rows = db.execute("SELECT step, done, said_ms, device_ms FROM tick WHERE garden_id = ?"
                              " ORDER BY step", (garden_id,)).fetchall()
        return [Tick(row["step"], bool(row["done"]), max(0, now - row["said_ms"]), row["device_ms"])
                for row in rows]

    def say(self, garden_id: str, ticks: Iterable[Tick]) -> None:
        """Keep what was said; what was said earlier than what stands changes nothing.

        Raises :class:`~euhydra.store.gardens.NoSuchGarden`.
        """
        now = _now_ms()
        with self.database.write() as db:
            require_garden(db, garden_id)
            db.executemany(
                "INSERT INTO tick (garden_id, step, done, said_ms, device_ms)"
                " VALUES (?, ?, ?, ?, ?) ON CONFLICT (garden_id, step) DO UPDATE"
                " SET done = excluded.done, said_ms = excluded.said_ms,"
                " device_ms = excluded.device_ms WHERE excluded.said_ms >= min(tick.said_ms, ?)",
                [(garden_id, t.step, int(t.done), now - min(max(t.age_ms, 0), LONGEST_MS),
                  t.device_ms, now) for t in ticks])


def _now_ms() -> int:
    return time.time_ns() // 1_000_000
