"""Panes of Keep: the log with its buttons, and what falls due."""

from __future__ import annotations

import datetime as dt
from typing import Any

from euhydra.core import units
from euhydra.core.calendar import due
from euhydra.core.log.entries import FIVE, KINDS, Entry, things_of
from euhydra.core.stations.keep import coming
from euhydra.core.troubles import troubles_of
from euhydra.web.drawings.sheet import Sheet
from euhydra.web.panes.base import Pane, Table

SHOWN = 200


def log(sheet: Sheet) -> list[Pane]:
    """Five large buttons, the entry being made, and the entries."""
    a, garden = sheet.assessment, sheet.garden
    today = a.today or dt.date.today()
    what, _, key = sheet.asked.partition(":")
    editing = next((e for e in a.log if what == "entry" and e.id == key), None)
    kind = editing.kind if editing else what if what in KINDS and what != "changed" else ""
    entries = [_row(sheet, e) for e in reversed(a.log)][:SHOWN]
    return [Pane(form="_log.html", data={
        "five": [(k, KINDS[k].label) for k in FIVE],
        "more": [(k, v.label) for k, v in KINDS.items() if k not in (*FIVE, "changed")],
        "form": _form(sheet, kind, editing, today) if kind else None,
        "out": key if what == "out" else "", "entries": entries, "count": len(a.log),
        "garden": garden})]


def _form(sheet: Sheet, key: str, entry: Entry | None, today: dt.date) -> dict[str, Any]:
    kind = KINDS[key]
    things = things_of(sheet.garden, kind.about)
    value = (units.show(entry.value, kind.unit, sheet.system)
             if entry and entry.value is not None else "")
    return {"kind": key, "label": kind.label, "ask": kind.ask, "words": kind.words,
            "about": things, "has_value": bool(kind.unit), "entry": entry.id if entry else "",
            "typed": value, "word": entry.word if entry else "",
            "chosen": entry.about if entry else next(iter(things), ""),
            "day": (entry.day if entry else today).isoformat(), "today": today.isoformat(),
            "note": entry.note if entry else "",
            "example": units.KINDS[kind.unit].example if kind.unit else ""}


def _row(sheet: Sheet, e: Entry) -> dict[str, str]:
    kind = KINDS[e.kind]
    said = e.word or (units.show(e.value, kind.unit, sheet.system) if e.value is not None else "")
    return {"id": e.id, "day": f"{e.day.day} {e.day:%b %Y}", "label": kind.label,
            "about": things_of(sheet.garden, kind.about).get(e.about, e.about), "said": said,
            "note": e.note}


def care(sheet: Sheet) -> list[Pane]:
    """What falls due soon, and through the year."""
    a = sheet.assessment
    today = a.today or dt.date.today()
    soon = tuple((f"in {n} days" if n > 1 else ("today", "tomorrow")[n], d.title, d.words)
                 for n, d in coming(a, today))
    return [Pane(table=Table("In the next two weeks", ("When", "What", "How"), soon))
            if soon else Pane(words="Nothing falls due in the next two weeks."),
            Pane(table=Table("Through the year", ("Day", "What", "How"), tuple(
                (units.show_month_day(d.day), d.title, d.words) for d in due(a))))]


def trouble(sheet: Sheet) -> list[Pane]:
    """What is seen, what it means, what to do."""
    return [Pane(table=Table("When something is wrong (common practice)", (
        "What is seen", "What it most often means", "What to do"), tuple(
            (t.seen, t.means[0].upper() + t.means[1:] + ".", t.do)
            for t in troubles_of(sheet.garden))))]
