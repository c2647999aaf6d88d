-- +goose Up
-- Documents that are keyed, by the SHA-256 of their data.
CREATE TABLE document (
    hash TEXT PRIMARY KEY,
    name TEXT NOT NULL,
    pages INTEGER NOT NULL,
    data BLOB NOT NULL,
    person_id INTEGER NOT NULL,
    at INTEGER NOT NULL
) STRICT;

ALTER TABLE assessment ADD COLUMN document_hash TEXT REFERENCES document (hash);
