-- +goose Up
-- What was drawn: the question, the seed and the answer are kept as they were, placed or not.
CREATE TABLE draw (
    id INTEGER PRIMARY KEY,
    assessment_id INTEGER NOT NULL REFERENCES assessment (id),
    person_id INTEGER NOT NULL REFERENCES person (id),
    at INTEGER NOT NULL,
    question TEXT NOT NULL,
    seed INTEGER NOT NULL,
    state TEXT NOT NULL,
    answer TEXT NOT NULL DEFAULT '',
    placed_at INTEGER
) STRICT;
CREATE INDEX draw_by_assessment ON draw (assessment_id, at);

-- Items that must not meet on one form; each pair once, the lower id first.
CREATE TABLE hostile (
    item_id INTEGER NOT NULL REFERENCES item (id),
    other_id INTEGER NOT NULL REFERENCES item (id),
    reason TEXT NOT NULL,
    person_id INTEGER NOT NULL,
    at INTEGER NOT NULL,
    PRIMARY KEY (item_id, other_id),
    CHECK (item_id < other_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX hostile_by_other ON hostile (other_id);

-- Where an assessment came from, and the letter of a twin form ('' for none). The forms
-- of one draw share twin_of, the assessment that holds form A.
ALTER TABLE assessment ADD COLUMN copied_from INTEGER REFERENCES assessment (id);
ALTER TABLE assessment ADD COLUMN twin_of INTEGER REFERENCES assessment (id);
ALTER TABLE assessment ADD COLUMN form_letter TEXT NOT NULL DEFAULT '';
CREATE INDEX assessment_by_twin ON assessment (twin_of) WHERE twin_of IS NOT NULL;
