-- +goose Up
-- Every version of a band set's bands is kept: an assessment stands on the one that it took.
CREATE TABLE band_version (
    band_set_id INTEGER NOT NULL REFERENCES band_set (id),
    version INTEGER NOT NULL,
    rule TEXT NOT NULL,
    changed_at INTEGER NOT NULL,
    changed_by TEXT NOT NULL,
    PRIMARY KEY (band_set_id, version)
) STRICT, WITHOUT ROWID;
INSERT INTO band_version (band_set_id, version, rule, changed_at, changed_by) SELECT id, version, rule, changed_at, changed_by FROM band_set;

CREATE TABLE band_of_version (
    band_set_id INTEGER NOT NULL,
    version INTEGER NOT NULL,
    position INTEGER NOT NULL,
    name TEXT NOT NULL,
    percent INTEGER,
    raw INTEGER,
    raw_of INTEGER,
    PRIMARY KEY (band_set_id, version, position),
    FOREIGN KEY (band_set_id, version) REFERENCES band_version (band_set_id, version)
) STRICT, WITHOUT ROWID;
INSERT INTO band_of_version (band_set_id, version, position, name, percent, raw, raw_of)
    SELECT s.id, s.version, b.position, b.name, b.percent, b.raw, b.raw_of FROM band b JOIN band_set s ON s.id = b.band_set_id;
DROP TABLE band;

ALTER TABLE assessment ADD COLUMN band_set_version INTEGER NOT NULL DEFAULT 0;
UPDATE assessment SET band_set_version = COALESCE((SELECT s.version FROM band_set s WHERE s.id = assessment.band_set_id), 0);

-- What a set is for beside its subject, grades and year; '' for any. locked_by is who of the district lets no school have
-- other cuts. A retired set is offered no more and stays where it is used.
ALTER TABLE band_set ADD COLUMN course TEXT NOT NULL DEFAULT '';
ALTER TABLE band_set ADD COLUMN purpose TEXT NOT NULL DEFAULT '';
ALTER TABLE band_set ADD COLUMN locked_by TEXT NOT NULL DEFAULT '';
ALTER TABLE band_set ADD COLUMN retired_at INTEGER;

-- Where an assessment's own cuts stand: they take the place of its band set's.
CREATE TABLE own_band (
    assessment_id INTEGER NOT NULL REFERENCES assessment (id),
    position INTEGER NOT NULL,
    name TEXT NOT NULL,
    percent INTEGER,
    raw INTEGER,
    raw_of INTEGER,
    PRIMARY KEY (assessment_id, position)
) STRICT, WITHOUT ROWID;

-- What a student got last, whatever the sitting.
CREATE INDEX result_by_student ON result (student_id, final);
