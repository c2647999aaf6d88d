-- +goose Up
-- With whom an assessment is shared beyond those who see it by their post: one person, or
-- the coordinators of a school (person_id 0).
CREATE TABLE assessment_share (
    assessment_id INTEGER NOT NULL REFERENCES assessment (id),
    person_id INTEGER NOT NULL,
    school_id INTEGER NOT NULL,
    may_edit INTEGER NOT NULL,
    may_copy INTEGER NOT NULL,
    may_print INTEGER NOT NULL,
    PRIMARY KEY (assessment_id, person_id, school_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX assessment_share_by_person ON assessment_share (person_id);
CREATE INDEX assessment_share_by_school ON assessment_share (school_id);
