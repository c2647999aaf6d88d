-- +goose Up
-- An import says more than what it refused: what it left aside, and what it took for granted.
ALTER TABLE import_refusal RENAME TO import_remark;
ALTER TABLE import_remark ADD COLUMN sort TEXT NOT NULL DEFAULT 'refused' CHECK (sort IN ('refused', 'aside', 'assumed'));
