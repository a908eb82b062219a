"""What a laying is written down with: nodes, lines, outlets and fittings with lasting names."""

from __future__ import annotations

import zlib
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, field
from math import hypot

from euhydra.core.garden.lines import MOST_LINES
from euhydra.core.garden.model import Fitting, Garden, Line, Node, Outlet, Point, Zone
from euhydra.core.garden.validation import too_many
from euhydra.core.layout.rows import Run
from euhydra.core.library import Library
from euhydra.core.terrain import geometry
from euhydra.core.terrain.geometry import XY

LONGEST_STEM = 40
LAST = 50  # the order of what stands at a line's end
BEND = 0.35  # a turn of 20 degrees wants an elbow (its sine), from memory
BENDING = ("soaker", "dripline")  # lines that are laid in a curve


def stem(name: str) -> str:
    """A name short enough to carry endings; one cut short keeps a mark of its own."""
    if len(name) <= LONGEST_STEM:
        return name
    return f"{name[:LONGEST_STEM - 9]}-{zlib.crc32(name.encode()):08x}"


@dataclass
class Work:
    """The lines laid so far."""

    garden: Garden
    library: Library
    nodes: list[Node] = field(default_factory=list)
    lines: list[Line] = field(default_factory=list)
    fittings: list[Fitting] = field(default_factory=list)
    outlets: list[Outlet] = field(default_factory=list)
    numbers: Counter[str] = field(default_factory=Counter)
    coupled: set[str] = field(default_factory=set)  # lines with a quick coupler at either end

    def node(self, name: str, place: XY, z_m: float) -> Node:
        """A joint at a place."""
        node = Node(id=name, at=geometry.point(place), z_m=round(z_m, 4))
        self.nodes.append(node)
        return node

    def line(self, name: str, zone: Zone, role: str, tube: str, start: Node, end: Node, *,
             plot: str | None = None, course: Sequence[XY] = (), more_m: float = 0.0) -> Line:
        """A pipe from joint to joint, straight or along a course; ``more_m`` is for rises."""
        places = [(start.at.x_m, start.at.y_m), *course, (end.at.x_m, end.at.y_m)]
        places = [p for i, p in enumerate(places) if i == 0 or hypot(
            p[0] - places[i - 1][0], p[1] - places[i - 1][1]) > 1e-4]
        places = places if len(places) > 1 else [places[0], places[0]]
        length = hypot(geometry.course_m(places), end.z_m - start.z_m) + more_m
        line = Line.model_validate({
            "id": name, "zone": zone.id, "role": role, "tube": tube, "start": start.id,
            "end": end.id, "course": tuple(geometry.point(p) for p in places),
            "length_m": round(length, 4), "plot": plot})
        self.lines.append(line)
        if len(self.lines) > MOST_LINES:
            raise too_many(f"over {MOST_LINES:,}", MOST_LINES, "lines")
        return line

    def fitting(self, kind: str, line: Line, order: int) -> None:
        """A component on a line, numbered within its zone, so that other zones keep theirs."""
        self.numbers[line.zone] += 1
        self.fittings.append(Fitting(id=f"{stem(line.zone)}-f{self.numbers[line.zone]}", kind=kind,
                                     line=line.id, order=min(order, LAST)))

    def outlet(self, line: Line, kind: str, plot: str, run: Run, *, name: str = "") -> None:
        """A run of like outlets along a line."""
        self.outlets.append(Outlet(
            id=name or f"{line.id}-out", kind=kind, line=line.id, plot=plot,
            first_m=round(min(run.first_m, line.length_m), 4), spacing_m=run.spacing_m,
            points=run.points, each=run.each))

    def count_joints(self) -> None:
        """Tees where pipes part, elbows where one turns: from the true geometry.

        Small tubes are punched into a pipe's wall with a barb of their own.
        """
        pipes = [line for line in self.lines if line.role != "quarter-inch"]
        meet: dict[str, list[tuple[Line, tuple[Point, ...]]]] = {}
        for line in pipes:
            meet.setdefault(line.start, []).append((line, line.course))
            meet.setdefault(line.end, []).append((line, line.course[::-1]))
        joints: dict[str, list[str]] = {}
        for node, ends in meet.items():
            # what leaves a joint carries its fitting, before what arrives there
            ends.sort(key=lambda e: e[0].start == node)
            if len(ends) > 2:
                for line, _ in ends[2:]:
                    joints.setdefault(line.id, []).append("barb-tee")
            elif len(ends) == 2 and self._turns(ends):
                joints.setdefault(ends[1][0].id, []).append("barb-elbow")
        for line in pipes:
            if line.role not in BENDING:
                for _ in range(bends(line.course)):
                    self.fitting("barb-elbow", line, LAST)
            for kind in joints.get(line.id, ()):
                self.fitting(kind, line, LAST)

    def _turns(self, ends: Sequence[tuple[Line, tuple[Point, ...]]]) -> bool:
        """Whether two pieces of pipe meet at a sharp turn; a coupled hose bends itself."""
        (one, before), (other, after) = ends
        return not {one.id, other.id} & self.coupled and bool(bends((before[1], *after[:2])))

    def keep_hand_fittings(self) -> None:
        """Put back what was put on by hand, where its line still lies."""
        here = {line.id for line in self.lines}
        self.fittings += [f for f in self.garden.fittings if f.hand and f.line in here]


def bends(course: Sequence[object]) -> int:
    """How often a course turns sharply."""
    places = geometry.points_xy(course)  # type: ignore[arg-type]
    turns = 0
    for (ax, ay), (bx, by), (cx, cy) in zip(places, places[1:], places[2:], strict=False):
        one, two = hypot(bx - ax, by - ay), hypot(cx - bx, cy - by)
        if one < 1e-6 or two < 1e-6:
            continue
        sine = ((bx - ax) * (cy - by) - (by - ay) * (cx - bx)) / one / two
        back = (bx - ax) * (cx - bx) + (by - ay) * (cy - by) < 0
        turns += abs(sine) > BEND or back
    return turns
