-- Photos of the log, each belonging to an entry: JPEG, made small, with nothing else in it.
CREATE TABLE photo (
    garden_id  TEXT NOT NULL,
    entry      TEXT NOT NULL,
    jpeg       BLOB NOT NULL,
    width      INTEGER NOT NULL,
    height     INTEGER NOT NULL,
    PRIMARY KEY (garden_id, entry),
    FOREIGN KEY (garden_id, entry) REFERENCES log (garden_id, id) ON DELETE CASCADE
) STRICT;
