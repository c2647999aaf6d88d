-- +goose Up
-- alt is offered where the picture is put into an item; words there stand.
ALTER TABLE media ADD COLUMN alt TEXT NOT NULL DEFAULT '';
ALTER TABLE media ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
CREATE INDEX media_by_time ON media (at);

-- What the newest versions of items, and passages, show of the shelf.
CREATE TABLE item_media (
    hash TEXT NOT NULL,
    item_id INTEGER NOT NULL REFERENCES item (id),
    PRIMARY KEY (hash, item_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX item_media_by_item ON item_media (item_id);

CREATE TABLE passage_media (
    hash TEXT NOT NULL,
    passage_id INTEGER NOT NULL REFERENCES passage (id),
    PRIMARY KEY (hash, passage_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX passage_media_by_passage ON passage_media (passage_id);

-- What a passage said before its last change.
CREATE TABLE passage_version (
    passage_id INTEGER NOT NULL REFERENCES passage (id),
    number INTEGER NOT NULL,
    title TEXT NOT NULL,
    body TEXT NOT NULL,
    author_id INTEGER NOT NULL,
    at INTEGER NOT NULL,
    PRIMARY KEY (passage_id, number)
) STRICT, WITHOUT ROWID;
INSERT INTO passage_version (passage_id, number, title, body, author_id, at) SELECT id, version, title, body, owner_id, changed_at FROM passage;
