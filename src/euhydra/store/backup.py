"""Checked copies of the file: made, kept by a rule, and brought back.

Seven daily copies are kept, one a week for eight weeks, every copy made before a migration or
before another was brought back, and every one that was asked for.
"""

from __future__ import annotations

import datetime as dt
import os
import re
import sqlite3
from contextlib import closing
from dataclasses import dataclass
from pathlib import Path

from euhydra.core.library import Library
from euhydra.store.database import Database, connect, migrations, spoilt_text_told, version
from euhydra.store.trouble import BadCopy, NewerFile

DAILY, WEEKLY = 7, 8
RULE = (f"{DAILY} daily copies, one a week for {WEEKLY} weeks, and all that were made before an "
        "upgrade, before another was brought back, or by hand")


@dataclass(frozen=True)
class Copy:
    """A copy: where it lies, how many gardens it holds, and which of them cannot be read."""

    path: Path
    gardens: int
    unreadable: tuple[str, ...] = ()


def make(database: Database, to: Path, library: Library | None = None) -> Copy:
    """Copy the file while it is in use, check the copy whole, and only then give it its name.

    Raises :class:`BadCopy` when the copy is not sound, :class:`FileExistsError` when something is
    there already, OSError or sqlite3.Error when it cannot be written.
    """
    if to.exists():
        raise FileExistsError(f"{to} is there already. Name another file.")
    to.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
    part = to.with_name(f".{to.name}.part")
    part.unlink(missing_ok=True)
    os.close(os.open(part, os.O_CREAT | os.O_WRONLY | os.O_EXCL, 0o600))
    try:
        with closing(connect(database.path, "ro")) as source, closing(connect(part)) as copy:
            source.backup(copy)
            copy.execute("PRAGMA journal_mode = DELETE")
        told = checked(part, library)
        with part.open("rb+") as written:
            os.fsync(written.fileno())
        part.rename(to)
    finally:
        part.unlink(missing_ok=True)
    return Copy(to, told.gardens, told.unreadable)


def checked(path: Path, library: Library | None = None) -> Copy:
    """A file looked through: sound, of a version known here, and each garden read.

    Without the tables gardens are counted and not read, as before a migration.
    """
    from euhydra.store.gardens import Gardens  # it is kept in a Database, which makes copies

    if not path.is_file():
        raise BadCopy(f"There is no file {path}.")
    try:
        with spoilt_text_told(), closing(connect(path, "ro")) as db:
            found = db.execute("PRAGMA integrity_check(1)").fetchone()[0]
            if found != "ok":
                raise BadCopy(f"{path} is damaged: {found}.")
            at, known = version(db), len(migrations())
            if at > known:
                raise BadCopy(str(NewerFile(at, known)))
            if at == 0:
                raise BadCopy(f"{path} holds no gardens of Euhydra.")
            count = int(db.execute("SELECT count(*) FROM garden").fetchone()[0])
            bad = (Gardens.unreadable_in(db, library) if library is not None and at == known
                   else ())
    except sqlite3.Error as error:
        raise BadCopy(f"{path} is not a file that Euhydra keeps gardens in ({error}).") from None
    return Copy(path, count, bad)


def before_migration(database: Database, at: int) -> Copy:
    """A copy made before the file is brought up from a version."""
    return make(database, _free(database.backups / f"before-upgrade-from-{at}-{_stamp()}.sqlite3"))


def by_hand(database: Database, library: Library, to: Path | None = None) -> Copy:
    """A copy that was asked for."""
    return make(database, to or _free(database.backups / f"by-hand-{_stamp()}.sqlite3"), library)


def daily(database: Database, library: Library, today: dt.date) -> Copy | None:
    """The day's copy, where there is none yet; then those that the rule keeps no longer go."""
    path = database.backups / f"daily-{today.isoformat()}.sqlite3"
    if path.exists():
        return None
    made = make(database, path, library)
    for old in spare(there(database), today):
        old.unlink(missing_ok=True)
    return made


def there(database: Database) -> list[Path]:
    """All copies beside the file, the newest first."""
    if not database.backups.is_dir():
        return []
    return sorted((p for p in database.backups.glob("*.sqlite3") if not p.name.startswith(".")),
                  key=lambda p: p.stat().st_mtime, reverse=True)


def spare(copies: list[Path], today: dt.date) -> list[Path]:
    """The daily copies that the rule keeps no longer."""
    dated = sorted(((day, p) for p in copies if (day := _day_of(p))), reverse=True)
    kept = {p for _, p in dated[:DAILY]}
    weeks: dict[tuple[int, int], Path] = {}
    for day, path in dated:
        if (today - day).days < 7 * WEEKLY:
            weeks.setdefault(day.isocalendar()[:2], path)
    kept |= set(weeks.values())
    return [p for _, p in dated if p not in kept]


def _day_of(path: Path) -> dt.date | None:
    found = re.fullmatch(r"daily-(\d{4}-\d\d-\d\d)\.sqlite3", path.name)
    try:
        return dt.date.fromisoformat(found[1]) if found else None
    except ValueError:
        return None


def restore(database_path: Path, copy: Path, library: Library) -> tuple[Copy, Path | None]:
    """Put a checked copy in the file's place; what was there is kept beside it first.

    Returns the copy and where that is. Raises :class:`BadCopy`. No app may be running on the file.
    """
    told = checked(copy, library)
    kept = _set_aside(database_path)
    part = database_path.with_name(f".{database_path.name}.part")
    part.unlink(missing_ok=True)
    os.close(os.open(part, os.O_CREAT | os.O_WRONLY | os.O_EXCL, 0o600))
    with closing(connect(copy, "ro")) as source, closing(connect(part)) as target:
        source.backup(target)
    for tail in ("-wal", "-shm"):
        database_path.with_name(database_path.name + tail).unlink(missing_ok=True)
    part.rename(database_path)
    return told, kept


def _set_aside(path: Path) -> Path | None:
    """Keep the file that is there: as a copy where it can be read, else as it lies on the disk."""
    if not path.exists():
        return None
    folder = path.with_name(f"{path.stem}-copies")
    folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    kept = _free(folder / f"before-restore-{_stamp()}.sqlite3")
    try:
        with (spoilt_text_told(), closing(connect(path, "ro")) as source,
              closing(connect(kept)) as target):
            source.backup(target)
            sound = target.execute("PRAGMA quick_check(1)").fetchone()[0] == "ok"
    except sqlite3.Error:
        sound = False
    if not sound:
        for tail in ("", "-wal", "-shm"):
            lying = path.with_name(path.name + tail)
            if lying.exists():
                kept.with_name(kept.name + tail).write_bytes(lying.read_bytes())
    kept.chmod(0o600)
    return kept


def _stamp() -> str:
    return dt.datetime.now().strftime("%Y-%m-%d-%H%M%S")


def _free(path: Path) -> Path:
    number, free = 2, path
    while free.exists():
        free = path.with_name(f"{path.stem}-{number}{path.suffix}")
        number += 1
    return free
