-- +goose Up
-- The school year that a band set is for; '' for any.
ALTER TABLE band_set ADD COLUMN year TEXT NOT NULL DEFAULT '';
