"""A network of pipes, components, pumps, regulators and outlets; and what its solution says.

Trees and loops, any number of fixed heads. The model (:class:`Network`), the method
(``solver.solve``) and the results (:class:`Solution`) are kept apart.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from euhydra.core.library import OutletKind


@dataclass(frozen=True)
class NetNode:
    """A junction, or a water surface when ``fixed_head_m`` is given."""

    id: str
    z_m: float
    fixed_head_m: float | None = None


@dataclass(frozen=True)
class Pipe:
    """A pipe with true bore and the sum of its local loss coefficients K.

    One that is ``one_way`` holds a check valve.
    """

    id: str
    start: str
    end: str
    length_m: float
    bore_mm: float
    k: float = 0.0
    one_way: bool = False


@dataclass(frozen=True)
class Loss:
    """A component without length that loses head by its Kv (m³/h at 1 bar).

    One that is ``one_way`` lets nothing back; ``clogged`` is its loss against a clean one's.
    """

    id: str
    start: str
    end: str
    kv: float
    one_way: bool = False
    clogged: float = 1.0


@dataclass(frozen=True)
class Regulator:
    """Holds at most ``set_m`` of pressure head behind it; open, it loses head by its Kv."""

    id: str
    start: str
    end: str
    kv: float
    set_m: float


@dataclass(frozen=True)
class Pump:
    """Adds head by a curve of (L/h, m) points; nothing runs back through it."""

    id: str
    start: str
    end: str
    points: tuple[tuple[float, float], ...]


@dataclass(frozen=True)
class Emitter:
    """``count`` like outlets at a node, opening into the air at the node's level."""

    id: str
    node: str
    kind: OutletKind
    count: int = 1


Join = Pipe | Loss | Pump | Regulator


@dataclass(frozen=True)
class Network:
    """Nodes and links. Link ids are unique across all kinds."""

    nodes: tuple[NetNode, ...]
    pipes: tuple[Pipe, ...]
    losses: tuple[Loss, ...] = ()
    emitters: tuple[Emitter, ...] = ()
    pumps: tuple[Pump, ...] = ()
    regulators: tuple[Regulator, ...] = ()

    @property
    def joins(self) -> tuple[Join, ...]:
        """Every link between two nodes."""
        return (*self.pipes, *self.losses, *self.pumps, *self.regulators)

    def under(self, surface_m: float) -> Network:
        """The same with every source's water at a level, m above the datum."""
        return replace(self, nodes=tuple(
            n if n.fixed_head_m is None else replace(n, fixed_head_m=surface_m)
            for n in self.nodes))


@dataclass(frozen=True)
class Solution:
    """Heads above the datum in m by node, flows in L/h by link.

    ``residual_l_h`` is the worst imbalance, at node ``worst_node``; ``converged`` says whether it
    and the last change of flow are within tolerance. ``holding`` are the regulators that hold
    their pressure; ``dry`` the nodes that no source reaches: their head is their own level.
    """

    head_m: Mapping[str, float]
    flow_l_h: Mapping[str, float]
    residual_l_h: float
    worst_node: str
    iterations: int
    converged: bool
    holding: frozenset[str] = frozenset()
    dry: frozenset[str] = frozenset()
