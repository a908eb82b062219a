"""The trade tables that ship with the app, read once into a ``core.library.Library``."""

from __future__ import annotations

import csv
import tomllib
from functools import cache
from importlib.resources import files
from typing import Any, TypeVar, get_type_hints

from euhydra.core import library as lib

RowT = TypeVar("RowT", bound=lib.Row)


@cache
def library() -> lib.Library:
    """Every table in this folder. A table with a bad row fails here, at start, by its name."""
    return lib.Library(
        climates=_toml("climates.toml", lib.Climate),
        roof_materials=_csv("roof_materials.csv", lib.RoofMaterial),
        guards=_csv("guards.csv", lib.Guard),
        grey_schools=_toml("greywater.toml", lib.GreySchool),
        soils=_csv("soils.csv", lib.Soil),
        crops=_csv("crops.csv", lib.Crop),
        methods=_csv("methods.csv", lib.WateringMethod),
        tubes=_csv("tubes.csv", lib.Tube),
        outlets=_csv("outlets.csv", lib.OutletKind),
        fittings=_csv("fittings.csv", lib.FittingKind),
        timers=_toml("timers.toml", lib.Timer),
        pumps=_csv("pumps.csv", lib.PumpKind),
        parts=_csv("parts.csv", lib.Part),
        kits=_kits(),
        renamed_parts=_renamed("part_ids_2.csv"),
    )


def garden_text(name: str) -> str:
    """The JSON of a garden that ships with the app, such as ``"kiln-yard"``."""
    return (files(__name__) / "gardens" / f"{name}.json").read_text(encoding="utf-8")


def garden_log(name: str) -> list[dict[str, str]]:
    """The invented log of a garden that ships with the app, a row an entry."""
    text = (files(__name__) / "gardens" / f"{name}.log.csv").read_text(encoding="utf-8")
    return list(csv.DictReader(text.splitlines()))


def _csv(name: str, row: type[RowT]) -> dict[str, RowT]:
    hints = get_type_hints(row)
    table: dict[str, RowT] = {}
    text = (files(__name__) / name).read_text(encoding="utf-8")
    for line in csv.DictReader(text.splitlines()):
        values: dict[str, Any] = {
            key: float(text) if hints[key] is float else text for key, text in line.items()}
        table[line["key"]] = row(**values)
    return table


def _renamed(name: str) -> dict[str, str]:
    text = (files(__name__) / name).read_text(encoding="utf-8")
    return {row["before"]: row["now"] for row in csv.DictReader(text.splitlines())}


def _kits() -> dict[str, lib.Kit]:
    """The kits, a file each, its key the file's name."""
    rows = {"parts": lib.KitPart, "holes": lib.KitHole, "steps": lib.KitStep, "care": lib.KitCare}
    found = {}
    for file in sorted((files(__name__) / "kits").iterdir(), key=lambda f: f.name):
        if file.name.endswith(".toml"):
            raw = tomllib.loads(file.read_text(encoding="utf-8"))
            values: dict[str, Any] = {
                k: tuple(rows[k](**row) for row in v) if k in rows else _frozen(v)
                for k, v in raw.items()}
            key = file.name.removesuffix(".toml")
            found[key] = lib.Kit(key=key, **values)
    return found


def _frozen(value: Any) -> Any:
    return tuple(map(_frozen, value)) if isinstance(value, list) else value


def _toml(name: str, row: type[RowT]) -> dict[str, RowT]:
    raw = tomllib.loads((files(__name__) / name).read_text(encoding="utf-8"))
    table: dict[str, RowT] = {}
    for key, body in raw.items():
        values: dict[str, Any] = {k: _frozen(v) for k, v in body.items()}
        table[key] = row(key=key, **values)
    return table
