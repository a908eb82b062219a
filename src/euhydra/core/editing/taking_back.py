"""Take one change back from under later ones: what it did, where nothing since touched it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from euhydra.core.editing.relaying import relaid
from euhydra.core.editing.trees import EditRefused, checked, named
from euhydra.core.garden.model import Garden
from euhydra.core.library import Library

MADE_ANEW = ("nodes", "lines", "fittings", "outlets")
_Way = tuple[int | str, ...]


@dataclass(frozen=True)
class TakeBack:
    """Undo the change that led from ``before`` to ``after``, later ones left as they are."""

    before: Garden
    after: Garden

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden without that change. Raises :class:`EditRefused` where it was built on."""
        now = garden.model_dump()
        tree = _merged(self.after.model_dump(), self.before.model_dump(), now, (), now)
        return relaid(checked(tree), library, garden)


@dataclass(frozen=True)
class PutBack:
    """The garden as it once stood, whatever was changed since."""

    then: Garden

    def apply(self, garden: Garden, library: Library) -> Garden:
        """That garden, in the place of this one."""
        return relaid(self.then.model_copy(update={"id": garden.id}), library, garden)


def _merged(did: Any, old: Any, now: Any, way: _Way, whole: dict[str, Any]) -> Any:
    """A part of the garden as it is now, with what one change did to it put back.

    ``old`` is how it stood before that change and ``did`` after it.
    """
    if old == did or now == old:
        return now
    if now == did:
        return old
    if isinstance(now, dict) and isinstance(old, dict) and isinstance(did, dict):
        return {key: now[key] if _is_made(key, way, now) else _merged(
            did.get(key), old.get(key, now[key]), now[key], (*way, key), whole) for key in now}
    if all(map(_are_things, (did, old, now))):
        return _things(did, old, now, way, whole)
    what = named(whole, way) or "What it did"
    raise EditRefused(f"{what[:1].upper()}{what[1:]} was changed once more since. Undo that first, "
                      "or type what you want there.")


def _is_made(key: str, way: _Way, now: dict[str, Any]) -> bool:
    """Whether a value is not typed but follows from others."""
    return (key in MADE_ANEW if not way else key in ("name", "plots") if way[0] == "zones"
            else key == "ground_m" and now.get("level_from") == "site")


def _are_things(value: Any) -> bool:
    return isinstance(value, tuple) and all(isinstance(v, dict) and "id" in v for v in value)


def _things(did: tuple[dict[str, Any], ...], old: tuple[dict[str, Any], ...],
            now: tuple[dict[str, Any], ...], way: _Way, whole: dict[str, Any]) -> tuple[Any, ...]:
    """Things of a kind: those it put there go, those it took away come back."""
    was, made = ({t["id"]: t for t in things} for things in (old, did))
    kept = []
    for i, thing in enumerate(now):
        key = thing["id"]
        if key in made and key in was:
            kept.append(_merged(made[key], was[key], thing, (*way, i), whole))
        elif key not in made or (thing != made[key] and way[0] == "zones"):
            kept.append(thing)
        elif thing != made[key]:
            raise EditRefused(f"{str(thing.get('name', 'What it put there'))[:60]} was changed "
                              "once more since. Undo that first, or remove it.")
    there = {t["id"] for t in kept}
    back = [t for t in old if t["id"] not in made and t["id"] not in there]
    return (*kept, *back)
