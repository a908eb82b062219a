"""North and south: a year of the other half of the world, turned by six months."""

from __future__ import annotations

from typing import Any

from euhydra.core.garden.base import YEAR
from euhydra.core.garden.site import Climate
from euhydra.core.library import Climate as ClimateRow

MONTHS_TURNED = 6
DAYS_IN = (31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31)
DATES, MONTHS = ("planted",), ("open_in",)


def across(one_deg: float, other_deg: float) -> bool:
    """Whether the equator lies between two latitudes."""
    return one_deg * other_deg < 0


def turned_day(day: str) -> str:
    """A day (``MM-DD``) six months on, at that month's end where it is shorter; "" stays empty."""
    if not day:
        return ""
    month = (int(day[:2]) - 1 + MONTHS_TURNED) % 12
    return f"{month + 1:02d}-{min(int(day[3:]), DAYS_IN[month]):02d}"


def turned(climate: Climate) -> Climate:
    """The same twelve months for the other half of the world: January's stand in July."""
    return climate.model_copy(update={key: tuple(getattr(climate, key)[
        (m + MONTHS_TURNED) % 12] for m in range(12))
        for key in ("rain_mm", "wet_days", "tmin_c", "tmax_c")})


def climate_of(row: ClimateRow) -> Climate:
    """The garden's own copy of a climate in the library."""
    return Climate(archetype=row.key, rain_mm=row.rain_mm, wet_days=row.wet_days,
                   tmin_c=row.tmin_c, tmax_c=row.tmax_c)


def climate_at(row: ClimateRow, latitude_deg: float) -> Climate:
    """A climate of the library at a latitude: turned when that is in the other half."""
    ready = climate_of(row)
    return turned(ready) if across(row.latitude_deg, latitude_deg) else ready


def frosts_at(row: ClimateRow, latitude_deg: float) -> tuple[str, str]:
    """Its last and first frost there; empty where there is none."""
    if across(row.latitude_deg, latitude_deg):
        return turned_day(row.last_frost), turned_day(row.first_frost)
    return row.last_frost, row.first_frost


def turned_tree(tree: dict[str, Any]) -> dict[str, Any]:
    """A garden's tree with its climate, its frosts and all that is planted turned by six months."""
    site = tree["site"]
    climate = turned(Climate.model_validate(site["climate"])).model_dump()
    there: dict[str, Any] = _planted(tree | {"site": site | {
        "climate": climate, "last_frost": turned_day(site["last_frost"]),
        "first_frost": turned_day(site["first_frost"])}})
    return there


def _planted(at: Any) -> Any:
    if isinstance(at, dict):
        return {key: turned_day(x) if key in DATES else
                tuple(YEAR[(YEAR.index(m) + 6) % 12] for m in x) if key in MONTHS else
                _planted(x) for key, x in at.items()}
    if isinstance(at, (tuple, list)):
        return tuple(_planted(x) for x in at)
    return at
