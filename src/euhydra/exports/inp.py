"""A zone's network as an EPANET INP file, which general water-network programs read.

Flows are in L/min, lengths in m, bores in mm; friction by Darcy–Weisbach. Components without length
are short wide pipes with the same loss. Outlets whose law the format's emitters cannot take, since
it has one exponent for all, are valves with a curve of their own to the air.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass, field

import numpy as np

from euhydra.core.hydraulics.emitters import outlet_flow
from euhydra.core.hydraulics.friction import (
    GRAVITY,
    L_H_PER_M3_S,
    PLASTIC_ROUGHNESS_MM,
    kinematic_viscosity,
    kv_resistance,
)
from euhydra.core.hydraulics.network import Emitter, Network
from euhydra.core.hydraulics.pumps import PowerCurve, curve_of

VISCOSITY_M2_S = 1.1e-5 * 0.3048**2  # the format's unit of viscosity, recalled
WIDE_MM, SHORT_M = 25.0, 0.001
PER_MIN = 1 / 60
CURVE_HEADS = (0.0, 0.01, 0.03, 0.1, 0.2, 0.3, 0.45, 0.6, 0.8, 1.0, 1.5, 2.0, 3.0, 4.0, 5.0, 8.0,
               12.0, 20.0, 35.0, 60.0, 120.0)


@dataclass
class _Writer:
    names: dict[str, str]
    parts: dict[str, list[str]] = field(default_factory=dict)

    def add(self, section: str, *cells: object) -> None:
        """A row of a section."""
        self.parts.setdefault(section, []).append(
            " ".join(f"{c:.9g}" if isinstance(c, float) else str(c) for c in cells))

    def text(self, title: str, order: Iterable[str]) -> str:
        """The file."""
        lines = ["[TITLE]", *(f";{line}" for line in title.splitlines()), ""]
        for section in order:
            lines += [f"[{section}]", *self.parts.get(section, []), ""]
        return "\n".join([*lines, "[END]", ""])


ORDER = ("JUNCTIONS", "RESERVOIRS", "PIPES", "PUMPS", "VALVES", "EMITTERS", "CURVES", "OPTIONS",
         "TIMES", "REPORT", "COORDINATES")


def as_inp(network: Network, title: str, places: dict[str, tuple[float, float]] | None = None,
           temperature_c: float = 15.0) -> str:
    """The network as the text of an INP file.

    Ids are short, as the format asks: nodes N1…, links L1…; a comment behind each names ours.
    ``places`` are plan coordinates by node.
    """
    dry = _dry(network)
    nodes = [n for n in network.nodes if n.id not in dry]
    out = _Writer({n.id: f"N{i}" for i, n in enumerate(nodes, start=1)})
    for node in nodes:
        if node.fixed_head_m is None:
            out.add("JUNCTIONS", out.names[node.id], node.z_m, 0, f"; {_safe(node.id)}")
        else:
            out.add("RESERVOIRS", out.names[node.id], node.fixed_head_m, f"; {_safe(node.id)}")
        if places and node.id in places:
            out.add("COORDINATES", out.names[node.id], *map(float, places[node.id]))
    exponent = _exponent(network)
    _joins(out, network, dry)
    _outlets(out, [e for e in network.emitters if e.node not in dry], exponent, network)
    for key, value in (("Units", "LPM"), ("Headloss", "D-W"), ("Emitter Exponent", exponent),
                       ("Viscosity", kinematic_viscosity(temperature_c) / VISCOSITY_M2_S),
                       ("Trials", 400), ("Accuracy", 1e-7), ("Unbalanced", "Continue 100")):
        out.add("OPTIONS", key, value)
    out.add("TIMES", "Duration", 0)
    out.add("REPORT", "Status", "No")
    return out.text(title, ORDER)


def link_names(network: Network) -> dict[str, str]:
    """The names that links have in the file, by our ids."""
    return {join.id: f"L{i}" for i, join in enumerate(network.joins, start=1)}


def _safe(name: str) -> str:
    return "".join(c if c.isascii() and c.isprintable() and c != ";" else "?" for c in name)


def _dry(network: Network) -> set[str]:
    """Junctions that no source reaches: the format has no place for them."""
    reached = {n.id for n in network.nodes if n.fixed_head_m is not None}
    grown = True
    while grown:
        beside = {n for j in network.joins if j.start in reached or j.end in reached
                  for n in (j.start, j.end)}
        grown, reached = not beside <= reached, reached | beside
    return {n.id for n in network.nodes} - reached


def _plain(emitter: Emitter) -> bool:
    """Whether an outlet gives by an exponent alone, as the engine's own emitters do."""
    return emitter.kind.law == "power" and emitter.kind.opens_m == 0


def _exponent(network: Network) -> float:
    """The exponent of most outlets."""
    kinds = Counter(e.kind.x for e in network.emitters if _plain(e))
    return kinds.most_common(1)[0][0] if kinds else 0.5


def _joins(out: _Writer, network: Network, dry: set[str]) -> None:
    names = link_names(network)
    rough = PLASTIC_ROUGHNESS_MM

    def ends(join: object) -> tuple[str, str]:
        return out.names[join.start], out.names[join.end]  # type: ignore[attr-defined]

    for pipe in network.pipes:
        if pipe.start not in dry:
            out.add("PIPES", names[pipe.id], *ends(pipe), pipe.length_m, pipe.bore_mm, rough,
                    pipe.k, "CV" if pipe.one_way else "Open", f"; {_safe(pipe.id)}")
    for loss in network.losses:
        if loss.start not in dry:
            out.add("PIPES", names[loss.id], *ends(loss), SHORT_M, WIDE_MM, rough,
                    _k(loss.kv) * loss.clogged, "CV" if loss.one_way else "Open",
                    f"; {_safe(loss.id)}")
    for pump in (p for p in network.pumps if p.start not in dry):
        out.add("PUMPS", names[pump.id], *ends(pump), f"HEAD C{names[pump.id]}")
        for flow, head in _curve(pump.points):
            out.add("CURVES", f"C{names[pump.id]}", float(flow * PER_MIN), float(head))
    for regulator in (r for r in network.regulators if r.start not in dry):
        out.add("VALVES", names[regulator.id], *ends(regulator), WIDE_MM, "PRV",
                regulator.set_m, _k(regulator.kv), f"; {_safe(regulator.id)}")


def _k(kv: float) -> float:
    """Loss coefficient of a component on the speed in the wide pipe."""
    area = math.pi / 4 * (WIDE_MM / 1000) ** 2
    return 2 * GRAVITY * float(kv_resistance(kv)) * L_H_PER_M3_S**2 * area**2


def _curve(points: tuple[tuple[float, float], ...]) -> tuple[tuple[float, float], ...]:
    """A curve's points as the format means them: one or three make a power law, others lines."""
    if isinstance(curve_of(points), PowerCurve) or len(points) != 3:
        return points
    (q0, h0), (q1, h1), last = points
    return (q0, h0), ((q0 + q1) / 2, (h0 + h1) / 2), (q1, h1), last


def _outlets(out: _Writer, emitters: list[Emitter], exponent: float, network: Network) -> None:
    level = {n.id: n.z_m for n in network.nodes}
    together: Counter[str] = Counter()
    number = len(network.joins)
    for emitter in emitters:
        if _plain(emitter) and emitter.kind.x == exponent:
            together[emitter.node] += emitter.kind.k * emitter.count * PER_MIN  # type: ignore[assignment]
            continue
        number += 1
        air, curve = f"A{number}", f"G{number}"
        out.add("RESERVOIRS", air, level[emitter.node], f"; air at {_safe(emitter.id)}")
        out.add("VALVES", f"L{number}", out.names[emitter.node], air, WIDE_MM, "GPV", curve, 0,
                f"; {_safe(emitter.id)}")
        flows = outlet_flow(emitter.kind, np.array(CURVE_HEADS)) * emitter.count * PER_MIN
        before = -1.0
        for flow, head in zip(flows.tolist(), CURVE_HEADS, strict=True):
            flow = max(flow, before * (1 + 1e-6) + 1e-9) if before >= 0 else flow
            out.add("CURVES", curve, float(flow), float(head))
            before = flow
    for node, k in together.items():
        out.add("EMITTERS", out.names[node], float(k))
