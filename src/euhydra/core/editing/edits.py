"""Edits: named changes of a garden, each giving a whole new garden with its lines laid anew."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import groupby
from typing import Any, Protocol

from euhydra.core.editing.additions import child_of, made
from euhydra.core.editing.makers import MAKERS, CannotAdd
from euhydra.core.editing.relaying import relaid
from euhydra.core.editing.removals import (
    KEPT,
    LAST_WATER,
    opened_by,
    without_plot,
    without_roof,
    without_source,
)
from euhydra.core.editing.trees import EditRefused, at_path, checked, put_at
from euhydra.core.editing.values import SetValue, own_months, set_all
from euhydra.core.garden.model import Climate, Garden, Planting, Thing
from euhydra.core.library import Library
from euhydra.core.weather.hemispheres import climate_at, frosts_at, turned_tree


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

    @property
    def each(self) -> Iterator[Edit]:
        """The edits, those that are several themselves one by one."""
        for edit in self.edits:
            if isinstance(edit, Together):
                yield from edit.each
            else:
                yield edit

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with all of them made; values that follow one another are set at once."""
        for plain, run in groupby(self.each, _is_plain):
            if plain:
                garden = set_all(garden, library, [e for e in run if isinstance(e, SetValue)])
            else:
                for edit in run:
                    garden = edit.apply(garden, library)
        return garden


def _is_plain(edit: Edit) -> bool:
    """Whether it sets a value and no more: it may be set with others."""
    return isinstance(edit, SetValue) and not edit.ends() and not edit.path.startswith("site/")


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
        return relaid(checked(own_months(tree)), library, garden)


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
