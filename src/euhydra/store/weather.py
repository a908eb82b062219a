"""Daily weather records, kept by their content."""

from __future__ import annotations

import datetime as dt
import json
import math
from dataclasses import dataclass
from typing import Any

import numpy as np

from euhydra.core.garden.model import Garden
from euhydra.core.weather.record import OPTIONAL, Record
from euhydra.store.database import Database

COLUMNS = ("rain_mm", "tmin_c", "tmax_c", *OPTIONAL)


class NoSuchRecord(LookupError):
    """There is no weather record of that id."""


@dataclass(frozen=True)
class KeptRecord:
    """A record with the name of the file it came from and how that was read (plain data)."""

    record: Record
    name: str
    reading: dict[str, Any]


class WeatherRecords:
    """The weather records in a database. ``day`` counts from 0 in years of 365 days."""

    def __init__(self, database: Database) -> None:
        self.database = database

    def add(self, record: Record, name: str, reading: dict[str, Any]) -> None:
        """Keep a record; one with the same content is kept once, with its last reading."""
        columns = [record.columns.get(key) for key in COLUMNS]
        flat = [None if c is None else c.ravel().tolist() for c in columns]
        with self.database.write() as db:
            db.execute(
                "INSERT INTO weather_record (id, made_at, name, first_year, years, reading)"
                " VALUES (?, ?, ?, ?, ?, ?) ON CONFLICT (id) DO UPDATE"
                " SET name = excluded.name, reading = excluded.reading",
                (record.id, dt.datetime.now(dt.UTC).isoformat(timespec="seconds"), name,
                 record.first_year, record.years, json.dumps(reading)))
            db.executemany(
                "INSERT INTO weather_day VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)"
                " ON CONFLICT (record_id, day) DO NOTHING",
                ((record.id, day, *(None if c is None or math.isnan(c[day]) else c[day]
                                    for c in flat))
                 for day in range(record.years * 365)))

    def of(self, garden: Garden) -> Record | None:
        """The daily record that a garden's site names; None when none is, or it is gone."""
        try:
            return self.load(garden.site.record).record if garden.site.record else None
        except NoSuchRecord:
            return None

    def load(self, record_id: str) -> KeptRecord:
        """The record of that id. Raises :class:`NoSuchRecord`."""
        with self.database.read() as db:
            head = db.execute("SELECT name, first_year, years, reading FROM weather_record"
                              " WHERE id = ?", (record_id,)).fetchone()
            if head is None:
                raise NoSuchRecord(record_id)
            rows = db.execute(
                "SELECT rain_mm, tmin_c, tmax_c, humidity, dewpoint_c, wind_m_s, radiation,"
                " sunshine_h FROM weather_day WHERE record_id = ? ORDER BY day",
                (record_id,)).fetchall()
        table = np.array([tuple(row) for row in rows], dtype=float).reshape(
            head["years"], 365, len(COLUMNS))
        columns = {key: table[..., i] for i, key in enumerate(COLUMNS)
                   if key not in OPTIONAL or np.isfinite(table[..., i]).any()}
        return KeptRecord(Record(head["first_year"], **columns), head["name"],
                          json.loads(head["reading"]))
