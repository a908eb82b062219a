"""Panes of Keep: the log, one thing of it, its year as a drawing and in all, what falls due."""

from __future__ import annotations

import datetime as dt

from euhydra.core import units
from euhydra.core.construction.care import due
from euhydra.core.construction.labels import labels
from euhydra.core.log.coming import coming
from euhydra.core.log.compare import before_and_after, changes
from euhydra.core.log.entries import KINDS, Entry, kinds_about, name_of, things_of
from euhydra.core.log.rain_file import out_of_files
from euhydra.core.log.year_end import year_end, years_of
from euhydra.core.schedule.calendar import how_much
from euhydra.core.schedule.rhythm import rhythm
from euhydra.core.statements.figures import Amount
from euhydra.core.stations.place import MONTHS
from euhydra.web.drawings import keep as draw
from euhydra.web.panes.base import Fold, Folds, Links, Pane, Table, parted
from euhydra.web.panes.keep_forms import EntryForm, EntryRow, JustDone, Log, OneThing, YearEnd
from euhydra.web.sheet import Sheet

MOST_YEARS, MOST_CHANGES = 12, 8
SHOWN = 200


def log(sheet: Sheet) -> list[Pane]:
    """Five large buttons, the entry being made, and the entries."""
    a, today = sheet.assessment, day_of(sheet)
    what, _, key = sheet.asked.partition(":")
    editing = next((e for e in a.log if what == "entry" and e.id == key), None)
    kind = editing.kind if editing else what if what in KINDS and KINDS[what].by_hand else ""
    return [Pane(form=Log(
        five=[(k, v.label) for k, v in KINDS.items() if v.quick],
        more=[(k, v.label) for k, v in KINDS.items() if v.by_hand and not v.quick],
        form=_form(sheet, kind, editing, today, key) if kind else None,
        forms={k: _form(sheet, k, None, today, "") for k, v in KINDS.items()
               if v.by_hand and not v.picture},
        said=_said(what, key, a.log) or _file_said(sheet, what, key), count=len(a.log),
        entries=_rows(sheet, a.log)))]


def _said(what: str, key: str, entries: tuple[Entry, ...]) -> JustDone | None:
    """What was just done to an entry, and how it is undone."""
    there = any(e.id == key for e in entries)
    if what == "out" and key and not there:
        return JustDone("Taken out of the log.", "out", "1", key, "Put it back")
    if what in ("put", "edited") and there:
        logged = what == "put"
        return JustDone("Logged." if logged else "Changed.", "out" if logged else "undo", "", key,
                        "Undo")
    return None


def _file_said(sheet: Sheet, what: str, key: str) -> JustDone | None:
    """What a daily file brought into the log, and how it is undone."""
    found = out_of_files(sheet.assessment.log, int(key)) if (
        what == "file" and key.isdecimal() and len(key) == 4) else ()
    if not found:
        return None
    fell = sheet.show(sum(e.value or 0.0 for e in found), "rain")
    first, last = found[0].day, found[-1].day
    return JustDone(f"Rain out of a file is in the log, {first.day} {first:%B} to {last.day} "
                    f"{last:%B} {key}: {fell}. Days that were logged by hand stay as they were.",
                    "out-file", "", key, "Take it out")


def one(sheet: Sheet) -> list[Pane]:
    """One bed, valve or barrel: where its label leads. What stands on it, and what was read."""
    a, garden = sheet.assessment, sheet.garden
    things = things_of(garden, "any")
    key = sheet.asked.partition(":")[2]
    about = key if key in things and key else garden.plots[0].id
    label = next((x for x in labels(garden, a.library) if x.about == about), None)
    mine = tuple(e for e in a.log if e.about == about)
    return [Pane(form=OneThing(
        about=about, name=things[about], things={k: v for k, v in things.items() if k},
        line=label.line.show(sheet.system) if label else "",
        sign=label.sign if label else "", set=_set_now(sheet, about),
        buttons=[(k, KINDS[k].label) for k in kinds_about(garden, about)],
        entries=_rows(sheet, mine), count=len(mine)))]


def _set_now(sheet: Sheet, about: str) -> str:
    """How the timer stands this month for what is asked about."""
    month = day_of(sheet).month - 1
    if each := sheet.assessment.schedule.by_hand.get(about):
        by_hand = each.setting_in(month)
        return (f"In {MONTHS[month]} it gets {how_much(each, by_hand)}, {rhythm(by_hand)}."
                if by_hand else f"In {MONTHS[month]} it wants no water by hand.")
    zone = next((z for z in sheet.garden.zones if about in (z.id, *z.plots)), None)
    if zone is None:
        return ""
    if not zone.timed:
        drum = sheet.garden.drum_of(zone.source)
        return "It runs as the washing comes." if drum else "Always open."
    setting = sheet.assessment.schedule.setting_in(zone.id, month)
    return (f"In {MONTHS[month]} the timer opens it {rhythm(setting)}, for {setting.minutes} "
            "minutes." if setting else f"In {MONTHS[month]} the timer leaves it shut.")


def day_of(sheet: Sheet) -> dt.date:
    """The day that the log is read on."""
    return sheet.assessment.today or dt.date.today()


def _form(sheet: Sheet, key: str, entry: Entry | None, today: dt.date, about: str
          ) -> EntryForm:
    kind = KINDS[key]
    things = things_of(sheet.garden, kind.about)
    value = (units.show(entry.value, kind.unit, sheet.system)
             if entry and entry.value is not None else "")
    day = entry.day if entry else None if kind.picture else today
    return EntryForm(
        key, kind.picture, kind.label, kind.ask, tuple(kind.words), things, bool(kind.unit),
        entry=entry.id if entry else "", typed=value, word=entry.word if entry else "",
        chosen=entry.about if entry else about if about in things else next(iter(things), ""),
        day=day.isoformat() if day else "", today=today.isoformat(),
        note=entry.note if entry else "", note_asks=kind.note,
        example=units.KINDS[kind.unit].example if kind.unit else "")


def _rows(sheet: Sheet, entries: tuple[Entry, ...]) -> list[EntryRow]:
    return [_row(sheet, e) for e in reversed(entries)][:SHOWN]


def _row(sheet: Sheet, e: Entry) -> EntryRow:
    kind = KINDS[e.kind]
    said = e.word or (units.show(e.value, kind.unit, sheet.system) if e.value is not None else "")
    return EntryRow(e.id, f"{e.day.day} {e.day:%b %Y}", kind.label, name_of(sheet.garden, e), said,
                    e.note, e.id in sheet.photos)


def season(sheet: Sheet) -> list[Pane]:
    """A year of the log as a drawing, and what was read before and after a change."""
    a, today = sheet.assessment, day_of(sheet)
    years = years_of(a.log) or [today.year]
    asked = sheet.asked.partition(":")[2]
    change = next((e for e in changes(a.log) if e.id == asked), None)
    year = change.day.year if change else next(
        (y for y in years if sheet.asked == f"year:{y}"), years[0])
    base = f"/g/{sheet.garden.id}/keep?view=season&asked="
    panes = [Pane(links=Links("Year", tuple(
        (f"{base}year:{y}", str(y), y == year) for y in years[:MOST_YEARS]))),
        Pane(drawing=draw.timeline(sheet, year, today)),
        Pane(table=_twin(sheet, year), twin=True)]
    this_year = [e for e in changes(a.log) if e.day.year == year][:MOST_CHANGES]
    if not this_year:
        return [*panes, Pane(words="No change of the timer in this year. Once there is one, what "
                             "was read before it stands here beside what was read after.")]
    chosen = change or this_year[0]
    things = things_of(sheet.garden, "zone")
    panes.append(Pane(links=Links("Before and after", tuple(
        (f"{base}change:{e.id}", f"{e.day.day} {e.day:%b}, {things.get(e.about, e.about)}",
         e.id == chosen.id) for e in this_year))))

    def shown(amount: Amount | None) -> str:
        return amount.show(sheet.system) if amount else "–"

    return [*panes, Pane(words=chosen.note), Pane(table=Table(
        f"{things.get(chosen.about, 'The garden')}, before and after {chosen.day.day} "
        f"{chosen.day:%B}", ("What", "Before", "After"), tuple(
            (row.label, shown(row.before), shown(row.after))
            for row in before_and_after(sheet.garden, a.log, chosen, today)), frozenset({1, 2})))]


def _twin(sheet: Sheet, year: int) -> Table:
    """The drawing's entries as a table."""
    entries = [e for e in sheet.assessment.log if e.day.year == year]
    rows = _rows(sheet, tuple(entries))
    more = f", the last {len(rows)} of {len(entries)}" if len(rows) < len(entries) else ""
    return Table(f"The log of {year}{more}", ("Day", "What", "About", "Read", "Note"), tuple(
        (row.day, row.label, row.about, row.said, row.note) for row in rows),
        frozenset({3}))


def year(sheet: Sheet) -> list[Pane]:
    """What a year came to, and the next year's garden begun with what it taught."""
    a, today = sheet.assessment, day_of(sheet)
    years = years_of(a.log)
    chosen = next((y for y in years if sheet.asked == f"year:{y}"), years[0] if years else None)
    told = year_end(a, a.log, chosen, today) if chosen else None
    if told is None:
        return [Pane(words="Nothing was logged yet. Once there are entries, the year stands here "
                     "in all: litres from each source, hours and money spared, what failed.")]
    base = f"/g/{sheet.garden.id}/keep?view=year&asked=year:"
    return [Pane(links=Links("Year", tuple((f"{base}{y}", str(y), y == chosen)
                                           for y in years[:MOST_YEARS]))),
            Pane(table=Table(
                f"Water, {told.first.day} {told.first:%B} to "
                f"{told.last.day} {told.last:%B}",
                ("Source", "Gave", "Known by"), tuple(
                    (s.name, sheet.show(s.litres, "volume"), s.how) for s in told.sources),
                frozenset({1}))),
            Pane(form=YearEnd(
                told.year, told.undipped,
                [(f.name, f.amount.show(sheet.system), f.working.formula, f.working.source)
                 for f in told.figures],
                [p.show(sheet.system) for p in told.failed],
                [p.show(sheet.system) for p in told.lessons]))]


def care(sheet: Sheet) -> list[Pane]:
    """What falls due soon, and through the year."""
    a = sheet.assessment
    today = day_of(sheet)
    soon = tuple(Fold(d.title, f"in {n} days" if n > 1 else ("today", "tomorrow")[n],
                      tuple(d.words.split("\n")), open=not i)
                 for i, (n, d) in enumerate(coming(a, a.log, today)))
    return [Pane(words="In the next two weeks:" if soon else
                 "Nothing falls due in the next two weeks.", form=Folds(soon) if soon else None),
            parted(((MONTHS[int(d.day[:2]) - 1], (units.show_month_day(d.day), d.title, d.words))
                    for d in due(a.garden, a.schedule)), ("Day", "What", "How"),
                   opens="", words="Through the year:")]
