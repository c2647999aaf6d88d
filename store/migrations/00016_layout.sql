-- +goose Up
-- Parts with directions and tools, and pools of which each student gets some: JSON, as the sealed form holds them.
ALTER TABLE assessment ADD COLUMN layout TEXT NOT NULL DEFAULT '{}';

-- Where a line stands in them, counted from 1; 0 for nowhere.
ALTER TABLE line ADD COLUMN part INTEGER NOT NULL DEFAULT 0;
ALTER TABLE line ADD COLUMN pool INTEGER NOT NULL DEFAULT 0;

-- The lines that an attempt was given, as a JSON list counted from 1; NULL for all.
ALTER TABLE attempt ADD COLUMN given TEXT;
