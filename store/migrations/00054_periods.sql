-- +goose Up
-- In which periods of the school's day a section meets, by the roster; names of bell times with commas between.
ALTER TABLE section ADD COLUMN periods TEXT NOT NULL DEFAULT '';
-- Rows that were imported before are written once more by the next import, for their periods.
UPDATE section SET digest = '';
