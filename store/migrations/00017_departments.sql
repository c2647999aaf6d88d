-- +goose Up
-- Shares reach departments too (those who teach a subject at a school, or at all where the
-- school is 0), a school's teachers beside its coordinators, and whoever came by a link.
CREATE TABLE share_of (
    assessment_id INTEGER NOT NULL REFERENCES assessment (id),
    person_id INTEGER NOT NULL,
    school_id INTEGER NOT NULL,
    subject TEXT NOT NULL,
    teachers INTEGER NOT NULL,
    may_edit INTEGER NOT NULL,
    may_copy INTEGER NOT NULL,
    may_print INTEGER NOT NULL,
    by_link INTEGER NOT NULL,
    PRIMARY KEY (assessment_id, person_id, school_id, subject)
) STRICT, WITHOUT ROWID;
INSERT INTO share_of SELECT assessment_id, person_id, school_id, '', 0, may_edit, may_copy, may_print, 0 FROM assessment_share;
DROP TABLE assessment_share;
ALTER TABLE share_of RENAME TO assessment_share;
CREATE INDEX assessment_share_by_person ON assessment_share (person_id);
CREATE INDEX assessment_share_by_school ON assessment_share (school_id);

-- The link by which staff let themselves in: its digest alone, so that nobody reads it here.
CREATE TABLE assessment_link (
    assessment_id INTEGER PRIMARY KEY REFERENCES assessment (id),
    digest TEXT NOT NULL UNIQUE,
    may_copy INTEGER NOT NULL,
    may_print INTEGER NOT NULL,
    made_by TEXT NOT NULL,
    made_at INTEGER NOT NULL
) STRICT;
