-- +goose Up
-- What is reported for a range of an assessment's scores, from the lowest; hundredths, inclusive.
CREATE TABLE reported_value (
    assessment_id INTEGER NOT NULL REFERENCES assessment (id),
    position INTEGER NOT NULL,
    from_raw INTEGER NOT NULL,
    to_raw INTEGER NOT NULL,
    value TEXT NOT NULL,
    PRIMARY KEY (assessment_id, position)
) STRICT, WITHOUT ROWID;
