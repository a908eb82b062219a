"""Units at the edge: read what a person types, show what the core reckons.

Inside the core everything is SI floats with the unit in the name. A *kind* says what a number
measures (``"length"``, ``"volume"``, ``"head"`` …) and so which unit it has inside, and which
unit each of the two systems shows. Pint does the converting.
"""

from __future__ import annotations

import datetime as dt
import math
import re
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
    "zones": Kind("a number of zones", "", ("", "zones", 0), ("", "zones", 0), "3"),
    "count": Kind("a whole number", "", ("", "", 0), ("", "", 0), "3"),
}

PLURALS = ("days", "zones", "cups")
_ALIASES = {
    "l": "L", "lt": "L", "ltr": "L", "litre": "L", "litres": "L", "liter": "L", "liters": "L",
    "lph": "L/h", "lpm": "L/minute", "l/h": "L/h", "l/hr": "L/h", "l/min": "L/minute",
    "l/s": "L/second", "lps": "L/second", "ml/min": "mL/minute", "ml/h": "mL/h",
    "m³/h": "m**3/hour", "m³/day": "m**3/day", "cubic metres": "m**3", "cubic meters": "m**3",
    "ft³": "ft**3", "cu ft": "ft**3", "cubic feet": "ft**3", "square metres": "m**2",
    "square meters": "m**2", "square feet": "ft**2", "quarts": "quart", "qt": "quart",
    "qts": "quart", "pints": "pint", "pt": "pint", "cups": "cup",
    "l/day": "L/day", "l/d": "L/day", "gal": "gallon", "gals": "gallon", "gallons": "gallon",
    "gal/day": "gallon/day", "gph": "gallon/hour", "gal/h": "gallon/hour",
    "gal/hr": "gallon/hour", "gal/min": "gallon/minute", "gpm": "gallon/minute",
    "imp gal": "imperial_gallon", "imperial gal": "imperial_gallon",
    "imperial gallons": "imperial_gallon", "m3": "m**3", "m³": "m**3", "cubic m": "m**3",
    "m2": "m**2", "m²": "m**2", "sq m": "m**2", "sqm": "m**2", "ft2": "ft**2", "ft²": "ft**2",
    "sq ft": "ft**2", "sqft": "ft**2", "'": "ft", "feet": "ft", "foot": "ft", '"': "inch",
    "in": "inch", "ins": "inch", "inches": "inch", "metre": "m", "metres": "m", "meter": "m",
    "meters": "m", "centimetre": "cm", "centimetres": "cm", "millimetre": "mm",
    "millimetres": "mm", "yd": "yard", "yards": "yard", "°c": "degC", "c": "degC", "° c": "degC",
    "°f": "degF", "f": "degF", "deg c": "degC", "deg f": "degF", "°": "degree", "deg": "degree",
    "% ": "percent", "%": "percent", "per cent": "percent", "min": "minute", "mins": "minute",
    "minutes": "minute", "h": "hour", "hr": "hour", "hrs": "hour", "hours": "hour", "s": "second",
    "d": "day", "days": "day", "lbs": "lb", "pounds": "lb", "kg": "kg", "bar": "bar",
    "mm/d": "mm/day", "mm/day": "mm/day", "in/day": "inch/day",
}
_KNOWN = {"m", "cm", "mm", "km", "ft", "inch", "yard", "mi", "L", "mL", "hL", "gallon", "quart",
          "pint", "kPa", "Pa", "bar", "mbar", "psi", "kg", "g", "lb", "oz", "tonne", "ton",
          "degC", "degF", "degree", "percent", "minute", "hour", "second", "day", "week",
          "mm/hour", "ft/s", "m/s", "cup", "kilolitre"}
_PARTS = {"half": "0.5", "a": "1", "an": "1", "quarter": "0.25", "a quarter": "0.25",
          "three quarters": "0.75"}
_WORDS = ("one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven",
          "twelve")
_NUMBER = r"[+-]?(?:\d+(?:\.\d*)?|\.\d+)(?:[eE][+-]?\d+)?"
_PART = re.compile(rf"\s*({_NUMBER})(?:\s+(\d+)/(\d+)|/(\d+))?\s*([^\d+\-.]*)")


class BadEntry(ValueError):
    """What a person typed cannot be read: carries the text typed and what is allowed."""

    def __init__(self, typed: str, why: str) -> None:
        self.typed = typed
        self.why = why
        super().__init__(why)


@cache
def registry() -> pint.UnitRegistry[float]:
    """The one Pint registry."""
    return pint.UnitRegistry(autoconvert_offset_to_baseunit=True)


@cache
def _line(kind: str, system: System) -> tuple[float, float]:
    """Slope and offset from the unit inside to the unit shown."""
    here = KINDS[kind]
    unit = (here.metric if system == "metric" else here.us)[0]
    at0, at1 = (float(registry().Quantity(x, here.base).to(unit).magnitude) for x in (0.0, 1.0))
    return at1 - at0, at0


def convert(value: float, kind: str, system: System) -> float:
    """The number that ``system`` shows for ``value`` (in the kind's unit inside)."""
    slope, offset = _line(kind, system)
    return value * slope + offset


def to_inside(shown: float, kind: str, system: System) -> float:
    """The value in the kind's unit inside for the number that ``system`` shows."""
    slope, offset = _line(kind, system)
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
    here = KINDS[kind].metric if system == "metric" else KINDS[kind].us
    shown = convert(value, kind, system)
    if kind == "hole" and system == "us":
        return f"{_sixteenths(shown)}\u00a0{here[1]}"
    text = number(shown, _decimals(shown, here[2]) if decimals is None else decimals)
    if not here[1]:
        return text
    if text == "1" and here[1] in PLURALS:
        return f"{text}\u00a0{here[1][:-1]}"
    return f"{text}{here[1]}" if here[1] == "°" else f"{text}\u00a0{here[1]}"


def _sixteenths(inches: float) -> str:
    """As drills are sold: ``1.575`` -> "1 9/16"; never nothing."""
    whole, over = divmod(max(round(16 * inches), 1), 16)
    if not over:
        return str(whole)
    shared = math.gcd(over, 16)
    part = f"{over // shared}/{16 // shared}"
    return f"{whole} {part}" if whole else part


def _decimals(shown: float, usual: int) -> int:
    """One decimal more where a small amount would else read as nothing."""
    if shown != 0 and abs(shown) < 10 ** -usual:
        return usual + 1
    return usual


def show_date(day: float) -> str:
    """A day of the year from 0, in a year of 365 days: ``151`` -> "1 June"."""
    when = dt.date(2001, 1, 1) + dt.timedelta(days=round(day))
    return f"{when.day}\u00a0{when:%B}"


_MONTH_NAMES = ("january", "february", "march", "april", "may", "june", "july", "august",
                "september", "october", "november", "december")


def parse_day(typed: str, *, may_be_empty: bool) -> str:
    """A day of the year as month-day: "24 April", "Apr 24" and "04-24" all give ``"04-24"``.

    Raises :class:`BadEntry`; nothing typed is allowed where a day may be left out.
    """
    text = typed.strip().lower()
    if not text and may_be_empty:
        return ""
    words = re.findall(r"[a-z]+|\d+", text)
    names = [w for w in words if w.isalpha()]
    numbers = [int(w) for w in words if w.isdecimal() and len(w) < 3]
    try:
        if len(names) == 1 and len(numbers) == 1 and len(names[0]) >= 3:
            month = next(i for i, n in enumerate(_MONTH_NAMES, 1) if n.startswith(names[0]))
            day = numbers[0]
        elif not names and len(numbers) == 2 and re.fullmatch(r"\d\d?-\d\d?", text):
            month, day = numbers
        else:
            raise ValueError
        return f"{dt.date(2001, month, day):%m-%d}"
    except (ValueError, StopIteration):
        raise BadEntry(typed, f"“{_short(typed)}” is not a day of the year. Type one such as "
                              "24 April or 04-24.") from None


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


def parse(typed: str, kind: str, system: System) -> float:
    """Read a quantity in any unit. A bare number is in the unit that ``system`` shows.

    A bare share is one up to 1, and hundredths over it.
    ``parse("55 gal", "volume", "metric")`` -> 208.2; ``parse("3 ft 6 in", "length", "us")``
    -> 1.067. Raises :class:`BadEntry` with what was typed and what is allowed.
    """
    here = KINDS[kind]
    text = _tidy(typed)
    if not text:
        raise BadEntry(typed, f"Nothing typed. Type {here.noun}, such as {here.example}.")
    parts, end = [], 0
    while end < len(text):
        match = _PART.match(text, end)
        if not match or match.end() == end:
            raise BadEntry(typed, f"“{_short(typed)}” is not a number. Type {here.noun}, such as "
                                  f"{here.example}.")
        parts.append((_magnitude(match), match.group(5).strip()))
        end = match.end()
    if len(parts) > 1 and not all(unit for _, unit in parts):
        raise BadEntry(typed, f"“{_short(typed)}” holds more than one number. Type {here.noun}, "
                              f"such as {here.example}.")
    sign = -1.0 if parts[0][0] < 0 else 1.0
    total = parts[0][0] if len(parts) == 1 else None
    if total is not None:
        value = _to_base(total, parts[0][1], kind, system, typed)
    else:
        value = sign * sum(_to_base(abs(x), unit, kind, system, typed) for x, unit in parts)
    if not math.isfinite(value):
        raise BadEntry(typed, f"“{_short(typed)}” is past any number here. Type {here.noun}, such "
                              f"as {here.example}.")
    return value


def parse_pairs(typed: str, kinds: tuple[str, str], system: System, otherwise: str
                ) -> list[tuple[float, float]]:
    """Pairs of quantities: ``"0, 0; 6.2 m, 13 ft"`` for two lengths; nothing typed gives none.

    Raises :class:`BadEntry`; ``otherwise`` says what a pair is.
    """
    pairs = []
    for pair in filter(str.strip, typed.split(";")):
        parts = [p for p in pair.split(",") if p.strip()]
        if len(parts) != 2:
            raise BadEntry(typed, f"“{_short(pair)}” {otherwise}")
        one, other = (parse(part, kind, system) for part, kind in zip(parts, kinds, strict=True))
        pairs.append((one, other))
    return pairs


def _short(typed: str) -> str:
    typed = " ".join(typed.split())
    return typed if len(typed) <= 40 else typed[:39] + "…"


def _tidy(typed: str) -> str:
    text = typed.strip().replace(NNBSP, "").replace("\u2009", "").replace("\u00a0", " ")
    text = text.replace("−", "-").replace("’", "'").replace("′", "'").replace("″", '"')
    text = text.replace("”", '"').replace("''", '"').replace("½", " 1/2").replace("¼", " 1/4")
    text = text.replace("¾", " 3/4")
    text = re.sub(r"(?i)(?<=[a-z])\^?([23])(?![\w.])", lambda m: "²³"[int(m[1]) - 2], text)
    text = re.sub(r"(?<=\d)-(?=\d+/\d|[A-Za-z])", " ", text)
    text = _in_figures(text)
    text = re.sub(r"(?<=\d),(?=\d{3}(?:\D|$))", "", text) if re.match(
        r"^[+-]?[1-9]\d{0,2}(,\d{3})+(\D|$)", text) else text
    text = re.sub(r"(?<=[1-9\d]) (?=\d{3}(?:\D|$))", "", text) if re.match(
        r"^[1-9]\d{0,2}( \d{3})+(\D|$)", text) else text
    return re.sub(r"(?<=\d),(?=\d)", ".", text).strip()


def _in_figures(text: str) -> str:
    """An amount begun in words, such as "half a gallon" or "three quarts", begun in figures."""
    begun = re.match(r"(?i)(half|three quarters|a quarter|quarter|an?|" + "|".join(_WORDS)
                     + r")\b\s*(?:of\b)?\s*(?:an?\b)?\s*(?=[a-z])", text)
    if not begun:
        return text
    word = begun[1].lower()
    return f"{_PARTS.get(word) or _WORDS.index(word) + 1} {text[begun.end():]}"


def _magnitude(match: re.Match[str]) -> float:
    value = float(match.group(1))
    top, bottom, plain = match.group(2), match.group(3), match.group(4)
    if top and float(bottom):
        value += math.copysign(float(top) / float(bottom), value)
    elif plain and float(plain):
        value /= float(plain)
    return value


def _to_base(value: float, unit: str, kind: str, system: System, typed: str) -> float:
    here = KINDS[kind]
    own = not here.base and unit in (here.metric[1], here.us[1])
    if kind == "share" and not unit and abs(value) <= 1:
        return value
    if not unit or (own and kind != "share"):
        slope, offset = _line(kind, system)
        return (value - offset) / slope
    if not here.base and kind != "share":
        raise BadEntry(typed, f"“{_short(typed)}”: this asks for {here.noun} with no unit, such as "
                              f"{here.example}.")
    name = _pint_name(unit)
    try:
        if name is None:
            raise pint.UndefinedUnitError(unit)
        amount = registry().Quantity(value, name)
        if kind in ("head", "lift") and amount.check("[pressure]"):
            return head_m(float(amount.to("kPa").magnitude))
        if kind == "pressure" and amount.check("[length]"):
            return pressure_kpa(float(amount.to("m").magnitude))
        return float(amount.to(here.base or "dimensionless").magnitude)
    except pint.UndefinedUnitError:
        raise BadEntry(typed, f"“{_short(typed)}”: {_short(unit)} is not a unit known here. Type "
                              f"{here.noun}, such as {here.example}.") from None
    except (pint.DimensionalityError, OverflowError):
        raise BadEntry(typed, f"“{_short(typed)}”: {_short(unit)} does not measure {here.noun}. "
                              f"Type {here.noun}, such as {here.example}.") from None


@cache
def _shown_labels() -> dict[str, str]:
    """Each sign that the app itself shows, with its Pint unit: what is shown reads back."""
    return {label: unit for kind in KINDS.values() for unit, label, _ in (kind.metric, kind.us)
            if label and unit}


def _pint_name(unit: str) -> str | None:
    """The Pint unit for what was typed; None when it is none of ours (Pint knows parsecs)."""
    plain = " ".join(unit.split()).rstrip(".,;")
    if plain in _shown_labels():
        return _shown_labels()[plain]
    for name in (plain, _ALIASES.get(plain.lower()), plain.lower()):
        if name and (name in _KNOWN or name in _ALIASES.values()):
            return name
    lowered = plain.lower()
    return _ALIASES.get(lowered.rstrip("s")) or next(
        (known for known in _KNOWN if known.lower() == lowered), None)
