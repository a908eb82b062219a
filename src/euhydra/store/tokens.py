"""Tokens of devices: each for one garden and one thing, named, and taken back by its row."""

from __future__ import annotations

import datetime as dt
import secrets
from dataclasses import dataclass
from typing import Literal

from euhydra.store.access import hashed, text_of
from euhydra.store.database import Database
from euhydra.store.gardens import require_garden

Scope = Literal["readings", "today"]
MOST = 40  # of one garden


class TooMany(ValueError):
    """A garden has as many tokens as it may have."""


@dataclass(frozen=True)
class Token:
    """A token's name and what it is for; ``id`` is no secret."""

    id: str
    garden: str
    scope: Scope
    name: str
    used_at: str


class Tokens:
    """The tokens in a database."""

    def __init__(self, database: Database) -> None:
        self.database = database

    def make(self, garden_id: str, scope: Scope, name: str, now: dt.datetime) -> str:
        """A new token; it is shown this once. Raises NoSuchGarden or :class:`TooMany`."""
        held = secrets.token_urlsafe(32)
        with self.database.write() as db:
            require_garden(db, garden_id)
            count = db.execute("SELECT count(*) FROM token WHERE garden_id = ?",
                               (garden_id,)).fetchone()[0]
            if count >= MOST:
                raise TooMany(f"A garden has {MOST} tokens at most. Take one back first.")
            db.execute("INSERT INTO token VALUES (?, ?, ?, ?, ?, '')",
                       (hashed(held), garden_id, scope, name.strip()[:60] or "A device",
                        text_of(now)))
        return held

    def lets(self, held: str, garden_id: str, scope: Scope, now: dt.datetime) -> bool:
        """Whether a token lets a device do a thing in a garden; notes the day it was used."""
        with self.database.read() as db:
            row = db.execute("SELECT used_at FROM token WHERE id = ? AND garden_id = ?"
                             " AND scope = ?", (hashed(held), garden_id, scope)).fetchone()
        if row is None:
            return False
        if row["used_at"][:10] != text_of(now)[:10] and self.database.trouble is None:
            with self.database.write() as db:
                db.execute("UPDATE token SET used_at = ? WHERE id = ?",
                           (text_of(now), hashed(held)))
        return True

    def all(self) -> list[Token]:
        """Every token, by garden and name."""
        with self.database.read() as db:
            rows = db.execute("SELECT token.id, garden_id, scope, name, used_at FROM token"
                              " ORDER BY garden_id, name").fetchall()
        return [Token(*row) for row in rows]

    def take_back(self, token: str) -> bool:
        """Let a token do nothing any more; whether there was one of that id."""
        with self.database.write() as db:
            return db.execute("DELETE FROM token WHERE id = ?", (token,)).rowcount > 0
