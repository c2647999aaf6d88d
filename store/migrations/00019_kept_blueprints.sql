-- +goose Up
-- The library of blueprints: the district's, and each school's. Rows are JSON as the ledger has them.
CREATE TABLE kept_blueprint (
    id INTEGER PRIMARY KEY,
    title TEXT NOT NULL,
    subject TEXT NOT NULL,
    grades TEXT NOT NULL,
    rows TEXT NOT NULL,
    row_count INTEGER NOT NULL,
    school_id INTEGER NOT NULL,
    owner_id INTEGER NOT NULL,
    version INTEGER NOT NULL,
    changed_at INTEGER NOT NULL,
    changed_by TEXT NOT NULL,
    UNIQUE (school_id, title)
) STRICT;
