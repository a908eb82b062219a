"""A statement: a quantity, where something is said of it, and what; read back as it is shown."""

from __future__ import annotations

import datetime as dt
import re
from dataclasses import dataclass
from functools import cached_property

from icalendar import Calendar

from euhydra.core import units
from euhydra.core.assessment.assess import Assessment
from euhydra.core.statements.figures import Amount
from euhydra.core.units import System
from euhydra.exports.ics import calendar_ics
from euhydra.web.fields import Fields
from euhydra.web.panes import VIEWS
from euhydra.web.panes.base import Pane, Table
from euhydra.web.sheet import Sheet

_DIGITS = re.compile(r"[−+-]?[\d\u202f]+(?:\.\d+)?")


@dataclass(frozen=True)
class Statement:
    """What ``where`` says of a ``quantity``: a number in the unit inside, or words.

    ``slack`` is how far off the number may be by its rounding; ``shown`` is as it stands there.
    """

    quantity: str
    where: str
    value: float | str
    slack: float
    shown: str

    def agrees(self, other: Statement) -> bool:
        """Whether both can be of one amount."""
        if isinstance(self.value, str) or isinstance(other.value, str):
            return self.value == other.value
        room = self.slack + other.slack + 1e-9 + 1e-9 * max(abs(self.value), abs(other.value))
        return abs(self.value - other.value) <= room


def exactly(quantity: str, where: str, value: float | str) -> Statement:
    """A number or words as data have it, without rounding."""
    return Statement(quantity, where, value if isinstance(value, str) else float(value), 0.0,
                     str(value))


def shown(quantity: str, where: str, text: str, kind: str, system: System, factor: float = 1.0
          ) -> Statement:
    """A quantity read off a text such as ``12.4 m³``; ``factor`` is what it stands there times."""
    tidy = text.replace("\u00a0", " ").strip()
    match = _DIGITS.search(tidy)
    if match is None:
        return Statement(quantity, where, tidy, 0.0, text)
    digits = match.group().replace("\u202f", "").replace("−", "-")
    places = len(digits.partition(".")[2])
    one, none = (units.to_inside(x, kind, system) for x in (10.0**-places, 0.0))
    value = units.to_inside(float(digits), kind, system)
    return Statement(quantity, where, value * factor, abs(one - none) / 2 * factor, text)


def of_amount(quantity: str, where: str, amount: Amount, system: System) -> Statement:
    """An amount as it is shown."""
    return shown(quantity, where, amount.show(system), amount.kind, system)


class Said:
    """All that is said of one garden, and where: figures, findings, tables of the pages."""

    def __init__(self, a: Assessment) -> None:
        self.a, self.system = a, a.garden.units
        self.sheet = Sheet(a, Fields(a.garden, a.library))
        self._panes: dict[tuple[str, str], list[Pane]] = {}

    @cached_property
    def calendar(self) -> dict[str, tuple[dt.date, str]]:
        """The day and the words of each event of the calendar file, read back, by its name."""
        book = Calendar.from_ical(calendar_ics(self.a, dt.date(2026, 1, 1)))
        return {str(e["uid"]).split("@")[0]: (e.decoded("dtstart"), str(e["description"]))
                for e in book.walk("VEVENT")}

    def figure(self, quantity: str, station: str, key: str) -> list[Statement]:
        """A figure of a station, where it stands there."""
        report = self.a.station(station)
        return [of_amount(quantity, f"{report.name}, {f.name}", f.amount, self.system)
                for f in report.figures if f.key == key]

    def finding(self, quantity: str, station: str, rule: str, name: str) -> list[Statement]:
        """An amount in the words of a finding, title or reason, where there is one."""
        report = self.a.station(station)
        return [of_amount(quantity, f"{report.name}, {rule}", phrase.amounts[name], self.system)
                for f in report.findings if f.rule == rule for phrase in (f.title, f.why)
                if "{" + name + "}" in phrase.template]

    def tables(self, station: str, view: str) -> list[Table]:
        """The tables of a way to look at a station."""
        key = (station, view)
        if key not in self._panes:
            way = next(v for v in VIEWS[station] if v.key == view)
            self._panes[key] = way.panes(self.sheet)
        return [pane.table for pane in self._panes[key] if pane.table]

    def table(self, station: str, view: str, head: str) -> Table | None:
        """The first of them that has a column of that head."""
        return next((t for t in self.tables(station, view) if head in t.heads), None)

    def panes(self, station: str, view: str) -> list[Pane]:
        """All panes of a way to look."""
        self.tables(station, view)
        return self._panes[station, view]
