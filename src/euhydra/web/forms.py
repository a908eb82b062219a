"""Read the First pour form: every field parsed, each bad one answered, nothing lost."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError

from euhydra.core import parsing, units
from euhydra.core.editing.answers import (
    GROUPS,
    WATERED,
    WATERS,
    Answers,
    BedAnswer,
    RoofAnswer,
    StoreAnswer,
    Strip,
)
from euhydra.core.editing.fields import (
    Measure,
    bounded,
    field_measure,
    item_measure,
    parse_for,
    with_choices,
)
from euhydra.core.editing.trees import plain_error
from euhydra.core.garden.model import Climate
from euhydra.core.garden.today import MEASURES_OF, Today
from euhydra.core.library import Library
from euhydra.core.parsing import BadEntry
from euhydra.core.stations.place import MONTHS
from euhydra.core.units import System
from euhydra.core.weather.hemispheres import climate_at, climate_of
from euhydra.web.pour_fields import (
    ASKED,
    BED_ROWS,
    DEFAULTS,
    FEEDS,
    FIXTURES,
    LED,
    MONTH_TABLES,
    MORE_ROWS,
    MOST_BEDS,
    NUMBER_OF,
    OWN,
    SHUTTING,
    STANDS_IN,
    TAP_FEEDS,
    WAYS,
    WELL_LED,
)

RowT = TypeVar("RowT", bound=BaseModel)


@dataclass
class Pour:
    """What the form said: answers (bad ones stood in for), texts as typed, errors by field.

    ``lacks`` is what has still to be touched before there is a garden to draw.
    """

    answers: Answers
    typed: dict[str, str]
    errors: dict[str, str] = field(default_factory=dict)
    lacks: str = ""

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
        waters = tuple(w for w in WATERS if self.typed.get(f"has_{w}"))
        watered = [w for w in WATERED if self.typed.get(f"w_{w}")]
        led = self._one_of("laundry_led", LED)
        lacks = self._lacks(waters, watered, led)
        alone = waters == ("laundry",)
        shuts = bool(set(watered) & SHUTTING)
        drawn = waters if waters and not (alone and shuts) else (*waters, "roof")
        well_led = self._one_of("well_led", WELL_LED)
        barrels = "roof" in drawn or ("well" in drawn and well_led == "stores")
        asked = [*drawn, *watered, *(["barrels"] if barrels else [])]
        values: dict[str, Any] = {key: self._number(Answers, key, key)
                                  for which in asked for key in ASKED.get(which, ())}
        values |= {number: self._some(number, values.get(number, 0)) if kind in watered else 0
                   for kind, number in NUMBER_OF.items()}
        values |= {key: self._number(Answers, key, key) for key in ("fall_m", "distance_m")}
        values["fall_m"] = self._fall(values["fall_m"])
        values |= {key: self._choice(Answers, key) for key in ("roof_material", "method")}
        values |= {kind: self._strip(kind) if kind in watered else None
                   for kind in ("border", "lawn")}
        beds = self._beds() if "beds" in watered or not watered else ()
        return Pour(self._whole({
            **values, "units": self.system, "climate": climate, "latitude_deg": latitude,
            "waters": drawn, "beds": beds, "roofs": self._more(RoofAnswer, "roof"),
            "stores": self._more(StoreAnswer, "store"), "today": self._today(),
            "laundry_led": led, "fixture": self._one_of("fixture", FIXTURES),
            "drum_feeds": self._one_of("drum_feeds", FEEDS), "well_led": well_led,
            "well_feeds": self._one_of("well_feeds", FEEDS),
            "tap_feeds": self._one_of("tap_feeds", TAP_FEEDS)}), self.typed, self.errors, lacks)

    def _lacks(self, waters: Sequence[str], watered: Sequence[str], led: str) -> str:
        """What has to be touched still; as an error too, should it be poured like that."""
        alone = tuple(waters) == ("laundry",) and led == "basins"
        if not waters:
            lacks = "Touch what you have: where the water comes from."
        elif alone:
            lacks = ("Mulch basins under bushes and trees want no lines. Lead the laundry into a "
                     "drum that feeds them, or touch a roof, a tap, a well or a tank beside it.")
        elif not watered:
            lacks = "Touch what you water."
        elif waters == ("laundry",) and set(watered) & SHUTTING:
            lacks = ("What stands on float valves shuts once it is full, and the drum of a laundry "
                     "would run over. Touch other water for it: a roof, a tap, a well or a tank.")
        else:
            return ""
        self.errors["watered" if waters and not alone and not watered else "waters"] = lacks
        return lacks

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
            stands = DEFAULTS[self.system]
            return parse_for(measure, default or stands.get(name) or stands[key], self.system)

    def _some(self, name: str, number: int) -> int:
        """What was touched is there at least once."""
        if number < 1:
            self.errors[name] = (f"“{self.typed[name][:40]}” is none. Type 1 or more, or touch its "
                                 "picture again to leave it out.")
        return max(number, 1)

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

    def _one_of(self, key: str, choices: tuple[str, ...]) -> str:
        if self.typed[key] not in choices:
            self.errors[key] = f"“{self.typed[key][:40]}” is not one of: {', '.join(choices)}."
            return choices[0]
        return self.typed[key]

    def _today(self) -> Today:
        way = self._one_of("today", WAYS)
        return Today.model_validate(
            {"way": way} | {key: self._number(Today, key, key) for key in MEASURES_OF[way]})

    def _strip(self, kind: str) -> Strip:
        return Strip.model_validate({key: self._number(Strip, key, f"{kind}_{key}")
                                     for key in ("length_m", "width_m")})

    def _more(self, model: type[RowT], kind: str) -> tuple[RowT, ...]:
        """Further rows of roofs or barrels; a row with nothing in it is none."""
        found = []
        for i in range(2, 2 + MORE_ROWS):
            keys = {key: f"{kind}_{i}_{key}" for key in model.model_fields}
            if any(self.typed.get(name, "").strip() for name in keys.values()):
                found.append(model.model_validate({
                    key: self._number(model, key, name, STANDS_IN[key])
                    for key, name in keys.items()
                    if model.model_fields[key].is_required() or self.typed.get(name, "").strip()}))
        return tuple(found)

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
        beds: list[BedAnswer] = []
        for i in range(1, BED_ROWS + 1):
            names = {key: f"bed_{i}_{key}" for key in ("length_m", "width_m", "lower_m", "count")}
            if not any(self.typed.get(names[key], "").strip() for key in ("length_m", "width_m")):
                continue
            sizes = {key: self._number(BedAnswer, key, name, STANDS_IN[key])
                     for key, name in names.items()
                     if key in ("length_m", "width_m") or self.typed.get(name, "").strip()}
            group = self.typed.get(f"bed_{i}_group", "fruiting")
            if group not in GROUPS:
                self.errors[f"bed_{i}_group"] = (f"“{group[:40]}” is not one of: "
                                                 f"{', '.join(GROUPS)}.")
                group = "fruiting"
            beds.append(BedAnswer.model_validate({**sizes, "group": group}))
        many = sum(bed.count for bed in beds)
        if many > MOST_BEDS:
            self.errors["bed_1_count"] = (f"{many} beds are too many at once: up to {MOST_BEDS} "
                                          "here, more on Grow.")
            beds = [bed.model_copy(update={"count": 1}) for bed in beds]
        if not beds:
            self.errors["bed_1_length_m"] = "Give one bed a length and a width."
            return (BedAnswer(length_m=2.4, width_m=1.2, group="fruiting"),)
        return tuple(beds)
