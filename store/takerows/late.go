package takerows

import (
	"context"

	"pineledger/core/item"
	"pineledger/store/sqlite"
)

// LateAnswer is an answer that came after its attempt was handed in.
type LateAnswer struct {
	AttemptID int64                      `db:"attempt_id"`
	Line      int                        `db:"line"` // counted from 1
	Number    int64                      `db:"number"`
	Response  sqlite.JSON[item.Response] `db:"response"`
	CameAt    int64                      `db:"came_at"`
	DecidedAt *int64                     `db:"decided_at"` // nil: it waits for staff
	ScoringID int64                      `db:"scoring_id"` // the first that it counts in; 0: it does not
}

// PutLate keeps a late answer. A later one of the same line takes its place as long as nobody has
// decided; the same one sent twice changes nothing.
func PutLate(ctx context.Context, t *sqlite.Tx, l LateAnswer) error {
	return t.Exec(ctx, `INSERT INTO late_answer (attempt_id, line, number, response, came_at) VALUES (?, ?, ?, ?, ?)
		ON CONFLICT (attempt_id, line) DO UPDATE SET number = excluded.number, response = excluded.response, came_at = excluded.came_at
		WHERE excluded.number > late_answer.number AND late_answer.decided_at IS NULL`, l.AttemptID, l.Line, l.Number, l.Response, l.CameAt)
}

const lateSelect = "SELECT l.attempt_id, l.line, l.number, l.response, l.came_at, l.decided_at, COALESCE(l.scoring_id, 0) AS scoring_id FROM late_answer l"

// LateAnswers lists those of an attempt by line.
func LateAnswers(ctx context.Context, r sqlite.Reader, attempt int64) ([]LateAnswer, error) {
	var out []LateAnswer
	err := r.List(ctx, &out, lateSelect+" WHERE l.attempt_id = ? ORDER BY l.line", attempt)
	return out, err
}

// LateIn lists those of a sitting, by attempt and line.
func LateIn(ctx context.Context, r sqlite.Reader, sitting int64) ([]LateAnswer, error) {
	var out []LateAnswer
	err := r.List(ctx, &out, lateSelect+" JOIN attempt t ON t.id = l.attempt_id WHERE t.sitting_id = ? ORDER BY l.attempt_id, l.line", sitting)
	return out, err
}

// DecideLate says of an attempt's late answers that they count from a scoring on, or with 0 that
// they are left out. What counts already stays so.
func DecideLate(ctx context.Context, t *sqlite.Tx, attempt, scoring, at, by int64) error {
	return t.Exec(ctx, "UPDATE late_answer SET scoring_id = ?, decided_at = ?, decided_by = ? WHERE attempt_id = ? AND scoring_id IS NULL",
		sqlite.OptionalID(scoring), at, sqlite.OptionalID(by), attempt)
}

// AnswersBy lists the answers by line that a scoring is computed from: those that were handed in,
// and over them the late ones that count in it.
func AnswersBy(ctx context.Context, r sqlite.Reader, attempt, scoring int64) ([]SavedAnswer, error) {
	var out []SavedAnswer
	err := r.List(ctx, &out, `SELECT line, number, response, marked, saved_at FROM answer WHERE attempt_id = ?1
			AND line NOT IN (SELECT line FROM late_answer WHERE attempt_id = ?1 AND scoring_id <= ?2)
		UNION ALL SELECT line, number, response, 0, came_at FROM late_answer WHERE attempt_id = ?1 AND scoring_id <= ?2
		ORDER BY line`, attempt, scoring)
	return out, err
}
