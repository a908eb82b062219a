-- What a garden was after each change: whole now and then, else as the difference from a whole one.
-- packed() is the app's own function (store/states.py).
CREATE TABLE state (
    change_id  INTEGER PRIMARY KEY REFERENCES change (id) ON DELETE CASCADE,
    base_id    INTEGER REFERENCES state (change_id) DEFERRABLE INITIALLY DEFERRED,
    body       BLOB NOT NULL
) STRICT;

CREATE INDEX state_base ON state (base_id);
INSERT INTO state (change_id, body) SELECT id, packed(doc) FROM change;
ALTER TABLE change DROP COLUMN doc;
