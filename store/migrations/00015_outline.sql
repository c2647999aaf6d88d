-- +goose Up
ALTER TABLE assessment ADD COLUMN course TEXT NOT NULL DEFAULT '';
ALTER TABLE assessment ADD COLUMN labels TEXT NOT NULL DEFAULT '[]';

-- What assessments are for: the district's own list, in its order.
CREATE TABLE purpose (
    name TEXT PRIMARY KEY,
    position INTEGER NOT NULL
) STRICT;
INSERT INTO purpose (name, position) VALUES ('benchmark', 0), ('common formative', 1), ('practice', 2);

-- When a person opened an assessment last, to find it again.
CREATE TABLE assessment_opened (
    person_id INTEGER NOT NULL,
    assessment_id INTEGER NOT NULL REFERENCES assessment (id),
    at INTEGER NOT NULL,
    PRIMARY KEY (person_id, assessment_id)
) STRICT, WITHOUT ROWID;
