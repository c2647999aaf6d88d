-- +goose Up
-- A cut on another scale, in hundredths, and the row of an official table that a cut was taken from.
ALTER TABLE own_band ADD COLUMN scale INTEGER;
ALTER TABLE own_band ADD COLUMN source_table INTEGER REFERENCES official_table (id);
ALTER TABLE own_band ADD COLUMN source_raw INTEGER;
ALTER TABLE band_of_version ADD COLUMN scale INTEGER;
ALTER TABLE band_of_version ADD COLUMN source_table INTEGER REFERENCES official_table (id);
ALTER TABLE band_of_version ADD COLUMN source_raw INTEGER;
ALTER TABLE form_cut ADD COLUMN scale INTEGER;
ALTER TABLE form_cut ADD COLUMN source_table INTEGER REFERENCES official_table (id);
ALTER TABLE form_cut ADD COLUMN source_raw INTEGER;

-- The table that says which raw score of an assessment is which on the scale.
ALTER TABLE assessment ADD COLUMN conversion_table_id INTEGER REFERENCES official_table (id);
