"""Units at the edge: read what a person types, show what the core reckons.

Inside the core everything is SI floats with the unit in the name. A *kind* says what a number
measures (``"length"``, ``"volume"``, ``"head"`` …) and so which unit it has inside, and which
unit each of the two systems shows. Pint does the converting.
"""

from __future__ import annotations

import datetime as dt
import math
from dataclasses import dataclass
from functools import cache
from typing import Literal

import pint

System = Literal["metric", "us"]
NNBSP = "\u202f"


@dataclass(frozen=True)
class Kind:
    """What a number measures: its unit inside, and how each system shows it."""

    noun: str
    base: str
    metric: tuple[str, str, int]
    us: tuple[str, str, int]
    example: str


# (Pint unit, label shown, decimals)
KINDS: dict[str, Kind] = {
    "length": Kind("a length", "m", ("m", "m", 2), ("ft", "ft", 2), "2.4 m, 8 ft or 3 ft 6 in"),
    "small": Kind("a length", "m", ("cm", "cm", 0), ("inch", "in", 1), "30 cm, 12 in or 0.3 m"),
    "bore": Kind("a bore", "mm", ("mm", "mm", 1), ("inch", "in", 2), "16 mm or 0.5 in"),
    "hole": Kind("a drill's size", "mm", ("mm", "mm", 0), ("inch", "in", 1), "40 mm or 1 9/16 in"),
    "cup": Kind("a small volume", "L", ("mL", "mL", 0), ("cup", "cups", 2), "100 mL or 1/2 cup"),
    "area": Kind("an area", "m**2", ("m**2", "m²", 1), ("ft**2", "ft²", 0), "25 m² or 270 sq ft"),
    "volume": Kind("a volume", "L", ("L", "L", 0), ("gallon", "gal", 0), "210 L or 55 gal"),
    "dose": Kind("a small volume", "mL", ("mL", "mL", 0), ("fluid_ounce", "fl oz", 1),
                 "20 mL or 1 fl oz"),
    "drop": Kind("a volume", "L", ("L", "L", 1), ("gallon", "gal", 2), "2 L or 0.5 gal"),
    "yearly": Kind("a yearly volume", "L", ("m**3", "m³", 1), ("gallon", "gal", 0), "12 m³"),
    "daily": Kind("a daily volume", "L/day", ("L/day", "L/day", 0), ("gallon/day", "gal/day", 1),
                  "40 L/day or 10 gal/day"),
    "flow": Kind("a flow", "L/h", ("L/h", "L/h", 1), ("gallon/hour", "gph", 2),
                 "2 L/h or 0.5 gph"),
    "head": Kind("a head of water", "m", ("m", "m", 2), ("ft", "ft", 2), "1 m, 3 ft or 1.4 psi"),
    "pressure": Kind("a pressure", "kPa", ("kPa", "kPa", 1), ("psi", "psi", 2),
                     "170 kPa or 25 psi"),
    "rain": Kind("a depth of water", "mm", ("mm", "mm", 0), ("inch", "in", 1), "45 mm or 1.8 in"),
    "depth": Kind("a depth of water", "mm", ("mm", "mm", 1), ("inch", "in", 2), "4 mm or 0.2 in"),
    "et": Kind("a depth a day", "mm/day", ("mm/day", "mm/day", 1), ("inch/day", "in/day", 2),
               "5 mm/day"),
    "radiation": Kind("radiation", "MJ/m**2/day", ("MJ/m**2/day", "MJ/m²/day", 1),
                      ("MJ/m**2/day", "MJ/m²/day", 1), "30 MJ/m²/day"),
    "temperature": Kind("a temperature", "degC", ("degC", "°C", 1), ("degF", "°F", 0),
                        "21 °C or 70 °F"),
    "mass": Kind("a mass", "kg", ("kg", "kg", 0), ("lb", "lb", 0), "15 kg or 33 lb"),
    "minutes": Kind("a time", "minute", ("minute", "min", 0), ("minute", "min", 0),
                    "30 min or 1.5 h"),
    "seconds": Kind("a time", "second", ("second", "s", 0), ("second", "s", 0), "40 s"),
    "hours": Kind("a time", "hour", ("hour", "h", 1), ("hour", "h", 1), "2 h or 90 min"),
    "days": Kind("a number of days", "day", ("day", "days", 0), ("day", "days", 0), "7 days"),
    "speed": Kind("a speed", "m/s", ("m/s", "m/s", 2), ("ft/s", "ft/s", 1), "1.5 m/s"),
    "share": Kind("a share", "", ("percent", "%", 0), ("percent", "%", 0), "90 %, 90 or 0.9"),
    "ratio": Kind("a plain number", "", ("", "", 2), ("", "", 2), "0.95"),
    "date": Kind("a day of the year", "", ("", "", 0), ("", "", 0), "1 June"),
    "lift": Kind("a head", "m", ("m", "m", 1), ("foot", "ft", 1), "12 m, 40 ft or 120 kPa"),
    "energy": Kind("an amount of energy", "watt_hour", ("watt_hour", "Wh", 0),
                   ("watt_hour", "Wh", 0), "500 Wh"),
    "power": Kind("a power", "watt", ("watt", "W", 0), ("watt", "W", 0), "100 W"),
    "angle": Kind("an angle", "degree", ("degree", "°", 0), ("degree", "°", 0), "30 or -45"),
    "money": Kind("a sum", "", ("", "€", 2), ("", "$", 2), "12.50"),
    "latitude": Kind("a latitude", "degree", ("degree", "°", 1), ("degree", "°", 1),
                     "41.3 or -33.9"),
    "clock": Kind("an hour of the day", "hour", ("hour", "", 2), ("hour", "", 2), "8 or 8:30"),
    "bulk": Kind("a volume of gravel or chips", "m**3", ("m**3", "m³", 1), ("yard**3", "yd³", 1),
                 "2 m³ or 2.5 yd³"),
    "zones": Kind("a number of zones", "", ("", "zones", 0), ("", "zones", 0), "3"),
    "count": Kind("a whole number", "", ("", "", 0), ("", "", 0), "3"),
}
PLURALS = ("days", "zones", "cups")


@cache
def registry() -> pint.UnitRegistry[float]:
    """The one Pint registry."""
    return pint.UnitRegistry(autoconvert_offset_to_baseunit=True)


@cache
def linear(kind: str, system: System) -> tuple[float, float]:
    """Slope and offset from the unit inside to the unit shown."""
    here = KINDS[kind]
    unit = (here.metric if system == "metric" else here.us)[0]
    at0, at1 = (float(registry().Quantity(x, here.base).to(unit).magnitude) for x in (0.0, 1.0))
    return at1 - at0, at0


def convert(value: float, kind: str, system: System) -> float:
    """The number that ``system`` shows for ``value`` (in the kind's unit inside)."""
    slope, offset = linear(kind, system)
    return value * slope + offset


def to_inside(shown: float, kind: str, system: System) -> float:
    """The value in the kind's unit inside for the number that ``system`` shows."""
    slope, offset = linear(kind, system)
    return (shown - offset) / slope


def unit_label(kind: str, system: System) -> str:
    """The unit's sign, such as ``"m²"``; empty for a plain number."""
    return (KINDS[kind].metric if system == "metric" else KINDS[kind].us)[1]


def number(value: float, decimals: int) -> str:
    """``1230.0, 0`` -> ``"1 230"`` with a narrow no-break space; a true minus sign."""
    if not math.isfinite(value):
        return "–"
    text = f"{abs(value):,.{decimals}f}".replace(",", NNBSP)
    negative = value < 0 and float(f"{value:.{decimals}f}") != 0
    return f"−{text}" if negative else text


def show(value: float, kind: str, system: System, decimals: int | None = None) -> str:
    """A value with its unit in the system asked for: ``show(0.45, "length", "us")`` -> 1.48 ft."""
    if kind == "clock":
        return show_clock(value)
    here = KINDS[kind].metric if system == "metric" else KINDS[kind].us
    shown = convert(value, kind, system)
    if kind == "hole" and system == "us":
        return f"{_sixteenths(shown)}\u00a0{here[1]}"
    text = number(shown, decimals_of(shown, here[2]) if decimals is None else decimals)
    if not here[1]:
        return text
    if text == "1" and here[1] in PLURALS:
        return f"{text}\u00a0{here[1][:-1]}"
    return f"{text}{here[1]}" if here[1] == "°" else f"{text}\u00a0{here[1]}"


def show_clock(hour: float) -> str:
    """``5:00`` for 5.0; ``24:00`` at a day's end."""
    minutes = round(hour * 60)
    return f"{minutes // 60}:{minutes % 60:02d}"


def _sixteenths(inches: float) -> str:
    """As drills are sold: ``1.575`` -> "1 9/16"; never nothing."""
    whole, over = divmod(max(round(16 * inches), 1), 16)
    if not over:
        return str(whole)
    shared = math.gcd(over, 16)
    part = f"{over // shared}/{16 // shared}"
    return f"{whole} {part}" if whole else part


def decimals_of(shown: float, usual: int) -> int:
    """One decimal more where a small amount would else read as nothing."""
    if shown != 0 and abs(shown) < 10 ** -usual:
        return usual + 1
    return usual


def show_date(day: float) -> str:
    """A day of the year from 0, in a year of 365 days: ``151`` -> "1 June"."""
    when = dt.date(2001, 1, 1) + dt.timedelta(days=round(day))
    return f"{when.day}\u00a0{when:%B}"


MONTH_NAMES = ("january", "february", "march", "april", "may", "june", "july", "august",
                "september", "october", "november", "december")


def show_month_day(month_day: str) -> str:
    """``"04-24"`` -> "24 April"; empty stays empty."""
    if not month_day:
        return ""
    when = dt.date.fromisoformat(f"2001-{month_day}")
    return f"{when.day} {when:%B}"


def head_and_pressure(head_m: float, system: System) -> str:
    """A head as trades read it: ``0.94 m · 9.2 kPa`` or ``3.08 ft · 1.34 psi``."""
    return f"{show(head_m, 'head', system)} · {show(pressure_kpa(head_m), 'pressure', system)}"


def pressure_kpa(head_m: float) -> float:
    """Pressure under a head of water at 9.80665 m/s² and 1000 kg/m³: 1 m = 9.807 kPa."""
    return head_m * 9.80665


def head_m(pressure_kpa: float) -> float:
    """The head of water that a pressure lifts: 1 kPa = 0.102 m."""
    return pressure_kpa / 9.80665
