-- +goose NO TRANSACTION
-- +goose Up
-- A table that others refer to is made anew, which SQLite allows only with foreign keys off, and
-- that only outside a transaction. All of it is one transaction of its own, with its version in it.
PRAGMA foreign_keys = OFF;

BEGIN;

-- A seat can have several tries.
CREATE TABLE attempt_next (
    id INTEGER PRIMARY KEY,
    sitting_id INTEGER NOT NULL REFERENCES sitting (id),
    student_id INTEGER NOT NULL REFERENCES person (id),
    try INTEGER NOT NULL DEFAULT 1,
    form_id INTEGER NOT NULL REFERENCES form (id),
    state TEXT NOT NULL,
    started_at INTEGER NOT NULL,
    handed_in_at INTEGER,
    handed_in_by TEXT,
    given TEXT,
    UNIQUE (sitting_id, student_id, try)
) STRICT;

INSERT INTO attempt_next (id, sitting_id, student_id, try, form_id, state, started_at, handed_in_at, handed_in_by, given)
    SELECT id, sitting_id, student_id, 1, form_id, state, started_at, handed_in_at, handed_in_by, given FROM attempt;

DROP TABLE attempt;

ALTER TABLE attempt_next RENAME TO attempt;

CREATE INDEX attempt_working ON attempt (state) WHERE state = 'working';

CREATE INDEX attempt_by_form ON attempt (form_id);

-- How many tries a seat of a distribution has, and which of them counts.
ALTER TABLE distribution ADD COLUMN tries INTEGER NOT NULL DEFAULT 1;

ALTER TABLE distribution ADD COLUMN keep TEXT NOT NULL DEFAULT 'best';

-- What moved clocks: doors, and what students did. An attempt's time is computed from both.
CREATE TABLE door_move (
    sitting_id INTEGER NOT NULL REFERENCES sitting (id),
    position INTEGER NOT NULL,
    at INTEGER NOT NULL,
    door TEXT NOT NULL,
    PRIMARY KEY (sitting_id, position)
) STRICT, WITHOUT ROWID;

INSERT INTO door_move (sitting_id, position, at, door)
    SELECT sitting_id, ROW_NUMBER() OVER (PARTITION BY sitting_id ORDER BY at, number), at, door FROM (
        SELECT thing_id AS sitting_id, at, number, substr(act, 6) AS door FROM ledger
            WHERE thing = 'sitting' AND act IN ('door.open', 'door.paused', 'door.closed') AND thing_id IN (SELECT id FROM sitting)
        UNION ALL
        SELECT t.sitting_id, MIN(t.started_at), 0, 'open' FROM attempt t
            WHERE NOT EXISTS (SELECT 1 FROM ledger l WHERE l.thing = 'sitting' AND l.thing_id = t.sitting_id AND l.act = 'door.open' AND l.at <= t.started_at)
            GROUP BY t.sitting_id);

CREATE TABLE attempt_event (
    attempt_id INTEGER NOT NULL REFERENCES attempt (id),
    position INTEGER NOT NULL,
    at INTEGER NOT NULL,
    what TEXT NOT NULL,
    PRIMARY KEY (attempt_id, position)
) STRICT, WITHOUT ROWID;

INSERT INTO attempt_event (attempt_id, position, at, what) SELECT id, 1, started_at, 'begin' FROM attempt;

INSERT INTO attempt_event (attempt_id, position, at, what)
    SELECT id, 2, handed_in_at, 'handIn' FROM attempt WHERE handed_in_at IS NOT NULL AND handed_in_by <> 'clock';

-- The terms in force for an attempt, kept when it begins and again at each change.
CREATE TABLE attempt_terms (
    attempt_id INTEGER NOT NULL REFERENCES attempt (id),
    position INTEGER NOT NULL,
    at INTEGER NOT NULL,
    document TEXT NOT NULL,
    PRIMARY KEY (attempt_id, position)
) STRICT, WITHOUT ROWID;

INSERT INTO attempt_terms (attempt_id, position, at, document)
    SELECT t.id, 1, t.started_at, json_object('schema', 1,
            'from', strftime('%Y-%m-%dT%H:%M:%fZ', COALESCE(d.opens_at, 0) / 1000.0, 'unixepoch'),
            'to', strftime('%Y-%m-%dT%H:%M:%fZ', COALESCE(d.closes_at, 4102444800000) / 1000.0, 'unixepoch'),
            'minutes', d.minutes, 'tries', 1, 'keep', 'best')
        FROM attempt t JOIN sitting g ON g.id = t.sitting_id JOIN distribution d ON d.id = g.distribution_id;

-- Scorings are only ever added. credits holds each line's credit and outcome in few bytes; cuts the
-- raw score at which each band begins, in hundredths, as a JSON list.
CREATE TABLE scoring (
    id INTEGER PRIMARY KEY,
    attempt_id INTEGER NOT NULL REFERENCES attempt (id),
    form_id INTEGER NOT NULL REFERENCES form (id),
    kind TEXT NOT NULL,
    final INTEGER NOT NULL,
    raw INTEGER NOT NULL,
    band INTEGER,
    cuts TEXT NOT NULL,
    credits BLOB NOT NULL,
    at INTEGER NOT NULL,
    person_id INTEGER REFERENCES person (id)
) STRICT;

CREATE INDEX scoring_by_attempt ON scoring (attempt_id, id);

-- +goose StatementBegin
CREATE TRIGGER scoring_stays BEFORE UPDATE ON scoring BEGIN
    SELECT RAISE(ABORT, 'a scoring is only ever added');
END;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE TRIGGER scoring_is_kept BEFORE DELETE ON scoring BEGIN
    SELECT RAISE(ABORT, 'a scoring is only ever added');
END;
-- +goose StatementEnd

-- What counts of a seat, one row, so that a matrix reads one row a student. It follows from the
-- scorings and can be made anew from them.
CREATE TABLE result (
    sitting_id INTEGER NOT NULL REFERENCES sitting (id),
    student_id INTEGER NOT NULL REFERENCES person (id),
    attempt_id INTEGER NOT NULL REFERENCES attempt (id),
    scoring_id INTEGER NOT NULL REFERENCES scoring (id),
    final INTEGER NOT NULL,
    raw INTEGER NOT NULL,
    band INTEGER,
    credits BLOB NOT NULL,
    why TEXT NOT NULL,
    PRIMARY KEY (sitting_id, student_id)
) STRICT, WITHOUT ROWID;

CREATE INDEX result_counts ON result (sitting_id, final, band, raw);

CREATE INDEX result_by_attempt ON result (attempt_id);

INSERT INTO goose_db_version (version_id, is_applied) VALUES (20, 1);

COMMIT;

PRAGMA foreign_keys = ON;
