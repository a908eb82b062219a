"""Each garden's own copy of the rows that it uses: a table that loses one bars no garden."""

from __future__ import annotations

import dataclasses
import json
import sqlite3
from functools import cache, lru_cache

from pydantic import TypeAdapter, ValidationError

from euhydra.core import library as lib
from euhydra.core.garden.model import Garden
from euhydra.core.garden.named import named_rows
from euhydra.core.library import Library

KINDS: dict[str, type[lib.Row]] = {
    "soils": lib.Soil, "crops": lib.Crop, "methods": lib.WateringMethod, "tubes": lib.Tube,
    "outlets": lib.OutletKind,
    "fittings": lib.FittingKind, "timers": lib.Timer, "pumps": lib.PumpKind,
    "roof_materials": lib.RoofMaterial, "guards": lib.Guard}


def keep(db: sqlite3.Connection, garden: Garden, library: Library) -> None:
    """Keep a copy of each row that a garden names, and of the outlets built into its tubes."""
    named = {(table, key) for _, table, key in named_rows(garden)}
    named |= {("outlets", library.tubes[key].outlet) for table, key in named
              if table == "tubes" and library.tubes[key].outlet}
    db.executemany(
        "INSERT INTO own_row (garden_id, of_table, key, row) VALUES (?, ?, ?, ?)"
        " ON CONFLICT DO UPDATE SET row = excluded.row WHERE row IS NOT excluded.row",
        [(garden.id, table, key, _as_text(getattr(library, table)[key]))
         for table, key in sorted(named)])


def library_of(db: sqlite3.Connection, garden_id: str, library: Library) -> Library:
    """The tables with a garden's own copies of rows that they do not have."""
    missing = [row for row in db.execute(
        "SELECT of_table, key, row FROM own_row WHERE garden_id = ?", (garden_id,))
        if row["of_table"] in KINDS and row["key"] not in getattr(library, row["of_table"])]
    rows = []
    for row in missing:
        try:
            rows.append((row["of_table"], _reader(row["of_table"]).validate_json(row["row"])))
        except ValidationError:
            continue  # of another version of the table: the garden says which row is not known
    return library.with_rows(rows)


@lru_cache(maxsize=2000)
def _as_text(row: lib.Row) -> str:
    return json.dumps(dataclasses.asdict(row), ensure_ascii=False)


@cache
def _reader(table: str) -> TypeAdapter[lib.Row]:
    return TypeAdapter(KINDS[table])
