-- +goose Up
-- Sections and people may be of several grades; grade is the first of them.
ALTER TABLE section ADD COLUMN grades TEXT NOT NULL DEFAULT '[]';
ALTER TABLE person ADD COLUMN grades TEXT NOT NULL DEFAULT '[]';
UPDATE section SET grades = json_array(grade) WHERE grade <> '';
UPDATE person SET grades = json_array(grade) WHERE grade <> '';
