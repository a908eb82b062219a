"""Edits: named changes of a garden, each giving a whole new garden with its lines laid anew."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError

from euhydra.core.garden.measures import measure_at
from euhydra.core.garden.model import Bed, Climate, Garden, Planting, Plot, Point, Pots, Tap
from euhydra.core.laying import lay
from euhydra.core.library import Climate as ClimateRow
from euhydra.core.library import Library


class EditRefused(ValueError):
    """The edit would make a garden that cannot be; the message says why."""


@dataclass(frozen=True)
class SetValue:
    """Put a value (already in the unit inside) at a path. See ``garden.measures``."""

    path: str
    value: Any

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with the value set."""
        measure_at(garden, self.path)
        tree = garden.model_dump()
        *way, last = self.path.split("/")
        at: Any = tree
        for part in way:
            at = _child(at, part)
        if isinstance(at, (list, tuple)):
            raise EditRefused(f"“{self.path}” cannot be set whole")
        at[last] = self.value
        return relaid(_checked(tree), library)


@dataclass(frozen=True)
class SetMonth:
    """Put one month's value into a table of twelve of the site's climate."""

    table: str
    month: int
    value: float

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with that month changed; the climate is then no longer an archetype."""
        climate = garden.site.climate
        values = list(getattr(climate, self.table))
        values[self.month] = self.value
        tree = garden.model_dump()
        tree["site"]["climate"][self.table] = tuple(values)
        tree["site"]["climate"]["archetype"] = ""
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
            "last_frost": row.last_frost, "first_frost": row.first_frost})
        return garden.model_copy(update={"site": site})


@dataclass(frozen=True)
class AddPlot:
    """Add a bed or a row of pots beyond the plots that stand already."""

    kind: str

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with one more plot, like the last of its kind."""
        number = 1 + max((int(p.id.rsplit("-", 1)[-1]) for p in garden.plots
                          if p.id.rsplit("-", 1)[-1].isdecimal()), default=0)
        top = max(p.corner.y_m + p.breadth_m for p in garden.plots)
        like = next((p for p in reversed(garden.plots) if p.kind == self.kind), None)
        corner = Point(x_m=(like or garden.plots[-1]).corner.x_m, y_m=round(top + 0.6, 3))
        plot: Plot
        if like is not None:
            planting = like.plantings[0].model_copy(update={"id": "p1", "share": 1.0})
            plot = like.model_copy(update={
                "id": f"{self.kind}-{number}", "corner": corner, "plantings": (planting,),
                "name": f"{'Bed' if self.kind == 'bed' else 'Pots'} {number}"})
        elif self.kind == "bed":
            plot = Bed(id=f"bed-{number}", name=f"Bed {number}", corner=corner, length_m=2.4,
                       width_m=1.2, rim_m=0.2, plantings=(Planting(id="p1", crop="lettuce"),))
        else:
            plot = Pots(id=f"pots-{number}", name=f"Pots {number}", corner=corner, count=4,
                        plantings=(Planting(id="p1", crop="tomato"),))
        tree = garden.model_dump()
        tree["plots"] = [*tree["plots"], plot.model_dump()]
        return relaid(_checked(tree), library)


@dataclass(frozen=True)
class RemovePlot:
    """Take a plot away, with its lines."""

    plot: str

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden without the plot. A garden keeps at least one."""
        if len(garden.plots) == 1:
            raise EditRefused("A garden keeps at least one bed or row of pots. Change this one "
                              "instead, or start another garden.")
        garden.plot(self.plot)
        tree = garden.model_dump()
        tree["plots"] = [p for p in tree["plots"] if p["id"] != self.plot]
        return relaid(_checked(tree), library)


@dataclass(frozen=True)
class SetTap:
    """Fit a tap that tops the store up through an air gap, or take it away."""

    fitted: bool

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with or without its tap."""
        store = garden.store
        tap = Tap(id="tap", name="Yard tap", tops_up=store.id,
                  at=Point(x_m=store.at.x_m, y_m=store.at.y_m + 1.5))
        return garden.model_copy(update={"taps": (tap,) if self.fitted else ()})


def set_at(path: str, value: Any) -> SetValue | SetMonth | SetArchetype:
    """The edit that puts a value at a path: a field, a month of the climate, or a whole climate."""
    parts = path.split("/")
    if path == "site/climate/archetype":
        return SetArchetype(value)
    if parts[:2] == ["site", "climate"] and len(parts) == 4:
        return SetMonth(parts[2], int(parts[3]), value)
    return SetValue(path, value)


Edit = SetValue | SetMonth | SetArchetype | AddPlot | RemovePlot | SetTap


def relaid(garden: Garden, library: Library) -> Garden:
    """The garden with its zones and lines made anew from what stands in it."""
    bare = garden.model_copy(update={"nodes": (), "lines": (), "fittings": (), "outlets": ()})
    return lay(bare, library)


def _child(at: Any, part: str) -> Any:
    if isinstance(at, dict):
        return at[part]
    return next(item for item in at if isinstance(item, dict) and item.get("id") == part)


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
