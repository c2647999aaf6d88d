-- +goose Up
-- A standard that a newer edition holds no more is retired: kept where it is used, out of the
-- tree. Its place is below 0, so that nothing lies under it and it lies under nothing.
ALTER TABLE standard ADD COLUMN retired INTEGER NOT NULL DEFAULT 0 CHECK (retired IN (0, 1));
-- When the edition was last changed, as its file says; '' where it does not.
ALTER TABLE framework ADD COLUMN changed TEXT NOT NULL DEFAULT '';
