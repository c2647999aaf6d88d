-- +goose Up
-- The periods of a school's week; 0 is Sunday, times are of the school's day.
CREATE TABLE bell (
    school_id INTEGER NOT NULL REFERENCES school (id),
    weekday INTEGER NOT NULL,
    from_time TEXT NOT NULL,
    to_time TEXT NOT NULL,
    name TEXT NOT NULL,
    PRIMARY KEY (school_id, weekday, from_time)
) STRICT, WITHOUT ROWID;

-- When an open door closes by itself; 0: it does not.
ALTER TABLE sitting ADD COLUMN door_until INTEGER NOT NULL DEFAULT 0;

CREATE INDEX sitting_by_door_until ON sitting (door_until) WHERE door_until > 0;
