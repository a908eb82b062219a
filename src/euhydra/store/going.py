"""What goes for good: gardens and entries deleted a month ago, changes that a person prunes."""

from __future__ import annotations

import datetime as dt
import sqlite3

from euhydra.store import states
from euhydra.store.database import Database
from euhydra.store.kept import NoSuchGarden

BACK_DAYS = 30  # a deleted garden or entry can be put back
UNDO_DAYS = 365  # a change can be undone


def delete(database: Database, garden_id: str, now: dt.datetime, *, back: bool = False) -> None:
    """Delete a garden, or put it back. Raises :class:`~euhydra.store.gardens.NoSuchGarden`."""
    with database.write() as db:
        done = db.execute("UPDATE garden SET gone_at = ? WHERE id = ? AND (gone_at IS NULL) = ?",
                          (None if back else _text(now), garden_id, not back))
        if not done.rowcount:
            raise NoSuchGarden(garden_id)


def purge(database: Database, now: dt.datetime) -> int:
    """Take away for good what was deleted long enough ago; how many gardens and entries went.

    A garden goes from every table, its changes, log, photos, ticks, weather and pictures with it.
    """
    since = _text(now - dt.timedelta(days=BACK_DAYS))
    with database.write() as db:
        gone = [row[0] for row in db.execute("SELECT id FROM garden WHERE gone_at < ?", (since,))]
        for garden_id in gone:
            _forget(db, garden_id)
        entries = db.execute("DELETE FROM log WHERE gone = 1 AND gone_at < ?", (since,)).rowcount
        db.execute("DELETE FROM weather_record WHERE id IN (SELECT record_id FROM weather_gone)"
                   " AND id NOT IN (SELECT record_id FROM weather_use)")
        db.execute("DELETE FROM weather_gone")
        db.execute("DELETE FROM sketch WHERE id NOT IN (SELECT sketch_id FROM sketch_use)")
    return len(gone) + entries


def _forget(db: sqlite3.Connection, garden_id: str) -> None:
    going = {row[0] for row in db.execute("SELECT id FROM change WHERE garden_id = ?",
                                          (garden_id,))}
    states.let_go(db, going)
    db.execute("INSERT OR IGNORE INTO weather_gone SELECT record_id FROM weather_use"
               " WHERE garden_id = ?", (garden_id,))
    db.execute("DELETE FROM garden WHERE id = ?", (garden_id,))


def prune(database: Database, garden_id: str, now: dt.datetime) -> int:
    """Forget a garden's changes older than a year; how it stands now and the year's undo stay.

    Returns how many went. Raises :class:`~euhydra.store.gardens.NoSuchGarden`.
    """
    since = _text(now - dt.timedelta(days=UNDO_DAYS))
    with database.write() as db:
        row = db.execute("SELECT head FROM garden WHERE id = ?", (garden_id,)).fetchone()
        if row is None:
            raise NoSuchGarden(garden_id)
        old = {change for (change,) in db.execute(
            "SELECT id FROM change WHERE garden_id = ? AND made_at < ?", (garden_id, since))}
        # The change before the oldest that stays is where its undo leads.
        stays = {before for (before,) in db.execute(
            "SELECT before_id FROM change WHERE garden_id = ? AND made_at >= ?",
            (garden_id, since)) if before is not None}
        going = old - stays - {row["head"]}
        states.let_go(db, going)
        marks = [(change,) for change in going]
        db.executemany("UPDATE change SET before_id = NULL WHERE before_id = ?", marks)
        db.executemany("DELETE FROM change WHERE id = ?", marks)
    return len(going)


def _text(when: dt.datetime) -> str:
    return when.astimezone(dt.UTC).isoformat(timespec="seconds")
