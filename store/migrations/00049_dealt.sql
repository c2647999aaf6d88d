-- +goose Up
-- How twin forms go over the seats: '' the one form alone, 'seats', 'sections'.
ALTER TABLE distribution ADD COLUMN deal TEXT NOT NULL DEFAULT '';

-- The distribution of the form with which this one was sent; NULL: it was sent by itself.
ALTER TABLE distribution ADD COLUMN dealt_with INTEGER REFERENCES distribution (id);
