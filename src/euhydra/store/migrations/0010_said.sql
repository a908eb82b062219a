-- Who made a change (a browser's own mark, empty where it has none), what a thing was called when
-- something was logged of it, and what a device's own clock said of a tick.
ALTER TABLE change ADD COLUMN made_by TEXT NOT NULL DEFAULT '';
ALTER TABLE log ADD COLUMN named TEXT NOT NULL DEFAULT '';
ALTER TABLE tick ADD COLUMN device_ms INTEGER;
