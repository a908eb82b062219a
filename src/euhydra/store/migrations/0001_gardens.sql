-- A garden's head names the change it stands at. Each change holds the whole garden after it and
-- the change it came from, so undo and redo only move the head, and nothing is ever overwritten.
CREATE TABLE garden (
    id         TEXT PRIMARY KEY CHECK (length(id) BETWEEN 1 AND 64),
    made_at    TEXT NOT NULL,
    head       INTEGER NOT NULL REFERENCES change (id) DEFERRABLE INITIALLY DEFERRED
) STRICT;

CREATE TABLE change (
    id         INTEGER PRIMARY KEY AUTOINCREMENT,
    garden_id  TEXT NOT NULL REFERENCES garden (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
    before_id  INTEGER REFERENCES change (id) DEFERRABLE INITIALLY DEFERRED,
    made_at    TEXT NOT NULL,
    title      TEXT NOT NULL,
    name       TEXT NOT NULL,
    doc        TEXT NOT NULL CHECK (json_valid(doc))
) STRICT;

CREATE INDEX change_before ON change (before_id, id);
CREATE INDEX change_garden ON change (garden_id, id);
