"""Edits that lay by hand: rows, drippers, pipe led through a place, fittings; pinned or let go."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

from euhydra.core.editing.relaying import relaid
from euhydra.core.editing.trees import EditRefused, at_path, checked, put_at
from euhydra.core.garden.base import EDGE_M
from euhydra.core.garden.model import Bed, Dripper, Fitting, Garden, Point, Row, Via
from euhydra.core.layout.laying import program_rows, rows_of
from euhydra.core.layout.rows import RowFrame, row_spacing_m
from euhydra.core.library import Library

Tree = dict[str, Any]
MOST_AT_ONCE = 120
HAND_FITTINGS = ("valve", "plugged-tee", "inline-filter", "splitter", "flush-end")


def tree_of(garden: Garden, paths: Iterable[str]) -> Tree:
    """The garden's tree, once every path is known to stand in it."""
    tree: Tree = garden.model_dump()
    paths = list(paths)
    if not paths:
        raise EditRefused("Nothing is picked. Pick a thing on the plan first.")
    if len(paths) > MOST_AT_ONCE:
        raise EditRefused(f"{len(paths)} things at once are too many: {MOST_AT_ONCE} is the most.")
    for path in paths:
        if not isinstance(at_path(tree, path.split("/")), dict):
            raise EditRefused(f"“{path[:80]}” is not in this garden.")
    return tree


def _by_hand(tree: Tree, garden: Garden, library: Library, plot_id: str) -> Tree:
    """The tree with a bed's rows held as they lie, so that one may be changed."""
    bed = garden.plot(plot_id)
    if not isinstance(bed, Bed):
        raise EditRefused(f"{bed.name} has no rows to move.")
    if bed.laid == "hand" and bed.rows:
        return tree
    rows = tuple(row.model_dump() for row in rows_of(bed, library))
    tree = put_at(tree, ["plots", plot_id, "rows"], rows)
    return dict(put_at(tree, ["plots", plot_id, "laid"], "hand"))


def _row_path(path: str) -> str | None:
    """The plot of a row's path; None for any other path."""
    parts = path.split("/")
    return parts[1] if len(parts) == 4 and parts[0] == "plots" and parts[2] == "rows" else None


def held(garden: Garden, library: Library, paths: Iterable[str]) -> Garden:
    """The garden with the rows that are named held by hand, so that their paths stand in it."""
    for plot_id in dict.fromkeys(p for path in paths if (p := _row_path(path))):
        if any(plot.id == plot_id for plot in garden.plots):
            garden = checked(_by_hand(garden.model_dump(), garden, library, plot_id)).model_copy(
                update={"fittings": garden.fittings})
    return garden


def done(tree: Tree, garden: Garden, library: Library) -> Garden:
    """The garden of a changed tree, laid, with the hand's fittings of the one before."""
    return relaid(checked(tree), library, garden)


def within(value: float, most: float) -> float:
    """A measure in a plot's own frame, kept inside it."""
    return round(min(max(value, 0.0), most), 4)


@dataclass(frozen=True)
class Pin:
    """Pin pieces of the laying, so that they stay when it is laid anew, or let them go."""

    paths: tuple[str, ...]
    pinned: bool

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with them pinned or not."""
        stood = held(garden, library.of(garden), self.paths)
        tree, hand = tree_of(stood, self.paths), stood.fittings
        for path in self.paths:
            way = path.split("/")
            if "pinned" not in at_path(tree, way):
                raise EditRefused(f"“{path[:80]}” is not a piece of the laying that can be "
                                  "pinned.")
            if way[0] == "fittings":
                hand = tuple(f.model_copy(update={"pinned": self.pinned}) if f.id == way[1] else f
                             for f in hand)
            else:
                tree = put_at(tree, [*way, "pinned"], self.pinned)
        return relaid(checked(tree), library, stood.model_copy(update={"fittings": hand}))


@dataclass(frozen=True)
class AddRow:
    """One row more in a bed: in the widest gap between its rows or beside its edges."""

    plot: str

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with the row."""
        tree = _by_hand(tree_of(garden, (f"plots/{self.plot}",)), garden, library.of(garden),
                        self.plot)
        rows = at_path(tree, ["plots", self.plot, "rows"])
        wide = RowFrame(garden.plot(self.plot)).short_m  # type: ignore[arg-type]
        edges = [0.0, *sorted(r["across_m"] for r in rows), wide]
        gaps = [(b - a) * (2 if a == 0.0 or b == wide else 1)
                for a, b in pairwise(edges)]
        i = gaps.index(max(gaps))
        at = (edges[i] + edges[i + 1]) / 2
        like = min(rows, key=lambda r: abs(r["across_m"] - at))
        new = like | {"id": f"row{_next(rows, 'row')}", "across_m": round(at, 4), "pinned": False}
        return done(put_at(tree, ["plots", self.plot, "rows"], (*rows, new)), garden, library)


def _next(pieces: Iterable[Tree], stem: str) -> int:
    ends = [p["id"].removeprefix(stem) for p in pieces]
    return 1 + max((int(end) for end in ends if end.isdecimal()), default=0)


@dataclass(frozen=True)
class AddDripper:
    """A dripper on its own small tube, at a place in a plot's own frame."""

    plot: str
    along_m: float
    across_m: float

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with the dripper."""
        tree = tree_of(garden, (f"plots/{self.plot}",))
        plot, old = garden.plot(self.plot), at_path(tree, ["plots", self.plot, "drippers"])
        new = Dripper(id=f"drip{_next(old, 'drip')}", along_m=within(self.along_m, plot.length_m),
                      across_m=within(self.across_m, plot.breadth_m))
        return done(put_at(tree, ["plots", self.plot, "drippers"], (*old, new.model_dump())),
                     garden, library)


@dataclass(frozen=True)
class LeadThrough:
    """Lead a zone's pipe through a place."""

    zone: str
    east_m: float
    north_m: float

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with the pipe led there; places nearer the source come first."""
        tree = tree_of(garden, (f"zones/{self.zone}",))
        zone = at_path(tree, ["zones", self.zone])
        source = next(s for s in garden.sources if s.id == zone["source"])
        if max(abs(self.east_m), abs(self.north_m)) > EDGE_M:
            raise EditRefused(f"That is off the plan: it ends {EDGE_M:.0f} m from its datum.")
        at = Point(x_m=round(self.east_m, 4), y_m=round(self.north_m, 4))
        via = Via(id=f"via{_next(zone['vias'], 'via')}", at=at).model_dump()
        vias = sorted((*zone["vias"], via), key=lambda v: math.hypot(
            v["at"]["x_m"] - source.at.x_m, v["at"]["y_m"] - source.at.y_m))
        return done(put_at(tree, ["zones", self.zone, "vias"], tuple(vias)), garden, library)


@dataclass(frozen=True)
class PutFitting:
    """Put a component on a line by hand; flush ends stand at its end, all else at its start."""

    line: str
    kind: str

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with the fitting."""
        if self.kind not in HAND_FITTINGS:
            raise EditRefused(f"“{self.kind[:40]}” is none of: {', '.join(HAND_FITTINGS)}.")
        if not any(line.id == self.line for line in garden.lines):
            raise EditRefused(f"“{self.line[:80]}” is not a line of this garden.")
        hand = [f for f in garden.fittings if f.hand]
        number = _next([{"id": f.id} for f in hand], "hand-")
        new = Fitting(id=f"hand-{number}", kind=self.kind, line=self.line, hand=True,
                      order=50 if self.kind == "flush-end" else 40)
        return relaid(garden.model_copy(update={"fittings": (*hand, new)}), library)


@dataclass(frozen=True)
class LayAnew:
    """Lay a plot, or with no plot named the whole garden: what the hand laid and did not pin goes.

    Rows that are pinned stay; the program's own fill the bed where no pinned row is near.
    """

    plot: str = ""

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden laid anew."""
        if self.plot and not any(p.id == self.plot for p in garden.plots):
            raise EditRefused(f"“{self.plot[:80]}” is not in this garden.")
        tables = library.of(garden)
        plots = tuple(self._plot(p, tables) if self.plot in ("", p.id) else p
                      for p in garden.plots)
        mine = {z.id for z in garden.zones if not self.plot or self.plot in z.plots}
        zones = tuple(z.model_copy(update={"vias": tuple(v for v in z.vias if v.pinned)})
                      if z.id in mine else z for z in garden.zones)
        lines = {x.id for x in garden.lines if self.plot in ("", x.plot)}
        fittings = tuple(f for f in garden.fittings if not f.hand or f.pinned
                         or f.line not in lines)
        return relaid(garden.model_copy(update={
            "plots": plots, "zones": zones, "fittings": fittings}), library)

    @staticmethod
    def _plot(plot: Any, library: Library) -> Any:
        fresh: dict[str, Any] = {"drippers": tuple(d for d in plot.drippers if d.pinned)}
        if isinstance(plot, Bed):
            kept = [row for row in plot.rows if row.pinned and plot.laid == "hand"]
            near = row_spacing_m(plot, library) / 2
            more = [row for row in program_rows(plot, library)
                    if all(abs(row.across_m - k.across_m) >= near for k in kept)]
            fresh |= {"laid": "hand" if kept else "program",
                      "rows": _named(kept, more) if kept else ()}
        return plot.model_copy(update=fresh)


def _named(kept: list[Row], more: list[Row]) -> tuple[Row, ...]:
    """The pinned rows under their own ids, the others under ids that are free."""
    taken, out = {row.id for row in kept}, list(kept)
    number = 1
    for row in more:
        while f"row{number}" in taken:
            number += 1
        taken.add(f"row{number}")
        out.append(row.model_copy(update={"id": f"row{number}"}))
    return tuple(sorted(out, key=lambda r: r.across_m))
