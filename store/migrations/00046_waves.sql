-- +goose Up
-- Whom a distribution is for, as entries, and its windows, as waves. What the entries come to stays in distribution_section and
-- distribution_left_out, opens_at and closes_at are the whole of the waves.
ALTER TABLE distribution ADD COLUMN whom TEXT NOT NULL DEFAULT '{"schema":1,"entries":[],"follow":false}';

ALTER TABLE distribution ADD COLUMN waves TEXT NOT NULL DEFAULT '{"schema":1,"waves":[]}';

UPDATE distribution SET
    whom = json_object('schema', 1, 'follow', json('false'), 'entries', CASE
        WHEN NOT EXISTS (SELECT 1 FROM distribution_section s WHERE s.distribution_id = distribution.id) THEN json('[]')
        WHEN NOT EXISTS (SELECT 1 FROM distribution_left_out o WHERE o.distribution_id = distribution.id) THEN json_array(
            json_object('sections', (SELECT json_group_array(s.section_id) FROM distribution_section s WHERE s.distribution_id = distribution.id)))
        ELSE json_array(
            json_object('sections', (SELECT json_group_array(s.section_id) FROM distribution_section s WHERE s.distribution_id = distribution.id)),
            json_object('out', json('true'), 'students', (SELECT json_group_array(o.student_id) FROM distribution_left_out o WHERE o.distribution_id = distribution.id)))
        END),
    waves = json_object('schema', 1, 'waves', json_array(json_object('name', '',
        'from', COALESCE(strftime('%Y-%m-%dT%H:%M:%fZ', opens_at / 1000.0, 'unixepoch'), '0001-01-01T00:00:00Z'),
        'to', COALESCE(strftime('%Y-%m-%dT%H:%M:%fZ', closes_at / 1000.0, 'unixepoch'), '0001-01-01T00:00:00Z'))));

-- The window of a sitting is that of its wave.
ALTER TABLE sitting ADD COLUMN opens_at INTEGER NOT NULL DEFAULT 0;

ALTER TABLE sitting ADD COLUMN closes_at INTEGER NOT NULL DEFAULT 0;

UPDATE sitting SET opens_at = COALESCE((SELECT d.opens_at FROM distribution d WHERE d.id = sitting.distribution_id), 0),
    closes_at = COALESCE((SELECT d.closes_at FROM distribution d WHERE d.id = sitting.distribution_id), 0);

CREATE INDEX sitting_by_window ON sitting (closes_at, opens_at);

-- How a seat came after it was sent: by a rule or by hand; '' for those that were sent.
ALTER TABLE seat ADD COLUMN came TEXT NOT NULL DEFAULT '';

ALTER TABLE seat ADD COLUMN came_at INTEGER NOT NULL DEFAULT 0;

-- Lists of students with a name. rule says who is in it where that is worked out: with a support, below a band; '' for a list.
CREATE TABLE student_group (
    id INTEGER PRIMARY KEY,
    owner_id INTEGER NOT NULL REFERENCES person (id),
    name TEXT NOT NULL,
    rule TEXT NOT NULL,
    made_at INTEGER NOT NULL,
    UNIQUE (owner_id, name)
) STRICT;

CREATE TABLE student_group_member (
    group_id INTEGER NOT NULL REFERENCES student_group (id),
    student_id INTEGER NOT NULL REFERENCES person (id),
    PRIMARY KEY (group_id, student_id)
) STRICT, WITHOUT ROWID;

-- What days without school are called.
CREATE TABLE day_name (
    school_id INTEGER NOT NULL,
    day TEXT NOT NULL,
    name TEXT NOT NULL,
    PRIMARY KEY (school_id, day)
) STRICT, WITHOUT ROWID;

-- Addresses from which calendars are read without signing in; only a digest of each is kept.
CREATE TABLE calendar_feed (
    digest TEXT PRIMARY KEY,
    person_id INTEGER NOT NULL REFERENCES person (id),
    school_id INTEGER NOT NULL,
    grade TEXT NOT NULL,
    subject TEXT NOT NULL,
    made_at INTEGER NOT NULL
) STRICT, WITHOUT ROWID;

CREATE INDEX calendar_feed_by_person ON calendar_feed (person_id);

-- Until when a notice is worth telling; 0 for good.
ALTER TABLE notice ADD COLUMN until INTEGER NOT NULL DEFAULT 0;
