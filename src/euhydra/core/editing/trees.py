"""A garden as a tree of values while it is edited: reached by paths, and checked as a whole."""

from __future__ import annotations

from typing import Any

from pydantic import ValidationError

from euhydra.core.garden.model import Garden


class EditRefused(ValueError):
    """The edit would make a garden that cannot be; the message says why."""


def named(tree: Any, loc: tuple[int | str, ...]) -> str:
    """A place in a tree by its thing's name and its value: "Bed 1, length in m"."""
    name = ""
    for part in loc:
        if isinstance(tree, (list, tuple)) and isinstance(part, int) and part < len(tree):
            tree = tree[part]
        elif isinstance(tree, dict):
            tree = tree.get(part, tree)
        if isinstance(tree, dict) and tree.get("name"):
            name = str(tree["name"])[:60]
    if not name or not loc or loc[-1] == "name":
        return ""
    value, _, unit = str(loc[-1]).rpartition("_")
    return f"{name}, {value.replace('_', ' ')} in {unit}" if unit in UNITS_NAMED else (
        f"{name}, {str(loc[-1]).replace('_', ' ')}")


def put_at(at: Any, way: list[str], value: Any) -> Any:
    """A tree of dicts and tuples with one value changed, by its path's parts."""
    if not way:
        return value
    if isinstance(at, dict):
        return at | {way[0]: put_at(at[way[0]], way[1:], value)}
    there = next((i for i, item in enumerate(at) if isinstance(item, dict)
                  and item.get("id") == way[0]), None)
    there = int(way[0]) if there is None else there
    return tuple(put_at(item, way[1:], value) if i == there else item
                 for i, item in enumerate(at))


def at_path(tree: Any, way: list[str]) -> Any:
    """What stands at a path's parts in a tree; None where nothing does."""
    for part in way:
        if isinstance(tree, dict):
            tree = tree.get(part)
        elif isinstance(tree, tuple):
            tree = next((t for t in tree if isinstance(t, dict) and t.get("id") == part), None)
    return tree


def checked(tree: dict[str, Any]) -> Garden:
    """The garden of a tree, without its lines. Raises :class:`EditRefused` in plain words."""
    for laid in ("nodes", "lines", "fittings", "outlets"):
        tree[laid] = ()
    known = {plot["id"] for plot in tree["plots"]}
    tree["zones"] = [zone for zone in tree["zones"] if set(zone["plots"]) <= known]
    return checked_whole(tree)


def checked_whole(tree: dict[str, Any]) -> Garden:
    """The garden of a tree, its lines as they lie. Raises :class:`EditRefused` in plain words."""
    try:
        return Garden.model_validate(tree)
    except ValidationError as error:
        raise EditRefused(plain_error(error, tree)) from None


UNITS_NAMED = ("m", "mm", "l", "deg", "kpa", "kg", "h", "c", "s")
_PLAIN = {"string_too_short": "nothing typed; give at least one letter",
          "string_too_long": "longer than {max_length} letters",
          "greater_than_equal": "must be {ge} or more", "less_than_equal": "must be {le} or less",
          "too_long": "can hold {max_length} at most",
          "missing": "is missing", "extra_forbidden": "is not a part of a garden"}


def plain_error(error: ValidationError, tree: dict[str, Any] | None = None) -> str:
    """The first thing wrong, in words: where it stands and what is the matter.

    With the garden's tree at hand the thing goes by its name.
    """
    first = error.errors(include_url=False)[0]
    where = named(tree, first["loc"]) or "/".join(str(part) for part in first["loc"])
    what = _PLAIN.get(first["type"], first["msg"].removeprefix("Value error, "))
    what = what.format(**first.get("ctx", {})) if first["type"] in _PLAIN else what
    typed = first.get("input")
    shown = f" (it says {str(typed)[:60]!r})" if isinstance(typed, (str, int, float)) else ""
    return f"{where}: {what}{shown}" if where else f"{what}{shown}"
