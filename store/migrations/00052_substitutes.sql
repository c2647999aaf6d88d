-- +goose Up
-- Somebody who sees to rooms for a day in the place of their teacher, and came by a link. The link's secret is kept as a digest.
CREATE TABLE substitute (
    id INTEGER PRIMARY KEY,
    person_id INTEGER NOT NULL UNIQUE REFERENCES person (id),
    digest TEXT NOT NULL UNIQUE,
    day TEXT NOT NULL, -- of the district's calendar
    from_at INTEGER NOT NULL,
    until_at INTEGER NOT NULL,
    made_by INTEGER NOT NULL REFERENCES person (id),
    made_at INTEGER NOT NULL,
    came_at INTEGER, -- NULL until the link was used
    ended_at INTEGER -- NULL unless it was taken back
) STRICT;
CREATE TABLE substitute_sitting (
    substitute_id INTEGER NOT NULL REFERENCES substitute (id),
    sitting_id INTEGER NOT NULL REFERENCES sitting (id),
    PRIMARY KEY (substitute_id, sitting_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX substitute_by_sitting ON substitute_sitting (sitting_id);
