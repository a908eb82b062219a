"""A bed's row of drilled pipe, hole by hole: as it flows, its end otherwise, its holes evened."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from euhydra.core.garden.model import Bed
from euhydra.core.hydraulics.drilled import (
    DrilledFlow,
    DrilledPipe,
    along_pipe,
    by_thirds,
    evened,
)

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

LEAST_HEAD_M = 0.01


@dataclass(frozen=True)
class DrilledRow:
    """A row under ``head_m`` of head at its first hole, the barrels half full.

    ``now`` is what the network gives; the others are the pipe alone under the same head: its end
    ``otherwise`` (shut where it is open), a drill for ``each`` hole, one for each of three
    ``thirds``, and what those then give.
    """

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
    pipe = DrilledPipe(r.library.tubes[line.tube].bore_mm, (bed.hole_mm,) * run.points,
                       run.spacing_m, 0.0, end is not None)
    each = evened(pipe, head)
    thirds = by_thirds(each)
    return DrilledRow(
        head, DrilledFlow(tuple(o.flow_l_h for o in holes), end.flow_l_h if end else 0.0,
                          tuple(o.head_m for o in holes)),
        along_pipe(replace(pipe, open_end=not pipe.open_end), head),
        each, along_pipe(each, head), thirds, along_pipe(thirds, head))
