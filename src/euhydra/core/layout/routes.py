"""The shortest sensible way for a header: along edges, straight over paths, round every building.

The ground is a grid of level and upright ways past the edges of all that stands in the garden.
SciPy's Dijkstra finds the cheapest way through; a zone's pipe grows as a tree from its source, the
nearest plot first (Takahashi & Matsuyama's heuristic for the Steiner tree, 1980).
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import lru_cache

import numpy as np
import shapely
from numpy.typing import NDArray
from scipy.sparse import csr_array
from scipy.sparse.csgraph import dijkstra
from shapely.geometry import Polygon

from euhydra.core.garden.model import Garden
from euhydra.core.terrain import geometry
from euhydra.core.terrain.geometry import XY

GAP_M = 0.12  # a pipe lies this far from an edge
NEAR_EDGE_M = 0.3
MOST_PLACES = 16_000
# what a metre costs: along an edge, over open ground, over a path, through a plot, a building
EDGE, OPEN, PATH, PLOT, SOLID = 1.0, 1.3, 2.2, 25.0, 2000.0


Gates = tuple[tuple[str, tuple[XY, ...]], ...]
Asked = tuple[XY, Gates, tuple[XY, ...]]
Led = tuple[list["Leg"], dict[str, int]]


@dataclass(frozen=True)
class Leg:
    """A stretch of pipe between two joints: their keys, and its course in plan."""

    start: str
    end: str
    course: tuple[XY, ...]


@dataclass(frozen=True)
class Ground:
    """What the ways are found on: the plots, the solid things, the paths."""

    plots: tuple[Polygon, ...]
    solids: tuple[Polygon, ...]
    paths: tuple[Polygon, ...]
    places: tuple[XY, ...]


def ground_of(garden: Garden, places: Iterable[XY]) -> Ground:
    """The ground of a garden, with the places that ways may start or end at."""
    return Ground(tuple(geometry.outline(p) for p in garden.plots),
                  tuple(geometry.solid_shapes(garden)),
                  tuple(geometry.path_shape(p) for p in garden.paths),
                  tuple((round(x, 3), round(y, 3)) for x, y in places))


@dataclass
class Ways:
    """The grid with the cost of every step."""

    xs: NDArray[np.float64]
    ys: NDArray[np.float64]
    graph: csr_array
    led: dict[Asked, Led] = field(default_factory=dict)

    def nearest(self, place: XY) -> int:
        """The grid's place nearest to a place."""
        i = int(np.abs(self.xs - place[0]).argmin())
        return i * len(self.ys) + int(np.abs(self.ys - place[1]).argmin())

    def out_of(self, nodes: list[int]) -> tuple[NDArray[np.float64], NDArray[np.int32]]:
        """The cost of the cheapest way from any of these to every place, and the step before."""
        cost, back, _ = dijkstra(self.graph, indices=nodes, min_only=True,
                                 return_predecessors=True)
        return cost, back

    def between(self, start: int, end: int) -> list[XY]:
        """The cheapest way from one place to another, past the first."""
        _, back = self.out_of([start])
        way = []
        while end != start:
            way.append(self.at(end))
            end = int(back[end])
        return way[::-1]

    def at(self, node: int) -> XY:
        """Where a place of the grid lies."""
        i, j = divmod(node, len(self.ys))
        return float(self.xs[i]), float(self.ys[j])


@lru_cache(maxsize=16)
def ways_over(ground: Ground) -> Ways:
    """The grid of a ground. Kept for the last few, since zones of one garden share it."""
    xs, ys = _lines(ground)
    nodes = np.arange(len(xs) * len(ys)).reshape(len(xs), len(ys))
    starts = np.concatenate([nodes[:-1].ravel(), nodes[:, :-1].ravel()])
    ends = np.concatenate([nodes[1:].ravel(), nodes[:, 1:].ravel()])
    gx, gy = np.repeat(xs, len(ys)), np.tile(ys, len(xs))
    steps = np.stack([np.stack([gx[starts], gy[starts]], 1), np.stack([gx[ends], gy[ends]], 1)], 1)
    cost = np.hypot(*(steps[:, 1] - steps[:, 0]).T) * _price(ground, steps)
    n = nodes.size
    return Ways(xs, ys, csr_array((np.concatenate([cost, cost]),
                                   (np.concatenate([starts, ends]),
                                    np.concatenate([ends, starts]))), shape=(n, n)))


def _lines(ground: Ground) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Eastings and northings of the ways: past every edge, and through every start and end."""
    bounds = np.array([s.bounds for s in (*ground.plots, *ground.solids, *ground.paths)])
    places = np.array(ground.places)
    xs = np.concatenate([bounds[:, 0] - GAP_M, bounds[:, 2] + GAP_M, places[:, 0]])
    ys = np.concatenate([bounds[:, 1] - GAP_M, bounds[:, 3] + GAP_M, places[:, 1]])
    for coarse in (0.002, 0.02, 0.05, 0.1, 0.2, 0.4, 0.8):
        gx, gy = _thinned(xs, coarse), _thinned(ys, coarse)
        if len(gx) * len(gy) <= MOST_PLACES:
            break
    return gx, gy


def _thinned(values: NDArray[np.float64], least: float) -> NDArray[np.float64]:
    values = np.unique(np.round(values, 3))
    kept = [values[0]]
    for value in values[1:]:
        if value - kept[-1] >= least:
            kept.append(value)
    return np.array(kept)


def _price(ground: Ground, steps: NDArray[np.float64]) -> NDArray[np.float64]:
    """What a metre of each step costs."""
    lines, middles = shapely.linestrings(steps), steps.mean(axis=1)
    everything = [*ground.plots, *ground.solids, *ground.paths]
    beside = shapely.union_all([s.exterior for s in everything]).buffer(NEAR_EDGE_M, quad_segs=4)
    shapely.prepare(beside)
    price = np.where(shapely.intersects_xy(beside, middles[:, 0], middles[:, 1]), EDGE, OPEN)
    for shapes, costs in ((ground.paths, PATH), (ground.plots, PLOT), (ground.solids, SOLID)):
        if shapes:
            inner = shapely.union_all([s.buffer(-0.01) for s in shapes])
            shapely.prepare(inner)
            price = np.where(shapely.intersects(inner, lines), costs, price)
    return np.asarray(price, dtype=float)


@dataclass
class _Tree:
    """A pipe that grows over the grid: each place but the first knows the one before it."""

    ways: Ways
    root: int
    before: dict[int, int] = field(default_factory=dict)
    stubs: dict[str, int] = field(default_factory=dict)
    tips: list[int] = field(default_factory=list)

    def grow(self, wanted: Mapping[str, Sequence[XY]]) -> tuple[str, int]:
        """Lead the pipe to the cheapest of the places wanted; gives its key and which of them."""
        cost, back = self.ways.out_of(self.tips)
        best = min(((float(cost[self.ways.nearest(p)]), i, key) for key, places in wanted.items()
                    for i, p in enumerate(places)), key=lambda o: (o[0], o[2], o[1]))
        _, which, key = best
        self.stubs[key] = self.ways.nearest(wanted[key][which])
        self._take(self.stubs[key], back)
        return key, which


    def _take(self, node: int, back: NDArray[np.int32]) -> None:
        held = {self.root, *self.before}
        while node not in held:
            self.before[node] = int(back[node])
            self.tips.append(node)
            node = int(back[node])


def lead(ground: Ground, source: XY, gates: Mapping[str, Sequence[XY]], vias: Iterable[XY] = ()
         ) -> tuple[list[Leg], dict[str, int]]:
    """Legs of pipe from a source past the vias to one gate of every plot.

    ``gates`` gives each plot's possible gates; the second result says which one was taken. Legs
    stand in order from the source, whose key is "source"; joints are "j1", "j2"… The pipe parts
    into branches only past the last via.
    """
    ways = ways_over(ground)
    asked = (source, tuple((key, tuple(places)) for key, places in gates.items()), tuple(vias))
    if asked not in ways.led:
        ways.led[asked] = _led(ways, *asked)
    legs, taken = ways.led[asked]
    return list(legs), dict(taken)


def _led(ways: Ways, source: XY, of: Gates, vias: tuple[XY, ...]) -> Led:
    gates = dict(of)
    root, trunk = ways.nearest(source), [source]
    for place in vias:
        via = ways.nearest(place)
        for step in ways.between(root, via):
            trunk = _joined(trunk, step)
        root = via
    tree = _Tree(ways, root, tips=[root])
    left, taken = dict(gates), {}
    while left:
        key, which = tree.grow(left)
        taken[key] = which
        del left[key]
    exact = {key: gates[key][which] for key, which in taken.items()}
    return _legs(tree, trunk, exact), taken


def _legs(tree: _Tree, trunk: list[XY], exact: dict[str, XY]) -> list[Leg]:
    """The tree cut at its joints and ends, each leg's course without needless points."""
    used: set[int] = set()
    for node in tree.stubs.values():
        while node in tree.before and node not in used:
            used.add(node)
            node = tree.before[node]
    after: dict[int, list[int]] = {}
    for node in used:
        after.setdefault(tree.before[node], []).append(node)
    keys: dict[int, list[str]] = {}
    for key, node in tree.stubs.items():
        keys.setdefault(node, []).append(key)
    legs: list[Leg] = []
    joints = 0
    stack = [("source", tree.root, trunk)]
    while stack:
        start, node, course = stack.pop()
        here = _joined(course, tree.ways.at(node))
        ends, onward = keys.get(node, []), after.get(node, [])
        if len(ends) + len(onward) == 1 and not ends:
            stack.append((start, onward[0], here))
            continue
        if len(ends) == 1 and not onward:
            legs.append(Leg(start, ends[0], _plain(_joined(here, exact[ends[0]]))))
            continue
        joints += 1
        joint, at = f"j{joints}", here[-1]
        legs.append(Leg(start, joint, _plain(here)))
        legs += [Leg(joint, key, _plain(_joined([at], exact[key]))) for key in ends]
        stack += [(joint, nxt, [at]) for nxt in sorted(onward, reverse=True)]
    return legs


def _joined(course: list[XY], place: XY) -> list[XY]:
    """A course led on to a place by a level and an upright step, where it is not there yet."""
    (x, y), (a, b) = course[-1], place
    if abs(x - a) < 1e-6 and abs(y - b) < 1e-6:
        return course
    if abs(x - a) < 1e-6 or abs(y - b) < 1e-6:
        return [*course, place]
    return [*course, (a, y), place]


def _straight_on(a: XY, b: XY, c: XY) -> bool:
    ux, uy, vx, vy = b[0] - a[0], b[1] - a[1], c[0] - b[0], c[1] - b[1]
    return abs(ux * vy - uy * vx) < 1e-9 and ux * vx + uy * vy > -1e-12


def _plain(course: list[XY]) -> tuple[XY, ...]:
    """The course without points on straight stretches; two points at least."""
    out = [course[0]]
    for i, place in enumerate(course[1:], start=1):
        nxt = course[i + 1] if i + 1 < len(course) else None
        if nxt is not None and _straight_on(out[-1], place, nxt):
            continue
        out.append(place)
    return tuple(out) if len(out) > 1 else (course[0], course[0])
