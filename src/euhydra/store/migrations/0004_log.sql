-- The log: what was read and done. An entry's id is made where it is typed, so it may arrive twice.
CREATE TABLE log (
    garden_id  TEXT NOT NULL REFERENCES garden (id) ON DELETE CASCADE,
    id         TEXT NOT NULL CHECK (length(id) BETWEEN 8 AND 40),
    day        TEXT NOT NULL CHECK (length(day) = 10),
    kind       TEXT NOT NULL,
    about      TEXT NOT NULL,
    value      REAL,
    word       TEXT NOT NULL,
    note       TEXT NOT NULL,
    first_ms   INTEGER NOT NULL,
    gone       INTEGER NOT NULL DEFAULT 0 CHECK (gone IN (0, 1)),
    PRIMARY KEY (garden_id, id)
) STRICT, WITHOUT ROWID;

CREATE INDEX log_day ON log (garden_id, day);
