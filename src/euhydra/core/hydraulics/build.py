"""From the garden's lines to a network that can be solved: one zone open, the others shut."""

from __future__ import annotations

from euhydra.core.garden.model import Fitting, Garden, Line, Outlet, Zone
from euhydra.core.hydraulics.network import Emitter, Loss, NetNode, Network, Pipe
from euhydra.core.library import Library


def zone_network(garden: Garden, library: Library, zone: Zone, water_z_m: float) -> Network:
    """The network of one zone under a water surface at ``water_z_m`` (m above the datum).

    Ids: a garden node keeps its own; emitters are ``<outlet id>:<n>`` from the line's start;
    losses are ``<fitting id>``; pipe pieces ``<line id>:<n>``.
    """
    lines = [line for line in garden.lines if line.zone == zone.id]
    build = _Build(garden, library)
    arrived = {line.end for line in lines}
    used = {n for line in lines for n in (line.start, line.end)}
    for node in garden.nodes:
        if node.id in used:
            source = node.id not in arrived
            build.nodes.append(NetNode(node.id, node.z_m, water_z_m if source else None))
    for line in lines:
        build.line(line)
    return Network(tuple(build.nodes), tuple(build.pipes), tuple(build.losses),
                   tuple(build.emitters))


class _Build:
    def __init__(self, garden: Garden, library: Library) -> None:
        self.garden, self.library = garden, library
        self.levels = {n.id: n.z_m for n in garden.nodes}
        self.fittings: dict[str, list[Fitting]] = {}
        for fitting in garden.fittings:
            self.fittings.setdefault(fitting.line, []).append(fitting)
        self.runs: dict[str, list[Outlet]] = {}
        for run in garden.outlets:
            self.runs.setdefault(run.line, []).append(run)
        self.nodes: list[NetNode] = []
        self.pipes: list[Pipe] = []
        self.losses: list[Loss] = []
        self.emitters: list[Emitter] = []

    def line(self, line: Line) -> None:
        """Fittings first, in order, then the pipe cut at each outlet."""
        here, local_k = line.start, 0.0
        for fitting in sorted(self.fittings.get(line.id, ()), key=lambda f: f.order):
            kv, k = self._kv_and_k(fitting)
            local_k += k
            if kv > 0:
                there = f"{fitting.id}-after"
                self.nodes.append(NetNode(there, self.levels[line.start]))
                self.losses.append(Loss(fitting.id, here, there, kv))
                here = there
        places = sorted((run.first_m + i * run.spacing_m, f"{run.id}:{i}", run)
                        for run in self.runs.get(line.id, ()) for i in range(run.points))
        bore = self.library.tubes[line.tube].bore_mm
        rise = self.levels[line.end] - self.levels[line.start]
        at, piece = 0.0, 0
        for place, name, run in places:
            node = f"{name}-at"
            self.nodes.append(NetNode(
                node, self.levels[line.start] + rise * place / max(line.length_m, 1e-9)))
            self.pipes.append(Pipe(f"{line.id}:{piece}", here, node, max(place - at, 1e-4), bore,
                                   local_k))
            self.emitters.append(Emitter(name, node, self.library.outlets[run.kind], run.each))
            here, at, piece, local_k = node, place, piece + 1, 0.0
        self.pipes.append(Pipe(f"{line.id}:{piece}", here, line.end,
                               max(line.length_m - at, 1e-4), bore, local_k))

    def _kv_and_k(self, fitting: Fitting) -> tuple[float, float]:
        if fitting.kind == "timer":
            return self.library.timers[self.garden.timer].kv, 0.0
        kind = self.library.fittings[fitting.kind]
        return kind.kv, kind.k


def pipe_litres(garden: Garden, library: Library, zone: Zone) -> float:
    """Water that fills the zone's pipes."""
    return sum(0.7854 * (library.tubes[line.tube].bore_mm / 10) ** 2 * line.length_m * 10 / 100
               for line in garden.lines if line.zone == zone.id)
