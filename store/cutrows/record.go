package cutrows

import (
	"context"

	"pineledger/core/band"
	"pineledger/core/roster"
	"pineledger/store/buildrows"
	"pineledger/store/officerows"
	"pineledger/store/sqlite"
)

// Record is a change of the cuts of a sealed form.
type Record struct {
	ID      int64  `db:"id"`
	FormID  int64  `db:"form_id"`
	Reason  string `db:"reason"`
	Changed int    `db:"changed"` // results whose band became another
	At      int64  `db:"at"`
	By      string `db:"by"`
}

// Newest is the id of the cuts that took the place of a form's sealed ones last; 0 where none did.
func Newest(ctx context.Context, r sqlite.Reader, form int64) (id int64, err error) {
	return id, r.Get(ctx, &id, "SELECT COALESCE(MAX(id), 0) FROM form_cuts WHERE form_id = ?", form)
}

// Records lists the changes of a form's cuts, the oldest first.
func Records(ctx context.Context, r sqlite.Reader, form int64) (out []Record, err error) {
	return out, r.List(ctx, &out, `SELECT c.id, c.form_id, c.reason, c.changed, c.at, p.given || ' ' || p.family AS by
		FROM form_cuts c JOIN person p ON p.id = c.person_id WHERE c.form_id = ? ORDER BY c.id`, form)
}

// Cuts gives the bands of cuts of record.
func Cuts(ctx context.Context, r sqlite.Reader, id int64) ([]band.Band, error) {
	var rows []buildrows.Band
	err := r.List(ctx, &rows, "SELECT "+buildrows.BandColumns+" FROM form_cut WHERE cuts_id = ? ORDER BY position", id)
	out := make([]band.Band, len(rows))
	for i, row := range rows {
		out[i] = row.Core()
	}
	return out, err
}

// AddRecord keeps cuts in the place of those that were of record and gives their id.
func AddRecord(ctx context.Context, t *sqlite.Tx, c Record, person int64, bands []band.Band) (int64, error) {
	id, err := t.Insert(ctx, "INSERT INTO form_cuts (form_id, reason, changed, at, person_id) VALUES (?, ?, ?, ?, ?)", c.FormID, c.Reason, c.Changed, c.At, person)
	if err != nil {
		return 0, err
	}
	rows := make([]buildrows.Band, len(bands))
	for i, b := range bands {
		rows[i] = buildrows.BandOf(b)
	}
	return id, buildrows.InsertBands(ctx, t, "form_cut", "cuts_id", []any{id}, rows)
}

// Holder is a student with what counts of them on a form.
type Holder struct {
	Student string `db:"student"`
	Number  string `db:"number"`
	School  string `db:"school"`
	Section string `db:"section"`
	Raw     int64  `db:"raw"` // hundredths
}

// Holders lists, by raw score, school and name, who in scope has a final result on a form with one of some raw scores.
func Holders(ctx context.Context, r sqlite.Reader, scope roster.Scope, form int64, raws []int64, limit int) (out []Holder, err error) {
	var w sqlite.Where
	w.Add("d.form_id = ? AND x.final = 1", form)
	in, args := sqlite.In("x.raw", raws)
	w.Add(in, args...)
	officerows.InScope(&w, scope)
	return out, r.List(ctx, &out, `SELECT p.family || ', ' || p.given AS student, p.number, c.name AS school, s.title AS section, x.raw
		FROM distribution d JOIN sitting g ON g.distribution_id = d.id JOIN section s ON s.id = g.section_id JOIN school c ON c.id = g.school_id
			JOIN result x ON x.sitting_id = g.id JOIN person p ON p.id = x.student_id`+w.String()+" ORDER BY x.raw, c.name, p.family, p.given, p.id LIMIT ?", append(w.Args, limit)...)
}

// Waiting counts the results on a form of which something waits for a reader.
func Waiting(ctx context.Context, r sqlite.Reader, form int64) (n int, err error) {
	return n, r.Get(ctx, &n, "SELECT COUNT(*) FROM attempt a JOIN result x ON x.attempt_id = a.id WHERE a.form_id = ? AND x.final = 0", form)
}
