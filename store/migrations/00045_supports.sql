-- +goose Up
-- On what grounds the district gives supports; its own list.
CREATE TABLE ground (
    name TEXT PRIMARY KEY,
    position INTEGER NOT NULL
) STRICT, WITHOUT ROWID;

INSERT INTO ground (name, position) VALUES ('IEP', 1), ('504 plan', 2), ('English learner', 3), ('Temporary', 4);

-- What a support would break, by the district's rules: part is of what is read aloud, '' for all; subject and standard '' for every one.
CREATE TABLE construct_rule (
    support TEXT NOT NULL,
    part TEXT NOT NULL,
    subject TEXT NOT NULL,
    standard TEXT NOT NULL,
    why TEXT NOT NULL,
    PRIMARY KEY (support, part, subject, standard)
) STRICT, WITHOUT ROWID;

INSERT INTO construct_rule (support, part, subject, standard, why) VALUES
    ('readAloud', 'passages', 'reading', '', 'Reading the passage is what is measured.'),
    ('adultReads', 'passages', 'reading', '', 'Reading the passage is what is measured.'),
    ('language', '', 'reading', '', 'Reading in English is what is measured.');

-- What students have. A row is never changed: an entry that ends says when and by whom, one that becomes another ends and begins anew.
CREATE TABLE student_support (
    id INTEGER PRIMARY KEY,
    student_id INTEGER NOT NULL REFERENCES person (id),
    key TEXT NOT NULL,
    value TEXT NOT NULL,
    ground TEXT NOT NULL,
    subjects TEXT NOT NULL,
    from_day TEXT NOT NULL,
    to_day TEXT NOT NULL,
    came TEXT NOT NULL,
    entered_by INTEGER NOT NULL,
    entered_name TEXT NOT NULL,
    entered_at INTEGER NOT NULL,
    ended_by INTEGER,
    ended_name TEXT NOT NULL DEFAULT '',
    ended_at INTEGER
) STRICT;

CREATE INDEX student_support_by_student ON student_support (student_id, ended_at);

-- Supports added for one sitting with a reason.
CREATE TABLE sitting_support (
    id INTEGER PRIMARY KEY,
    sitting_id INTEGER NOT NULL REFERENCES sitting (id),
    student_id INTEGER NOT NULL REFERENCES person (id),
    key TEXT NOT NULL,
    value TEXT NOT NULL,
    reason TEXT NOT NULL,
    person_id INTEGER NOT NULL,
    person TEXT NOT NULL,
    at INTEGER NOT NULL
) STRICT;

CREATE INDEX sitting_support_by_seat ON sitting_support (sitting_id, student_id);

-- What coordinators decided of supports that would break what an assessment measures.
CREATE TABLE support_ruling (
    assessment_id INTEGER NOT NULL REFERENCES assessment (id),
    key TEXT NOT NULL,
    ruling TEXT NOT NULL,
    reason TEXT NOT NULL,
    person_id INTEGER NOT NULL,
    person TEXT NOT NULL,
    at INTEGER NOT NULL,
    PRIMARY KEY (assessment_id, key)
) STRICT, WITHOUT ROWID;

-- Who provides a support in a section, or that its paper is made.
CREATE TABLE support_provider (
    assessment_id INTEGER NOT NULL REFERENCES assessment (id),
    section_id INTEGER NOT NULL REFERENCES section (id),
    key TEXT NOT NULL,
    provider TEXT NOT NULL,
    number INTEGER NOT NULL,
    person_id INTEGER NOT NULL,
    person TEXT NOT NULL,
    at INTEGER NOT NULL,
    PRIMARY KEY (assessment_id, section_id, key)
) STRICT, WITHOUT ROWID;

-- A result that does not compare with others, since a support broke what is measured.
ALTER TABLE attempt ADD COLUMN apart INTEGER NOT NULL DEFAULT 0;

-- What a student keeps beside the answers while they work: highlights, what is struck out, the scratch pad. line 0 is all of it.
CREATE TABLE aside (
    attempt_id INTEGER NOT NULL REFERENCES attempt (id),
    line INTEGER NOT NULL,
    tool TEXT NOT NULL,
    number INTEGER NOT NULL,
    value TEXT NOT NULL,
    saved_at INTEGER NOT NULL,
    PRIMARY KEY (attempt_id, line, tool)
) STRICT, WITHOUT ROWID;
