-- +goose Up
-- Metadata of many items changed at once, so that it can be undone.
CREATE TABLE bulk_change (
    id INTEGER PRIMARY KEY,
    person_id INTEGER NOT NULL REFERENCES person (id),
    at INTEGER NOT NULL,
    change TEXT NOT NULL,
    undone_at INTEGER
) STRICT;
CREATE INDEX bulk_change_by_person ON bulk_change (person_id);

-- before is the item's metadata until then; version the one that the change made.
CREATE TABLE bulk_change_item (
    bulk_change_id INTEGER NOT NULL REFERENCES bulk_change (id),
    item_id INTEGER NOT NULL,
    version INTEGER NOT NULL,
    before TEXT NOT NULL,
    PRIMARY KEY (bulk_change_id, item_id)
) STRICT, WITHOUT ROWID;
