-- +goose Up
-- What an import brings is written in steps, and nobody sees it before the last of
-- them: its items and passages lie in a bank of their own until then, which nobody
-- looks into, and its pictures and sounds are named here.
INSERT INTO bank (name, kind) VALUES ('Arriving with an import', 'arriving');

CREATE TABLE arriving_media (
    hash TEXT PRIMARY KEY REFERENCES media (hash)
) STRICT, WITHOUT ROWID;
