"""The log as a table of its own, out and in again without loss."""

from __future__ import annotations

import csv
import datetime as dt
import io
import re
import zipfile
import zlib
from collections.abc import Callable, Mapping, Sequence

from euhydra.core.garden.model import Garden
from euhydra.core.log.entries import KINDS, BadEntryOf, Entry, checked, things_of
from euhydra.core.weather.services import known
from euhydra.exports.cells import guarded, unguarded

COLUMNS = ("day", "kind", "about", "name", "value", "unit", "word", "note", "id")
# The unit that each kind of quantity has inside; the table holds no other.
UNITS = {"small": "m", "flow": "L/h", "rain": "mm", "mass": "kg"}
MOST_ROWS = 20_000
MOST_UNPACKED = 64 * 2**20
# Nothing of that name, spoilt bytes, cut short, a password or a packing unknown here.
UNREADABLE = (KeyError, ValueError, zipfile.BadZipFile, zlib.error, EOFError, RuntimeError, OSError)


class BadTable(ValueError):
    """The table cannot be read; the message says where and why."""


def as_csv(garden: Garden, entries: Sequence[Entry]) -> str:
    """All entries, the oldest first."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(COLUMNS)
    for e in entries:
        kind = KINDS[e.kind]
        writer.writerow((e.day.isoformat(), e.kind, e.about,
                         guarded(things_of(garden, kind.about).get(e.about) or e.named),
                         "" if e.value is None else repr(e.value), UNITS.get(kind.unit, ""),
                         e.word, guarded(e.note), e.id))
    return out.getvalue()


def as_zip(garden: Garden, entries: Sequence[Entry], photos: Mapping[str, bytes]) -> bytes:
    """The table and its photos in one file; a photo is named by its entry's id."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
        pack(packed, garden, entries, photos)
    return out.getvalue()


def pack(packed: zipfile.ZipFile, garden: Garden, entries: Sequence[Entry],
         photos: Mapping[str, bytes]) -> None:
    """Put the table and its photos into a ZIP."""
    packed.writestr("log.csv", as_csv(garden, entries))
    for entry, jpeg in photos.items():
        packed.writestr(f"photos/{entry}.jpg", jpeg, zipfile.ZIP_STORED)


def from_zip(data: bytes) -> tuple[str, dict[str, bytes]]:
    """The table and the photos by entry in what :func:`as_zip` made; a table alone has none.

    Raises :class:`BadTable`, or UnicodeDecodeError where the table is not text.
    """
    if not zipfile.is_zipfile(io.BytesIO(data)):
        return data.decode("utf-8-sig"), {}
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            table, photos = _unpacked(packed)
    except BadTable:
        raise
    except UNREADABLE as error:
        raise BadTable("It holds no “log.csv” that can be read.") from error
    return table.decode("utf-8-sig"), photos


def _unpacked(packed: zipfile.ZipFile) -> tuple[bytes, dict[str, bytes]]:
    if sum(info.file_size for info in packed.infolist()) > MOST_UNPACKED:
        raise BadTable(f"Unpacked it is larger than {MOST_UNPACKED // 2**20} MB.")
    return packed.read("log.csv"), {
        found[1]: packed.read(name) for name in packed.namelist()
        if (found := re.fullmatch(r"photos/([a-z0-9-]{8,40})\.jpg", name))}


def is_log(text: str) -> bool:
    """Whether a table means to be a log: of its two needed columns it names one at least.

    A daily weather file has a “day” too, and with it rain.
    """
    first = next((line for line in text.lstrip("\ufeff").splitlines()
                  if line.strip() and not line.startswith("#")), "")
    heads = {head.strip().strip('"').lower() for head in re.split(r"[,;\t|]", first)}
    return "kind" in heads or not ({"date", "day", "year"} & heads or known(text))


def from_csv(text: str, today: dt.date, fresh_id: Callable[[], str]) -> list[Entry]:
    """The entries in a table, all or none. Raises :class:`BadTable` naming the line."""
    rows = csv.DictReader(io.StringIO(text.lstrip("\ufeff")))
    try:
        heads = rows.fieldnames or []
    except csv.Error as error:
        raise BadTable(f"Line 1: {str(error)[:200]}") from None
    if not {"day", "kind"} <= set(heads):
        raise BadTable(f"The first line names the columns: {', '.join(COLUMNS)}. “day” and “kind” "
                       f"must be there; found {', '.join(map(str, heads))[:120] or 'nothing'}.")
    found = []
    try:
        for row in rows:
            if rows.line_num > MOST_ROWS:
                raise BadTable(f"More than {MOST_ROWS} lines: cut the table in two.")
            found.append(_entry(row, today, fresh_id))
    except (BadEntryOf, ValueError, csv.Error) as error:
        raise BadTable(f"Line {rows.line_num}: {str(error)[:200]}") from None
    return found


def _entry(row: dict[str, str | None], today: dt.date, fresh_id: Callable[[], str]) -> Entry:
    def cell(name: str) -> str:
        return (row.get(name) or "").strip()

    day, value, key = cell("day"), cell("value"), cell("id")
    try:
        when = dt.date.fromisoformat(day)
    except ValueError:
        raise BadEntryOf(f"“{day[:20]}” is no day. Days are written 2026-07-31.") from None
    try:
        number = float(value) if value else None
    except ValueError:
        raise BadEntryOf(f"“{value[:20]}” is no number.") from None
    kind = KINDS.get(cell("kind"))
    unit = cell("unit")
    if kind and number is not None and unit not in ("", UNITS.get(kind.unit, "")):
        raise BadEntryOf(f"{kind.label} is kept in {UNITS.get(kind.unit, 'no unit')}; found "
                         f"“{unit[:12]}”.")
    good = re.fullmatch(r"[a-z0-9-]{8,40}", key)
    return checked(Entry(key if good else fresh_id(), when, cell("kind"), cell("about")[:64],
                         number, cell("word"), unguarded(row.get("note") or ""),
                         unguarded(cell("name"))[:80] if cell("about") else ""), today)
