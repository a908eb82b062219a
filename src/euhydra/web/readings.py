"""How a weather file was read, shaped for the page."""

from __future__ import annotations

from typing import Any

from euhydra.core import units
from euhydra.core.weather.lines import NOUNS
from euhydra.store.weather import NoSuchRecord
from euhydra.web.shelf import Shelf, Standing

HOLDS = NOUNS | {"date": "date", "year": "year", "month": "month", "dayofmonth": "day of the month",
                 "wetdays": "wet days, not used"}


def reading_of(shelf: Shelf, standing: Standing, asked: str) -> dict[str, Any] | None:
    """The reading of the record asked for, else of the one in use; None where there is none."""
    site = standing.garden.site
    record_id = asked or site.record
    try:
        kept = shelf.records.load(record_id) if record_id else None
    except NoSuchRecord:
        kept = None
    if kept is None or not kept.reading:
        return None
    record, system = kept.record, standing.garden.units

    def rain(mm: float) -> str:
        return units.show(mm, "rain", system)

    windy = record.method != "Hargreaves"
    eto = record.weather(site.latitude_deg, site.altitude_m).eto_mm.sum() / record.years
    there = {c["holds"] for c in kept.reading["columns"]}
    lacks = ", ".join(noun for holds, noun in NOUNS.items() if holds not in there)
    columns = [c | {"holds": HOLDS.get(c["holds"], c["holds"])} for c in kept.reading["columns"]]
    return {**kept.reading, "id": record_id, "name": kept.name, "years": record.years,
            "first_year": record.first_year, "method": record.method, "eto": rain(float(eto)),
            "eto_other": rain(float(record.hargreaves(site.latitude_deg).sum() / record.years))
            if windy else "", "rain": rain(float(record.rain_mm.sum() / record.years)),
            "columns": columns, "service": kept.reading.get("service", ""), "lacks": lacks,
            "in_use": record_id == site.record}
