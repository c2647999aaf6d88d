-- +goose Up
-- When a set was locked, in milliseconds; NULL where it is not, or was locked before this was kept.
ALTER TABLE band_set ADD COLUMN locked_at INTEGER;
