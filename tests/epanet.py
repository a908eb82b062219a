"""The EPANET 2 engine (from the test-only package wntr) on an INP file as the app exports it."""

from __future__ import annotations

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
