"""Open the file, bring it up to date, and run one transaction at a time."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from importlib.resources import files
from pathlib import Path

import platformdirs


class NewerFile(RuntimeError):
    """The file was written by a newer version of the app."""


def default_path() -> Path:
    """Where a person's gardens are kept unless they say otherwise."""
    return Path(platformdirs.user_data_dir("euhydra")) / "gardens.sqlite3"


class Database:
    """A SQLite file by its path. Each transaction opens its own connection, so threads may share.

    Foreign keys are enforced, the journal is a write-ahead log, and a transaction that returned
    is on the disk (``synchronous = FULL``).
    """

    def __init__(self, path: Path) -> None:
        self.path = path
        path.parent.mkdir(parents=True, exist_ok=True)
        with closing(self._connect()) as db:
            db.execute("PRAGMA journal_mode = WAL")
            migrate(db)

    @contextmanager
    def write(self) -> Iterator[sqlite3.Connection]:
        """One transaction that writes: all of it is kept, or none."""
        with closing(self._connect()) as db:
            db.execute("BEGIN IMMEDIATE")
            try:
                yield db
            except BaseException:
                db.execute("ROLLBACK")
                raise
            db.execute("COMMIT")

    @contextmanager
    def read(self) -> Iterator[sqlite3.Connection]:
        """One transaction that only reads: a single view of the file."""
        with closing(self._connect()) as db:
            db.execute("BEGIN")
            yield db
            db.execute("ROLLBACK")

    def _connect(self) -> sqlite3.Connection:
        db = sqlite3.connect(self.path, isolation_level=None, timeout=10)
        db.row_factory = sqlite3.Row
        db.execute("PRAGMA foreign_keys = ON")
        db.execute("PRAGMA synchronous = FULL")
        return db


def migrate(db: sqlite3.Connection) -> None:
    """Run the numbered .sql files past ``PRAGMA user_version``, each in a transaction of its own.

    Raises :class:`NewerFile` when the file is past the last of them.
    """
    steps = sorted((f for f in (files("euhydra.store") / "migrations").iterdir()
                    if f.name.endswith(".sql")), key=lambda f: f.name)
    at = int(db.execute("PRAGMA user_version").fetchone()[0])
    if at > len(steps):
        raise NewerFile(f"This file is at version {at}; this app knows versions up to "
                        f"{len(steps)}. Open it with the newer app.")
    for number, step in enumerate(steps[at:], start=at + 1):
        script = step.read_text(encoding="utf-8")
        db.executescript(f"BEGIN IMMEDIATE;\n{script}\nPRAGMA user_version = {number};\nCOMMIT;")
