"""Who may come in from the network: the passphrase, the devices let in, and codes for one more."""

from __future__ import annotations

import datetime as dt
import hashlib
import secrets
from dataclasses import dataclass
from typing import Literal

import argon2

from euhydra.store.database import Database

Role = Literal["owner", "guest", "neighbour"]
SHORTEST = 10
UNSEEN_DAYS = 180  # a device that was not seen for so long is let in anew
CODE_MINUTES: dict[Role, int] = {"owner": 10, "guest": 24 * 60, "neighbour": 24 * 60}
HASHER = argon2.PasswordHasher()


class TooShort(ValueError):
    """The passphrase is too short to keep anybody out."""


@dataclass(frozen=True)
class Session:
    """A device that was let in; ``id`` is no secret."""

    id: str
    role: Role
    name: str
    made_at: str
    seen_at: str


class Access:
    """Passphrase, devices and codes in a database."""

    def __init__(self, database: Database) -> None:
        self.database = database

    @property
    def has_passphrase(self) -> bool:
        """Whether one was chosen."""
        return self._hash() is not None

    def choose(self, passphrase: str) -> None:
        """Choose a passphrase. Every device is let in anew. Raises :class:`TooShort`."""
        if len(passphrase) < SHORTEST:
            raise TooShort(f"It has {len(passphrase)} signs; {SHORTEST} are the fewest. Three or "
                           "four words are easy to keep.")
        hashed = HASHER.hash(passphrase)
        with self.database.write() as db:
            db.execute("INSERT INTO passphrase VALUES (1, ?) ON CONFLICT DO UPDATE"
                       " SET hash = excluded.hash", (hashed,))
            db.execute("DELETE FROM session")
            db.execute("DELETE FROM pairing")

    def fits(self, passphrase: str) -> bool:
        """Whether it is the one that was chosen. Takes its time, as it should."""
        hashed = self._hash()
        if hashed is None:
            return False
        try:
            return HASHER.verify(hashed, passphrase[:1000])
        except argon2.exceptions.VerificationError:
            return False

    def _hash(self) -> str | None:
        with self.database.read() as db:
            row = db.execute("SELECT hash FROM passphrase").fetchone()
        return str(row["hash"]) if row else None

    def let_in(self, role: Role, name: str, now: dt.datetime) -> str:
        """Let a device in; returns what it holds from now on."""
        held = secrets.token_urlsafe(32)
        with self.database.write() as db:
            db.execute("INSERT INTO session VALUES (?, ?, ?, ?, ?)",
                       (hashed(held), role, name.strip()[:60] or "A device", *[text_of(now)] * 2))
        return held

    def role_of(self, held: str, now: dt.datetime) -> Role | None:
        """What a device may do by what it holds; None where it is not let in."""
        with self.database.read() as db:
            since = text_of(now - dt.timedelta(days=UNSEEN_DAYS))
            row = db.execute("SELECT id, role, seen_at FROM session WHERE id = ? AND seen_at > ?",
                             (hashed(held), since)).fetchone()
        if row is None:
            return None
        if row["seen_at"][:10] != text_of(now)[:10] and self.database.trouble is None:
            with self.database.write() as db:
                db.execute("UPDATE session SET seen_at = ? WHERE id = ?", (text_of(now), row["id"]))
        role: Role = row["role"]
        return role

    def sessions(self) -> list[Session]:
        """The devices that are let in, the last seen first."""
        with self.database.read() as db:
            rows = db.execute("SELECT * FROM session ORDER BY seen_at DESC, made_at DESC")
            return [Session(*row) for row in rows]

    def shut_out(self, session: str) -> bool:
        """Let a device in no more; whether there was one of that id."""
        with self.database.write() as db:
            return db.execute("DELETE FROM session WHERE id = ?", (session,)).rowcount > 0

    def offer(self, role: Role, now: dt.datetime) -> str:
        """A code that lets one device in, once, for a while."""
        code = secrets.token_urlsafe(18)
        until = now + dt.timedelta(minutes=CODE_MINUTES[role])
        with self.database.write() as db:
            db.execute("DELETE FROM pairing WHERE until < ?", (text_of(now),))
            db.execute("INSERT INTO pairing VALUES (?, ?, ?)", (hashed(code), role, text_of(until)))
        return code

    def offered(self, code: str, now: dt.datetime) -> Role | None:
        """What a code lets a device do; None where it is none, used or too old."""
        with self.database.read() as db:
            row = db.execute("SELECT role FROM pairing WHERE id = ? AND until >= ?",
                             (hashed(code), text_of(now))).fetchone()
        return row["role"] if row else None

    def take(self, code: str, name: str, now: dt.datetime) -> str | None:
        """Let a device in by a code, which is used up; None where it lets nobody in."""
        with self.database.write() as db:
            role = self.offered(code, now)
            if role is None:
                return None
            db.execute("DELETE FROM pairing WHERE id = ?", (hashed(code),))
            return self.let_in(role, name, now)


def hashed(held: str) -> str:
    """What is kept of a secret that a device holds: its SHA-256, enough for a random one."""
    return hashlib.sha256(held.encode("utf-8", "surrogatepass")).hexdigest()


def text_of(when: dt.datetime) -> str:
    """A time as it is kept: UTC, to the second."""
    return when.astimezone(dt.UTC).isoformat(timespec="seconds")
