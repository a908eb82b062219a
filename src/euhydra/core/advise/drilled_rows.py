"""A bed's row of drilled pipe, hole by hole: as it flows, its end otherwise, its holes evened."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from euhydra.core.garden.model import Bed
from euhydra.core.hydraulics.drilled import (
    DRILLS_MM,
    DrilledFlow,
    DrilledPipe,
    along_pipe,
    by_thirds,
    evened,
)

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

LEAST_HEAD_M = 0.01
MOST_HOLES = 60  # that are told one by one


@dataclass(frozen=True)
class DrilledRow:
    """A row under ``head_m`` of head at its first hole, the barrels half full.

    Of a row with many holes one of ``every`` so many is told; it stands for them all.
    ``now`` is what the network gives; the others are the pipe alone under the same head: its end
    ``otherwise`` (shut where it is open), a drill for ``each`` hole, one for each of three
    ``thirds``, and what those then give.
    """

    every: int
    head_m: float
    now: DrilledFlow
    otherwise: DrilledFlow
    each: DrilledPipe
    each_gives: DrilledFlow
    thirds: DrilledPipe
    thirds_give: DrilledFlow


def drilled_row(r: Results, bed: Bed) -> DrilledRow | None:
    """The row with the most holes; None for a bed without drilled pipe."""
    runs = [o for o in r.garden.outlets if o.plot == bed.id and o.kind == "hole"]
    if not runs:
        return None
    run = max(runs, key=lambda o: o.points)
    line = next(x for x in r.garden.lines if x.id == run.line)
    found = {o.emitter: o for o in r.flows[line.zone]["half"].outlets}
    holes = [found[f"{run.id}:{i}"] for i in range(run.points)]
    end = found.get(f"{line.id}-open:0")
    head = max(holes[0].head_m, LEAST_HEAD_M)
    lump = _Lump(math.ceil(run.points / MOST_HOLES))
    told = holes[::lump.of]
    pipe = DrilledPipe(r.library.tubes[line.tube].bore_mm,
                       (bed.hole_mm * lump.wider,) * len(told), run.spacing_m * lump.of, 0.0,
                       end is not None)
    drills = [mm * lump.wider for mm in DRILLS_MM]
    each = evened(pipe, head, drills)
    thirds = by_thirds(each, drills)
    now = DrilledFlow(tuple(o.flow_l_h for o in told), end.flow_l_h if end else 0.0,
                      tuple(o.head_m for o in told))
    return DrilledRow(
        lump.of, head, now,
        lump.one(along_pipe(replace(pipe, open_end=not pipe.open_end), head)),
        lump.hole(each), lump.one(along_pipe(each, head)),
        lump.hole(thirds), lump.one(along_pipe(thirds, head)))


@dataclass(frozen=True)
class _Lump:
    """Some neighbouring holes taken as one as wide as they are together."""

    of: int

    @property
    def wider(self) -> float:
        return math.sqrt(self.of)

    def hole(self, pipe: DrilledPipe) -> DrilledPipe:
        """The pipe, its holes one by one."""
        return replace(pipe, bores_mm=tuple(mm / self.wider for mm in pipe.bores_mm))

    def one(self, flow: DrilledFlow) -> DrilledFlow:
        """What one hole of each lump gives."""
        return replace(flow, holes_l_h=tuple(q / self.of for q in flow.holes_l_h))
