-- +goose Up
-- Subjects that a district names beside those of its courses and frameworks.
CREATE TABLE subject (name TEXT PRIMARY KEY) STRICT, WITHOUT ROWID;

INSERT INTO subject (name) VALUES ('mathematics'), ('reading'), ('science');
