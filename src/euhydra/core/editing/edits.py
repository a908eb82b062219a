"""Edits: named changes of a garden, each giving a whole new garden with its lines laid anew."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any, Protocol

from pydantic import ValidationError

from euhydra.core.editing.additions import child_of, made
from euhydra.core.editing.fields import measure_at
from euhydra.core.editing.makers import MAKERS, CannotAdd
from euhydra.core.editing.removals import (
    KEPT,
    LAST_WATER,
    ends_a_source,
    opened_by,
    without_plot,
    without_roof,
    without_source,
)
from euhydra.core.editing.trees import EditRefused, at_path, checked, checked_whole, put_at
from euhydra.core.garden.base import EDGE_M, HIGHEST_M
from euhydra.core.garden.model import Climate, Garden, Planting, Point, Thing
from euhydra.core.garden.validation import Unsound, require_sound
from euhydra.core.layout.laying import lay
from euhydra.core.library import Library
from euhydra.core.terrain.elevation import OffLevel, levelled
from euhydra.core.units import show
from euhydra.core.weather.hemispheres import across, climate_at, frosts_at, turned_tree

# What no line is laid by: a change of it leaves them as they lie.
BESIDE_THE_LINES = ("name", "every_days", "longer", "rain_hold_mm", "today", "sketch")
BESIDE_THEM_TOO = tuple(f"site/{key}" for key in (
    "place", "latitude_deg", "altitude_m", "seed", "years", "last_frost", "first_frost",
    "local_rules", "reckon_with"))
OF_TIMES = ("opens", "from_h", "until_h", "marks_h", "marks_min", "days")  # of a timer or a zone


@dataclass(frozen=True)
class SetValue:
    """Put a value (already in the unit inside) at a path. See ``garden.measures``.

    A level typed by hand no longer follows the site; a month typed makes the climate one's own,
    and the garden is reckoned with it. A latitude in the other half of the world turns the
    seasons of a climate that was picked.
    """

    path: str
    value: Any

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with the value set."""
        measure_at(garden, self.path)
        parts = self.path.split("/")
        tree: dict[str, Any] = put_at(garden.model_dump(), parts, self.value)
        if parts[-1] == "ground_m" and "level_from" in at_path(tree, parts[:-1]):
            tree = put_at(tree, [*parts[:-1], "level_from"], "hand")
        if ends_a_source(parts, self.value):
            if [s.id for s in garden.sources] == [parts[1]]:
                raise EditRefused(LAST_WATER)
            tree = without_source(tree, parts[1])
        if len(parts) == 3 and parts[0] == "plots" and parts[2] == "outline":
            tree = put_at(tree, parts[:2], _shaped(at_path(tree, parts[:2])))
        if parts[:2] == ["site", "climate"] and len(parts) == 4:
            tree = _own_months(tree)
        if (self.path == "site/latitude_deg" and garden.site.climate.archetype
                and across(garden.site.latitude_deg, self.value)):
            tree = turned_tree(tree)
        if (parts[0] in BESIDE_THE_LINES or self.path in BESIDE_THEM_TOO
                or (parts[0] in ("timers", "zones") and parts[-1] in OF_TIMES)):
            return checked_whole(tree)
        return relaid(checked(tree), library, garden)


def _shaped(bed: dict[str, Any]) -> dict[str, Any]:
    """A bed with its box put about the corners that were typed."""
    if not bed["outline"]:
        return bed
    xs, ys = ([p.x_m if isinstance(p, Point) else p["x_m"] for p in bed["outline"]],
              [p.y_m if isinstance(p, Point) else p["y_m"] for p in bed["outline"]])
    return bed | {"corner": {"x_m": min(xs), "y_m": min(ys)}, "turn_deg": 0.0,
                  "length_m": round(max(xs) - min(xs), 4), "width_m": round(max(ys) - min(ys), 4)}


@dataclass(frozen=True)
class SetArchetype:
    """Put the garden into a climate of the library: its months, latitude and frost dates.

    The garden stays in its half of the world: a climate of the other one is turned by six months.
    """

    key: str

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden in that climate; with no key it stays as it is."""
        if not self.key:
            return garden
        row, here = library.climates[self.key], garden.site.latitude_deg
        last, first = frosts_at(row, here)
        site = garden.site.model_copy(update={
            "climate": climate_at(row, here), "latitude_deg": math.copysign(
                row.latitude_deg, here or row.latitude_deg),
            "last_frost": last, "first_frost": first, "reckon_with": "normals"})
        return garden.model_copy(update={"site": site})


@dataclass(frozen=True)
class TurnSeasons:
    """Turn the garden's climate, its frosts and what is planted by six months."""

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden in the other half of the world's seasons."""
        return relaid(checked(turned_tree(garden.model_dump())), library, garden)


@dataclass(frozen=True)
class Together:
    """Several edits as one, made in turn."""

    edits: tuple[Edit, ...]

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with all of them made."""
        for edit in self.edits:
            garden = edit.apply(garden, library)
        return garden


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
            tree = put_at(tree, ["site", "climate", table], values)
        return relaid(checked(_own_months(tree)), library, garden)


@dataclass(frozen=True)
class Add:
    """Add a thing by its name in ``things.MAKERS``, or a part by the path it stands under."""

    what: str

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with one more of them."""
        thing: Thing | Planting
        try:
            if self.what in MAKERS:
                path, thing = made(garden, self.what)
            else:
                path, thing = child_of(garden, self.what)
        except CannotAdd as error:
            raise EditRefused(str(error)) from None
        tree = garden.model_dump()
        parts = path.split("/")
        owner = at_path(tree, parts[:-1])
        old = owner[parts[-1]]
        if parts[-1] == "plantings":
            old = _with_shares(old, len(old) / (len(old) + 1))
        owner[parts[-1]] = (*old, thing.model_dump())
        if parts[-1] == "timers" and not old:
            tree["zones"] = opened_by(tree["zones"], "", thing.id)
        return relaid(checked(tree), library, garden)


@dataclass(frozen=True)
class Remove:
    """Take a thing away by its path, with all that hangs on it."""

    path: str

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden without it. A garden keeps at least one plot, and something to water from."""
        *way, kind, thing = ["", *self.path.split("/")]
        way = way[1:]
        tree = garden.model_dump()
        owner = at_path(tree, way) if way else tree
        things = owner.get(kind) if isinstance(owner, dict) else None
        if not isinstance(things, tuple) or thing not in [
                t.get("id") for t in things if isinstance(t, dict)]:
            raise EditRefused(f"“{self.path[:60]}” is not in this garden.")
        if len(things) == 1 and kind in KEPT:
            raise EditRefused(KEPT[kind])
        if kind == "crops" and thing in crops_in(garden):
            raise EditRefused("A plot grows this crop. Give that plot another one first.")
        owner[kind] = tuple(t for t in things if t["id"] != thing)
        if kind == "plantings":
            whole = sum(t["share"] for t in things)
            owner[kind] = _with_shares(owner[kind], whole / sum(t["share"] for t in owner[kind]))
        if kind in ("stores", "taps", "wells", "drains"):
            waters = (*garden.stores, *garden.taps, *garden.wells, *garden.drums)
            if [water.id for water in waters] == [thing]:
                raise EditRefused(LAST_WATER)
            tree = without_source(tree, thing)
        if kind == "roofs":
            owner[kind] = without_roof(owner[kind], thing)
        if kind == "plots":
            owner[kind] = without_plot(owner[kind], thing)
        if kind == "timers":
            tree["zones"] = opened_by(tree["zones"], thing, next(
                (t["id"] for t in owner[kind]), ""))
        return relaid(checked(tree), library, garden)


@dataclass(frozen=True)
class TurnRound:
    """Turn a joint the other way round: what ran from one store to the other runs back."""

    joint: str

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with that joint turned."""
        if self.joint not in [j.id for j in garden.joints]:
            raise EditRefused(f"“{self.joint[:60]}” joins nothing in this garden.")
        tree = garden.model_dump()
        tree["joints"] = tuple(j | {"a": j["b"], "b": j["a"]} if j["id"] == self.joint else j
                               for j in tree["joints"])
        return relaid(checked(tree), library, garden)


def set_at(path: str, value: Any) -> SetValue | SetArchetype:
    """The edit that puts a value at a path: a field, or a whole climate."""
    return SetArchetype(value) if path == "site/climate/archetype" else SetValue(path, value)


def crops_in(garden: Garden) -> set[str]:
    """The crops that grow in a garden, by their keys."""
    return ({p.crop for plot in garden.plots for p in plot.plantings}
            | {b.crop for d in garden.drains for b in d.basins})


def _with_shares(plantings: tuple[dict[str, Any], ...], factor: float) -> tuple[Any, ...]:
    """Plantings that take more or less of their plot, all by one factor."""
    return tuple(p | {"share": max(0.01, round(p["share"] * factor, 6))} for p in plantings)


class Edit(Protocol):
    """A named change of a garden; a frozen value, so that equal edits are one."""

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden as the edit leaves it. Raises :class:`EditRefused`."""
        ...


def relaid(garden: Garden, library: Library, before: Garden | None = None) -> Garden:
    """The garden on its levels, with its zones and lines made anew from what stands in it.

    Fittings put on by hand come over from ``before``. Raises :class:`EditRefused` where it could
    not be laid, or its lines not be reckoned.
    """
    hand = tuple(f for f in (before or garden).fittings if f.hand)
    bare = garden.model_copy(update={"nodes": (), "lines": (), "fittings": hand, "outlets": ()})
    try:
        laid = lay(levelled(bare), library.of(garden))
        require_sound(laid)
    except OffLevel as error:
        level, most = (show(m, "length", garden.units) for m in (error.level_m, HIGHEST_M))
        raise EditRefused(f"From the spot heights, the ground under {error.name} would lie at "
                          f"{level}; it may lie {most} over or under the datum. Move a spot, or "
                          f"type that level by hand.") from None
    except Unsound as error:
        raise EditRefused(str(error)) from None
    except ValidationError:
        most = show(EDGE_M, "length", garden.units)
        raise EditRefused(f"Something would stand off the plan: it reaches {most} from its datum "
                          "each way.") from None
    return laid


def _own_months(tree: dict[str, Any]) -> dict[str, Any]:
    """Months of one's own are no archetype, and count before a record."""
    tree = put_at(tree, ["site", "climate", "archetype"], "")
    own: dict[str, Any] = put_at(tree, ["site", "reckon_with"], "normals")
    return own
