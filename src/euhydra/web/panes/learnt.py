"""The pane of what readings teach: each against its table, with its range, to be taken over."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from markupsafe import Markup

from euhydra.core.log.learning.lessons import Lesson
from euhydra.web.drawings.ranges import range_of
from euhydra.web.offers import FORGET, LEARN
from euhydra.web.panes.base import Form, Pane, Table
from euhydra.web.sheet import Sheet

HOW = ("The days of the log are run through the season with many guesses side by side; those that "
       "give the dips, the soil and the jugs that you read weigh most (Bayes). A dip is read to a "
       "centimetre, a gauge and a jug to a tenth, soil now and then otherwise; what was likely "
       "before any reading is from memory. The timer is taken to have stood as it does now. The "
       "range holds the true value nine times in ten.")


@dataclass(frozen=True)
class Taught:
    """A lesson as it is shown; ``does`` is what its buttons send, and what they say."""

    name: str
    best: str
    low: str
    high: str
    table: str
    now: str
    why: str
    drawing: Markup
    does: Sequence[tuple[str, str]]
    differs: bool


@dataclass(frozen=True)
class Learning(Form):
    """What was learnt, and what is not yet: (name, why); ``work`` where it is being worked out."""

    template = "_learnt.html"
    work: str
    instead: str
    told: Sequence[Taught]
    few: Sequence[tuple[str, str]]
    how: str


def learnt(sheet: Sheet) -> list[Pane]:
    """What the log teaches of roofs, thirst, flows and leaks."""
    a, base = sheet.before or sheet.assessment, f"/g/{sheet.garden.id}/keep"
    if not a.log:
        return [Pane(words="Nothing was logged yet. Dips, rain, jugs and soil by hand teach what "
                           "this roof brings, what these plants drink and what the lines give.")]
    found = a.lessons
    told = [x for x in found or () if x.learnt or x.taken]
    panes = [Pane(form=Learning(
        "" if found is not None else f"{base}/work?view=learnt", f"{base}?view=learnt&now=1",
        [_taught(sheet, x) for x in told],
        [(x.name.show(sheet.system), x.why.show(sheet.system)) for x in found or ()
         if not (x.learnt or x.taken)], HOW))]
    if told:
        panes.append(Pane(table=Table(
            "What readings teach, against the tables",
            ("What", "Table", "Reckoned with", "Readings", "From", "To"), tuple(
                (x.name.show(sheet.system), *(sheet.show(v, x.kind) for v in (
                    x.table, x.now, x.best, x.low, x.high))) for x in told),
            frozenset(range(1, 6))), twin=True))
    return panes


def _taught(sheet: Sheet, x: Lesson) -> Taught:
    table, now, best, low, high = (sheet.show(v, x.kind) for v in (
        x.table, x.now, x.best, x.low, x.high))
    name = x.name.show(sheet.system)
    return Taught(
        name, best, low, high, table, now, x.why.show(sheet.system),
        range_of(f"{name}: {low} to {high}", x.low, x.best, x.high, x.table, x.now),
        [*(((f"{LEARN}{x.key}", "Take it over"),) if x.learnt and best != now else ()),
         *(((f"{FORGET}{x.key}", "Back to the tables"),) if x.taken else ())], x.differs)
