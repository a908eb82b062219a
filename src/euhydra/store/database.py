"""Open the file, bring it up to date, and run one transaction at a time."""

from __future__ import annotations

import os
import sqlite3
import threading
from collections.abc import Iterator
from contextlib import closing, contextmanager
from importlib.resources import files
from pathlib import Path

import platformdirs

from euhydra.store import states, trouble
from euhydra.store.trouble import CannotWrite, Trouble

OWNER_FILE, OWNER_FOLDER = 0o600, 0o700


def default_path() -> Path:
    """Where a person's gardens are kept unless they say otherwise."""
    return Path(platformdirs.user_data_dir("euhydra")) / "gardens.sqlite3"


class Database:
    """A SQLite file by its path. Each transaction opens its own connection, so threads may share.

    Foreign keys are enforced, the journal is a write-ahead log, and a transaction that returned
    is on the disk (``synchronous = FULL``). A transaction inside another of the same thread is
    part of it: what a person does at once is kept at once, or not at all.

    A file that is damaged, of a newer app, or cannot be written to opens read-only; ``trouble``
    says which, and what to do.
    """

    def __init__(self, path: Path) -> None:
        self.path = path
        self.trouble: Trouble | None = None
        self._open = threading.local()
        try:
            _for_owner_alone(path)
            self._prepare()
        except (sqlite3.Error, OSError, trouble.NewerFile, trouble.BadCopy) as error:
            self.trouble = trouble.of(error, path)

    @property
    def backups(self) -> Path:
        """The folder of its copies, beside it."""
        return self.path.with_name(f"{self.path.stem}-copies")

    def _prepare(self) -> None:
        from euhydra.store import backup  # it opens databases itself

        with spoilt_text_told(), closing(self._connect()) as db:
            found = db.execute("PRAGMA quick_check(1)").fetchone()[0]
            if found != "ok":
                raise sqlite3.DatabaseError(f"malformed: {found}")
            at, wanted = version(db), len(migrations())
            if at > wanted:
                raise trouble.NewerFile(at, wanted)
            if 0 < at < wanted:
                backup.before_migration(self, at)
            db.execute("PRAGMA journal_mode = WAL")
            migrate(db)

    @contextmanager
    def write(self) -> Iterator[sqlite3.Connection]:
        """One transaction that writes: all of it is kept, or none.

        Raises :class:`~euhydra.store.trouble.CannotWrite` where the file is open read-only.
        """
        if self.trouble:
            raise CannotWrite(self.trouble)
        there = self._running()
        if there is not None:
            yield there
            return
        with spoilt_text_told(), closing(self._connect()) as db:
            db.execute("BEGIN IMMEDIATE")
            self._open.db = db
            try:
                yield db
                db.execute("COMMIT")
            except BaseException:
                if db.in_transaction:
                    db.execute("ROLLBACK")
                raise
            finally:
                self._open.db = None

    @contextmanager
    def read(self) -> Iterator[sqlite3.Connection]:
        """One transaction that only reads: a single view of the file, for what it calls too."""
        there = self._running() or getattr(self._open, "seen", None)
        if there is not None:
            yield there
            return
        with spoilt_text_told(), closing(self._connect()) as db:
            db.execute("BEGIN")
            self._open.seen = db
            try:
                yield db
            finally:
                self._open.seen = None
            db.execute("ROLLBACK")

    def _running(self) -> sqlite3.Connection | None:
        """The connection of a transaction that this thread is in."""
        return getattr(self._open, "db", None)

    def _connect(self) -> sqlite3.Connection:
        if self.trouble is None:
            return connect(self.path)
        return connect(self.path, "ro")


@contextmanager
def spoilt_text_told() -> Iterator[None]:
    """Tell of text in a file that is none, or of an error that quotes it, as of other damage."""
    try:
        yield
    except UnicodeDecodeError as error:
        raise sqlite3.DatabaseError(f"malformed: text that is none ({error.reason})") from None


def connect(path: Path, mode: str = "rwc") -> sqlite3.Connection:
    """A connection in a mode of SQLite's URIs, with what every one here needs.

    Read-only, a file whose folder cannot be written to opens as it lies on the disk.
    """
    way = path.absolute().as_uri()
    db = sqlite3.connect(f"{way}?mode={mode}", uri=True, isolation_level=None, timeout=10)
    db.row_factory = sqlite3.Row
    db.create_function("packed", -1, states.packed, deterministic=True)
    db.create_function("unpacked", 1, lambda frame: states.unpacked(frame).decode(),
                       deterministic=True)
    if mode == "ro":
        try:
            db.execute("SELECT 1 FROM sqlite_master").fetchone()
        except sqlite3.OperationalError as error:
            db.close()
            if trouble.of(error).kind != "read-only":
                raise
            db = sqlite3.connect(f"{way}?immutable=1", uri=True, isolation_level=None)
            db.row_factory = sqlite3.Row
        return db
    db.execute("PRAGMA foreign_keys = ON")
    db.execute("PRAGMA synchronous = FULL")
    return db


def _for_owner_alone(path: Path) -> None:
    """Make the folder and the file, if they are not there, for whoever runs the app alone."""
    if not path.parent.exists():
        path.parent.mkdir(parents=True, mode=OWNER_FOLDER)
    if path.parent == default_path().parent and path.parent.stat().st_uid == os.getuid():
        path.parent.chmod(OWNER_FOLDER)
    if path.exists():
        if path.stat().st_uid == os.getuid() and path.stat().st_mode & 0o077:
            path.chmod(OWNER_FILE)
        return
    os.close(os.open(path, os.O_CREAT | os.O_WRONLY, OWNER_FILE))


def version(db: sqlite3.Connection) -> int:
    """How many migrations a file has been through."""
    return int(db.execute("PRAGMA user_version").fetchone()[0])


def migrations() -> list[str]:
    """The numbered .sql files, in order, as text."""
    steps = sorted((f for f in (files("euhydra.store") / "migrations").iterdir()
                    if f.name.endswith(".sql")), key=lambda f: f.name)
    return [step.read_text(encoding="utf-8") for step in steps]


def migrate(db: sqlite3.Connection) -> None:
    """Run the migrations past ``PRAGMA user_version``, each in a transaction of its own."""
    at = version(db)
    for number, script in enumerate(migrations()[at:], start=at + 1):
        try:
            db.executescript(
                f"BEGIN IMMEDIATE;\n{script}\nPRAGMA user_version = {number};\nCOMMIT;")
        except BaseException:
            if db.in_transaction:
                db.execute("ROLLBACK")
            raise
