-- +goose Up
-- Difficulties of a subject's items on one scale, worked out from all answers so far. A calibration is only ever added; the newest
-- that ended counts.
CREATE TABLE calibration (
    id INTEGER PRIMARY KEY,
    subject TEXT NOT NULL,
    state TEXT NOT NULL, -- running, done, failed, cancelled
    why TEXT NOT NULL DEFAULT '', -- it failed
    attempts INTEGER NOT NULL DEFAULT 0,
    started_at INTEGER NOT NULL,
    ended_at INTEGER,
    person_id INTEGER NOT NULL REFERENCES person (id)
) STRICT;
CREATE INDEX calibration_by_subject ON calibration (subject, id);

CREATE TABLE calibrated (
    calibration_id INTEGER NOT NULL REFERENCES calibration (id),
    version_id INTEGER NOT NULL REFERENCES item_version (id),
    b REAL NOT NULL, -- logits
    se REAL NOT NULL,
    infit REAL NOT NULL,
    outfit REAL NOT NULL,
    n INTEGER NOT NULL,
    was REAL, -- the year before, where the difficulty has drifted since
    PRIMARY KEY (calibration_id, version_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX calibrated_by_version ON calibrated (version_id, calibration_id);
