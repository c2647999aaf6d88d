-- +goose Up
-- Pictures and sounds, once each, by the SHA-256 of what is kept.
CREATE TABLE media (
    hash TEXT PRIMARY KEY,
    type TEXT NOT NULL,
    ending TEXT NOT NULL,
    name TEXT NOT NULL,
    width INTEGER NOT NULL,
    height INTEGER NOT NULL,
    data BLOB NOT NULL,
    person_id INTEGER NOT NULL,
    at INTEGER NOT NULL
) STRICT;

-- Items while they are written: of one author, sound or not, outside every search.
CREATE TABLE item_draft (
    id INTEGER PRIMARY KEY,
    item_id INTEGER REFERENCES item (id),
    author_id INTEGER NOT NULL,
    document TEXT NOT NULL,
    meta TEXT NOT NULL,
    stem TEXT NOT NULL,
    kind TEXT NOT NULL,
    version INTEGER NOT NULL,
    changed_at INTEGER NOT NULL
) STRICT;
CREATE INDEX item_draft_by_author ON item_draft (author_id, changed_at);
