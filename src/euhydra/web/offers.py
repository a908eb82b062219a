"""What is offered to be tried and kept: a station's remedy, or changes that would help most."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from euhydra.core.advise.helping.moves import Move, as_one
from euhydra.core.advise.helping.weighing import weighed
from euhydra.core.assessment.assess import Assessment
from euhydra.core.editing.edits import Edit
from euhydra.core.editing.learning import BackToTables, TakeOver
from euhydra.core.editing.makers import CannotAdd
from euhydra.core.editing.trees import EditRefused
from euhydra.core.statements.figures import Amount, Phrase, say
from euhydra.core.statements.findings import Finding, Remedy, StationReport
from euhydra.core.units import System

HELP, LEARN, FORGET = "help:", "learn:", "forget:"
MOST_MOVES = 24


@dataclass(frozen=True)
class Offer:
    """An edit with its name, what it is called and, where it is tried, what it does."""

    name: str
    labels: tuple[Phrase, ...]
    effect: Phrase
    edit: Edit
    moves: str = ""

    def title(self, system: System) -> str:
        """What it is called: a change by its label, many by their number and labels."""
        shown = "; ".join(label.show(system) for label in self.labels)
        return shown if len(self.labels) == 1 else f"{len(self.labels)} changes: {shown}"


def offer(a: Assessment, station: str, name: str) -> Offer | None:
    """The offer of a name: ``rule:key`` of a station's remedy, ``help:`` and the keys of changes,
    ``learn:`` and ``forget:`` with what readings taught.

    None where it does not apply any more.
    """
    if name.startswith((LEARN, FORGET)):
        return _of_readings(a, name)
    if name.startswith(HELP):
        moves = moves_named(a, name)
        return _together(a, name, moves) if moves else None
    found = find_remedy(a.station(station), name)
    if found is None:
        return None
    remedy = found[1]
    return Offer(name, (remedy.label,), remedy.effect, remedy.edit, remedy.moves)


def _of_readings(a: Assessment, name: str) -> Offer | None:
    """What readings taught, to be taken over; or to be given back to the tables."""
    what, _, key = name.partition(":")
    if f"{what}:" == FORGET:
        there = any(x.key == key for x in a.garden.learnt)
        return Offer(name, (Phrase("Back to the tables"),), Phrase("as before any reading"),
                     BackToTables(key)) if there else None
    for _ in a.learn():
        pass
    lesson = next((x for x in a.lessons or () if x.key == key and x.learnt), None)
    if lesson is None or lesson.learnt is None:
        return None
    label = Phrase(lesson.name.template + " {v}",
                   {**lesson.name.amounts, "v": Amount(lesson.best, lesson.kind)})
    return Offer(name, (label,), Phrase("by your readings"), TakeOver(lesson.learnt))


def named(moves: Sequence[Move]) -> str:
    """What changes together are called in an address."""
    return HELP + ".".join(move.key for move in moves)


def moves_named(a: Assessment, name: str) -> list[Move]:
    """The changes of such a name; none where one of them is not to be had any more."""
    keys = name.removeprefix(HELP).split(".")[:MOST_MOVES]
    found = [a.move(key) for key in keys]
    return [move for move in found if move] if all(found) else []


def _together(a: Assessment, name: str, moves: Sequence[Move]) -> Offer | None:
    edit = as_one(moves)
    try:
        then = a.after(edit)
    except (EditRefused, CannotAdd):
        return None
    return Offer(name, tuple(move.label for move in moves),
                 say("{d} thirsty a year, all plots together", d=Amount(
                     weighed(then, without_rain=False).thirst, "days")), edit)


def find_remedy(report: StationReport, name: str) -> tuple[Finding, Remedy] | None:
    """The remedy named ``rule:key``, as long as the finding still stands."""
    for finding in (f for f in report.findings if name.startswith(f"{f.rule}:")):
        for remedy in finding.remedies:
            if f"{finding.rule}:{remedy.key}" == name:
                return finding, remedy
    return None
