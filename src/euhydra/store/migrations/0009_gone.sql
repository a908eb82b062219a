-- What was deleted can be put back for a month; then it goes from every table.
ALTER TABLE garden ADD COLUMN gone_at TEXT;
ALTER TABLE log ADD COLUMN gone_at TEXT;
UPDATE log SET gone_at = strftime('%Y-%m-%dT%H:%M:%S+00:00', 'now') WHERE gone = 1;

-- Which gardens, at any change, named a weather record: one that none names any more goes too.
CREATE TABLE weather_use (
    garden_id  TEXT NOT NULL REFERENCES garden (id) ON DELETE CASCADE,
    record_id  TEXT NOT NULL,
    PRIMARY KEY (garden_id, record_id)
) STRICT, WITHOUT ROWID;
INSERT OR IGNORE INTO weather_use SELECT change.garden_id, weather_record.id
  FROM change JOIN state ON state.change_id = change.id, weather_record
 WHERE unpacked(state.body) LIKE '%"' || weather_record.id || '"%' AND state.base_id IS NULL;

-- Records of gardens that went; one that no other garden names goes with them.
CREATE TABLE weather_gone (record_id TEXT PRIMARY KEY) STRICT, WITHOUT ROWID;
