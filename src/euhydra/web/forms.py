"""Read the First pour form: every field parsed, each bad one answered, nothing lost."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from pydantic import BaseModel, ValidationError

from euhydra.core import parsing, units
from euhydra.core.editing.fields import (
    Measure,
    bounded,
    field_measure,
    item_measure,
    parse_for,
    with_choices,
)
from euhydra.core.editing.quick_start import GROUPS, Answers, BedAnswer
from euhydra.core.editing.trees import plain_error
from euhydra.core.garden.model import Climate
from euhydra.core.library import Library
from euhydra.core.parsing import BadEntry
from euhydra.core.stations.place import MONTHS
from euhydra.core.units import System
from euhydra.core.weather.hemispheres import climate_at, climate_of

BEDS = 6
MONTH_TABLES = ("rain_mm", "wet_days", "tmin_c", "tmax_c")
OWN = "own"
NUMBERS = ("latitude_deg", "roof_width_m", "roof_depth_m", "barrel_l", "barrels", "stand_m",
           "fall_m", "distance_m", "pots", "pot_diameter_m")
DEFAULTS: dict[System, dict[str, str]] = {
    "metric": {"name": "My garden", "archetype": "continental", "roof_width_m": "5 m",
               "roof_depth_m": "3 m", "roof_material": "metal", "barrel_l": "210 L",
               "barrels": "2", "stand_m": "0.4 m", "fall_way": "lower", "fall_m": "0.5 m",
               "distance_m": "4 m", "method": "dripline", "pots": "4",
               "pot_diameter_m": "30 cm", "backup": "none",
               "bed_1_length_m": "2.4 m", "bed_1_width_m": "1.2 m", "bed_1_group": "fruiting",
               "bed_2_length_m": "2.4 m", "bed_2_width_m": "1.2 m", "bed_2_group": "leafy"},
    "us": {"name": "My garden", "archetype": "continental", "roof_width_m": "16 ft",
           "roof_depth_m": "10 ft", "roof_material": "shingle", "barrel_l": "55 gal",
           "barrels": "2", "stand_m": "16 in", "fall_way": "lower", "fall_m": "2 ft",
           "distance_m": "12 ft", "method": "dripline", "pots": "4",
           "pot_diameter_m": "12 in", "backup": "none",
           "bed_1_length_m": "8 ft", "bed_1_width_m": "4 ft", "bed_1_group": "fruiting",
           "bed_2_length_m": "8 ft", "bed_2_width_m": "4 ft", "bed_2_group": "leafy"},
}


@dataclass
class Pour:
    """What the form said: answers (bad ones stood in for), texts as typed, errors by field."""

    answers: Answers
    typed: dict[str, str]
    errors: dict[str, str] = field(default_factory=dict)

    @property
    def units(self) -> System:
        """The system the form is filled in."""
        return self.answers.units


def read(form: Mapping[str, str], library: Library) -> Pour:
    """Read the whole form. Fields that are missing or bad stand at their defaults for drawing."""
    system: System = "us" if form.get("units") == "us" else "metric"
    typed = {**DEFAULTS[system], **{k: str(v)[:200] for k, v in form.items()}}
    return _Reader(typed, system, library).pour()


def month_texts(climate: Climate, system: System) -> dict[str, str]:
    """The twelve months as texts for the table, by field name."""
    kinds = {"rain_mm": "rain", "wet_days": "days", "tmin_c": "temperature",
             "tmax_c": "temperature"}
    return {f"{table}_{m}": units.number(
        units.convert(getattr(climate, table)[m], kinds[table], system),
        1 if table == "wet_days" or (table == "rain_mm" and system == "us") else 0)
        for table in MONTH_TABLES for m in range(12)}


class _Reader:
    def __init__(self, typed: dict[str, str], system: System, library: Library) -> None:
        self.typed, self.system, self.library = typed, system, library
        self.errors: dict[str, str] = {}

    def pour(self) -> Pour:
        climate, latitude = self._place()
        beds = self._beds()
        values: dict[str, Any] = {
            key: self._number(Answers, key, key) for key in NUMBERS if key != "latitude_deg"}
        values["fall_m"] = self._fall(values["fall_m"])
        values |= {key: self._choice(Answers, key) for key in ("roof_material", "method")}
        if not beds and not values["pots"]:
            self.errors["bed_1_length_m"] = ("Nothing is watered yet. Give one bed a length and a "
                                             "width, or count some pots.")
            beds = (BedAnswer(length_m=2.4, width_m=1.2, group="fruiting"),)
        answers = self._whole({
            **values, "units": self.system, "climate": climate, "latitude_deg": latitude,
            "beds": beds, "tap": self._backup()})
        return Pour(answers, self.typed, self.errors)

    def _whole(self, values: dict[str, Any]) -> Answers:
        """The name is a person's own words, so the model itself has the say on it."""
        try:
            return Answers(name=self.typed["name"], **values)
        except ValidationError as error:
            if not self.typed["name"].strip():
                self.errors["name"] = "Nothing typed. Give the garden a name."
            else:
                self.errors["name"] = (f"“{self.typed['name'][:40]}”: {plain_error(error)}. A name "
                                       "has up to 80 letters.")
            return Answers(name="My garden", **values)

    def _number(self, model: type[BaseModel], key: str, name: str, default: str = "") -> Any:
        measure = field_measure(model, key)
        try:
            return parse_for(measure, self.typed.get(name, ""), self.system)
        except BadEntry as error:
            self.errors[name] = error.why
            return parse_for(measure, default or DEFAULTS[self.system][key], self.system)

    def _fall(self, typed_m: float) -> float:
        """How far the beds lie below the barrels; less than nothing where they lie higher."""
        if self.typed["fall_way"] == "lower":
            return typed_m
        if self.typed["fall_way"] != "higher":
            self.errors["fall_way"] = (f"“{self.typed['fall_way'][:40]}” is neither lower nor "
                                       "higher.")
            return typed_m
        least = field_measure(Answers, "fall_m").low
        if abs(typed_m) > -least:
            self.errors["fall_m"] = (f"“{self.typed['fall_m'][:40]}” is out of reach: beds lie up "
                                     f"to {units.show(-least, 'length', self.system)} higher.")
        return max(-abs(typed_m), least)

    def _choice(self, model: type[BaseModel], key: str) -> str:
        measure = with_choices(field_measure(model, key), self.library)
        try:
            return str(parse_for(measure, self.typed[key], self.system))
        except BadEntry as error:
            self.errors[key] = error.why
            return DEFAULTS[self.system][key]

    def _backup(self) -> bool:
        if self.typed["backup"] not in ("none", "tap"):
            self.errors["backup"] = f"“{self.typed['backup'][:40]}” is neither none nor tap."
        return self.typed["backup"] == "tap"

    def _place(self) -> tuple[Climate, float]:
        key = self.typed["archetype"]
        if key not in self.library.climates and key != OWN:
            self.errors["archetype"] = f"“{key[:40]}” is not on the list."
        row = self.library.climates.get(key) or self.library.climates["continental"]
        ready = climate_of(row)
        if self.typed.get("latitude_deg", "").strip() or key == OWN:
            latitude = self._number(Answers, "latitude_deg", "latitude_deg",
                                    f"{row.latitude_deg}")
        else:
            latitude = row.latitude_deg
        here = float(latitude)
        return self._own_months(ready) if key == OWN else climate_at(row, here), here

    def _own_months(self, ready: Climate) -> Climate:
        tables: dict[str, tuple[float, ...]] = {}
        for table in MONTH_TABLES:
            measure = item_measure(Climate, table)
            tables[table] = tuple(self._month(measure, table, m, getattr(ready, table)[m])
                                  for m in range(12))
        try:
            return Climate(**tables)
        except ValidationError as error:
            words = plain_error(error)
            for m in range(12, 0, -1):
                words = words.replace(f"month {m}:", f"{MONTHS[m - 1]}:")
            self.errors["archetype"] = f"The twelve months do not agree. {words}."
            return ready

    def _month(self, measure: Measure, table: str, month: int, stand_in: float) -> float:
        name = f"{table}_{month}"
        text = self.typed.get(name, "")
        try:
            return float(bounded(parsing.parse(text, measure.kind, self.system), measure, text,
                                 self.system))
        except BadEntry as error:
            self.errors[name] = f"{MONTHS[month]}: {error.why}"
            return stand_in

    def _beds(self) -> tuple[BedAnswer, ...]:
        beds = []
        for i in range(1, BEDS + 1):
            names = [f"bed_{i}_{key}" for key in ("length_m", "width_m", "group")]
            if not self.typed.get(names[0], "").strip() and not self.typed.get(
                    names[1], "").strip():
                continue
            length = self._number(BedAnswer, "length_m", names[0], "2.4 m")
            width = self._number(BedAnswer, "width_m", names[1], "1.2 m")
            group = self.typed.get(names[2], "fruiting")
            if group not in GROUPS:
                self.errors[names[2]] = f"“{group[:40]}” is not one of: {', '.join(GROUPS)}."
                group = "fruiting"
            beds.append(BedAnswer.model_validate(
                {"length_m": length, "width_m": width, "group": group}))
        return tuple(beds)
