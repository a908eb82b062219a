"""The EPANET 2 engine (from the test-only package wntr) on an INP file as the app exports it."""

from __future__ import annotations

import math
import warnings
from dataclasses import dataclass
from pathlib import Path

from euhydra.core.hydraulics.network import Network
from euhydra.exports.inp import as_inp, link_names

with warnings.catch_warnings():
    warnings.simplefilter("ignore")
    from wntr.epanet.toolkit import ENepanet

PER_H = 60.0  # the file speaks in L/min
FLOW, DEMAND, HEAD = 8, 9, 10  # codes of the engine's toolkit


@dataclass(frozen=True)
class Engine:
    """Flows by link, L/h, and heads by node, m, as the engine finds them."""

    flow_l_h: dict[str, float]
    head_m: dict[str, float]
    emitted_l_h: dict[str, float]
    warning: int


def run(network: Network, folder: Path, temperature_c: float = 15.0) -> Engine:
    """The engine's answer on the exported file, read unchanged."""
    path = folder / "network.inp"
    path.write_text(as_inp(network, "a test", temperature_c=temperature_c), encoding="ascii")
    return run_file(path, network)


def run_file(path: Path, network: Network) -> Engine:
    """The engine's answer on a file that is there."""
    engine = ENepanet()
    engine.ENopen(str(path), str(path.with_suffix(".rpt")), str(path.with_suffix(".bin")))
    engine.ENopenH()
    engine.ENinitH(0)
    engine.ENrunH()
    warning = engine.Warnflag
    links = {ours: engine.ENgetlinkindex(name) for ours, name in link_names(network).items()}
    flows = {ours: engine.ENgetlinkvalue(i, FLOW) * PER_H for ours, i in links.items()}
    heads, emitted = {}, {}
    for i, node in enumerate(network.nodes, start=1):
        index = engine.ENgetnodeindex(f"N{i}")
        heads[node.id] = engine.ENgetnodevalue(index, HEAD)
        emitted[node.id] = engine.ENgetnodevalue(index, DEMAND) * PER_H
    engine.ENcloseH()
    engine.ENclose()
    return Engine(flows, heads, emitted, warning)


def run_through(path: Path, network: Network, minutes: float, *, base_z_m: float, area_m2: float
                ) -> dict[str, float]:
    """Litres that leave each node while a tank in the source's place falls for so long.

    The exported file with its reservoir made an upright tank of ``area_m2`` whose floor lies at
    ``base_z_m``; hydraulic steps of half a minute.
    """
    text = path.read_text(encoding="ascii")
    source = next(i for i, n in enumerate(network.nodes, start=1) if n.fixed_head_m is not None)
    full = network.nodes[source - 1].fixed_head_m - base_z_m
    across = (4 * area_m2 / math.pi) ** 0.5
    tank = f"N{source} {base_z_m} {full:.6f} 0 {full + 1:.6f} {across:.8f} 0"
    head, _, rest = text.partition("[RESERVOIRS]\n")
    was, _, rest = rest.partition("\n")
    assert was.startswith(f"N{source} ")
    path.write_text(f"{head}[TANKS]\n{tank}\n{rest}".replace(
        "Duration 0\n", f"Duration 0:{math.ceil(minutes) + 1}\nHydraulic Timestep 0:00:30\n"),
        encoding="ascii")
    engine = ENepanet()
    engine.ENopen(str(path), str(path.with_suffix(".rpt")), str(path.with_suffix(".bin")))
    engine.ENopenH()
    engine.ENinitH(0)
    left = dict.fromkeys((n.id for n in network.nodes), 0.0)
    clock_s, end_s = 0, round(minutes * 60)
    while clock_s < end_s:
        engine.ENrunH()
        rates = {n.id: engine.ENgetnodevalue(engine.ENgetnodeindex(f"N{i}"), DEMAND)
                 for i, n in enumerate(network.nodes, start=1)}
        step_s = engine.ENnextH()
        if step_s <= 0:
            break
        step_s = min(step_s, end_s - clock_s)
        for node, rate in rates.items():
            left[node] += rate * step_s / 60
        clock_s += step_s
    engine.ENcloseH()
    engine.ENclose()
    return left
