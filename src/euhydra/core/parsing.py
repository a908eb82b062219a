"""From what a person types to a value inside: any unit, fractions, words, dates, pairs."""

from __future__ import annotations

import datetime as dt
import math
import re
from functools import cache

import pint

from euhydra.core.units import (
    KINDS,
    MONTH_NAMES,
    NNBSP,
    System,
    head_m,
    linear,
    pressure_kpa,
    registry,
)

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
            month = next(i for i, n in enumerate(MONTH_NAMES, 1) if n.startswith(names[0]))
            day = numbers[0]
        elif not names and len(numbers) == 2 and re.fullmatch(r"\d\d?-\d\d?", text):
            month, day = numbers
        else:
            raise ValueError
        return f"{dt.date(2001, month, day):%m-%d}"
    except (ValueError, StopIteration):
        raise BadEntry(typed, f"“{short(typed)}” is not a day of the year. Type one such as "
                              "24 April or 04-24.") from None


def parse_clock(typed: str) -> float:
    """An hour of the day: "8", "8:30", "20.5", "8 pm" and "midnight" give hours, 0 to 24.

    Raises :class:`BadEntry`.
    """
    text = typed.strip().lower()
    if text in ("noon", "midnight"):
        return 12.0 if text == "noon" else 24.0
    match = re.fullmatch(r"(\d\d?)(?:[:.](\d\d)|(\.\d))?\s*(?:h|([ap])\.?m\.?)?", text)
    hour, minute = (int(match[1]), int(match[2] or 0)) if match else (99, 0)
    if not match or minute > 59 or (match[4] and not 1 <= hour <= 12):
        raise BadEntry(typed, f"“{short(typed)}” is not an hour of the day. Type one such as 8, "
                              "8:30 or 8 pm.")
    if match[4]:
        hour = hour % 12 + (12 if match[4] == "p" else 0)
    return hour + minute / 60 + float(match[3] or 0)


def parse(typed: str, kind: str, system: System) -> float:
    """Read a quantity in any unit. A bare number is in the unit that ``system`` shows.

    A bare share is one up to 1, and hundredths over it.
    ``parse("55 gal", "volume", "metric")`` -> 208.2; ``parse("3 ft 6 in", "length", "us")``
    -> 1.067. Raises :class:`BadEntry` with what was typed and what is allowed.
    """
    if kind == "clock":
        return parse_clock(typed)
    here = KINDS[kind]
    text = _tidy(typed)
    if not text:
        raise BadEntry(typed, f"Nothing typed. Type {here.noun}, such as {here.example}.")
    parts, end = [], 0
    while end < len(text):
        match = _PART.match(text, end)
        if not match or match.end() == end:
            raise BadEntry(typed, f"“{short(typed)}” is not a number. Type {here.noun}, such as "
                                  f"{here.example}.")
        parts.append((_magnitude(match), match.group(5).strip()))
        end = match.end()
    if len(parts) > 1 and not all(unit for _, unit in parts):
        raise BadEntry(typed, f"“{short(typed)}” holds more than one number. Type {here.noun}, "
                              f"such as {here.example}.")
    sign = -1.0 if parts[0][0] < 0 else 1.0
    total = parts[0][0] if len(parts) == 1 else None
    if total is not None:
        value = _to_base(total, parts[0][1], kind, system, typed)
    else:
        value = sign * sum(_to_base(abs(x), unit, kind, system, typed) for x, unit in parts)
    if not math.isfinite(value):
        raise BadEntry(typed, f"“{short(typed)}” is past any number here. Type {here.noun}, such "
                              f"as {here.example}.")
    return value


def cells_of(line: str) -> list[str]:
    """The cells of a line that was pasted: by tabs, semicolons, bars, commas or wide spaces."""
    if "\t" in line:
        cells = line.split("\t")
    elif ";" in line or "|" in line:
        cells = re.split(r"[;|]", line.strip().strip("|"))
    elif re.search(r",\s", line) or line.count(",") >= 3:
        cells = line.split(",")
    else:
        cells = re.split(r"\s{2,}", line) if re.search(r"\S\s{2,}\S", line) else line.split()
    return [cell.strip() for cell in cells]


def parse_pairs(typed: str, kinds: tuple[str, str], system: System, otherwise: str
                ) -> list[tuple[float, float]]:
    """Pairs of quantities: ``"0, 0; 6.2 m, 13 ft"`` for two lengths; nothing typed gives none.

    Raises :class:`BadEntry`; ``otherwise`` says what a pair is.
    """
    pairs = []
    for pair in filter(str.strip, typed.split(";")):
        parts = [p for p in pair.split(",") if p.strip()]
        if len(parts) != 2:
            raise BadEntry(typed, f"“{short(pair)}” {otherwise}")
        one, other = (parse(part, kind, system) for part, kind in zip(parts, kinds, strict=True))
        pairs.append((one, other))
    return pairs


def short(typed: str) -> str:
    """What was typed, as much of it as a sentence holds."""
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
        slope, offset = linear(kind, system)
        return (value - offset) / slope
    if not here.base and kind != "share":
        raise BadEntry(typed, f"“{short(typed)}”: this asks for {here.noun} with no unit, such as "
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
        raise BadEntry(typed, f"“{short(typed)}”: {short(unit)} is not a unit known here. Type "
                              f"{here.noun}, such as {here.example}.") from None
    except (pint.DimensionalityError, OverflowError):
        raise BadEntry(typed, f"“{short(typed)}”: {short(unit)} does not measure {here.noun}. "
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
