package panelrows

import (
	"context"

	"pineledger/store/officerows"
	"pineledger/store/sqlite"
)

// Round is a round of a panel.
type Round struct {
	Number     int    `db:"number"`
	Training   bool   `db:"training"` // it is no result
	OpenedAt   int64  `db:"opened_at"`
	ClosedAt   *int64 `db:"closed_at"`
	FeedbackAt *int64 `db:"feedback_at"` // since when the judges see what came of it
}

// Open tells whether judges may give something in it.
func (r Round) Open() bool { return r.ClosedAt == nil }

// Rounds lists those of a panel, the first first.
func Rounds(ctx context.Context, r sqlite.Reader, id int64) (out []Round, err error) {
	return out, r.List(ctx, &out, "SELECT number, training, opened_at, closed_at, feedback_at FROM panel_round WHERE panel_id = ? ORDER BY number", id)
}

// AddRound opens one; what judges gave in the round from stands in it already, 0 for nothing.
func AddRound(ctx context.Context, t *sqlite.Tx, id int64, round Round, from int) error {
	if err := t.Exec(ctx, "INSERT INTO panel_round (panel_id, number, training, opened_at) VALUES (?, ?, ?, ?)", id, round.Number, round.Training, round.OpenedAt); err != nil || from == 0 {
		return err
	}
	return t.Exec(ctx, `INSERT INTO panel_given (panel_id, round, person_id, cut, line, value)
		SELECT g.panel_id, ?, g.person_id, g.cut, g.line, g.value FROM panel_given g JOIN panel_judge j ON j.panel_id = g.panel_id AND j.person_id = g.person_id
		WHERE g.panel_id = ? AND g.round = ? AND j.left_at IS NULL`, round.Number, id, from)
}

// MoveRound closes a round, opens it again, or lets judges see what came of it.
func MoveRound(ctx context.Context, t *sqlite.Tx, id int64, round Round) error {
	return t.Exec(ctx, "UPDATE panel_round SET closed_at = ?, feedback_at = ? WHERE panel_id = ? AND number = ?", round.ClosedAt, round.FeedbackAt, id, round.Number)
}

// Given is a rating in hundredths of a line's points, or with Line -1 a mark: a place in the booklet, from 1.
type Given struct {
	Round    int   `db:"round"`
	PersonID int64 `db:"person_id"`
	Cut      int   `db:"cut"`
	Line     int   `db:"line"`
	Value    int   `db:"value"`
}

// AllGiven lists what the judges of a panel gave in all rounds.
func AllGiven(ctx context.Context, r sqlite.Reader, id int64) (out []Given, err error) {
	return out, r.List(ctx, &out, "SELECT round, person_id, cut, line, value FROM panel_given WHERE panel_id = ? ORDER BY round, person_id, cut, line", id)
}

// GivenBy lists what one judge gave in a round.
func GivenBy(ctx context.Context, r sqlite.Reader, id, person int64, round int) (out []Given, err error) {
	return out, r.List(ctx, &out, "SELECT round, person_id, cut, line, value FROM panel_given WHERE panel_id = ? AND round = ? AND person_id = ? ORDER BY cut, line", id, round, person)
}

// Give keeps a rating or a mark in the place of the one before; a value below 0 takes it away.
func Give(ctx context.Context, t *sqlite.Tx, id int64, g Given) error {
	if g.Value < 0 {
		return t.Exec(ctx, "DELETE FROM panel_given WHERE panel_id = ? AND round = ? AND person_id = ? AND cut = ? AND line = ?", id, g.Round, g.PersonID, g.Cut, g.Line)
	}
	return t.Exec(ctx, `INSERT INTO panel_given (panel_id, round, person_id, cut, line, value) VALUES (?, ?, ?, ?, ?, ?)
		ON CONFLICT (panel_id, round, person_id, cut, line) DO UPDATE SET value = excluded.value`, id, g.Round, g.PersonID, g.Cut, g.Line, g.Value)
}

// Done is a judge who is done with a round.
type Done struct {
	Round    int   `db:"round"`
	PersonID int64 `db:"person_id"`
}

// AllDone lists who is done with which round.
func AllDone(ctx context.Context, r sqlite.Reader, id int64) (out []Done, err error) {
	return out, r.List(ctx, &out, "SELECT round, person_id FROM panel_done WHERE panel_id = ?", id)
}

// PutDone notes that a judge is done with a round, or with nil goes on.
func PutDone(ctx context.Context, t *sqlite.Tx, id int64, d Done, at *int64) error {
	if at == nil {
		return t.Exec(ctx, "DELETE FROM panel_done WHERE panel_id = ? AND round = ? AND person_id = ?", id, d.Round, d.PersonID)
	}
	return t.Exec(ctx, "INSERT INTO panel_done (panel_id, round, person_id, at) VALUES (?, ?, ?, ?) ON CONFLICT DO NOTHING", id, d.Round, d.PersonID, *at)
}

// Note is what a judge noted of a line, or with Line -1 of the whole.
type Note struct {
	PersonID int64  `db:"person_id"`
	Line     int    `db:"line"`
	Words    string `db:"words"`
	At       int64  `db:"at"`
}

// Notes lists those of a panel.
func Notes(ctx context.Context, r sqlite.Reader, id int64) (out []Note, err error) {
	return out, r.List(ctx, &out, "SELECT person_id, line, words, at FROM panel_note WHERE panel_id = ? ORDER BY line, person_id", id)
}

// PutNote keeps a note in the place of the one before; without words there is none any more.
func PutNote(ctx context.Context, t *sqlite.Tx, id int64, n Note) error {
	if n.Words == "" {
		return t.Exec(ctx, "DELETE FROM panel_note WHERE panel_id = ? AND person_id = ? AND line = ?", id, n.PersonID, n.Line)
	}
	return t.Exec(ctx, `INSERT INTO panel_note (panel_id, person_id, line, words, at) VALUES (?, ?, ?, ?, ?)
		ON CONFLICT (panel_id, person_id, line) DO UPDATE SET words = excluded.words, at = excluded.at`, id, n.PersonID, n.Line, n.Words, n.At)
}

// AtWork lists judges who may give something now, and have not all said that they are done, the newest panel first.
func AtWork(ctx context.Context, r sqlite.Reader, limit int) (out []officerows.SignInPerson, err error) {
	return out, r.List(ctx, &out, `SELECT p.id, p.given || ' ' || p.family AS name, MIN(post.role) AS role, COALESCE(s.name, '') AS school, '' AS grade
		FROM panel_round x JOIN panel_judge j ON j.panel_id = x.panel_id AND j.left_at IS NULL JOIN person p ON p.id = j.person_id AND p.active = 1
			JOIN post ON post.person_id = p.id LEFT JOIN school s ON s.id = post.school_id
		WHERE x.closed_at IS NULL AND NOT EXISTS (SELECT 1 FROM panel_done d WHERE d.panel_id = x.panel_id AND d.round = x.number AND d.person_id = j.person_id)
		GROUP BY p.id ORDER BY x.panel_id DESC, j.number LIMIT ?`, limit)
}
