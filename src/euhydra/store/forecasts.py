"""Rain to come, as one's own weather feed tells it: the last word for each day."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping

from euhydra.store.database import Database
from euhydra.store.gardens import require_garden


class Forecasts:
    """The forecasts in a database."""

    def __init__(self, database: Database) -> None:
        self.database = database

    def of(self, garden_id: str, today: dt.date) -> dict[dt.date, float]:
        """Rain by day from today on, mm; a day that nothing was said of is left out."""
        with self.database.read() as db:
            rows = db.execute("SELECT day, rain_mm FROM forecast WHERE garden_id = ? AND day >= ?"
                              " ORDER BY day", (garden_id, today.isoformat())).fetchall()
        return {dt.date.fromisoformat(row["day"]): row["rain_mm"] for row in rows}

    def put(self, garden_id: str, rain_mm: Mapping[dt.date, float], today: dt.date) -> None:
        """Take what is said now in place of all that was said before.

        Raises :class:`~euhydra.store.gardens.NoSuchGarden`.
        """
        with self.database.write() as db:
            require_garden(db, garden_id)
            db.execute("DELETE FROM forecast WHERE garden_id = ?", (garden_id,))
            db.executemany("INSERT INTO forecast VALUES (?, ?, ?)",
                           [(garden_id, day.isoformat(), mm) for day, mm in rain_mm.items()
                            if day >= today])
