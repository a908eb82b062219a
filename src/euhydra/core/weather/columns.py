"""What the columns of a weather table hold: known by their heads, whatever the order and unit."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import pint

from euhydra.core.units import registry

NAMES: dict[str, tuple[str, ...]] = {
    "date": ("date", "day", "time", "datum", "obsdate", "observationdate", "timestamp"),
    "year": ("year", "yr", "yyyy"), "month": ("month", "mon", "mo"),
    "dayofmonth": ("dayofmonth", "dom"),
    "rain": ("rain", "precip", "precipitation", "prcp", "rainfall", "ppt", "rr", "rainsum",
             "precipitationsum"),
    "wetdays": ("wetdays", "raindays", "dayswithrain", "rainydays"),
    "tmin": ("tmin", "tempmin", "mintemp", "tn", "low", "temperaturemin", "minimumtemperature",
             "mintemperature", "minimum", "min", "temperature2mmin"),
    "tmax": ("tmax", "tempmax", "maxtemp", "tx", "high", "temperaturemax", "maximumtemperature",
             "maxtemperature", "maximum", "max", "temperature2mmax"),
    "humidity": ("humidity", "rh", "relativehumidity", "rhmean", "humidityavg", "hurs"),
    "dewpoint": ("dewpoint", "dew", "tdew", "td", "dewpointtemperature", "dewp"),
    "wind": ("wind", "windspeed", "ws", "u2", "awnd", "windavg", "meanwind"),
    "radiation": ("radiation", "rs", "solar", "srad", "solarradiation", "globalradiation",
                  "shortwaveradiationsum", "rad"),
    "sunshine": ("sunshine", "sunhours", "sunshinehours", "sunshineduration", "tsun", "sun"),
}
# Per quantity: the units that may stand in a head, as Pint knows them, and the unit kept.
UNITS: dict[str, tuple[str, dict[str, str]]] = {
    "rain": ("mm", {"mm": "mm", "in": "inch", "inch": "inch", "inches": "inch", "cm": "cm"}),
    "tmin": ("degC", {"c": "degC", "degc": "degC", "celsius": "degC", "f": "degF",
                      "degf": "degF", "fahrenheit": "degF", "k": "kelvin"}),
    "wind": ("m/s", {"m/s": "m/s", "ms": "m/s", "mps": "m/s", "km/h": "km/hour", "kmh": "km/hour",
                     "kph": "km/hour", "mph": "mile/hour", "kn": "knot", "kt": "knot",
                     "knots": "knot"}),
    "radiation": ("MJ/m**2/day", {"mj/m2": "MJ/m**2/day", "mj/m2/day": "MJ/m**2/day",
                                  "mj": "MJ/m**2/day", "w/m2": "W/m**2", "wm2": "W/m**2",
                                  "kwh/m2": "kWh/m**2/day"}),
    "humidity": ("", {"%": ""}), "sunshine": ("hour", {"h": "hour", "hours": "hour",
                                                       "min": "minute", "s": "second"}),
}
UNITS["tmax"] = UNITS["dewpoint"] = UNITS["tmin"]
GUESSED = {"rain": "mm", "wind": "m/s", "radiation": "MJ/m**2/day", "humidity": "",
           "sunshine": "hour"}
HOT_FOR_CELSIUS = 50.0  # a typical summer high past this is in °F
WET_FOR_INCHES = 12.0  # in a year some day nearly everywhere passes 12 mm; hardly any 12 inches
GALE_M_S = 30.0
STRONGEST_SUN_MJ = 45.0
SHOWN = {"inch": "in", "degC": "°C", "degF": "°F", "kelvin": "K", "km/hour": "km/h",
         "mile/hour": "mph", "MJ/m**2/day": "MJ/m²/day", "W/m**2": "W/m²", "hour": "h",
         "minute": "min", "second": "s", "kWh/m**2/day": "kWh/m²/day", "": "%", "knot": "knots"}


@dataclass(frozen=True)
class Column:
    """What a column holds, where it stands, its head, its Pint unit, and how that is known."""

    holds: str
    at: int
    head: str
    unit: str = ""
    known_by: str = ""

    @property
    def unit_shown(self) -> str:
        """The unit as people write it."""
        return SHOWN.get(self.unit, self.unit)


def columns_of(heads: Sequence[str]) -> dict[str, Column]:
    """The columns known by their heads; a unit in the head is taken with it.

    The first column that a name fits is taken. ``precip (in)``, ``tmax_f`` and ``Wind [km/h]``
    all carry their unit.
    """
    found: dict[str, Column] = {}
    for at, head in enumerate(heads):
        name, unit = _name_and_unit(head)
        for holds, names in NAMES.items():
            if holds in found:
                continue
            known = UNITS.get(holds, ("", {}))[1]
            if name in names and (not unit or unit in known or holds not in UNITS):
                found[holds] = Column(holds, at, head.strip(), known.get(unit, ""),
                                      "the head" if unit in known else "")
                break
    return found


def _name_and_unit(head: str) -> tuple[str, str]:
    """``"Precip (in)"`` -> ("precip", "in"); ``"tmax_f"`` -> ("tmax", "f")."""
    text = head.strip().strip('"').lower().replace("°", "").replace("²", "2")
    unit = ""
    if bracket := re.search(r"[\[(]\s*([^\])]+?)\s*[\])]", text):
        unit, text = bracket.group(1).replace(" ", "").replace("-2", "2"), text[:bracket.start()]
    else:
        words = re.split(r"[_\s]+", text)
        tail = {unit for _, units in UNITS.values() for unit in units}
        whole = re.sub(r"[^a-z0-9]", "", text)  # "temp_min" is a low, not a time in minutes
        if len(words) > 1 and words[-1] in tail and not any(whole in n for n in NAMES.values()):
            unit, text = words[-1], " ".join(words[:-1])
    return re.sub(r"[^a-z0-9]", "", text), unit


def with_units(columns: dict[str, Column], values: dict[str, np.ndarray],
               chosen: dict[str, str]) -> dict[str, Column]:
    """Columns with a unit each: chosen by the person, from the head, or read off the values."""
    none = np.zeros(0)
    return {holds: _with_unit(column, values.get(
        "tmax" if UNITS.get(holds) is UNITS["tmin"] else holds, none), chosen)
        for holds, column in columns.items()}


def _with_unit(column: Column, values: np.ndarray, chosen: dict[str, str]) -> Column:
    if column.holds not in UNITS:
        return column
    group = {"tmax": "tmin", "dewpoint": "tmin"}.get(column.holds, column.holds)
    if pick := chosen.get(group):
        return Column(column.holds, column.at, column.head, UNITS[group][1][pick], "your choice")
    if column.known_by:
        return column
    unit, why = _guess(group, values[np.isfinite(values)])
    return Column(column.holds, column.at, column.head, unit, why)


def _guess(group: str, values: np.ndarray) -> tuple[str, str]:
    most = float(values.max()) if values.size else 0.0
    if group == "tmin":
        hot = float(np.percentile(values, 95)) if values.size else 0.0
        return (("degF", f"warmest days near {hot:.0f}") if hot > HOT_FOR_CELSIUS
                else ("degC", f"warmest days near {hot:.0f}"))
    if group == "rain":
        inches = 0 < most <= WET_FOR_INCHES
        return ("inch" if inches else "mm"), f"the wettest day is {most:g}"
    if group == "wind" and most > GALE_M_S:
        return "km/hour", f"the strongest day is {most:g}"
    if group == "radiation" and most > STRONGEST_SUN_MJ:
        return "W/m**2", f"the brightest day is {most:g}"
    return GUESSED[group], f"the usual one; the highest value is {most:g}"


def converted(values: np.ndarray, column: Column) -> np.ndarray:
    """Values of a column in the unit kept: mm, °C, m/s, MJ/m²/day, %, h."""
    if column.holds not in UNITS or column.unit in ("", UNITS[column.holds][0]):
        return values
    ureg: pint.UnitRegistry[float] = registry()
    return np.asarray(ureg.Quantity(values, column.unit).to(UNITS[column.holds][0]).magnitude)
