-- +goose Up
-- Standard setting: a panel of judges, what they are asked, their rounds, and what each gave. document is the form as it was when the
-- panel began: a sealed one, or the lines of a draft as they stood.
CREATE TABLE panel (
    id INTEGER PRIMARY KEY,
    title TEXT NOT NULL,
    assessment_id INTEGER NOT NULL REFERENCES assessment (id),
    edition INTEGER NOT NULL, -- 0: of a draft
    document TEXT NOT NULL,
    method TEXT NOT NULL,
    probability REAL NOT NULL,
    school_id INTEGER REFERENCES school (id),
    chair_id INTEGER NOT NULL REFERENCES person (id),
    at INTEGER NOT NULL,
    ended_at INTEGER
) STRICT;

-- Where a line lay on the scale when the panel began: the booklet of ordered items stays as it is.
CREATE TABLE panel_line (
    panel_id INTEGER NOT NULL REFERENCES panel (id),
    line INTEGER NOT NULL,
    b REAL NOT NULL,
    PRIMARY KEY (panel_id, line)
) STRICT, WITHOUT ROWID;

CREATE TABLE panel_judge (
    panel_id INTEGER NOT NULL REFERENCES panel (id),
    person_id INTEGER NOT NULL REFERENCES person (id),
    number INTEGER NOT NULL, -- Judge 1, 2 … in reports
    left_at INTEGER,
    left_why TEXT NOT NULL DEFAULT '',
    PRIMARY KEY (panel_id, person_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX panel_judge_by_person ON panel_judge (person_id);

CREATE TABLE panel_round (
    panel_id INTEGER NOT NULL REFERENCES panel (id),
    number INTEGER NOT NULL,
    training INTEGER NOT NULL,
    opened_at INTEGER NOT NULL,
    closed_at INTEGER,
    feedback_at INTEGER, -- since when the judges see what came of it
    PRIMARY KEY (panel_id, number)
) STRICT, WITHOUT ROWID;

-- A rating in hundredths of a line's points, or with line -1 a mark: a place in the booklet, from 1.
CREATE TABLE panel_given (
    panel_id INTEGER NOT NULL,
    round INTEGER NOT NULL,
    person_id INTEGER NOT NULL,
    cut INTEGER NOT NULL,
    line INTEGER NOT NULL,
    value INTEGER NOT NULL,
    PRIMARY KEY (panel_id, round, person_id, cut, line),
    FOREIGN KEY (panel_id, round) REFERENCES panel_round (panel_id, number),
    FOREIGN KEY (panel_id, person_id) REFERENCES panel_judge (panel_id, person_id)
) STRICT, WITHOUT ROWID;

CREATE TABLE panel_done (
    panel_id INTEGER NOT NULL,
    round INTEGER NOT NULL,
    person_id INTEGER NOT NULL,
    at INTEGER NOT NULL,
    PRIMARY KEY (panel_id, round, person_id),
    FOREIGN KEY (panel_id, round) REFERENCES panel_round (panel_id, number)
) STRICT, WITHOUT ROWID;

-- What a judge notes of a line, or with line -1 of the whole.
CREATE TABLE panel_note (
    panel_id INTEGER NOT NULL,
    person_id INTEGER NOT NULL,
    line INTEGER NOT NULL,
    words TEXT NOT NULL,
    at INTEGER NOT NULL,
    PRIMARY KEY (panel_id, person_id, line),
    FOREIGN KEY (panel_id, person_id) REFERENCES panel_judge (panel_id, person_id)
) STRICT, WITHOUT ROWID;
