-- What a garden was after each change: whole now and then, else as the difference from a whole one.
-- packed() is the app's own function (store/states.py).
CREATE TABLE state (
    change_id  INTEGER PRIMARY KEY REFERENCES change (id) ON DELETE CASCADE,
    base_id    INTEGER REFERENCES state (change_id) DEFERRABLE INITIALLY DEFERRED,
    body       BLOB NOT NULL
) STRICT;

CREATE INDEX state_base ON state (base_id);
WITH numbered AS (
    SELECT id, garden_id, row_number() OVER (PARTITION BY garden_id ORDER BY id) - 1 AS n FROM change)
INSERT INTO state (change_id, base_id, body)
    SELECT one.id, nullif(whole.id, one.id),
        CASE WHEN one.id = whole.id THEN packed(mine.doc) ELSE packed(mine.doc, other.doc) END
    FROM numbered AS one
    JOIN numbered AS whole ON whole.garden_id = one.garden_id AND whole.n = one.n - one.n % 200
    JOIN change AS mine ON mine.id = one.id
    JOIN change AS other ON other.id = whole.id
    ORDER BY one.id;
ALTER TABLE change DROP COLUMN doc;
