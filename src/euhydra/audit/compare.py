"""Every statement of a garden put beside the others of its quantity."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from typing import Any

from euhydra.audit import ground, runs, water
from euhydra.audit.statements import Said, Statement
from euhydra.core.assessment.assess import Assessment

HARVESTS: tuple[Callable[[Said], Iterator[Statement]], ...] = (
    *water.HARVESTS, *runs.HARVESTS, *ground.HARVESTS)


@dataclass(frozen=True)
class Difference:
    """Two statements of one quantity that cannot both be true."""

    one: Statement
    other: Statement

    def words(self) -> str:
        """Both sides, with where they stand."""
        return (f"{self.one.quantity}: {self.one.shown} ({self.one.where}), "
                f"{self.other.shown} ({self.other.where})")

    def data(self) -> dict[str, Any]:
        """The same as data."""
        return {"quantity": self.one.quantity, "said": [
            {"where": s.where, "shown": s.shown} for s in (self.one, self.other)]}


@dataclass(frozen=True)
class Audited:
    """How many statements were compared with another of their quantity, and which differ."""

    compared: int
    differ: tuple[Difference, ...]

    def data(self) -> dict[str, Any]:
        """``{"compared": N, "differ": […]}``."""
        return {"compared": self.compared, "differ": [d.data() for d in self.differ]}


def audit(assessment: Assessment) -> Audited:
    """Compare all that is said of a garden in its own units."""
    said = Said(assessment)
    return compared(statement for harvest in HARVESTS for statement in harvest(said))


def compared(statements: Iterable[Statement]) -> Audited:
    """Each statement beside the closest read of its quantity; one alone is not compared."""
    groups: dict[str, list[Statement]] = {}
    for statement in statements:
        groups.setdefault(statement.quantity, []).append(statement)
    count, differ = 0, []
    for group in groups.values():
        best = min(group, key=lambda s: s.slack)
        for other in group:
            if other is best:
                continue
            count += 1
            if not best.agrees(other):
                differ.append(Difference(best, other))
    return Audited(count, tuple(differ))
