"""Who has the file of gardens open: apps may share it, bringing back a copy wants it alone."""

from __future__ import annotations

import os
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

try:
    import fcntl
except ImportError:  # where there is none, whoever brings back a copy minds that no app runs
    fcntl = None  # type: ignore[assignment]


class AlreadyInUse(RuntimeError):
    """An app runs on the file."""


@contextmanager
def shared(path: Path) -> Iterator[None]:
    """Hold the file for as long as an app runs on it, beside others."""
    with _held(path, exclusively=False):
        yield


@contextmanager
def alone(path: Path) -> Iterator[None]:
    """Hold the file with nobody else. Raises :class:`AlreadyInUse`."""
    with _held(path, exclusively=True):
        yield


@contextmanager
def _held(path: Path, *, exclusively: bool) -> Iterator[None]:
    if fcntl is None or not os.access(path.parent, os.W_OK):
        yield
        return
    with os.fdopen(os.open(path.with_name(f"{path.name}.lock"), os.O_CREAT | os.O_RDWR, 0o600),
                   "rb+") as lock:
        try:
            fcntl.flock(lock, (fcntl.LOCK_EX if exclusively else fcntl.LOCK_SH) | fcntl.LOCK_NB)
        except OSError:
            raise AlreadyInUse("Euhydra is running on this file. End it first, then bring the "
                               "copy back.") from None
        yield
