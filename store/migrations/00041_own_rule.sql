-- +goose Up
-- How percents become scores by an assessment's own cuts; '' as its set has it.
ALTER TABLE assessment ADD COLUMN own_rule TEXT NOT NULL DEFAULT '';
