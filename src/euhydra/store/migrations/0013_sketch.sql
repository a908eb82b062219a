-- A picture under a ground plan is named by its content, so gardens and their history may share it.
CREATE TABLE sketch (
    id     TEXT PRIMARY KEY CHECK (length(id) = 16),
    jpeg   BLOB NOT NULL,
    width  INTEGER NOT NULL CHECK (width > 0),
    height INTEGER NOT NULL CHECK (height > 0)
) STRICT, WITHOUT ROWID;

-- Which gardens, at any change, lay on a picture: one that none does any more goes too.
CREATE TABLE sketch_use (
    garden_id TEXT NOT NULL REFERENCES garden (id) ON DELETE CASCADE,
    sketch_id TEXT NOT NULL,
    PRIMARY KEY (garden_id, sketch_id)
) STRICT, WITHOUT ROWID;
