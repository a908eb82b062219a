"""Lint: how a laundry's water blocks what it runs through, by outlet and filter."""

from __future__ import annotations

from dataclasses import dataclass

from euhydra.core.garden.model import Garden, Zone
from euhydra.core.library import Library

NOTICED = 0.25  # of its flow lost: then ends are rinsed and outlets looked at, from memory


@dataclass(frozen=True)
class Clogging:
    """One kind of outlet behind one filter: weeks until nothing comes out, nobody cleaning it."""

    outlet: str
    filter: str
    weeks: float

    def left(self, weeks: float) -> float:
        """The share of its flow left after so many weeks: a straight line, from memory."""
        return max(0.0, 1 - weeks / self.weeks)

    @property
    def noticed_weeks(self) -> float:
        """Weeks until a quarter of the flow is lost."""
        return NOTICED * self.weeks


def cloggings(garden: Garden, library: Library, zone: Zone) -> tuple[Clogging, ...]:
    """Each kind of outlet of a drum's zone behind its filter, the first to block first.

    Tape blocks in two weeks and drilled pipe by the end of a season: common practice; the others,
    and what a filter is worth, from memory.
    """
    lines = {line.id for line in garden.lines if line.zone == zone.id}
    kinds = {run.kind for run in garden.outlets if run.line in lines}
    times = library.fittings[zone.filter].lint_times
    found = (Clogging(kind, zone.filter, weeks * times) for kind in kinds
             if (weeks := library.outlets[kind].lint_weeks) > 0)
    return tuple(sorted(found, key=lambda c: (c.weeks, c.outlet)))
