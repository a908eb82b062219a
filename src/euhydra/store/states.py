"""States of a garden as they are kept: whole, or as the difference from a whole one.

A difference is a Zstandard frame whose dictionary is the whole state's text, so that what did not
change costs nothing. Every difference hangs on a whole state directly: reading one takes two
frames, however old the garden is. Frames carry a checksum, so damage is seen, not read.
"""

from __future__ import annotations

import sqlite3

import zstandard

LEVEL = 3
MOST_ON_ONE = 200  # differences on one whole state
WORTH = 0.4  # a difference larger than this share of the whole is kept whole
LARGEST = 64 * 2**20  # of a text, so that no frame can ask for more


class Damaged(ValueError):
    """The state's bytes are not what was written."""


def packed(text: str | bytes, base: str | bytes | None = None) -> bytes:
    """A text as a frame, against another text where one is given."""
    raw = text.encode() if isinstance(text, str) else text
    base = base.encode() if isinstance(base, str) else base
    if base is None:
        return zstandard.ZstdCompressor(level=9, write_checksum=True).compress(raw)
    window = max(10, min((len(raw) + len(base)).bit_length(), 27))
    how = zstandard.ZstdCompressionParameters.from_level(
        LEVEL, source_size=len(raw), dict_size=len(base), window_log=window, write_checksum=True)
    return zstandard.ZstdCompressor(dict_data=_dictionary(base),
                                    compression_params=how).compress(raw)


def unpacked(frame: bytes, base: bytes | None = None) -> bytes:
    """The text in a frame. Raises :class:`Damaged`."""
    reader = (zstandard.ZstdDecompressor(max_window_size=2**27) if base is None else
              zstandard.ZstdDecompressor(dict_data=_dictionary(base), max_window_size=2**27))
    try:
        if not 0 < zstandard.get_frame_parameters(frame).content_size <= LARGEST:
            raise Damaged("its stored bytes are no garden")
        return reader.decompress(frame)
    except zstandard.ZstdError:
        raise Damaged("its stored bytes are damaged") from None


def _dictionary(base: bytes) -> zstandard.ZstdCompressionDict:
    return zstandard.ZstdCompressionDict(base, dict_type=zstandard.DICT_TYPE_RAWCONTENT)


def write(db: sqlite3.Connection, change: int, before: int | None, text: str) -> None:
    """Keep what a garden is after a change that was made on ``before``."""
    base = _base_of(db, before)
    whole, frame = packed(text), b""
    if base is not None:
        try:
            frame = packed(text, _whole(db, base))
        except Damaged:
            base = None
    if base is None or len(frame) > WORTH * len(whole):
        base, frame = None, whole
    db.execute("INSERT INTO state (change_id, base_id, body) VALUES (?, ?, ?)",
               (change, base, frame))


def _base_of(db: sqlite3.Connection, before: int | None) -> int | None:
    """The whole state that a change's difference may hang on; None when a new one is due."""
    if before is None:
        return None
    row = db.execute("SELECT coalesce(base_id, change_id) FROM state WHERE change_id = ?",
                     (before,)).fetchone()
    if row is None:
        return None
    hang = db.execute("SELECT count(*) FROM state WHERE base_id = ?", (row[0],)).fetchone()[0]
    return int(row[0]) if hang < MOST_ON_ONE else None


def _whole(db: sqlite3.Connection, change: int) -> bytes:
    row = db.execute("SELECT body FROM state WHERE change_id = ?", (change,)).fetchone()
    if row is None:
        raise Damaged("what it hangs on is missing")
    return unpacked(row[0])


def read(db: sqlite3.Connection, change: int) -> str:
    """The text of a garden after a change. Raises :class:`Damaged`."""
    row = db.execute("SELECT base_id, body FROM state WHERE change_id = ?", (change,)).fetchone()
    if row is None:
        raise Damaged("its stored text is missing")
    base = None if row["base_id"] is None else _whole(db, row["base_id"])
    try:
        return unpacked(row["body"], base).decode()
    except UnicodeDecodeError:
        raise Damaged("its stored text is no text") from None


def let_go(db: sqlite3.Connection, going: set[int]) -> None:
    """Take states away; what stays and hangs on one of them hangs on the first of its like."""
    hanging: dict[int, list[int]] = {}
    for change, base in db.execute("SELECT change_id, base_id FROM state WHERE base_id IS NOT NULL"
                                   " ORDER BY change_id").fetchall():
        if base in going and change not in going:
            hanging.setdefault(base, []).append(change)
    for stay in hanging.values():
        texts = {change: read(db, change) for change in stay}
        first = stay[0]
        for change, text in texts.items():
            base = None if change == first else first
            frame = packed(text, texts[first].encode() if base else None)
            db.execute("UPDATE state SET base_id = ?, body = ? WHERE change_id = ?",
                       (base, frame, change))
    db.executemany("DELETE FROM state WHERE change_id = ?", [(change,) for change in going])
