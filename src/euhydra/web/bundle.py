"""Everything of one garden in one ZIP, out and in: file, weather, log, photos, ticks, history."""

from __future__ import annotations

import base64
import datetime as dt
import io
import json
import zipfile
from collections.abc import Callable, Iterator
from dataclasses import dataclass

from euhydra.core.editing.file import BadFile, from_json
from euhydra.core.log.entries import KINDS, Entry
from euhydra.exports import log_csv
from euhydra.store import history, states
from euhydra.store.database import Database
from euhydra.store.gardens import Gardens
from euhydra.store.history import Past
from euhydra.store.log import Log, fresh_id
from euhydra.store.photos import Photo, Photos
from euhydra.store.riding import as_file, keep
from euhydra.store.sketches import Sketches
from euhydra.store.ticks import Tick, Ticks
from euhydra.store.weather import WeatherRecords
from euhydra.web.pictures import BadPicture, riding_in, sketch_of

MOST_UNPACKED = 256 * 2**20
MOST_FILES = 5000
Unpack = Callable[[bytes, str], Photo]  # a picture's bytes and its entry


@dataclass(frozen=True)
class Rooms:
    """What holds the parts of a garden in a database."""

    database: Database
    gardens: Gardens

    @property
    def log(self) -> Log:
        """The logs."""
        return Log(self.database)

    @property
    def photos(self) -> Photos:
        """The photos."""
        return Photos(self.database)

    @property
    def sketches(self) -> Sketches:
        """The pictures under plans."""
        return Sketches(self.database)

    @property
    def ticks(self) -> Ticks:
        """The ticks."""
        return Ticks(self.database)

    @property
    def weather(self) -> WeatherRecords:
        """The weather records."""
        return WeatherRecords(self.database)


def packed(rooms: Rooms, garden_id: str) -> bytes:
    """All that is kept of a garden, as one ZIP. Raises NoSuchGarden or Unreadable."""
    with rooms.database.read():
        kept = rooms.gardens.load(garden_id)
        garden = kept.garden
        found = (rooms.photos.load(garden_id, e) for e in sorted(rooms.photos.of(garden_id)))
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
            packed.writestr("garden.json", as_file(rooms.database, garden))
            for lay in rooms.sketches.ever_under(garden_id):
                packed.writestr(f"sketches/{lay.id}.jpg", lay.jpeg)
            log_csv.pack(packed, garden, rooms.log.of(garden_id),
                         {p.entry: p.jpeg for p in found if p})
            packed.writestr("ticks.json", json.dumps([
                {"step": t.step, "done": t.done, "age_ms": t.age_ms, "device_ms": t.device_ms}
                for t in rooms.ticks.said(garden_id)], indent=1, ensure_ascii=False))
            packed.writestr("history.jsonl", "".join(
                f"{json.dumps(_told(one), ensure_ascii=False)}\n"
                for one in history.past(rooms.database, garden_id)))
    return out.getvalue()


def _told(one: Past) -> dict[str, object]:
    return {"change": one.change, "before": one.before, "base": one.base, "made_at": one.made_at,
            "title": one.title, "name": one.name, "frame": base64.b64encode(one.body).decode()}


def brought_in(rooms: Rooms, data: bytes, today: dt.date, picture: Unpack) -> str:
    """Keep the garden of a ZIP with all that came with it, or nothing; returns its id.

    Raises :class:`~euhydra.core.editing.file.BadFile` or
    :class:`~euhydra.exports.log_csv.BadTable` in words.
    """
    parts = _parts(data)
    text = parts["garden.json"].decode("utf-8-sig")
    garden = from_json(text, rooms.gardens.library)
    entries: list[Entry] = []
    if "log.csv" in parts:
        entries = log_csv.from_csv(parts["log.csv"].decode("utf-8-sig"), today, fresh_id)
    photos = [picture(parts[name], e.id) for e in entries
              if KINDS[e.kind].picture and (name := f"photos/{e.id}.jpg") in parts]
    with rooms.database.write():
        made = keep(rooms.gardens, garden, riding_in(text), "Opened with all that came with it")
        _lay_under(rooms, made.id, parts)
        rooms.log.put(made.id, entries)
        rooms.photos.put(made.id, photos)
        rooms.ticks.say(made.id, _ticks(parts.get("ticks.json", b"[]")))
        history.adopt(rooms.database, made.id, _past(parts.get("history.jsonl", b"")))
    return made.id


def _lay_under(rooms: Rooms, garden_id: str, parts: dict[str, bytes]) -> None:
    """The pictures of a garden's history, so that it can be stepped back to them."""
    for name, body in parts.items():
        if name.startswith("sketches/"):
            try:
                rooms.sketches.add(sketch_of(body, name), garden_id)
            except BadPicture as error:
                raise BadFile(str(error)) from None


def _parts(data: bytes) -> dict[str, bytes]:
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            infos = packed.infolist()
            if len(infos) > MOST_FILES or sum(i.file_size for i in infos) > MOST_UNPACKED:
                raise BadFile(f"Unpacked it is larger than {MOST_UNPACKED // 2**20} MB, or holds "
                              f"more than {MOST_FILES} files.")
            if "garden.json" not in packed.namelist():
                raise BadFile("This ZIP holds no “garden.json”. Everything of a garden is saved "
                              "under Safekeeping; a log alone is brought in on Keep.")
            return {info.filename: packed.read(info) for info in infos}
    except log_csv.UNREADABLE as error:
        if isinstance(error, BadFile):
            raise
        raise BadFile("This ZIP cannot be read: it may be cut short or spoilt.") from None


def _ticks(body: bytes) -> list[Tick]:
    try:
        return [Tick(str(t["step"])[:160] or "?", bool(t["done"]), int(t["age_ms"]))
                for t in json.loads(body)]
    except (ValueError, TypeError, KeyError, OverflowError):
        raise BadFile("“ticks.json” in this ZIP cannot be read.") from None


def _past(body: bytes) -> Iterator[Past]:
    """The changes in a history, each known to unpack. Raises BadFile."""
    whole: dict[int, bytes] = {}
    try:
        for line in body.decode().splitlines():
            told = json.loads(line)
            base = told["base"]
            frame = base64.b64decode(told["frame"], validate=True)
            text = states.unpacked(frame, None if base is None else whole[base])
            if base is None:
                whole[int(told["change"])] = text
                if sum(map(len, whole.values())) > MOST_UNPACKED:
                    raise BadFile(f"Its history is larger than {MOST_UNPACKED // 2**20} MB.")
            yield Past(int(told["change"]), told["before"] and int(told["before"]),
                       base and int(base), str(told["made_at"])[:40], str(told["title"])[:400],
                       str(told["name"])[:80], frame)
    except (ValueError, TypeError, KeyError, OverflowError) as error:
        if isinstance(error, BadFile):
            raise
        raise BadFile("“history.jsonl” in this ZIP cannot be read.") from None
