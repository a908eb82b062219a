"""A network's nodes and links by number, and the heads of its sources."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import coo_array
from scipy.sparse.csgraph import breadth_first_order

from euhydra.core.hydraulics.network import Network

Index = NDArray[np.intp]


class Places:
    """The network's nodes and links by number: what does not change with the regulators."""

    def __init__(self, network: Network) -> None:
        self.ids = [n.id for n in network.nodes]
        self.number = {node: i for i, node in enumerate(self.ids)}
        self.level = np.array([n.z_m for n in network.nodes], dtype=float)
        self.fixed = np.array([n.fixed_head_m is not None for n in network.nodes], dtype=bool)
        self.head = np.array([n.fixed_head_m or 0.0 for n in network.nodes], dtype=float)
        joins = network.joins
        self.start = np.array([self.number[j.start] for j in joins], dtype=np.intp)
        self.end = np.array([self.number[j.end] for j in joins], dtype=np.intp)
        self.emitter = np.array([self.number[e.node] for e in network.emitters], dtype=np.intp)
        self.order = self._from_sources()
        self.dry = np.ones(len(self.ids), dtype=bool)
        self.dry[self.order] = False
        self.one_way = np.array([getattr(j, "one_way", True) for j in joins], dtype=bool)

    def under(self, surface_m: float) -> None:
        """Every source's head becomes that of one water surface."""
        self.head = np.where(self.fixed, surface_m, 0.0)

    def _from_sources(self) -> Index:
        """Nodes that a source reaches, the nearest first."""
        n, sources = len(self.ids), np.flatnonzero(self.fixed)
        starts = np.concatenate([self.start, np.full(len(sources), n)])
        ends = np.concatenate([self.end, sources])
        ways = coo_array((np.ones(len(starts)), (starts, ends)), shape=(n + 1, n + 1)).tocsr()
        order = breadth_first_order(ways, n, directed=False, return_predecessors=False)
        return np.asarray(order[order < n], dtype=np.intp)
