"""What may be typed into a garden: where each number stands, its label, kind and bounds.

A *path* names a value: ``stores/barrels/stand_m``, ``plots/bed-1/plantings/p1/crop``,
``site/climate/rain_mm/0``.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any, Literal, get_args, get_origin

from annotated_types import Ge, Le
from pydantic import BaseModel
from pydantic.fields import FieldInfo

from euhydra.core import parsing, units
from euhydra.core.editing import typed_times
from euhydra.core.editing.typed_curves import parse_points
from euhydra.core.garden.model import Bed, CurvePoint, Garden, Point, Roof
from euhydra.core.library import Library
from euhydra.core.parsing import BadEntry
from euhydra.core.terrain import geometry
from euhydra.core.units import System

MOST_CORNERS = 40
CORNER_WORDS = ("is not a corner. Type the corners round it as east, north; east, north; such as "
                "0, 0; 6, 0; 6, 4; 0, 4.")


class NoSuchValue(LookupError):
    """The path names nothing in this garden."""


@dataclass(frozen=True)
class Measure:
    """One value that may be edited. ``kind`` is a unit kind, or "text", "choice", "flag".

    A depth over ground of ``over_m2`` may be typed as a volume too.
    """

    path: str
    label: str
    kind: str
    value: Any
    low: float = 0.0
    high: float = 0.0
    table: str = ""
    choices: tuple[str, ...] = ()
    only: tuple[str, ...] = ("",)
    but: str = ""
    refers: str = ""
    over_m2: float = 0.0


def measure_at(garden: Garden, path: str) -> Measure:
    """The value at a path with what is allowed there. Raises :class:`NoSuchValue`."""
    at: Any = garden
    parts = path.split("/")
    owner: Any = None
    for part in parts:
        owner, at = at, _step(at, part, path)
    if isinstance(owner, tuple):
        parent = garden if len(parts) == 2 else _walk(garden, parts[:-2], path)
        return _of_field(parent, parts[-2], path, at, item=True)
    if isinstance(owner, Bed) and parts[-1] == "outline" and at:
        at = tuple(geometry.point(place) for place in geometry.unturned_corners(owner))
    measure = _referring(garden, _of_field(owner, parts[-1], path, at))
    if isinstance(owner, Roof) and measure.kind == "depth":
        return replace(measure, over_m2=owner.area_m2)
    return measure


def _referring(garden: Garden, measure: Measure) -> Measure:
    """A measure that names another thing, with the garden's own as choices."""
    if not measure.refers:
        return measure
    things = [thing.id for thing in getattr(garden, measure.refers)]
    return replace(measure, choices=(*measure.choices, *things))


def parse_for(measure: Measure, typed: str, system: System) -> Any:
    """The value that was typed for a measure. Raises :class:`BadEntry` saying what is allowed."""
    if measure.kind == "text":
        return typed.strip()
    if measure.kind == "monthday":
        return parsing.parse_day(typed, may_be_empty=measure.low == 0)
    if measure.kind in LISTS:
        return LISTS[measure.kind](typed, system)
    if measure.kind == "flag":
        if typed not in ("yes", "no"):
            raise BadEntry(typed, f"“{typed[:40]}” is neither yes nor no.")
        return typed == "yes"
    if measure.kind == "choice":
        if typed not in measure.choices:
            raise BadEntry(typed, f"“{typed[:40]}” is not one of: {', '.join(measure.choices)}.")
        return typed
    return bounded(_quantity(measure, typed, system), measure, typed, system)


def _quantity(measure: Measure, typed: str, system: System) -> float:
    """A number in its unit; a depth over a roof also as the volume that this is."""
    try:
        return parsing.parse(typed, measure.kind, system)
    except BadEntry as error:
        if measure.over_m2 <= 0:
            raise
        try:
            litres = parsing.parse(typed, "volume", system)
        except BadEntry:
            raise error from None
    return litres / measure.over_m2


def _curve(typed: str, system: System) -> tuple[CurvePoint, ...]:
    """A pump's curve as typed, no point less or more than a pump's curve has."""
    flow, head = (field_measure(CurvePoint, name) for name in ("flow_l_h", "head_m"))
    return tuple(CurvePoint(flow_l_h=bounded(q, flow, typed, system),
                            head_m=bounded(h, head, typed, system))
                 for q, h in parse_points(typed, system))


def _corners(typed: str, system: System) -> tuple[Point, ...]:
    corners = parsing.parse_pairs(typed, ("length", "length"), system, CORNER_WORDS)
    if len(corners) > MOST_CORNERS:
        raise BadEntry(typed, f"{len(corners)} corners are too many: {MOST_CORNERS} is the most.")
    east, north = (field_measure(Point, name) for name in ("x_m", "y_m"))
    return tuple(Point(x_m=bounded(x, east, typed, system), y_m=bounded(y, north, typed, system))
                 for x, y in corners)


LISTS: dict[str, Callable[[str, System], Any]] = {
    "curve": _curve, "outline": _corners,
    "marks": lambda typed, _: typed_times.parse_marks(typed),
    "months": lambda typed, _: typed_times.parse_months(typed),
    "weekdays": lambda typed, _: typed_times.parse_weekdays(typed)}


def bounded(value: float, measure: Measure, typed: str, system: System) -> float | int:
    """The value when it is within bounds, whole where it counts things."""
    if not measure.low - 1e-9 <= value <= measure.high + 1e-9:
        low, high = (units.show(x, measure.kind, system) for x in (measure.low, measure.high))
        raise BadEntry(typed, f"“{typed[:40]}” is out of bounds: {measure.label} goes from {low} "
                              f"to {high}.")
    if measure.kind == "count":
        if abs(value - round(value)) > 1e-9:
            raise BadEntry(typed, f"“{typed[:40]}” is not whole: {measure.label} counts things.")
        return round(value)
    return value


def with_choices(measure: Measure, library: Library) -> Measure:
    """The measure with the keys of its table as choices."""
    if not measure.table:
        return measure
    own = ("",) if measure.value == "" else ()
    choices = (*own, *(key for key in getattr(library, measure.table)
                       if key.startswith(measure.only) and key != measure.but))
    return replace(measure, kind="choice", choices=choices)


def field_measure(model: type[BaseModel], name: str, path: str = "") -> Measure:
    """The measure that a model's field holds, without a garden at hand (for First pour)."""
    return _described(model, name, path, None, item=False)


def item_measure(model: type[BaseModel], name: str) -> Measure:
    """The measure of each item of a model's tuple, such as one month's rain."""
    return _described(model, name, name, None, item=True)


def _walk(garden: Garden, parts: list[str], path: str) -> Any:
    at: Any = garden
    for part in parts:
        at = _step(at, part, path)
    return at


def _step(at: Any, part: str, path: str) -> Any:
    if isinstance(at, tuple):
        for item in at:
            if getattr(item, "id", None) == part:
                return item
        if part.isdecimal() and len(part) < 4 and int(part) < len(at) and not hasattr(
                at[0], "id"):
            return at[int(part)]
    elif isinstance(at, BaseModel) and part in type(at).model_fields:
        return getattr(at, part)
    raise NoSuchValue(f"nothing called “{path[:80]}” can be typed in this garden")


def _of_field(owner: Any, name: str, path: str, value: Any, *, item: bool = False) -> Measure:
    if not isinstance(owner, BaseModel) or name not in type(owner).model_fields:
        raise NoSuchValue(f"nothing called “{path[:80]}” can be typed in this garden")
    return _described(type(owner), name, path, value, item=item)


def _described(model: type[BaseModel], name: str, path: str, value: Any, *, item: bool) -> Measure:
    field = model.model_fields[name]
    kind_of: Any = field.annotation
    metadata, extra = list(field.metadata), field.json_schema_extra
    label = field.title or name
    if item:
        inner = FieldInfo.from_annotation(get_args(kind_of)[0])
        metadata, extra, kind_of = list(inner.metadata), inner.json_schema_extra, inner.annotation
    notes: dict[str, Any] = dict(extra) if isinstance(extra, dict) else {}
    if "table" in notes:
        return Measure(path, label, "choice", value, table=str(notes["table"]),
                       only=_prefixes(notes.get("only", "")), but=str(notes.get("but", "")))
    if "refers" in notes:
        return Measure(path, label, "choice", value, refers=str(notes["refers"]),
                       choices=("",) if field.default == "" else ())
    if get_origin(kind_of) is Literal:
        return Measure(path, label, "choice", value, choices=tuple(map(str, get_args(kind_of))))
    if notes.get("kind") == "monthday":
        return Measure(path, label, "monthday", value, low=0 if field.default == "" else 1)
    if notes.get("kind") in LISTS:
        return Measure(path, label, str(notes["kind"]), value)
    if "kind" in notes:
        low = next((float(m.ge) for m in metadata if isinstance(m, Ge)), 0.0)  # type: ignore[arg-type]
        high = next((float(m.le) for m in metadata if isinstance(m, Le)), 0.0)  # type: ignore[arg-type]
        return Measure(path, label, str(notes["kind"]), value, low, high)
    if kind_of is bool:
        return Measure(path, label, "flag", value)
    if kind_of is str and field.title:
        return Measure(path, label, "text", value)
    raise NoSuchValue(f"nothing called “{path[:80]}” can be typed in this garden")


def _prefixes(only: Any) -> tuple[str, ...]:
    return (only,) if isinstance(only, str) else tuple(only)
