-- +goose Up
-- What the levels say of how assessments are given. purpose names a purpose at that level, '' at others; assessment_id is 0 for the
-- district, a purpose, and what a school says for all assessments; thing_id is the distribution, school or section.
CREATE TABLE setting (
    assessment_id INTEGER NOT NULL,
    level TEXT NOT NULL,
    thing_id INTEGER NOT NULL,
    purpose TEXT NOT NULL,
    key TEXT NOT NULL,
    value TEXT NOT NULL,
    lock TEXT NOT NULL,
    person_id INTEGER NOT NULL,
    person TEXT NOT NULL,
    at INTEGER NOT NULL,
    PRIMARY KEY (assessment_id, level, thing_id, purpose, key)
) STRICT, WITHOUT ROWID;

INSERT INTO setting (assessment_id, level, thing_id, purpose, key, value, lock, person_id, person, at)
    SELECT d.assessment_id, 'distribution', d.id, '', 'minutes', CAST(d.minutes AS TEXT), '', COALESCE(d.sent_by, 0),
        COALESCE(p.given || ' ' || p.family, ''), COALESCE(d.sent_at, 0)
    FROM distribution d LEFT JOIN person p ON p.id = d.sent_by WHERE d.minutes > 0;

INSERT INTO setting (assessment_id, level, thing_id, purpose, key, value, lock, person_id, person, at)
    SELECT assessment_id, 'distribution', id, '', 'attempts', CAST(tries AS TEXT), '', 0, '', COALESCE(sent_at, 0) FROM distribution WHERE tries > 1;

INSERT INTO setting (assessment_id, level, thing_id, purpose, key, value, lock, person_id, person, at)
    SELECT assessment_id, 'distribution', id, '', 'keep', json_quote(keep), '', 0, '', COALESCE(sent_at, 0) FROM distribution WHERE keep <> 'best';

-- What is in force at a sitting, computed from the levels; ends_at is when work is taken last.
ALTER TABLE sitting ADD COLUMN setup TEXT NOT NULL DEFAULT '';

ALTER TABLE sitting ADD COLUMN ends_at INTEGER NOT NULL DEFAULT 0;

UPDATE sitting SET
    ends_at = (SELECT COALESCE(d.closes_at, 0) FROM distribution d WHERE d.id = sitting.distribution_id),
    setup = (SELECT json_object('schema', 1,
            'opens', strftime('%Y-%m-%dT%H:%M:%fZ', COALESCE(d.opens_at, 0) / 1000.0, 'unixepoch'),
            'closes', strftime('%Y-%m-%dT%H:%M:%fZ', COALESCE(d.closes_at, 0) / 1000.0, 'unixepoch'),
            'ends', strftime('%Y-%m-%dT%H:%M:%fZ', COALESCE(d.closes_at, 0) / 1000.0, 'unixepoch'),
            'spans', NULL,
            'settings', json_patch('{}', json_object('minutes', NULLIF(d.minutes, 0), 'attempts', NULLIF(d.tries, 1), 'keep', NULLIF(d.keep, 'best'))))
        FROM distribution d WHERE d.id = sitting.distribution_id);

CREATE INDEX sitting_by_end ON sitting (ends_at);

ALTER TABLE distribution DROP COLUMN minutes;

ALTER TABLE distribution DROP COLUMN tries;

ALTER TABLE distribution DROP COLUMN keep;

-- When feedback was released to students.
ALTER TABLE distribution ADD COLUMN released_at INTEGER;

-- Whether its results are part of summaries; it follows from the settings.
ALTER TABLE distribution ADD COLUMN in_reports INTEGER NOT NULL DEFAULT 1;

-- The code that students type at the door; '' where none was made yet.
ALTER TABLE sitting ADD COLUMN code TEXT NOT NULL DEFAULT '';

-- The lines that a retake asks, counted from 1; NULL for all that it was given.
ALTER TABLE attempt ADD COLUMN asked TEXT;

-- Where students leave an item for good, its answer stays.
ALTER TABLE answer ADD COLUMN done INTEGER NOT NULL DEFAULT 0;
