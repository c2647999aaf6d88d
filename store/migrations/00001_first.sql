-- +goose Up
-- Times are milliseconds since 1970 in UTC. Points are hundredths, difficulties
-- thousandths. Grades and subjects are short codes; lists of them are JSON arrays.

CREATE TABLE district (
    id INTEGER PRIMARY KEY CHECK (id = 1),
    sourced_id TEXT NOT NULL,
    name TEXT NOT NULL,
    time_zone TEXT NOT NULL,
    year TEXT NOT NULL,
    digest TEXT NOT NULL
) STRICT;

CREATE TABLE school (
    id INTEGER PRIMARY KEY,
    sourced_id TEXT NOT NULL UNIQUE,
    name TEXT NOT NULL,
    active INTEGER NOT NULL,
    digest TEXT NOT NULL
) STRICT;

CREATE TABLE term (
    id INTEGER PRIMARY KEY,
    sourced_id TEXT NOT NULL UNIQUE,
    title TEXT NOT NULL,
    kind TEXT NOT NULL,
    begins TEXT NOT NULL,
    ends TEXT NOT NULL,
    year TEXT NOT NULL,
    digest TEXT NOT NULL
) STRICT;

CREATE TABLE course (
    id INTEGER PRIMARY KEY,
    sourced_id TEXT NOT NULL UNIQUE,
    title TEXT NOT NULL,
    code TEXT NOT NULL,
    subjects TEXT NOT NULL,
    grades TEXT NOT NULL,
    digest TEXT NOT NULL
) STRICT;

CREATE TABLE section (
    id INTEGER PRIMARY KEY,
    sourced_id TEXT NOT NULL UNIQUE,
    school_id INTEGER NOT NULL REFERENCES school (id),
    course_id INTEGER NOT NULL REFERENCES course (id),
    title TEXT NOT NULL,
    grade TEXT NOT NULL,
    active INTEGER NOT NULL,
    digest TEXT NOT NULL
) STRICT;
CREATE INDEX section_by_school ON section (school_id, grade);
CREATE INDEX section_by_grade ON section (grade);

CREATE TABLE person (
    id INTEGER PRIMARY KEY,
    sourced_id TEXT NOT NULL UNIQUE,
    number TEXT NOT NULL,
    given TEXT NOT NULL,
    family TEXT NOT NULL,
    email TEXT NOT NULL,
    grade TEXT NOT NULL,
    active INTEGER NOT NULL,
    secret TEXT NOT NULL,
    demographics TEXT NOT NULL DEFAULT '',
    digest TEXT NOT NULL
) STRICT;
CREATE INDEX person_by_email ON person (email) WHERE email <> '';
CREATE INDEX person_by_number ON person (number) WHERE number <> '';

-- school_id 0 is the whole district.
CREATE TABLE post (
    person_id INTEGER NOT NULL REFERENCES person (id),
    role TEXT NOT NULL,
    school_id INTEGER NOT NULL,
    sourced_id TEXT NOT NULL UNIQUE,
    digest TEXT NOT NULL,
    PRIMARY KEY (person_id, role, school_id)
) STRICT, WITHOUT ROWID;

CREATE TABLE enrolment (
    id INTEGER PRIMARY KEY,
    sourced_id TEXT NOT NULL UNIQUE,
    section_id INTEGER NOT NULL REFERENCES section (id),
    person_id INTEGER NOT NULL REFERENCES person (id),
    role TEXT NOT NULL,
    active INTEGER NOT NULL,
    digest TEXT NOT NULL
) STRICT;
CREATE INDEX enrolment_by_section ON enrolment (section_id, role, active, person_id);
CREATE INDEX enrolment_by_person ON enrolment (person_id, role, active, section_id);

CREATE TABLE framework (
    id INTEGER PRIMARY KEY,
    identifier TEXT NOT NULL UNIQUE,
    title TEXT NOT NULL,
    subject TEXT NOT NULL,
    version TEXT NOT NULL
) STRICT;

-- place and last number the standards of a framework as its tree is read from
-- top to bottom: everything below a standard lies in place … last.
CREATE TABLE standard (
    id INTEGER PRIMARY KEY,
    framework_id INTEGER NOT NULL REFERENCES framework (id),
    identifier TEXT NOT NULL UNIQUE,
    code TEXT NOT NULL,
    text TEXT NOT NULL,
    level TEXT NOT NULL,
    grades TEXT NOT NULL,
    parent_id INTEGER REFERENCES standard (id),
    place INTEGER NOT NULL,
    last INTEGER NOT NULL,
    digest TEXT NOT NULL
) STRICT;
CREATE INDEX standard_by_place ON standard (framework_id, place);
CREATE INDEX standard_by_code ON standard (code);

CREATE TABLE bank (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL UNIQUE,
    kind TEXT NOT NULL
) STRICT;

CREATE TABLE passage (
    id INTEGER PRIMARY KEY,
    identifier TEXT NOT NULL UNIQUE,
    title TEXT NOT NULL,
    body TEXT NOT NULL,
    words INTEGER NOT NULL,
    digest TEXT NOT NULL
) STRICT;

-- An item with the search columns of its newest version; versions are kept whole.
CREATE TABLE item (
    id INTEGER PRIMARY KEY,
    identifier TEXT NOT NULL UNIQUE,
    bank_id INTEGER NOT NULL REFERENCES bank (id),
    version_id INTEGER NOT NULL,
    version INTEGER NOT NULL,
    kind TEXT NOT NULL,
    stem TEXT NOT NULL,
    subject TEXT NOT NULL,
    grade TEXT NOT NULL,
    depth INTEGER NOT NULL,
    difficulty INTEGER,
    language TEXT NOT NULL,
    passage_id INTEGER REFERENCES passage (id),
    uses INTEGER NOT NULL DEFAULT 0,
    digest TEXT NOT NULL
) STRICT;
CREATE INDEX item_by_kind ON item (kind);
CREATE INDEX item_by_grade ON item (subject, grade);
CREATE INDEX item_facets ON item (subject, grade, kind, depth, language, bank_id);

CREATE TABLE item_version (
    id INTEGER PRIMARY KEY,
    item_id INTEGER NOT NULL REFERENCES item (id) DEFERRABLE INITIALLY DEFERRED,
    number INTEGER NOT NULL,
    document TEXT NOT NULL,
    kind TEXT NOT NULL,
    stem TEXT NOT NULL,
    key_short TEXT NOT NULL,
    depth INTEGER NOT NULL,
    difficulty INTEGER,
    language TEXT NOT NULL,
    passage_id INTEGER REFERENCES passage (id),
    standards TEXT NOT NULL,
    tags TEXT NOT NULL,
    author_id INTEGER NOT NULL,
    at INTEGER NOT NULL,
    UNIQUE (item_id, number)
) STRICT;

CREATE TABLE item_standard (
    standard_id INTEGER NOT NULL REFERENCES standard (id),
    item_id INTEGER NOT NULL REFERENCES item (id) DEFERRABLE INITIALLY DEFERRED,
    PRIMARY KEY (standard_id, item_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX item_standard_by_item ON item_standard (item_id);

CREATE TABLE item_tag (
    tag TEXT NOT NULL,
    item_id INTEGER NOT NULL REFERENCES item (id) DEFERRABLE INITIALLY DEFERRED,
    PRIMARY KEY (tag, item_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX item_tag_by_item ON item_tag (item_id);

CREATE VIRTUAL TABLE item_text USING fts5 (words, content='', contentless_delete=1, tokenize='porter unicode61');

CREATE TABLE tray (
    person_id INTEGER NOT NULL REFERENCES person (id),
    item_id INTEGER NOT NULL REFERENCES item (id),
    at INTEGER NOT NULL,
    PRIMARY KEY (person_id, item_id)
) STRICT, WITHOUT ROWID;

CREATE TABLE band_set (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL,
    subject TEXT NOT NULL,
    grades TEXT NOT NULL,
    rule TEXT NOT NULL,
    school_id INTEGER NOT NULL,
    owner_id INTEGER NOT NULL,
    version INTEGER NOT NULL,
    changed_at INTEGER NOT NULL,
    changed_by TEXT NOT NULL
) STRICT;

CREATE TABLE band (
    band_set_id INTEGER NOT NULL REFERENCES band_set (id),
    position INTEGER NOT NULL,
    name TEXT NOT NULL,
    percent INTEGER,
    raw INTEGER,
    raw_of INTEGER,
    PRIMARY KEY (band_set_id, position)
) STRICT, WITHOUT ROWID;

CREATE TABLE assessment (
    id INTEGER PRIMARY KEY,
    title TEXT NOT NULL,
    short_title TEXT NOT NULL,
    description TEXT NOT NULL,
    instructions TEXT NOT NULL,
    subject TEXT NOT NULL,
    grades TEXT NOT NULL,
    purpose TEXT NOT NULL,
    language TEXT NOT NULL,
    year TEXT NOT NULL,
    state TEXT NOT NULL,
    edition INTEGER NOT NULL,
    band_set_id INTEGER REFERENCES band_set (id),
    school_id INTEGER NOT NULL,
    owner_id INTEGER NOT NULL,
    version INTEGER NOT NULL,
    changed_at INTEGER NOT NULL,
    changed_by TEXT NOT NULL
) STRICT;
CREATE INDEX assessment_by_change ON assessment (changed_at);

CREATE TABLE blueprint_row (
    assessment_id INTEGER NOT NULL REFERENCES assessment (id),
    position INTEGER NOT NULL,
    title TEXT NOT NULL,
    filter TEXT NOT NULL,
    by_points INTEGER NOT NULL,
    least INTEGER NOT NULL,
    most INTEGER NOT NULL,
    PRIMARY KEY (assessment_id, position)
) STRICT, WITHOUT ROWID;

CREATE TABLE line (
    assessment_id INTEGER NOT NULL REFERENCES assessment (id),
    position INTEGER NOT NULL,
    item_id INTEGER NOT NULL REFERENCES item (id),
    item_version_id INTEGER NOT NULL REFERENCES item_version (id),
    points INTEGER NOT NULL,
    PRIMARY KEY (assessment_id, item_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX line_by_item ON line (item_id);

-- A sealed form is one document; nothing in it ever changes.
CREATE TABLE form (
    id INTEGER PRIMARY KEY,
    assessment_id INTEGER NOT NULL REFERENCES assessment (id),
    edition INTEGER NOT NULL,
    fingerprint TEXT NOT NULL,
    document TEXT NOT NULL,
    sealed_at INTEGER NOT NULL,
    sealed_by INTEGER NOT NULL,
    UNIQUE (assessment_id, edition)
) STRICT;
-- +goose StatementBegin
CREATE TRIGGER form_is_sealed BEFORE UPDATE ON form BEGIN
    SELECT RAISE (ABORT, 'a sealed form cannot change');
END;
-- +goose StatementEnd

CREATE TABLE distribution (
    id INTEGER PRIMARY KEY,
    assessment_id INTEGER NOT NULL REFERENCES assessment (id),
    form_id INTEGER REFERENCES form (id),
    opens_at INTEGER,
    closes_at INTEGER,
    minutes INTEGER NOT NULL,
    state TEXT NOT NULL,
    reasons TEXT NOT NULL,
    sent_at INTEGER,
    sent_by INTEGER,
    version INTEGER NOT NULL
) STRICT;
CREATE INDEX distribution_by_assessment ON distribution (assessment_id);
CREATE INDEX distribution_by_window ON distribution (state, closes_at);

CREATE TABLE distribution_section (
    distribution_id INTEGER NOT NULL REFERENCES distribution (id),
    section_id INTEGER NOT NULL REFERENCES section (id),
    PRIMARY KEY (distribution_id, section_id)
) STRICT, WITHOUT ROWID;

CREATE TABLE distribution_left_out (
    distribution_id INTEGER NOT NULL REFERENCES distribution (id),
    student_id INTEGER NOT NULL REFERENCES person (id),
    PRIMARY KEY (distribution_id, student_id)
) STRICT, WITHOUT ROWID;

CREATE TABLE sitting (
    id INTEGER PRIMARY KEY,
    distribution_id INTEGER NOT NULL REFERENCES distribution (id),
    section_id INTEGER NOT NULL REFERENCES section (id),
    school_id INTEGER NOT NULL REFERENCES school (id),
    door TEXT NOT NULL,
    door_at INTEGER NOT NULL DEFAULT 0,
    UNIQUE (distribution_id, section_id)
) STRICT;
CREATE INDEX sitting_by_section ON sitting (section_id);

CREATE TABLE seat (
    sitting_id INTEGER NOT NULL REFERENCES sitting (id),
    student_id INTEGER NOT NULL REFERENCES person (id),
    PRIMARY KEY (sitting_id, student_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX seat_by_student ON seat (student_id, sitting_id);

CREATE TABLE attempt (
    id INTEGER PRIMARY KEY,
    sitting_id INTEGER NOT NULL REFERENCES sitting (id),
    student_id INTEGER NOT NULL REFERENCES person (id),
    form_id INTEGER NOT NULL REFERENCES form (id),
    state TEXT NOT NULL,
    started_at INTEGER NOT NULL,
    handed_in_at INTEGER,
    handed_in_by TEXT,
    UNIQUE (sitting_id, student_id)
) STRICT;
CREATE INDEX attempt_working ON attempt (state) WHERE state = 'working';

CREATE TABLE answer (
    attempt_id INTEGER NOT NULL REFERENCES attempt (id),
    line INTEGER NOT NULL,
    number INTEGER NOT NULL,
    response TEXT NOT NULL,
    marked INTEGER NOT NULL,
    saved_at INTEGER NOT NULL,
    PRIMARY KEY (attempt_id, line)
) STRICT, WITHOUT ROWID;

-- One row a scored attempt. credits holds each line's credit and outcome in few
-- bytes (see store/results.go), so that a matrix reads one row a student.
CREATE TABLE score (
    attempt_id INTEGER PRIMARY KEY REFERENCES attempt (id),
    sitting_id INTEGER NOT NULL REFERENCES sitting (id),
    raw INTEGER NOT NULL,
    band INTEGER,
    credits BLOB NOT NULL,
    scored_at INTEGER NOT NULL
) STRICT;
CREATE INDEX score_by_sitting ON score (sitting_id, band, raw);

-- Sums over a sitting's scores, kept by the transaction that writes a score.
CREATE TABLE line_tally (
    sitting_id INTEGER NOT NULL REFERENCES sitting (id),
    line INTEGER NOT NULL,
    n INTEGER NOT NULL,
    credit INTEGER NOT NULL,
    omitted INTEGER NOT NULL,
    PRIMARY KEY (sitting_id, line)
) STRICT, WITHOUT ROWID;

CREATE TABLE ledger (
    number INTEGER PRIMARY KEY,
    at INTEGER NOT NULL,
    actor_id INTEGER NOT NULL,
    actor TEXT NOT NULL,
    act TEXT NOT NULL,
    thing TEXT NOT NULL,
    thing_id INTEGER NOT NULL,
    title TEXT NOT NULL,
    before TEXT NOT NULL,
    after TEXT NOT NULL,
    hash TEXT NOT NULL
) STRICT;
CREATE INDEX ledger_by_thing ON ledger (thing, thing_id);
-- +goose StatementBegin
CREATE TRIGGER ledger_no_change BEFORE UPDATE ON ledger BEGIN
    SELECT RAISE (ABORT, 'the ledger is append-only');
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER ledger_no_removal BEFORE DELETE ON ledger BEGIN
    SELECT RAISE (ABORT, 'the ledger is append-only');
END;
-- +goose StatementEnd

CREATE TABLE import (
    id INTEGER PRIMARY KEY,
    kind TEXT NOT NULL,
    file TEXT NOT NULL,
    state TEXT NOT NULL,
    message TEXT NOT NULL,
    counts TEXT NOT NULL,
    person_id INTEGER NOT NULL,
    started_at INTEGER NOT NULL,
    ended_at INTEGER
) STRICT;

CREATE TABLE import_refusal (
    import_id INTEGER NOT NULL REFERENCES import (id),
    position INTEGER NOT NULL,
    file TEXT NOT NULL,
    line INTEGER NOT NULL,
    field TEXT NOT NULL,
    reason TEXT NOT NULL,
    PRIMARY KEY (import_id, position)
) STRICT, WITHOUT ROWID;

-- The session library's own table.
CREATE TABLE sessions (
    token TEXT PRIMARY KEY,
    data BLOB NOT NULL,
    expiry REAL NOT NULL
) STRICT;
CREATE INDEX sessions_by_expiry ON sessions (expiry);
