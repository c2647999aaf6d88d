-- +goose Up
-- What a standard is to one of another framework (CASE associations). Both are named
-- by identifier: either may come in later. framework_id is whose file said so.
CREATE TABLE standard_link (
    framework_id INTEGER NOT NULL REFERENCES framework (id),
    from_identifier TEXT NOT NULL,
    to_identifier TEXT NOT NULL,
    kind TEXT NOT NULL,
    PRIMARY KEY (from_identifier, to_identifier, kind, framework_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX standard_link_back ON standard_link (to_identifier);
