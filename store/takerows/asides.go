package takerows

import (
	"context"

	"pineledger/store/sqlite"
)

// Aside is what a student keeps beside an answer: nothing of it is scored.
type Aside struct {
	Line   int    `db:"line"` // counted from 1; 0: of the whole attempt
	Tool   string `db:"tool"`
	Number int64  `db:"number"`
	Value  string `db:"value"`
}

// PutAside keeps one. One with a number no higher than the kept one changes nothing.
func PutAside(ctx context.Context, t *sqlite.Tx, attempt int64, a Aside, at int64) error {
	return t.Exec(ctx, `INSERT INTO aside (attempt_id, line, tool, number, value, saved_at) VALUES (?, ?, ?, ?, ?, ?)
		ON CONFLICT (attempt_id, line, tool) DO UPDATE SET number = excluded.number, value = excluded.value, saved_at = excluded.saved_at
		WHERE excluded.number > aside.number`, attempt, a.Line, a.Tool, a.Number, a.Value, at)
}

// Asides lists what an attempt has beside its answers.
func Asides(ctx context.Context, r sqlite.Reader, attempt int64) ([]Aside, error) {
	var out []Aside
	err := r.List(ctx, &out, "SELECT line, tool, number, value FROM aside WHERE attempt_id = ? ORDER BY line, tool", attempt)
	return out, err
}
