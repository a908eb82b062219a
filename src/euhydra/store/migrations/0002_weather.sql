-- A record is named by its content, so gardens and their history may share it and it never changes.
CREATE TABLE weather_record (
    id         TEXT PRIMARY KEY CHECK (length(id) = 16),
    made_at    TEXT NOT NULL,
    name       TEXT NOT NULL,
    first_year INTEGER NOT NULL,
    years      INTEGER NOT NULL CHECK (years > 0),
    reading    TEXT NOT NULL CHECK (json_valid(reading))
) STRICT;

CREATE TABLE weather_day (
    record_id  TEXT NOT NULL REFERENCES weather_record (id) ON DELETE CASCADE,
    day        INTEGER NOT NULL,
    rain_mm    REAL NOT NULL,
    tmin_c     REAL NOT NULL,
    tmax_c     REAL NOT NULL,
    humidity   REAL,
    dewpoint_c REAL,
    wind_m_s   REAL,
    radiation  REAL,
    sunshine_h REAL,
    PRIMARY KEY (record_id, day)
) STRICT, WITHOUT ROWID;
