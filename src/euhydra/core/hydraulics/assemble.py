"""From the garden's lines to a network that can be solved: one zone open, the others shut."""

from __future__ import annotations

import math
from dataclasses import replace
from functools import lru_cache

from euhydra.core.garden.model import (
    HOLE_MM,
    AnyPlot,
    Bed,
    Fitting,
    Lift,
    Line,
    Outlet,
    Standpipe,
    Wicking,
)
from euhydra.core.hydraulics.drilled import STILL, DrilledPipe, marched
from euhydra.core.hydraulics.network import (
    Emitter,
    Loss,
    NetNode,
    Network,
    Pipe,
    Pump,
    Regulator,
)
from euhydra.core.hydraulics.zone_pipes import NOTHING, Drinks, ZonePipes
from euhydra.core.library import Library, OutletKind
from euhydra.core.supply import mains
from euhydra.core.units import head_m

STRAINER_K = 2.5  # foot of a suction hose with its strainer, from memory
LEAST_M = 1e-4
LEAST_DRUNK_L_H = 0.01
OPEN_END, END_BORE_MM = "open-end", 10.0  # the bore that the table's open end is told for
USUAL_M = 0.2


def zone_network(pipes: ZonePipes, library: Library, water_z_m: float) -> Network:
    """The network of one zone under a water surface at ``water_z_m`` (m above the datum).

    A tap stands for a surface as high as its static pressure lifts water, behind a loss that makes
    up its supply curve. A pump stands at the head of a zone whose store has one. A float valve lets
    in what its plants drink; KeyError for a row whose thirst ``pipes`` does not tell.

    Ids: a garden node keeps its own; emitters are ``<outlet id>:<n>`` from the line's start;
    losses are ``<fitting id>``, ``tap``; pumps ``<lift id>``; pipe pieces ``<line id>:<n>``.
    """
    build = _Build(pipes, library)
    arrived = {line.end for line in pipes.lines}
    build.nodes += [NetNode(n.id, n.z_m, None if n.id in arrived else water_z_m)
                    for n in pipes.nodes]
    for line in pipes.lines:
        build.line(line, head=line.start not in arrived)
    return Network(tuple(build.nodes), tuple(build.pipes), tuple(build.losses),
                   tuple(build.emitters), tuple(build.pumps), tuple(build.regulators))


def curve_points(lift: Lift, library: Library) -> tuple[tuple[float, float], ...]:
    """The (L/h, m) points of a pump: its own, or those of its kind."""
    own = tuple((p.flow_l_h, p.head_m) for p in lift.points)
    return own or library.pumps[lift.kind].curve


class _Build:
    def __init__(self, pipes: ZonePipes, library: Library) -> None:
        self.of, self.library, self.drinks = pipes, library, dict(pipes.drinks)
        self.levels = {n.id: n.z_m for n in pipes.nodes}
        self.plots = {p.id: p for p in pipes.plots}
        self.fittings: dict[str, list[Fitting]] = {line.id: [] for line in pipes.lines}
        for fitting in pipes.fittings:
            self.fittings[fitting.line].append(fitting)
        self.runs: dict[str, list[Outlet]] = {line.id: [] for line in pipes.lines}
        for run in pipes.outlets:
            self.runs[run.line].append(run)
        self.nodes: list[NetNode] = []
        self.pipes: list[Pipe] = []
        self.losses: list[Loss] = []
        self.pumps: list[Pump] = []
        self.regulators: list[Regulator] = []
        self.emitters: list[Emitter] = []

    def line(self, line: Line, *, head: bool) -> None:
        """Fittings first, in order, then the pipe cut at each outlet."""
        here, local_k = line.start, 0.0
        fittings = sorted(self.fittings.get(line.id, ()), key=lambda f: f.order)
        if head:
            inlets = [f for f in fittings if self._role(f) == "inlet"]
            fittings = [f for f in fittings if f not in inlets]
            for fitting in inlets:
                here, local_k = self._fitting(fitting, here, local_k, line)
            here = self._source(here)
        for fitting in fittings:
            here, local_k = self._fitting(fitting, here, local_k, line)
        self._pieces(line, here, local_k)

    def _role(self, fitting: Fitting) -> str:
        return "" if fitting.kind == "timer" else self.library.fittings[fitting.kind].role

    def _fitting(self, fitting: Fitting, here: str, local_k: float, line: Line
                 ) -> tuple[str, float]:
        """The node behind a fitting, and the local losses that the next piece of pipe takes."""
        if fitting.kind == "timer":
            kv, k, one_way = self.library.timers[self.of.timer].kv, 0.0, False
        else:
            kind = self.library.fittings[fitting.kind]
            kv, k, one_way = kind.kv, kind.k, kind.one_way == "yes"
        if kv <= 0:
            return here, local_k + k
        there = self._node(f"{fitting.id}-after", self.levels[line.start])
        set_kpa = self._regulated_kpa() if fitting.kind == "regulator" else 0.0
        if set_kpa > 0:
            self.regulators.append(Regulator(fitting.id, here, there, kv, head_m(set_kpa)))
        else:
            blocked = self.of.zone.filter_blocked if fitting.kind == self.of.zone.filter else 0.0
            self.losses.append(Loss(fitting.id, here, there, kv, one_way,
                                    1 / (1 - blocked) ** 2))
        return there, local_k + k

    def _node(self, name: str, z_m: float) -> str:
        self.nodes.append(NetNode(name, z_m))
        return name

    def _regulated_kpa(self) -> float:
        source = self.of.tap or self.of.lift
        return source.regulator_kpa if source else 0.0

    def _source(self, here: str) -> str:
        """Past the tap's supply curve, or the suction hose and the pump."""
        tap, lift = self.of.tap, self.of.lift
        if tap is not None:
            there = self._node("tap-open", tap.ground_m + tap.height_m)
            self.losses.append(Loss("tap", here, there, tap_kv(tap)))
            return there
        if lift is None:
            return here
        z_m = self.of.outlet_z_m + lift.over_outlet_m
        inlet = self._node(f"{lift.id}-inlet", z_m)
        outlet = self._node(f"{lift.id}-outlet", z_m)
        self.pipes.append(Pipe(f"{lift.id}-suction", here, inlet, max(lift.suction_m, LEAST_M),
                               lift.suction_mm, STRAINER_K))
        self.pumps.append(Pump(lift.id, inlet, outlet, curve_points(lift, self.library)))
        return outlet

    def _pieces(self, line: Line, here: str, local_k: float) -> None:
        places = sorted((run.first_m + i * run.spacing_m, f"{run.id}:{i}", run)
                        for run in self.runs.get(line.id, ()) for i in range(run.points))
        bore = self.library.tubes[line.tube].bore_mm
        kinds = self._kinds(line, bore)
        rise = self.levels[line.end] - self.levels[line.start]
        at, piece = 0.0, 0
        for place, name, run in places:
            node = self._node(f"{name}-at", self.levels[line.start]
                              + rise * place / max(line.length_m, 1e-9))
            self.pipes.append(Pipe(f"{line.id}:{piece}", here, node, max(place - at, LEAST_M),
                                   bore, local_k))
            self.emitters.append(Emitter(name, node, kinds[name], run.each))
            here, at, piece, local_k = node, place, piece + 1, 0.0
        self.pipes.append(Pipe(f"{line.id}:{piece}", here, line.end,
                               max(line.length_m - at, LEAST_M), bore, local_k))


    def _kinds(self, line: Line, bore_mm: float) -> dict[str, OutletKind]:
        """Of each place along a line: out of a hole comes less the faster water runs past it."""
        runs = self.runs[line.id]
        kinds = {run.id: outlet_kind(self.plots[run.plot], self.library, run, self.drinks,
                                     bore_mm) for run in runs}
        found = {f"{run.id}:{i}": kinds[run.id] for run in runs for i in range(run.points)}
        opened = any(run.kind == OPEN_END for run in runs)
        for run in runs:
            plot = self.plots[run.plot]
            if run.kind == "hole" and isinstance(plot, Bed):
                pipe = DrilledPipe(bore_mm, (plot.hole_mm,) * run.points, run.spacing_m,
                                   run.first_m, opened)
                found |= {f"{run.id}:{i}": kind
                          for i, kind in enumerate(past_holes(kinds[run.id], pipe))}
        return found


@lru_cache(maxsize=512)
def past_holes(kind: OutletKind, pipe: DrilledPipe) -> tuple[OutletKind, ...]:
    """A hole's kind at each place of a pipe: its coefficient there over that of still water.

    The share of its head that water has as speed is told with ``USUAL_M`` of head left at the end;
    it hardly changes with that, all openings giving by its root.
    """
    shares = marched(pipe, USUAL_M)[0].coefficients
    return tuple(replace(kind, k=kind.k * cd / STILL) for cd in shares)


def outlet_kind(plot: AnyPlot, library: Library, run: Outlet, drinks: Drinks = NOTHING,
                bore_mm: float = END_BORE_MM) -> OutletKind:
    """The outlet of the table; a drilled hole and a pipe's open end give by their own areas.

    A float valve between two draws is no open outlet: it lets in what its plants drink in their
    hottest hour as soon as there is the head to press that through, and less under less.
    """
    kind = library.outlets[run.kind]
    if isinstance(plot, Wicking):
        each = max(drinks[plot.id] / (run.points * run.each), LEAST_DRUNK_L_H)
        needs = (each / kind.k) ** (1 / kind.x)
        return replace(kind, k=each, opens_m=needs, least_head_m=needs)
    if run.kind == OPEN_END:
        return replace(kind, k=kind.k * (bore_mm / END_BORE_MM) ** 2)
    if run.kind != "hole" or not isinstance(plot, Bed) or plot.hole_mm == HOLE_MM:
        return kind
    return replace(kind, k=kind.k * (plot.hole_mm / HOLE_MM) ** 2)


def tap_kv(tap: Standpipe) -> float:
    """Kv of a tap's supply, m³/h at 1 bar: at the bucket test all of its pressure is used up."""
    return mains.tested_l_h(tap) / 1000 / math.sqrt(max(tap.static_kpa, 1e-3) / 100)

