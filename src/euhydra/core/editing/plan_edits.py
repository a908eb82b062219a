"""Edits made on the ground plan: move, size, turn, copy, line up, draw, take away.

A *path* names a thing as in ``core.placing``, or a piece of the laying: a row or dripper of a plot
(``plots/bed-1/rows/row2``), a place that a zone is led through (``zones/zone-bed-1/vias/v1``), a
fitting put on by hand (``fittings/hand-1``).
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Any, Literal

from euhydra.core.editing import placement
from euhydra.core.editing.additions import drawn
from euhydra.core.editing.edits import Remove
from euhydra.core.editing.hand_laying import done, held, tree_of, within
from euhydra.core.editing.makers import MAKERS, free_number
from euhydra.core.editing.relaying import relaid
from euhydra.core.editing.trees import EditRefused, at_path, put_at
from euhydra.core.garden.model import Garden
from euhydra.core.layout.rows import RowFrame
from euhydra.core.library import Library

Tree = dict[str, Any]
Side = Literal["west", "east", "south", "north", "middle-east", "middle-north"]


@dataclass(frozen=True)
class MoveBy:
    """Move things, or pieces of the laying, over the plan. A row moves across its bed only, a drum
    with the pump that stands in it.
    """

    paths: tuple[str, ...]
    east_m: float
    north_m: float

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with them moved."""
        paths = tuple(dict.fromkeys((*self.paths, *_pumps_in(garden, self.paths))))
        stood = held(garden, library.of(garden), paths)
        tree = tree_of(stood, paths)
        for path in paths:
            way = path.split("/")
            tree = put_at(tree, way, self._moved(stood, way, at_path(tree, way)))
        return done(tree, garden, library)

    def _moved(self, garden: Garden, way: list[str], piece: Tree) -> Tree:
        if len(way) == 4 and way[2] in ("rows", "drippers"):
            plot = garden.plot(way[1])
            turn = math.radians(-plot.turn_deg)
            east = self.east_m * math.cos(turn) - self.north_m * math.sin(turn)
            north = self.east_m * math.sin(turn) + self.north_m * math.cos(turn)
            if way[2] == "drippers":
                return piece | {"along_m": within(piece["along_m"] + east, plot.length_m),
                                "across_m": within(piece["across_m"] + north, plot.breadth_m)}
            frame = RowFrame(plot)  # type: ignore[arg-type]
            across = piece["across_m"] + (east if frame.swapped else north)
            return piece | {"across_m": within(across, frame.short_m)}
        try:
            return placement.shifted(piece, self.east_m, self.north_m)
        except KeyError:
            raise EditRefused(f"“{'/'.join(way)[:80]}” has no place of its own to move.") from None


def _pumps_in(garden: Garden, paths: Iterable[str]) -> list[str]:
    """The pumps that stand in those of the things that are drums."""
    drums = [d for path in paths if (d := garden.drum_of(path.removeprefix("drains/")))]
    return [f"lifts/{lift.id}" for drum in drums for lift in garden.lifts
            if lift.draws_from == drum.id and lift.at == drum.at]


@dataclass(frozen=True)
class SizeTo:
    """Put a thing's box at a place and give it a size, as its handles do."""

    path: str
    west_m: float
    south_m: float
    length_m: float
    width_m: float

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with it so."""
        tree = tree_of(garden, (self.path,))
        way = self.path.split("/")
        piece = at_path(tree, way)
        corner = {"x_m": round(self.west_m, 4), "y_m": round(self.south_m, 4)}
        keys = _size_keys(piece)
        if keys is None:
            raise EditRefused("Its size is not that of a rectangle: type its measures instead.")
        sizes = {keys[0]: round(self.length_m, 4), keys[1]: round(self.width_m, 4)}
        if "material" in piece and piece["outline"]:
            raise EditRefused("This roof is drawn by its corners: type them, or empty them first.")
        return done(put_at(tree, way, piece | sizes | {"corner": corner}), garden, library)


def _size_keys(piece: Tree) -> tuple[str, str] | None:
    if "corner" not in piece:
        return None
    for keys in (("length_m", "width_m"), ("width_m", "depth_m")):
        if keys[0] in piece and keys[1] in piece:
            return keys
    return ("canopy_m", "deep_m") if "canopy_m" in piece and piece["count"] == 1 else None


@dataclass(frozen=True)
class TurnBy:
    """Turn things about their middles, anticlockwise."""

    paths: tuple[str, ...]
    by_deg: float

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with them turned."""
        tree = tree_of(garden, self.paths)
        for path in self.paths:
            way = path.split("/")
            piece = at_path(tree, way)
            if "turn_deg" not in piece:
                raise EditRefused(f"{piece.get('name', path)} cannot be turned; beds, trees, pots "
                                  "and buildings can.")
            turn = (piece["turn_deg"] + self.by_deg + 180) % 360 - 180
            tree = put_at(tree, [*way, "turn_deg"], round(turn, 3))
        return done(tree, garden, library)


@dataclass(frozen=True)
class Duplicate:
    """A copy of each thing, beside them: past the east edge of all that is picked."""

    paths: tuple[str, ...]
    gap_m: float = 0.5

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with the copies."""
        tree = tree_of(garden, self.paths)
        boxes = _boxes(garden, self.paths)
        east = max(b[2] for b in boxes) - min(b[0] for b in boxes) + self.gap_m
        for path in self.paths:
            *way, table, thing = path.split("/")
            if way or table in ("zones", "fittings", "nodes", "lines", "outlets"):
                raise EditRefused(f"“{path[:80]}” is part of something else: copy that.")
            things = tree[table]
            piece = at_path(tree, [table, thing])
            number = free_number(getattr(garden, table))
            while any(t["id"] == f"{_stem(thing)}-{number}" for t in things):
                number += 1
            copy = placement.shifted(piece, east, 0.0) | {
                "id": f"{_stem(thing)}-{number}", "name": f"{piece['name'][:66]} copy"}
            tree[table] = (*things, copy)
        return done(tree, garden, library)


def _stem(thing: str) -> str:
    stem, _, end = thing.rpartition("-")
    return (stem if stem and end.isdecimal() else thing)[:56]


def _boxes(garden: Garden, paths: Iterable[str]) -> list[tuple[float, float, float, float]]:
    """The boxes of things by path, in that order."""
    bounds = {thing.path: thing.bounds for thing in placement.placed(garden)}
    missing = next((p for p in paths if p not in bounds), None)
    if missing is not None:
        raise EditRefused(f"“{missing[:80]}” is not a thing of the plan.")
    return [bounds[path] for path in paths]


@dataclass(frozen=True)
class Align:
    """Line things up by one side, or by their middles, with the outermost or the mean of them."""

    paths: tuple[str, ...]
    side: Side

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with them lined up."""
        if len(self.paths) < 2:
            raise EditRefused("Lining up wants two things or more. Pick another one too.")
        boxes = _boxes(garden, self.paths)
        steps: dict[str, Callable[[tuple[float, float, float, float]], tuple[float, float]]] = {
            "west": lambda b: (min(x[0] for x in boxes) - b[0], 0.0),
            "east": lambda b: (max(x[2] for x in boxes) - b[2], 0.0),
            "south": lambda b: (0.0, min(x[1] for x in boxes) - b[1]),
            "north": lambda b: (0.0, max(x[3] for x in boxes) - b[3]),
            "middle-east": lambda b: (_mean(x[0] + x[2] for x in boxes) - (b[0] + b[2]) / 2, 0.0),
            "middle-north": lambda b: (0.0,
                                       _mean(x[1] + x[3] for x in boxes) - (b[1] + b[3]) / 2)}
        if self.side not in steps:
            raise EditRefused(f"“{str(self.side)[:40]}” is none of: {', '.join(steps)}.")
        return _shifted(garden, library, self.paths, [steps[self.side](b) for b in boxes])


def _mean(sums: Iterable[float]) -> float:
    sums = list(sums)
    return sum(sums) / len(sums) / 2


@dataclass(frozen=True)
class Distribute:
    """Give three things or more equal gaps, from west to east or from south to north."""

    paths: tuple[str, ...]
    along: Literal["east", "north"]

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with them spread; the outermost two stay."""
        if len(self.paths) < 3:
            raise EditRefused("Equal gaps want three things or more. Pick another one too.")
        low, high = (0, 2) if self.along == "east" else (1, 3)
        boxes = dict(zip(self.paths, _boxes(garden, self.paths), strict=True))
        order = sorted(self.paths, key=lambda p: boxes[p][low] + boxes[p][high])
        room = boxes[order[-1]][high] - boxes[order[0]][low]
        taken = sum(boxes[p][high] - boxes[p][low] for p in order)
        gap = (room - taken) / (len(order) - 1)
        at, steps = boxes[order[0]][low], []
        for path in order:
            by = at - boxes[path][low]
            steps.append((by, 0.0) if self.along == "east" else (0.0, by))
            at += boxes[path][high] - boxes[path][low] + gap
        return _shifted(garden, library, order, steps)


def _shifted(garden: Garden, library: Library, paths: Iterable[str],
             steps: Iterable[tuple[float, float]]) -> Garden:
    tree = garden.model_dump()
    for path, (east, north) in zip(paths, steps, strict=True):
        way = path.split("/")
        tree = put_at(tree, way, placement.shifted(at_path(tree, way), east, north))
    return done(tree, garden, library)


@dataclass(frozen=True)
class DrawAt:
    """Draw a new thing over a rectangle of the plan, by its name in ``things.MAKERS``."""

    what: str
    west_m: float
    south_m: float
    length_m: float
    width_m: float

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with it."""
        if self.what not in MAKERS:
            raise EditRefused(f"“{self.what[:40]}” is nothing that can be drawn.")
        table, thing = drawn(garden, self.what, self.west_m, self.south_m, self.length_m,
                             self.width_m)
        tree = garden.model_dump()
        *way, last = table.split("/")
        owner = at_path(tree, way)
        owner[last] = (*owner[last], thing.model_dump())
        return done(tree, garden, library)


@dataclass(frozen=True)
class RemoveAll:
    """Take away things or pieces of the laying; what goes with them goes too."""

    paths: tuple[str, ...]

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden without them."""
        stood = held(garden, library.of(garden), self.paths)
        tree_of(stood, self.paths)
        for path in self.paths:
            if path.startswith("fittings/"):
                stood = relaid(stood.model_copy(update={"fittings": tuple(
                    f for f in stood.fittings if f"fittings/{f.id}" != path)}), library)
            else:
                stood = Remove(path).apply(stood, library)
        return stood
