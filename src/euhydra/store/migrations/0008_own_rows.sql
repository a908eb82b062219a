-- Each garden's own copy of the rows of the tables that it used, for when a table has them no more.
CREATE TABLE own_row (
    garden_id  TEXT NOT NULL REFERENCES garden (id) ON DELETE CASCADE,
    of_table   TEXT NOT NULL,
    key        TEXT NOT NULL,
    row        TEXT NOT NULL CHECK (json_valid(row)),
    PRIMARY KEY (garden_id, of_table, key)
) STRICT, WITHOUT ROWID;
