-- +goose Up
-- The next item begins with what its author wrote last.
CREATE INDEX item_version_by_author ON item_version (author_id, at);
