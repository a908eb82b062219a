"""Keep: entries made, changed, taken out and put back; the log as a table."""

from __future__ import annotations

import datetime as dt
from dataclasses import replace
from typing import Annotated

from fastapi import APIRouter, Form, Request, UploadFile
from fastapi.responses import RedirectResponse, Response

from euhydra.core import units
from euhydra.core.garden.edits import EditRefused
from euhydra.core.log.entries import KINDS, BadEntryOf, Entry, checked, things_of
from euhydra.exports.log_csv import BadTable, as_csv, from_csv
from euhydra.store.log import fresh_id
from euhydra.web import pages
from euhydra.web.fields import Rejected
from euhydra.web.routes.files import saved
from euhydra.web.routes.stations import look_of, shelf_of
from euhydra.web.shelf import Standing

router = APIRouter(prefix="/g/{garden_id}")
Text = Annotated[str, Form(max_length=400)]


@router.post("/log")
def put(request: Request, garden_id: str, kind: Text, about: Text = "", typed: Text = "",
        word: Text = "", day: Text = "", note: Annotated[str, Form(max_length=2000)] = "",
        entry: Text = "") -> Response:
    """Keep an entry, new or changed; or say beside it what is allowed, all that was typed kept."""
    shelf = shelf_of(request)
    standing = shelf.take(garden_id)
    try:
        made = _read(standing, Entry(entry or fresh_id(), dt.date.today(), kind, about,
                                     word=word, note=note.strip()), typed, day)
    except (units.BadEntry, BadEntryOf) as error:
        why = error.why if isinstance(error, units.BadEntry) else str(error)
        look = replace(look_of(request), view="log", asked=f"entry:{entry}" if entry else kind)
        said = {"about": about, "word": word, "day": day, "note": note}
        return pages.station_page(request, standing, "keep", look, rejected=Rejected(
            f"log/{kind}"[:80], typed, why, said), status=422)
    shelf.log.put(garden_id, [made])
    return _back(garden_id)


def _read(standing: Standing, blank: Entry, typed: str, day: str) -> Entry:
    """The entry as typed. Raises BadEntry or BadEntryOf."""
    kind = KINDS.get(blank.kind)
    if kind is None or blank.kind == "changed":
        raise BadEntryOf(f"“{blank.kind[:40]}” is no kind of entry.")
    if blank.id != blank.id[:40] or not blank.id.isalnum() or len(blank.id) < 8:
        raise BadEntryOf("That entry is not in this log.")
    there = things_of(standing.garden, kind.about)
    old = {e.about for e in standing.assessment.log if e.id == blank.id}
    if kind.about and blank.about not in there and blank.about not in old:
        raise BadEntryOf(f"{kind.label}: say which {kind.about} it is about: "
                         f"{', '.join(there.values())}.")
    try:
        when = dt.date.fromisoformat(day) if day else blank.day
    except ValueError:
        raise BadEntryOf(f"“{day[:30]}” is no day. Days are written 2026-07-31.") from None
    value = units.parse(typed, kind.unit, standing.garden.units) if kind.unit else None
    if value is not None and not 0 <= value <= kind.most:
        most = units.show(kind.most, kind.unit, standing.garden.units)
        raise BadEntryOf(f"“{typed[:40]}” is out of reach. {kind.label} goes from 0 to {most}.")
    return checked(replace(blank, day=when, value=value, about=blank.about if kind.about else "",
                           word=blank.word if kind.words else ""), dt.date.today())


@router.post("/log/out")
def take_out(request: Request, garden_id: str, entry: Text, back: Text = "") -> Response:
    """Take an entry out of the log, or put it back."""
    if not shelf_of(request).log.take_out(garden_id, entry, back=bool(back)):
        raise EditRefused("That entry is not in this log.")
    return _back(garden_id, "" if back else f"&asked=out:{entry}")


@router.get("/export/log.csv")
def table(request: Request, garden_id: str) -> Response:
    """The log as a table."""
    a = shelf_of(request).take(garden_id).assessment
    return saved(as_csv(a.garden, a.log), "text/csv; charset=utf-8", f"{garden_id}-log.csv")


@router.post("/log/csv")
def read_table(request: Request, garden_id: str, file: UploadFile) -> Response:
    """Bring in a table of entries, all or none; entries that are there already stay single."""
    try:
        entries = from_csv(file.file.read().decode("utf-8-sig"), dt.date.today(), fresh_id)
    except UnicodeDecodeError:
        raise EditRefused(f"“{(file.filename or 'The file')[:60]}” is not text. A log is CSV, "
                          "saved here as a table.") from None
    except BadTable as error:
        raise EditRefused(f"“{(file.filename or 'The file')[:60]}”: {error}") from None
    shelf_of(request).log.put(garden_id, entries)
    return _back(garden_id)


def _back(garden_id: str, more: str = "") -> RedirectResponse:
    return RedirectResponse(f"/g/{garden_id}/keep?view=log{more}", status_code=303)
