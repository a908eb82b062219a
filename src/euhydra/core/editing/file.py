"""The product's own open file: versioned JSON that holds a whole garden.

Keys carry their units, order is stable, and laid lines ride along, so that two versions diff well
and a file opens again exactly.
"""

from __future__ import annotations

import base64
import binascii
import json
from typing import Any

import numpy as np
from pydantic import ValidationError

from euhydra.core.editing.relaying import relaid
from euhydra.core.editing.trees import EditRefused, plain_error
from euhydra.core.garden.model import Garden
from euhydra.core.garden.named import named_rows
from euhydra.core.garden.upgrade import upgraded
from euhydra.core.garden.validation import Unsound, require_not_grown, require_sound
from euhydra.core.library import Library
from euhydra.core.weather.reading import KEPT_AS
from euhydra.core.weather.record import Record

FORMAT = "euhydra-garden"
VERSION = 6


class BadFile(ValueError):
    """The text is not a garden that this version opens; the message says where and why."""

    def __init__(self, words: str) -> None:
        # What is quoted from a file may hold half a sign, which no page could show.
        super().__init__(words.encode("utf-8", "backslashreplace").decode())


def to_json(garden: Garden, record: Record | None = None, sketch: bytes = b"") -> str:
    """The garden as text: two-space indent, keys in the models' order, a line feed at the end.

    A daily weather record rides along when it is given, a year of a column to a line; so does the
    picture under the plan, a JPEG.
    """
    inside = garden.model_dump_json(indent=2).replace("\n", "\n  ")  # none stands within a string
    head = f'{{\n  "format": {json.dumps(FORMAT)},\n  "version": {VERSION},\n  "garden": '
    return head + inside + (_weather_json(record) if record else "") + (
        _sketch_json(sketch) if sketch else "") + "\n}\n"


def _weather_json(record: Record) -> str:
    columns = [f'    "first_year": {record.first_year}']
    for name, column in record.columns.items():
        years = ",\n".join("      " + json.dumps([None if v != v else round(v, 4) for v in year])
                           for year in column.tolist())
        columns.append(f'    "{name}": [\n{years}\n    ]')
    return ',\n  "weather": {\n' + ",\n".join(columns) + "\n  }"


def _sketch_json(jpeg: bytes) -> str:
    return f',\n  "sketch": {{\n    "jpeg": "{base64.b64encode(jpeg).decode()}"\n  }}'


def sketch_in(text: str) -> bytes:
    """The picture that rides along in a garden's file, empty for none. Raises :class:`BadFile`."""
    tree = _tree(text).get("sketch")
    if tree is None:
        return b""
    try:
        return base64.b64decode(tree["jpeg"], validate=True)
    except (KeyError, TypeError, ValueError, binascii.Error):
        raise BadFile("The picture in this file is not whole: “sketch” needs “jpeg”, a picture in "
                      "base64.") from None


def weather_in(text: str) -> Record | None:
    """The daily weather record that rides along in a garden's file. Raises :class:`BadFile`."""
    tree = _tree(text).get("weather")
    if tree is None:
        return None
    try:
        first = tree["first_year"]
        columns = {name: np.array(years, dtype=float) for name, years in tree.items()
                   if name != "first_year"}
        years = {column.shape for column in columns.values()}
        if type(first) is not int or len(years) != 1 or not set(columns) <= set(KEPT_AS.values()):
            raise ValueError
        shape = years.pop()
        sure = np.concatenate([columns[n].ravel() for n in ("rain_mm", "tmin_c", "tmax_c")])
        if len(shape) != 2 or shape[1] != 365 or not 1 <= shape[0] <= 400 or not (
                np.isfinite(sure).all()) or np.abs(sure).max() > 2000:
            raise ValueError
        return Record(first, **columns)
    except (KeyError, TypeError, ValueError, AttributeError):
        raise BadFile("The weather in this file is not whole: it needs first_year, and for each "
                      "column as many lists of 365 numbers.") from None


def from_json(text: str, library: Library) -> Garden:
    """The garden in a file. Raises :class:`BadFile`.

    A garden without lines is laid; one with lines keeps them as they are.
    """
    tree = _tree(text)
    if tree.get("format") != FORMAT:
        raise BadFile(f"This is JSON, but not a garden of Euhydra: “format” says "
                      f"{_brief(tree.get('format'))}, not “{FORMAT}”.")
    version = tree.get("version")
    if version not in range(1, VERSION + 1) or type(version) is not int:
        raise BadFile(f"This garden was saved as version {_brief(version)}; this app opens "
                      f"versions 1 to {VERSION}. Open it with the newer app that saved it.")
    if unknown := set(tree) - {"format", "version", "garden", "weather", "sketch"}:
        raise BadFile(f"“{sorted(unknown)[0][:60]}” stands beside the garden; only format, "
                      "version, garden, weather and sketch do.")
    try:
        garden = Garden.model_validate_json(
            json.dumps(upgraded(tree.get("garden"), version, VERSION, library)))
    except ValidationError as error:
        raise BadFile(f"The garden does not hold together. {plain_error(error)}.") from None
    require_known(garden, library)
    if not garden.lines:
        return _laid(garden, library)
    try:
        require_sound(garden)
    except Unsound as error:
        raise BadFile(str(error)) from None
    return garden


def kept_text(garden: Garden, library: Library, before: Garden | None = None) -> str:
    """The garden as text that is known to open again as the very same garden.

    Raises :class:`BadFile` where it would not: what cannot be opened is never kept. Nor is what
    grew, from ``before``, past what can be shown at once.
    """
    try:
        require_not_grown(garden, before)
        text = to_json(garden)
    except Unsound as error:
        raise BadFile(str(error)) from None
    except ValueError as error:
        raise BadFile(f"The garden cannot be written: {error}.") from None
    if from_json(text, library) != garden:
        raise BadFile("The garden would not open again as it stands.")
    return text


def _laid(garden: Garden, library: Library) -> Garden:
    try:
        return relaid(garden, library)
    except EditRefused as error:
        raise BadFile(str(error)) from None


def require_known(garden: Garden, library: Library) -> None:
    """Raise :class:`BadFile` when the garden names a row that the tables do not have."""
    for label, table, key in dict.fromkeys(named_rows(garden)):
        rows = getattr(library, table)
        if key not in rows:
            raise BadFile(f"The {label} “{key}” is not known here. Known: "
                          f"{', '.join(list(rows)[:20])}.")


def schema() -> dict[str, Any]:
    """JSON Schema (2020-12) of the file, made from the models."""
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Euhydra garden", "type": "object", "additionalProperties": False,
        "required": ["format", "version", "garden"],
        "properties": {"format": {"const": FORMAT}, "version": {"const": VERSION},
                       "garden": {"$ref": "#/$defs/Garden"},
                       "weather": _weather_schema(),
                       "sketch": {"type": "object", "required": ["jpeg"],
                                  "properties": {"jpeg": {"type": "string",
                                                          "contentEncoding": "base64"}},
                                  "additionalProperties": False}},
        "$defs": _definitions(),
    }


def _weather_schema() -> dict[str, Any]:
    year = {"type": "array", "minItems": 365, "maxItems": 365,
            "items": {"type": ["number", "null"]}}
    return {"type": "object", "required": ["first_year", "rain_mm", "tmin_c", "tmax_c"],
            "properties": {"first_year": {"type": "integer"}, **{
                name: {"type": "array", "items": year} for name in KEPT_AS.values()}},
            "additionalProperties": False}


def _definitions() -> dict[str, Any]:
    whole = Garden.model_json_schema()
    definitions: dict[str, Any] = whole.pop("$defs")
    return {"Garden": whole, **definitions}


def _tree(text: str) -> dict[str, Any]:
    def no_constant(name: str) -> float:
        raise BadFile(f"The file holds {name}, which is no number a garden can have.")

    try:
        tree = json.loads(text, parse_constant=no_constant)
    except json.JSONDecodeError as error:
        raise BadFile(f"This is not whole JSON: {error.msg} at line {error.lineno}, column "
                      f"{error.colno}. The file may be cut short, or of another kind.") from None
    except (RecursionError, ValueError) as error:
        if isinstance(error, BadFile):
            raise
        raise BadFile("This JSON is nested too deep or holds a number too long to be a "
                      "garden.") from None
    if not isinstance(tree, dict):
        raise BadFile("This is JSON, but not a garden: a garden's file is one object.")
    return tree


def _brief(value: Any) -> str:
    return "nothing" if value is None else f"“{str(value)[:40]}”"
