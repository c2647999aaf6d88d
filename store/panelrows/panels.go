// Package panelrows keeps panels of judges: what they are asked, their rounds, and what each gave.
package panelrows

import (
	"context"

	"pineledger/core/form"
	"pineledger/core/panel"
	"pineledger/core/roster"
	"pineledger/store/sqlite"
)

// Panel is a panel of judges.
type Panel struct {
	ID           int64        `db:"id"`
	Title        string       `db:"title"`
	AssessmentID int64        `db:"assessment_id"`
	Edition      int          `db:"edition"` // of the sealed form; 0: the lines of a draft as they stood
	Method       panel.Method `db:"method"`
	Probability  float64      `db:"probability"` // of reaching an entry of the booklet
	SchoolID     int64        `db:"school_id"`   // 0: the district's
	ChairID      int64        `db:"chair_id"`
	Chair        string       `db:"chair"`
	At           int64        `db:"at"`
	EndedAt      *int64       `db:"ended_at"`
	Judges       int          `db:"judges"`
	Rounds       int          `db:"rounds"`
}

// Owned is whose the panel is.
func (p Panel) Owned() roster.Owned { return roster.Owned{OwnerID: p.ChairID, SchoolID: p.SchoolID} }

const panelSelect = `SELECT l.id, l.title, l.assessment_id, l.edition, l.method, l.probability, COALESCE(l.school_id, 0) AS school_id, l.chair_id,
	c.given || ' ' || c.family AS chair, l.at, l.ended_at, (SELECT COUNT(*) FROM panel_judge j WHERE j.panel_id = l.id) AS judges,
	(SELECT COUNT(*) FROM panel_round r WHERE r.panel_id = l.id AND r.training = 0) AS rounds
	FROM panel l JOIN person c ON c.id = l.chair_id`

// Panels lists all, the newest first.
func Panels(ctx context.Context, r sqlite.Reader, limit int) (out []Panel, err error) {
	return out, r.List(ctx, &out, panelSelect+" ORDER BY l.id DESC LIMIT ?", limit)
}

// PanelsOfJudge lists those that a person judges in, the newest first.
func PanelsOfJudge(ctx context.Context, r sqlite.Reader, person int64) (out []Panel, err error) {
	return out, r.List(ctx, &out, panelSelect+" WHERE l.id IN (SELECT panel_id FROM panel_judge WHERE person_id = ?) ORDER BY l.id DESC", person)
}

// ByID gives one panel.
func ByID(ctx context.Context, r sqlite.Reader, id int64) (p Panel, err error) {
	return p, r.Get(ctx, &p, panelSelect+" WHERE l.id = ?", id)
}

// Add keeps a new panel with the form that it judges and, for ordered items, where the form's lines lie; it gives the id.
func Add(ctx context.Context, t *sqlite.Tx, p Panel, f form.Form, places []float64) (int64, error) {
	id, err := t.Insert(ctx, "INSERT INTO panel (title, assessment_id, edition, document, method, probability, school_id, chair_id, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
		p.Title, p.AssessmentID, p.Edition, sqlite.JSON[form.Form]{V: f}, p.Method, p.Probability, sqlite.OptionalID(p.SchoolID), p.ChairID, p.At)
	if err != nil {
		return 0, err
	}
	for line, b := range places {
		if err := t.Exec(ctx, "INSERT INTO panel_line (panel_id, line, b) VALUES (?, ?, ?)", id, line, b); err != nil {
			return 0, err
		}
	}
	return id, nil
}

// Form gives what a panel judges.
func Form(ctx context.Context, r sqlite.Reader, id int64) (form.Form, error) {
	var document string
	if err := r.Get(ctx, &document, "SELECT document FROM panel WHERE id = ?", id); err != nil {
		return form.Form{}, err
	}
	return form.Read([]byte(document))
}

// Places are where the lines of a panel of ordered items lie, one for each line; none for another.
func Places(ctx context.Context, r sqlite.Reader, id int64) (out []float64, err error) {
	return out, r.List(ctx, &out, "SELECT b FROM panel_line WHERE panel_id = ? ORDER BY line", id)
}

// End ends a panel, or with nil lets it go on.
func End(ctx context.Context, t *sqlite.Tx, id int64, at *int64) error {
	return t.Exec(ctx, "UPDATE panel SET ended_at = ? WHERE id = ?", at, id)
}

// Judge is one of a panel.
type Judge struct {
	PersonID int64  `db:"person_id"`
	Name     string `db:"name"`
	Number   int    `db:"number"`
	LeftAt   *int64 `db:"left_at"`
	LeftWhy  string `db:"left_why"`
}

// Judges lists those of a panel by number.
func Judges(ctx context.Context, r sqlite.Reader, id int64) (out []Judge, err error) {
	return out, r.List(ctx, &out, `SELECT j.person_id, p.given || ' ' || p.family AS name, j.number, j.left_at, j.left_why
		FROM panel_judge j JOIN person p ON p.id = j.person_id WHERE j.panel_id = ? ORDER BY j.number`, id)
}

// AddJudge adds one after those who are there.
func AddJudge(ctx context.Context, t *sqlite.Tx, id, person int64) error {
	return t.Exec(ctx, "INSERT INTO panel_judge (panel_id, person_id, number) VALUES (?1, ?2, (SELECT COUNT(*) + 1 FROM panel_judge WHERE panel_id = ?1))", id, person)
}

// Leave notes that a judge left, or with nil is back.
func Leave(ctx context.Context, t *sqlite.Tx, id, person int64, at *int64, why string) error {
	return t.Exec(ctx, "UPDATE panel_judge SET left_at = ?, left_why = ? WHERE panel_id = ? AND person_id = ?", at, why, id, person)
}
