-- +goose Up
-- Cuts that took the place of those that a form was sealed with. The bands stay; where they begin changes. Only ever added:
-- results that were computed with earlier cuts stay what they were, in their scorings.
CREATE TABLE form_cuts (
    id INTEGER PRIMARY KEY,
    form_id INTEGER NOT NULL REFERENCES form (id),
    reason TEXT NOT NULL,
    changed INTEGER NOT NULL, -- results whose band is another
    at INTEGER NOT NULL,
    person_id INTEGER NOT NULL REFERENCES person (id)
) STRICT;
CREATE INDEX form_cuts_by_form ON form_cuts (form_id, id);

CREATE TABLE form_cut (
    cuts_id INTEGER NOT NULL REFERENCES form_cuts (id),
    position INTEGER NOT NULL,
    name TEXT NOT NULL,
    percent INTEGER,
    raw INTEGER,
    raw_of INTEGER,
    PRIMARY KEY (cuts_id, position)
) STRICT, WITHOUT ROWID;

-- +goose StatementBegin
CREATE TRIGGER form_cuts_stay BEFORE UPDATE ON form_cuts BEGIN
    SELECT RAISE(ABORT, 'cuts of record are only ever added');
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER form_cut_stays BEFORE UPDATE ON form_cut BEGIN
    SELECT RAISE(ABORT, 'cuts of record are only ever added');
END;
-- +goose StatementEnd

-- The cuts that a scoring used; NULL for those that its form was sealed with.
ALTER TABLE scoring ADD COLUMN cuts_id INTEGER REFERENCES form_cuts (id);
