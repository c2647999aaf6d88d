-- +goose Up
-- Own copies live on one assessment: in a bank that is nobody's to look into.
INSERT INTO bank (name, kind) VALUES ('Own copies on assessments', 'copies');
ALTER TABLE item ADD COLUMN assessment_id INTEGER REFERENCES assessment (id);
-- Whether somebody has looked at the alignment since an own copy was changed.
ALTER TABLE item ADD COLUMN unconfirmed INTEGER NOT NULL DEFAULT 0;
CREATE INDEX item_by_assessment ON item (assessment_id) WHERE assessment_id IS NOT NULL;

ALTER TABLE item_draft ADD COLUMN assessment_id INTEGER REFERENCES assessment (id);
ALTER TABLE item_draft ADD COLUMN origin_version_id INTEGER REFERENCES item_version (id);

CREATE TABLE offer (
    id INTEGER PRIMARY KEY,
    item_id INTEGER NOT NULL REFERENCES item (id),
    bank_id INTEGER NOT NULL REFERENCES bank (id),
    person_id INTEGER NOT NULL REFERENCES person (id),
    words TEXT NOT NULL,
    at INTEGER NOT NULL,
    state TEXT NOT NULL,
    answer TEXT NOT NULL DEFAULT '',
    decided_by INTEGER REFERENCES person (id),
    decided_at INTEGER
) STRICT;
CREATE UNIQUE INDEX offer_waiting ON offer (item_id) WHERE state = 'waiting';
CREATE INDEX offer_by_bank ON offer (bank_id) WHERE state = 'waiting';
CREATE INDEX offer_by_person ON offer (person_id);
