-- +goose Up
-- What the state publishes: how many raw points of a test are which scale score and which band. Amounts are hundredths. A table
-- that comes again with other rows is a new one; the old one is kept for whatever cut was taken from it.
CREATE TABLE official_table (
    id INTEGER PRIMARY KEY,
    test TEXT NOT NULL,
    subject TEXT NOT NULL,
    grade TEXT NOT NULL,
    year TEXT NOT NULL,
    source TEXT NOT NULL,
    digest TEXT NOT NULL,
    import_id INTEGER NOT NULL REFERENCES import (id),
    at INTEGER NOT NULL,
    replaced_at INTEGER
) STRICT;
CREATE UNIQUE INDEX official_table_by_key ON official_table (subject, grade, year, test) WHERE replaced_at IS NULL;

CREATE TABLE official_row (
    table_id INTEGER NOT NULL REFERENCES official_table (id),
    raw INTEGER NOT NULL,
    scale INTEGER,
    band TEXT NOT NULL,
    line INTEGER NOT NULL,
    PRIMARY KEY (table_id, raw)
) STRICT, WITHOUT ROWID;
