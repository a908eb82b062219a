-- Rain that one's own weather feed foretells, by day; a later word takes an earlier one's place.
CREATE TABLE forecast (
    garden_id  TEXT NOT NULL REFERENCES garden (id) ON DELETE CASCADE,
    day        TEXT NOT NULL,
    rain_mm    REAL NOT NULL CHECK (rain_mm BETWEEN 0 AND 500),
    PRIMARY KEY (garden_id, day)
) STRICT, WITHOUT ROWID;
