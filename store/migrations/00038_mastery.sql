-- +goose Up
-- A band set with a least number of points is for mastery by standard: nothing is told of a standard with fewer. 0: of the whole score.
ALTER TABLE band_set ADD COLUMN least INTEGER NOT NULL DEFAULT 0; -- hundredths
ALTER TABLE band_version ADD COLUMN least INTEGER NOT NULL DEFAULT 0;
ALTER TABLE assessment ADD COLUMN mastery_set_id INTEGER REFERENCES band_set (id);
ALTER TABLE assessment ADD COLUMN mastery_set_version INTEGER NOT NULL DEFAULT 0;
