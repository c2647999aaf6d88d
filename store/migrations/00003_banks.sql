-- +goose Up
ALTER TABLE bank ADD COLUMN school_id INTEGER NOT NULL DEFAULT 0;
ALTER TABLE bank ADD COLUMN owner_id INTEGER NOT NULL DEFAULT 0;
ALTER TABLE bank ADD COLUMN no_copy INTEGER NOT NULL DEFAULT 0;
ALTER TABLE bank ADD COLUMN no_print INTEGER NOT NULL DEFAULT 0;
ALTER TABLE bank ADD COLUMN about TEXT NOT NULL DEFAULT '';
ALTER TABLE bank ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
CREATE INDEX bank_of_owner ON bank (owner_id) WHERE kind = 'own';

CREATE TABLE bank_member (
    bank_id INTEGER NOT NULL REFERENCES bank (id),
    person_id INTEGER NOT NULL REFERENCES person (id),
    standing TEXT NOT NULL,
    PRIMARY KEY (bank_id, person_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX bank_member_by_person ON bank_member (person_id);

-- The standards that items are aligned to, and the tags that they carry, are kept
-- once for all the items that share them: then counting a whole bank under every
-- standard and tag reads one number an item. 1 is the empty set.
CREATE TABLE alignment (
    id INTEGER PRIMARY KEY,
    standards TEXT NOT NULL UNIQUE
) STRICT;
INSERT INTO alignment (id, standards) VALUES (1, '[]');

CREATE TABLE alignment_standard (
    standard_id INTEGER NOT NULL REFERENCES standard (id),
    alignment_id INTEGER NOT NULL REFERENCES alignment (id),
    PRIMARY KEY (standard_id, alignment_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX alignment_standard_by_set ON alignment_standard (alignment_id);

-- scope is everyone, school, course or person; scope_id the school's, course's or person's.
CREATE TABLE tag (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL,
    scope TEXT NOT NULL,
    scope_id INTEGER NOT NULL,
    UNIQUE (name, scope, scope_id)
) STRICT;

CREATE TABLE tag_set (
    id INTEGER PRIMARY KEY,
    tags TEXT NOT NULL UNIQUE
) STRICT;
INSERT INTO tag_set (id, tags) VALUES (1, '[]');

CREATE TABLE tag_set_tag (
    tag_id INTEGER NOT NULL REFERENCES tag (id),
    tag_set_id INTEGER NOT NULL REFERENCES tag_set (id),
    PRIMARY KEY (tag_id, tag_set_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX tag_set_tag_by_set ON tag_set_tag (tag_set_id);

-- What a passage's readability is computed from, and its text without markup.
ALTER TABLE passage ADD COLUMN plain TEXT NOT NULL DEFAULT '';
ALTER TABLE passage ADD COLUMN sentences INTEGER NOT NULL DEFAULT 0;
ALTER TABLE passage ADD COLUMN syllables INTEGER NOT NULL DEFAULT 0;
ALTER TABLE passage ADD COLUMN language TEXT NOT NULL DEFAULT 'en';
ALTER TABLE passage ADD COLUMN source TEXT NOT NULL DEFAULT '';
ALTER TABLE passage ADD COLUMN permission TEXT NOT NULL DEFAULT '';
ALTER TABLE passage ADD COLUMN bank_id INTEGER REFERENCES bank (id);
ALTER TABLE passage ADD COLUMN owner_id INTEGER NOT NULL DEFAULT 0;
ALTER TABLE passage ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
ALTER TABLE passage ADD COLUMN changed_at INTEGER NOT NULL DEFAULT 0;
UPDATE passage SET bank_id = (SELECT MIN(i.bank_id) FROM item i WHERE i.passage_id = passage.id);
CREATE INDEX passage_by_bank ON passage (bank_id);

ALTER TABLE item ADD COLUMN owner_id INTEGER NOT NULL DEFAULT 0;
ALTER TABLE item ADD COLUMN course TEXT NOT NULL DEFAULT '';
ALTER TABLE item ADD COLUMN ease TEXT NOT NULL DEFAULT '';
ALTER TABLE item ADD COLUMN alignment_id INTEGER NOT NULL DEFAULT 1;
ALTER TABLE item ADD COLUMN tag_set_id INTEGER NOT NULL DEFAULT 1;
ALTER TABLE item ADD COLUMN last_used INTEGER NOT NULL DEFAULT 0;
ALTER TABLE item ADD COLUMN changed_at INTEGER NOT NULL DEFAULT 0;
-- The version that this item was copied from.
ALTER TABLE item ADD COLUMN origin_version_id INTEGER REFERENCES item_version (id);
UPDATE item SET owner_id = (SELECT v.author_id FROM item_version v WHERE v.item_id = item.id AND v.number = 1),
    changed_at = (SELECT v.at FROM item_version v WHERE v.id = item.version_id),
    ease = CASE WHEN difficulty IS NULL THEN '' WHEN difficulty < 400 THEN 'hard' WHEN difficulty < 700 THEN 'medium' ELSE 'easy' END;
DROP INDEX item_facets;
DROP INDEX item_by_kind;
DROP INDEX item_by_grade;
-- Every count of a search is read from this index alone.
CREATE INDEX item_facets ON item (subject, grade, course, kind, depth, language, ease, bank_id, alignment_id, tag_set_id, uses, last_used);
CREATE INDEX item_by_alignment ON item (alignment_id);
CREATE INDEX item_by_tag_set ON item (tag_set_id);
CREATE INDEX item_by_passage ON item (passage_id) WHERE passage_id IS NOT NULL;
CREATE INDEX item_by_change ON item (changed_at);
CREATE INDEX item_by_difficulty ON item (difficulty);
CREATE INDEX item_by_use ON item (uses);
CREATE INDEX item_by_last_use ON item (last_used);

CREATE TABLE item_editor (
    item_id INTEGER NOT NULL REFERENCES item (id),
    person_id INTEGER NOT NULL REFERENCES person (id),
    PRIMARY KEY (item_id, person_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX item_editor_by_person ON item_editor (person_id);

DROP TABLE item_text;
CREATE VIRTUAL TABLE item_words USING fts5 (identifier, stem, choices, passage, tokenize = 'porter unicode61 remove_diacritics 2', prefix = '2 3');

CREATE TABLE saved_search (
    id INTEGER PRIMARY KEY,
    person_id INTEGER NOT NULL REFERENCES person (id),
    name TEXT NOT NULL,
    query TEXT NOT NULL,
    at INTEGER NOT NULL,
    UNIQUE (person_id, name)
) STRICT;

-- The items of sealed forms, so that an item finds its uses.
CREATE TABLE form_line (
    form_id INTEGER NOT NULL REFERENCES form (id),
    line INTEGER NOT NULL,
    item_id INTEGER NOT NULL REFERENCES item (id),
    item_version_id INTEGER NOT NULL,
    PRIMARY KEY (form_id, line)
) STRICT, WITHOUT ROWID;
CREATE INDEX form_line_by_item ON form_line (item_id);
CREATE INDEX attempt_by_form ON attempt (form_id);
INSERT INTO form_line (form_id, line, item_id, item_version_id)
    SELECT f.id, l.key + 1, l.value ->> '$.itemId', l.value ->> '$.versionId' FROM form f, json_each(f.document, '$.lines') l;
UPDATE item SET last_used = COALESCE((SELECT MAX(f.sealed_at) FROM form_line l JOIN form f ON f.id = l.form_id WHERE l.item_id = item.id), 0);

-- How many students of a grade have begun a form in a school year.
CREATE TABLE form_seen (
    form_id INTEGER NOT NULL REFERENCES form (id),
    year TEXT NOT NULL,
    grade TEXT NOT NULL,
    students INTEGER NOT NULL,
    PRIMARY KEY (form_id, year, grade)
) STRICT, WITHOUT ROWID;
INSERT INTO form_seen (form_id, year, grade, students)
    SELECT t.form_id, s.year, c.grade, COUNT(*) FROM attempt t JOIN sitting g ON g.id = t.sitting_id JOIN section c ON c.id = g.section_id
        JOIN form f ON f.id = t.form_id JOIN assessment s ON s.id = f.assessment_id GROUP BY 1, 2, 3;

-- An item reserved: for an assessment, or for who set it; until a moment, or
-- until it is let go (ended_at). until 0 is without end.
CREATE TABLE hold (
    id INTEGER PRIMARY KEY,
    item_id INTEGER NOT NULL REFERENCES item (id),
    assessment_id INTEGER REFERENCES assessment (id),
    until INTEGER NOT NULL,
    reason TEXT NOT NULL,
    person_id INTEGER NOT NULL REFERENCES person (id),
    at INTEGER NOT NULL,
    ended_at INTEGER
) STRICT;
CREATE UNIQUE INDEX hold_in_force ON hold (item_id) WHERE ended_at IS NULL;

CREATE TABLE item_report (
    id INTEGER PRIMARY KEY,
    item_id INTEGER NOT NULL REFERENCES item (id),
    version INTEGER NOT NULL,
    fault TEXT NOT NULL,
    words TEXT NOT NULL,
    person_id INTEGER NOT NULL REFERENCES person (id),
    at INTEGER NOT NULL,
    state TEXT NOT NULL,
    answer TEXT NOT NULL DEFAULT '',
    closed_by INTEGER REFERENCES person (id),
    closed_at INTEGER
) STRICT;
CREATE INDEX item_report_by_item ON item_report (item_id);
CREATE INDEX item_report_open ON item_report (item_id) WHERE state = 'open';

CREATE TABLE item_comment (
    id INTEGER PRIMARY KEY,
    item_id INTEGER NOT NULL REFERENCES item (id),
    version INTEGER NOT NULL,
    person_id INTEGER NOT NULL REFERENCES person (id),
    words TEXT NOT NULL,
    at INTEGER NOT NULL
) STRICT;
CREATE INDEX item_comment_by_item ON item_comment (item_id);

-- What somebody is told on Today, until they have seen it.
CREATE TABLE notice (
    id INTEGER PRIMARY KEY,
    person_id INTEGER NOT NULL REFERENCES person (id),
    at INTEGER NOT NULL,
    words TEXT NOT NULL,
    path TEXT NOT NULL,
    seen_at INTEGER
) STRICT;
CREATE INDEX notice_unseen ON notice (person_id, at) WHERE seen_at IS NULL;
