-- +goose Up
-- Choices of whom something goes to, kept by a coordinator to be used again.
CREATE TABLE whom_choice (
    id INTEGER PRIMARY KEY,
    owner_id INTEGER NOT NULL REFERENCES person (id),
    name TEXT NOT NULL,
    whom TEXT NOT NULL,
    made_at INTEGER NOT NULL,
    UNIQUE (owner_id, name)
) STRICT;
