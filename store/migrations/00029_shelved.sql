-- +goose Up
-- An assessment can be put away and brought back; a draft that was never sealed can be deleted.
ALTER TABLE assessment ADD COLUMN shelved_at INTEGER;
ALTER TABLE assessment ADD COLUMN deleted_at INTEGER;
