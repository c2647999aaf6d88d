-- +goose Up
-- The keys of each item's sketch (core/bank): items of nearly the same text share one.
CREATE TABLE item_sketch (
    key INTEGER NOT NULL,
    item_id INTEGER NOT NULL,
    PRIMARY KEY (key, item_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX item_sketch_by_item ON item_sketch (item_id);

-- New items of an import that are nearly the same as another.
CREATE TABLE import_twin (
    import_id INTEGER NOT NULL REFERENCES import (id),
    item_id INTEGER NOT NULL,
    twin_id INTEGER NOT NULL,
    likeness INTEGER NOT NULL,
    PRIMARY KEY (import_id, item_id)
) STRICT, WITHOUT ROWID;
