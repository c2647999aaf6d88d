-- +goose Up
-- What a student answered and a device could bring only after the hand-in. It counts when
-- staff say so, from the scoring on that is named here: answers that an earlier one was
-- computed from stay as they are.
CREATE TABLE late_answer (
    attempt_id INTEGER NOT NULL REFERENCES attempt (id),
    line INTEGER NOT NULL,
    number INTEGER NOT NULL,
    response TEXT NOT NULL,
    came_at INTEGER NOT NULL,
    decided_at INTEGER,
    decided_by INTEGER REFERENCES person (id),
    scoring_id INTEGER REFERENCES scoring (id),
    PRIMARY KEY (attempt_id, line)
) STRICT, WITHOUT ROWID;
