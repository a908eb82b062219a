"""Edits: named changes of a garden, each giving a whole new garden with its lines laid anew."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError

from euhydra.core.garden.measures import measure_at
from euhydra.core.garden.model import Climate, Garden
from euhydra.core.garden.things import MAKERS, CannotAdd, child_of, without_source
from euhydra.core.ground import levelled
from euhydra.core.laying import lay
from euhydra.core.library import Climate as ClimateRow
from euhydra.core.library import Library


class EditRefused(ValueError):
    """The edit would make a garden that cannot be; the message says why."""


@dataclass(frozen=True)
class SetValue:
    """Put a value (already in the unit inside) at a path. See ``garden.measures``.

    A level typed by hand no longer follows the site; a month typed makes the climate one's own,
    and the garden is reckoned with it.
    """

    path: str
    value: Any

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with the value set."""
        measure_at(garden, self.path)
        parts = self.path.split("/")
        tree: dict[str, Any] = _put(garden.model_dump(), parts, self.value)
        if parts[-1] == "ground_m" and "level_from" in _at(tree, parts[:-1]):
            tree = _put(tree, [*parts[:-1], "level_from"], "hand")
        if parts[:2] == ["site", "climate"] and len(parts) == 4:
            tree = _own_months(tree)
        return relaid(_checked(tree), library)


def climate_of(row: ClimateRow) -> Climate:
    """The garden's own copy of a climate in the library."""
    return Climate(archetype=row.key, rain_mm=row.rain_mm, wet_days=row.wet_days,
                   tmin_c=row.tmin_c, tmax_c=row.tmax_c)


@dataclass(frozen=True)
class SetArchetype:
    """Put the garden into a climate of the library: its months, latitude and frost dates."""

    key: str

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden in that climate; with no key it stays as it is."""
        if not self.key:
            return garden
        row = library.climates[self.key]
        site = garden.site.model_copy(update={
            "climate": climate_of(row), "latitude_deg": row.latitude_deg,
            "last_frost": row.last_frost, "first_frost": row.first_frost,
            "reckon_with": "normals"})
        return garden.model_copy(update={"site": site})


@dataclass(frozen=True)
class UseRecord:
    """Reckon with a daily weather record; its means become the garden's twelve months."""

    record: str
    normals: Climate

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden on that record."""
        site = garden.site.model_copy(update={
            "record": self.record, "climate": self.normals, "reckon_with": "record"})
        return garden.model_copy(update={"site": site})


@dataclass(frozen=True)
class SetMonths:
    """Put whole tables of twelve months, as (table, values), such as from a pasted table."""

    months: tuple[tuple[str, tuple[float, ...]], ...]

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden in those months; its climate is then its own."""
        tree = garden.model_dump()
        for table, values in self.months:
            tree = _put(tree, ["site", "climate", table], values)
        return relaid(_checked(_own_months(tree)), library)


@dataclass(frozen=True)
class Add:
    """Add a thing by its name in ``things.MAKERS``, or a part by the path it stands under."""

    what: str

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with one more of them."""
        try:
            if self.what in MAKERS:
                _, path, make = MAKERS[self.what]
                thing = make(garden)
            else:
                path, thing = child_of(garden, self.what)
        except CannotAdd as error:
            raise EditRefused(str(error)) from None
        if garden.site.spots and "level_from" in type(thing).model_fields:
            thing = thing.model_copy(update={"level_from": "site"})
        tree = garden.model_dump()
        parts = path.split("/")
        owner = _at(tree, parts[:-1])
        owner[parts[-1]] = (*owner[parts[-1]], thing.model_dump())
        return relaid(_checked(tree), library)


KEPT = {"plots": "A garden keeps at least one bed or row of pots. Change this one instead, or "
                 "start another garden.",
        "downspouts": "A roof keeps at least one downspout: lead it elsewhere instead."}


@dataclass(frozen=True)
class Remove:
    """Take a thing away by its path, with all that hangs on it."""

    path: str

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden without it. A garden keeps at least one plot and one store."""
        *way, kind, thing = ["", *self.path.split("/")]
        way = way[1:]
        tree = garden.model_dump()
        owner = _at(tree, way) if way else tree
        things = owner.get(kind) if isinstance(owner, dict) else None
        if not isinstance(things, tuple) or thing not in [
                t.get("id") for t in things if isinstance(t, dict)]:
            raise EditRefused(f"“{self.path[:60]}” is not in this garden.")
        if len(things) == 1 and kind in KEPT:
            raise EditRefused(KEPT[kind])
        owner[kind] = [t for t in things if t["id"] != thing]
        if kind in ("stores", "taps"):
            tree = without_source(tree, thing)
        return relaid(_checked(tree), library)


def set_at(path: str, value: Any) -> SetValue | SetArchetype:
    """The edit that puts a value at a path: a field, or a whole climate."""
    return SetArchetype(value) if path == "site/climate/archetype" else SetValue(path, value)


Edit = SetValue | SetArchetype | UseRecord | SetMonths | Add | Remove


def relaid(garden: Garden, library: Library) -> Garden:
    """The garden on its levels, with its zones and lines made anew from what stands in it."""
    bare = garden.model_copy(update={"nodes": (), "lines": (), "fittings": (), "outlets": ()})
    return lay(levelled(bare), library)


def _own_months(tree: dict[str, Any]) -> dict[str, Any]:
    """Months of one's own are no archetype, and count before a record."""
    tree = _put(tree, ["site", "climate", "archetype"], "")
    own: dict[str, Any] = _put(tree, ["site", "reckon_with"], "normals")
    return own


def _put(at: Any, way: list[str], value: Any) -> Any:
    """A tree of dicts and tuples with one value changed."""
    if not way:
        return value
    if isinstance(at, dict):
        return at | {way[0]: _put(at[way[0]], way[1:], value)}
    there = next((i for i, item in enumerate(at) if isinstance(item, dict)
                  and item.get("id") == way[0]), None)
    there = int(way[0]) if there is None else there
    return tuple(_put(item, way[1:], value) if i == there else item
                 for i, item in enumerate(at))


def _at(tree: Any, way: list[str]) -> Any:
    for part in way:
        if isinstance(tree, dict):
            tree = tree.get(part)
        elif isinstance(tree, tuple):
            tree = next((t for t in tree if isinstance(t, dict) and t.get("id") == part), None)
    return tree


def _checked(tree: dict[str, Any]) -> Garden:
    for laid in ("nodes", "lines", "fittings", "outlets"):
        tree[laid] = ()
    known = {plot["id"] for plot in tree["plots"]}
    tree["zones"] = [zone for zone in tree["zones"] if set(zone["plots"]) <= known]
    try:
        return Garden.model_validate(tree)
    except ValidationError as error:
        raise EditRefused(plain_error(error)) from None


_PLAIN = {"string_too_short": "nothing typed; give at least one letter",
          "string_too_long": "longer than {max_length} letters",
          "greater_than_equal": "must be {ge} or more", "less_than_equal": "must be {le} or less",
          "missing": "is missing", "extra_forbidden": "is not a part of a garden"}


def plain_error(error: ValidationError) -> str:
    """The first thing wrong, in words: where it stands and what is the matter."""
    first = error.errors(include_url=False)[0]
    where = "/".join(str(part) for part in first["loc"])
    what = _PLAIN.get(first["type"], first["msg"].removeprefix("Value error, "))
    what = what.format(**first.get("ctx", {})) if first["type"] in _PLAIN else what
    typed = first.get("input")
    shown = f" (it says {str(typed)[:60]!r})" if isinstance(typed, (str, int, float)) else ""
    return f"{where}: {what}{shown}" if where else f"{what}{shown}"
