-- Who may come in from the network: a passphrase (its Argon2 hash), the devices let in, codes that let
-- one more in. Of what a device holds only the SHA-256 is kept; to revoke is to delete the row.
CREATE TABLE passphrase (
    one        INTEGER PRIMARY KEY CHECK (one = 1),
    hash       TEXT NOT NULL
) STRICT;

CREATE TABLE session (
    id         TEXT PRIMARY KEY,
    role       TEXT NOT NULL CHECK (role IN ('owner', 'guest')),
    name       TEXT NOT NULL,
    made_at    TEXT NOT NULL,
    seen_at    TEXT NOT NULL
) STRICT, WITHOUT ROWID;

CREATE TABLE pairing (
    id         TEXT PRIMARY KEY,
    role       TEXT NOT NULL CHECK (role IN ('owner', 'guest')),
    until      TEXT NOT NULL
) STRICT, WITHOUT ROWID;
