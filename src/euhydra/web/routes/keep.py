"""Keep: entries made, changed, taken out and put back; the log as a table."""

from __future__ import annotations

import datetime as dt
import re
from dataclasses import replace
from typing import Annotated

from fastapi import APIRouter, Form, HTTPException, Request, UploadFile
from fastapi.responses import RedirectResponse, Response

from euhydra.core import parsing, units
from euhydra.core.editing.trees import EditRefused
from euhydra.core.garden.model import Garden
from euhydra.core.log.entries import (
    ID,
    KINDS,
    LONGEST_NOTE,
    BadEntryOf,
    Entry,
    checked,
    things_of,
)
from euhydra.core.log.rain_file import entries_of, out_of_files
from euhydra.core.log.year_end import year_end
from euhydra.core.units import System
from euhydra.core.weather.lines import BadWeather
from euhydra.core.weather.rain_days import rain_by_day
from euhydra.exports.log_csv import BadTable, as_csv, as_zip, from_csv, from_zip, is_log
from euhydra.store.log import fresh_id
from euhydra.store.photos import Photo
from euhydra.web import pages
from euhydra.web.fields import Rejected
from euhydra.web.look import look_of
from euhydra.web.pictures import BadPicture, photo_of
from euhydra.web.routes.files import saved
from euhydra.web.routes.stations import shelf_of
from euhydra.web.shelf import Shelf, Standing

router = APIRouter(prefix="/g/{garden_id}")
Text = Annotated[str, Form(max_length=400)]


@router.post("/log")
def put(request: Request, garden_id: str, kind: Text, about: Text = "", typed: Text = "",
        word: Text = "", day: Text = "", note: Annotated[str, Form(max_length=2000)] = "",
        entry: Text = "", new: Text = "", units_typed: Text = "", on: Text = "", back: Text = "",
        file: UploadFile | None = None) -> Response:
    """Keep an entry, new or changed; or say beside it what is allowed, all that was typed kept.

    It may come late from a device: what was typed is read in ``units_typed``, the units of its
    page, and is about the garden at change ``on``. A ``new`` one that was kept already, and perhaps
    changed or taken out since, stays as it is.
    """
    shelf = shelf_of(request)
    standing = shelf.take(garden_id)
    there = any(e.id == entry for e in standing.assessment.log)
    if new and entry and shelf.log.knows(garden_id, entry):
        return _back(garden_id, to=back)
    try:
        made = _read(standing, Entry(entry or fresh_id(), dt.date.today(), kind, about,
                                     word=word, note=note.strip()), typed, day,
                     _system(units_typed, standing), _garden_then(shelf, standing, on))
        photo = _photo(standing, made, file) if KINDS[made.kind].picture else None
        if photo and not day and photo[1] and photo[1] <= made.day:
            made = checked(replace(made, day=photo[1]), made.day)
    except (parsing.BadEntry, BadEntryOf, BadPicture) as error:
        why = error.why if isinstance(error, parsing.BadEntry) else str(error)
        look = replace(look_of(request), view="log",
                       asked=f"entry:{entry}" if there else f"{kind}:{about}"[:60])
        said = {"about": about, "word": word, "day": day, "note": note}
        return pages.station_page(request, standing, "keep", look, rejected=Rejected(
            f"log/{kind}"[:80], typed, why, said), status=422)
    with shelf.gardens.database.write():
        shelf.log.put(garden_id, [made], back=False)
        if photo:
            shelf.photos.put(garden_id, [photo[0]])
    return _back(garden_id, f"&asked={'edited' if there else 'put'}:{made.id}", to=back)


def _photo(standing: Standing, made: Entry, file: UploadFile | None
           ) -> tuple[Photo, dt.date | None] | None:
    """The picture that was sent; one that is there may stay. Raises BadPicture."""
    data = file.file.read() if file else b""
    if data and file:
        return photo_of(data, file.filename or "The picture", made.id)
    if any(e.id == made.id for e in standing.assessment.log):
        return None
    raise BadPicture("No picture was sent. Take one, or choose a JPEG, a PNG or a WebP.")


@router.get("/photos/{entry}.jpg")
def photo(request: Request, garden_id: str, entry: str) -> Response:
    """The photo of an entry."""
    found = shelf_of(request).photos.load(garden_id, entry)
    if found is None:
        raise HTTPException(404)
    return Response(found.jpeg, media_type="image/jpeg")


def _system(typed: str, standing: Standing) -> System:
    """The units that a page was in when something was typed on it; the garden's where unsaid."""
    return "us" if typed == "us" else "metric" if typed == "metric" else standing.garden.units


def _garden_then(shelf: Shelf, standing: Standing, on: str) -> Garden:
    """The garden that an entry's page was made of; as it stands where that is not known."""
    change = int(on) if on.isdecimal() and len(on) < 16 else standing.kept.head
    if change == standing.kept.head:
        return standing.garden
    return shelf.gardens.at_change(standing.garden.id, change) or standing.garden


def _read(standing: Standing, blank: Entry, typed: str, day: str, system: System,
          then: Garden) -> Entry:
    """The entry as typed. Raises BadEntry or BadEntryOf."""
    kind = KINDS.get(blank.kind)
    if kind is None or not kind.by_hand:
        raise BadEntryOf(f"“{blank.kind[:40]}” is no kind of entry.")
    if not re.fullmatch(ID, blank.id):
        raise BadEntryOf("That entry is not in this log.")
    there = things_of(standing.garden, kind.about)
    old = {e.about: e.named for e in standing.assessment.log if e.id == blank.id}
    known = {**old, **things_of(then, kind.about), **there}
    if kind.about and blank.about not in known:
        which = "of these" if kind.about == "any" else kind.about
        raise BadEntryOf(f"{kind.label}: say which {which} it is about: "
                         f"{', '.join(there.values())}.")
    try:
        when = dt.date.fromisoformat(day) if day else blank.day
    except ValueError:
        raise BadEntryOf(f"“{day[:30]}” is no day. Days are written 2026-07-31.") from None
    value = parsing.parse(typed, kind.unit, system) if kind.unit else None
    if value is not None and not 0 <= value <= kind.most:
        most = units.show(kind.most, kind.unit, system)
        raise BadEntryOf(f"“{typed[:40]}” is out of reach. {kind.label} goes from 0 to {most}.")
    return checked(replace(blank, day=when, value=value, about=blank.about if kind.about else "",
                           word=blank.word if kind.words else "",
                           named=known.get(blank.about, "") if blank.about else ""),
                   dt.date.today())


@router.post("/log/out")
def take_out(request: Request, garden_id: str, entry: Text, back: Text = "") -> Response:
    """Take an entry out of the log, or put it back."""
    if not shelf_of(request).log.take_out(garden_id, entry, back=bool(back)):
        raise EditRefused("That entry is not in this log.")
    return _back(garden_id, "" if back else f"&asked=out:{entry}")


@router.post("/log/out-file")
def take_file_out(request: Request, garden_id: str,
                  entry: Annotated[int, Form(ge=1990, le=9998)]) -> Response:
    """Take out of the log what daily files brought of a year's rain."""
    shelf = shelf_of(request)
    with shelf.gardens.database.write():
        for each in out_of_files(shelf.log.of(garden_id), entry):
            shelf.log.take_out(garden_id, each.id)
    return _back(garden_id)


@router.post("/log/undo")
def undo(request: Request, garden_id: str, entry: Text) -> Response:
    """Let an entry say again what it said before it was changed."""
    if not shelf_of(request).log.undo(garden_id, entry):
        raise EditRefused("That entry was not changed.")
    return _back(garden_id)


@router.get("/export/log.csv")
def table(request: Request, garden_id: str) -> Response:
    """The log as a table."""
    a = shelf_of(request).take(garden_id).assessment
    return saved(as_csv(a.garden, a.log), "text/csv; charset=utf-8", f"{garden_id}-log.csv")


@router.get("/export/log.zip")
def table_and_photos(request: Request, garden_id: str) -> Response:
    """The log as a table, and its photos beside it."""
    shelf = shelf_of(request)
    a = shelf.take(garden_id).assessment
    photos = (shelf.photos.load(garden_id, entry) for entry in sorted(shelf.photos.of(garden_id)))
    return saved(as_zip(a.garden, a.log, {p.entry: p.jpeg for p in photos if p}),
                 "application/zip", f"{garden_id}-log.zip")


@router.post("/log/csv")
def read_table(request: Request, garden_id: str, file: UploadFile) -> Response:
    """Bring in a table of entries, alone or with its photos; all or none of it.

    Entries that are there already stay single. Of a daily weather file this year's rain is taken.
    """
    shelf, name = shelf_of(request), (file.filename or "The file")[:60]
    try:
        text, pictures = from_zip(file.file.read())
        if not is_log(text):
            return _rain_read(shelf, garden_id, text, name)
        entries = from_csv(text, dt.date.today(), fresh_id)
        named = {e.id for e in entries if KINDS[e.kind].picture}
        photos = [photo_of(data, f"{entry}.jpg", entry)[0] for entry, data in pictures.items()
                  if entry in named]
    except UnicodeDecodeError:
        raise EditRefused(f"“{name}” is not text. A log is CSV, or a ZIP of it with its photos, "
                          "saved here.") from None
    except (BadTable, BadPicture, BadWeather, BadEntryOf) as error:
        raise EditRefused(f"“{name}”: {error}") from None
    with shelf.gardens.database.write():
        shelf.log.put(garden_id, entries)
        shelf.photos.put(garden_id, photos)
    return _back(garden_id)


def _rain_read(shelf: Shelf, garden_id: str, text: str, name: str) -> Response:
    """Put this year's rain out of a daily file into the log. Raises BadWeather."""
    fell, refused = rain_by_day(text)
    if refused:
        raise BadWeather(f"Line {refused[0].line}: {refused[0].why}.")
    today = dt.date.today()
    entries = [checked(e, today) for e in entries_of(fell, shelf.log.of(garden_id), today, name)]
    if not entries:
        raise BadWeather(f"it holds {len(fell)} days with rain measured, none of them of "
                         f"{today.year} up to today that is not in the log by hand. Years that "
                         "are over go to Place, Daily file.")
    shelf.log.put(garden_id, entries)
    return _back(garden_id, f"&asked=file:{today.year}")


@router.post("/next-year")
def next_year(request: Request, garden_id: str, year: Annotated[int, Form(ge=1990, le=9998)]
              ) -> RedirectResponse:
    """Next year's garden: a copy, with what a year taught as the first entries of its log."""
    shelf, today = shelf_of(request), dt.date.today()
    a = shelf.take(garden_id).assessment
    told = year_end(a, a.log, year, today)
    if told is None:
        raise EditRefused(f"Nothing was logged in {year}.")
    name = re.sub(r" \d{4}$", "", a.garden.name)[:60] + f" {year + 1}"
    with shelf.gardens.database.write():
        made = shelf.copy(a, name, f"Begun from {a.garden.name}, {year}")
        shelf.log.put(made.id, [Entry(fresh_id(), today, "lesson",
                                      note=lesson.show(a.garden.units)[:LONGEST_NOTE])
                                for lesson in told.lessons])
    return RedirectResponse(f"/g/{made.id}/keep", status_code=303)


def _back(garden_id: str, more: str = "", to: str = "") -> RedirectResponse:
    """To where one came from: the garden's page, the neighbour's, else the log."""
    if to == "garden":
        return RedirectResponse(f"/g/{garden_id}/garden", status_code=303)
    if to.startswith("neighbour?") and to.isascii() and len(to) < 80:
        return RedirectResponse(f"/g/{garden_id}/{to}", status_code=303)
    return RedirectResponse(f"/g/{garden_id}/keep?view=log{more}", status_code=303)
