-- +goose Up
-- Teachers read stems and keys of what their class has yet to sit only where a coordinator has opened them.
ALTER TABLE distribution ADD COLUMN keys_open INTEGER NOT NULL DEFAULT 0;
