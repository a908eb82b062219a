-- What entries of the log said before they were changed, so that a change can be undone.
CREATE TABLE log_was (
    garden_id  TEXT NOT NULL,
    id         TEXT NOT NULL,
    number     INTEGER NOT NULL,
    day        TEXT NOT NULL,
    kind       TEXT NOT NULL,
    about      TEXT NOT NULL,
    value      REAL,
    word       TEXT NOT NULL,
    note       TEXT NOT NULL,
    PRIMARY KEY (garden_id, id, number),
    FOREIGN KEY (garden_id, id) REFERENCES log (garden_id, id) ON DELETE CASCADE
) STRICT, WITHOUT ROWID;
