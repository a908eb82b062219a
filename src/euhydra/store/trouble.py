"""What may be the matter with the file of gardens, in words: what happened and what to do."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path


class NewerFile(RuntimeError):
    """The file was written by a newer version of the app."""

    def __init__(self, at: int, known: int) -> None:
        super().__init__(f"This file is at version {at}; this app knows versions up to {known}. "
                         "Open it with the newer app.")


class BadCopy(ValueError):
    """The file is no copy that can be brought back, or none that was made is sound; in words."""


@dataclass(frozen=True)
class Trouble:
    """Why a file is open read-only: ``kind`` for programs, the rest for people."""

    kind: str
    what: str
    do: str

    def __str__(self) -> str:
        return f"{self.what} {self.do}"


class CannotWrite(RuntimeError):
    """The file is open read-only."""

    def __init__(self, trouble: Trouble) -> None:
        super().__init__(f"{trouble.what} Nothing was changed. {trouble.do}")
        self.trouble = trouble


RESTORE = ("Save the file as it is, then bring back a copy: “euhydra restore COPY”. Copies lie in "
           "the folder beside the file.")
KINDS: tuple[tuple[str, tuple[str, ...], str, str], ...] = (
    ("full", ("disk is full", "no space left", "database or disk is full"),
     "The disk is full.", "Make room, then start Euhydra again."),
    ("read-only", ("readonly", "read-only", "permission denied", "unable to open",
                   "operation not permitted", "is a directory", "file exists"),
     "The file of gardens cannot be written to.",
     "Let whoever runs Euhydra write to it and to its folder, then start again."),
    ("busy", ("locked", "busy"), "Another program holds the file of gardens.",
     "Close that program, then try again."),
    ("not-gardens", ("not a database", "file is encrypted"),
     "The file is not one that Euhydra keeps gardens in.",
     "Name another with --db; or, if it was one, " + RESTORE[0].lower() + RESTORE[1:]),
    ("damaged", (), "The file of gardens is damaged.", RESTORE))


def of(error: Exception, path: Path | None = None) -> Trouble:
    """An error of SQLite or of the disk in words."""
    if isinstance(error, NewerFile):
        return Trouble("newer", str(error), "Nothing in it was touched.")
    if isinstance(error, BadCopy):
        return Trouble("damaged", f"No sound copy can be made before the upgrade. {error}", RESTORE)
    said = str(error).lower()
    kind, _, what, do = next((k for k in KINDS if any(sign in said for sign in k[1])), KINDS[-1])
    where = f" It is {path}." if path else ""
    return Trouble(kind, what + where, do)
