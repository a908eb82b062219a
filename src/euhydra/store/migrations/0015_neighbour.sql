-- A third role: a neighbour looks at everything and writes into the log, nothing else.
CREATE TABLE session_new (
    id         TEXT PRIMARY KEY,
    role       TEXT NOT NULL CHECK (role IN ('owner', 'guest', 'neighbour')),
    name       TEXT NOT NULL,
    made_at    TEXT NOT NULL,
    seen_at    TEXT NOT NULL
) STRICT, WITHOUT ROWID;
INSERT INTO session_new SELECT * FROM session;
DROP TABLE session;
ALTER TABLE session_new RENAME TO session;

CREATE TABLE pairing_new (
    id         TEXT PRIMARY KEY,
    role       TEXT NOT NULL CHECK (role IN ('owner', 'guest', 'neighbour')),
    until      TEXT NOT NULL
) STRICT, WITHOUT ROWID;
INSERT INTO pairing_new SELECT * FROM pairing;
DROP TABLE pairing;
ALTER TABLE pairing_new RENAME TO pairing;
