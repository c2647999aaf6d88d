-- +goose NO TRANSACTION
-- +goose Up
-- A table that others refer to is made anew, which SQLite allows only with foreign keys off, and
-- that only outside a transaction. All of it is one transaction of its own, with its version in it.
PRAGMA foreign_keys = OFF;

BEGIN;

-- A room that holds several sittings: they have one door. proctor_id sees to it; NULL: the teachers of the section do.
CREATE TABLE room (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL,
    proctor_id INTEGER REFERENCES person (id),
    made_by INTEGER REFERENCES person (id), -- NULL: the program
    made_at INTEGER NOT NULL
) STRICT;

CREATE INDEX room_by_proctor ON room (proctor_id);

-- A section has one sitting of a distribution, and further ones for makeups, each in a room that it shares with other sections.
CREATE TABLE sitting_next (
    id INTEGER PRIMARY KEY,
    distribution_id INTEGER NOT NULL REFERENCES distribution (id),
    section_id INTEGER NOT NULL REFERENCES section (id),
    school_id INTEGER NOT NULL REFERENCES school (id),
    door TEXT NOT NULL,
    door_at INTEGER NOT NULL DEFAULT 0,
    door_until INTEGER NOT NULL DEFAULT 0, -- when an open door closes by itself; 0: it does not
    code TEXT NOT NULL DEFAULT '', -- that students type at the door; '' where none was made yet
    setup TEXT NOT NULL DEFAULT '', -- what is in force, computed from the levels of settings
    opens_at INTEGER NOT NULL DEFAULT 0,
    closes_at INTEGER NOT NULL DEFAULT 0,
    ends_at INTEGER NOT NULL DEFAULT 0, -- when work is taken last
    room_id INTEGER REFERENCES room (id), -- NULL: a room of its own
    makeup INTEGER NOT NULL DEFAULT 0
) STRICT;

INSERT INTO sitting_next (id, distribution_id, section_id, school_id, door, door_at, door_until, code, setup, opens_at, closes_at, ends_at)
    SELECT id, distribution_id, section_id, school_id, door, door_at, door_until, code, setup, opens_at, closes_at, ends_at FROM sitting;

DROP TABLE sitting;

ALTER TABLE sitting_next RENAME TO sitting;

CREATE UNIQUE INDEX sitting_of_section ON sitting (distribution_id, section_id) WHERE makeup = 0;

CREATE UNIQUE INDEX sitting_by_distribution ON sitting (distribution_id, section_id, makeup, room_id);

CREATE INDEX sitting_by_section ON sitting (section_id);

CREATE INDEX sitting_by_end ON sitting (ends_at);

CREATE INDEX sitting_by_window ON sitting (closes_at, opens_at);

CREATE INDEX sitting_by_door_until ON sitting (door_until) WHERE door_until > 0;

CREATE INDEX sitting_by_room ON sitting (room_id) WHERE room_id IS NOT NULL;

-- Where an attempt was before its seat moved to another sitting: until at, the doors of that sitting moved its clock.
CREATE TABLE attempt_move (
    attempt_id INTEGER NOT NULL REFERENCES attempt (id),
    position INTEGER NOT NULL,
    at INTEGER NOT NULL,
    sitting_id INTEGER NOT NULL REFERENCES sitting (id),
    PRIMARY KEY (attempt_id, position)
) STRICT, WITHOUT ROWID;

INSERT INTO goose_db_version (version_id, is_applied) VALUES (48, 1);

COMMIT;

PRAGMA foreign_keys = ON;
