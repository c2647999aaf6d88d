-- +goose Up
-- Where an assessment's own cuts stand: they take the place of its band set's. A set that is
-- locked by the district lets no school have its own.
CREATE TABLE own_band (
    assessment_id INTEGER NOT NULL REFERENCES assessment (id),
    position INTEGER NOT NULL,
    name TEXT NOT NULL,
    percent INTEGER,
    raw INTEGER,
    raw_of INTEGER,
    PRIMARY KEY (assessment_id, position)
) STRICT, WITHOUT ROWID;

ALTER TABLE band_set ADD COLUMN locked_by TEXT NOT NULL DEFAULT '';

-- What a student got last, whatever the sitting.
CREATE INDEX result_by_student ON result (student_id, final);
