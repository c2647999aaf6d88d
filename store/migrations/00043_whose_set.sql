-- +goose Up
-- A band set for its owner alone; the others belong to a school, or with none to the district.
ALTER TABLE band_set ADD COLUMN alone INTEGER NOT NULL DEFAULT 0;
