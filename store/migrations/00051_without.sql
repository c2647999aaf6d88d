-- +goose Up
-- The tools that a line is answered without, as words with spaces between.
ALTER TABLE line ADD COLUMN without TEXT NOT NULL DEFAULT '';
