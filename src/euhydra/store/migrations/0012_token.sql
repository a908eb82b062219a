-- What devices hold that post readings or read today's plan: each for one garden and one thing.
CREATE TABLE token (
    id         TEXT PRIMARY KEY,
    garden_id  TEXT NOT NULL REFERENCES garden (id) ON DELETE CASCADE,
    scope      TEXT NOT NULL CHECK (scope IN ('readings', 'today')),
    name       TEXT NOT NULL,
    made_at    TEXT NOT NULL,
    used_at    TEXT NOT NULL
) STRICT, WITHOUT ROWID;
