-- A step ticked or unticked: the last word by the clock of whoever said it stands.
CREATE TABLE tick (
    garden_id  TEXT NOT NULL REFERENCES garden (id) ON DELETE CASCADE,
    step       TEXT NOT NULL CHECK (length(step) BETWEEN 1 AND 160),
    done       INTEGER NOT NULL CHECK (done IN (0, 1)),
    said_ms    INTEGER NOT NULL,
    PRIMARY KEY (garden_id, step)
) STRICT, WITHOUT ROWID;
