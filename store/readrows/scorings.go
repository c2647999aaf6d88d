package readrows

import (
	"context"
	"errors"

	"pineledger/core/attempt"
	"pineledger/core/band"
	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/store/sqlite"
)

// Kinds of scoring.
const (
	ByMachine = "machine"
	ByReader  = "reader"
	ByRescore = "re-score"
	ByLate    = "late"   // by the machine, with answers that came after the hand-in
	ByRecut   = "re-cut" // the scoring before with other cuts
)

// Scoring is one scoring of an attempt, by the keys and rules of a sealed form. It
// stays as it is; a later one is added beside it.
type Scoring struct {
	ID, AttemptID, FormID int64
	Kind                  string
	Final                 bool // no line waits for its reader
	Raw                   points.Points
	Band                  int     // -1 without bands, and while it is not final
	Cuts                  []int64 // where each band begins, in hundredths; nil without bands
	CutsID                int64   // the cuts of record that say so; 0: those that the form was sealed with
	Credits               []attempt.LineCredit
	At                    int64
	PersonID              int64 // the reader, or who asked for a re-score; 0: nobody
}

type scoringRow struct {
	ID        int64                `db:"id"`
	AttemptID int64                `db:"attempt_id"`
	FormID    int64                `db:"form_id"`
	Kind      string               `db:"kind"`
	Final     bool                 `db:"final"`
	Raw       int64                `db:"raw"`
	Band      int                  `db:"band"`
	Cuts      sqlite.JSON[[]int64] `db:"cuts"`
	Credits   []byte               `db:"credits"`
	At        int64                `db:"at"`
	PersonID  int64                `db:"person_id"`
	CutsID    int64                `db:"cuts_id"`
}

func (r scoringRow) scoring() Scoring {
	return Scoring{ID: r.ID, AttemptID: r.AttemptID, FormID: r.FormID, Kind: r.Kind, Final: r.Final, Raw: points.Points(r.Raw), Band: r.Band, Cuts: r.Cuts.V,
		Credits: sqlite.UnpackCredits(r.Credits), At: r.At, PersonID: r.PersonID, CutsID: r.CutsID}
}

const scoringSelect = `SELECT id, attempt_id, form_id, kind, final, raw, COALESCE(band, -1) AS band, cuts, credits, at, COALESCE(person_id, 0) AS person_id,
	COALESCE(cuts_id, 0) AS cuts_id FROM scoring`

// AddScoring adds one and gives its id.
func AddScoring(ctx context.Context, t *sqlite.Tx, s Scoring) (int64, error) {
	return t.Insert(ctx, "INSERT INTO scoring (attempt_id, form_id, kind, final, raw, band, cuts, credits, at, person_id, cuts_id) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
		s.AttemptID, s.FormID, s.Kind, s.Final, int64(s.Raw), optionalBand(s.Band), sqlite.JSON[[]int64]{V: s.Cuts}, sqlite.PackCredits(s.Credits), s.At, sqlite.OptionalID(s.PersonID), sqlite.OptionalID(s.CutsID))
}

func optionalBand(band int) any {
	if band < 0 {
		return nil
	}
	return band
}

// Beginnings is where bands begin as a scoring keeps it, in hundredths; -1 where no score is in one.
func Beginnings(cuts band.Cuts) []int64 {
	out := make([]int64, len(cuts.Starts))
	for i, start := range cuts.Starts {
		out[i] = -1
		if start.Raw != nil {
			out[i] = int64(*start.Raw)
		}
	}
	return out
}

// Scorings lists those of an attempt, the oldest first.
func Scorings(ctx context.Context, r sqlite.Reader, attemptID int64) ([]Scoring, error) {
	var rows []scoringRow
	err := r.List(ctx, &rows, scoringSelect+" WHERE attempt_id = ? ORDER BY id", attemptID)
	out := make([]Scoring, len(rows))
	for i, row := range rows {
		out[i] = row.scoring()
	}
	return out, err
}

// Tried is a seat's try with its newest scoring.
type Tried struct {
	Number   int
	Scoring  Scoring
	HandedIn int64         // ms
	Terms    attempt.Terms // under which it was handed in
}

// TriesOf lists the scored tries of a seat, the first try first.
func TriesOf(ctx context.Context, r sqlite.Reader, sitting, student int64) ([]Tried, error) {
	var rows []struct {
		Try      int                        `db:"try"`
		HandedIn int64                      `db:"handed_in_at"`
		Terms    sqlite.JSON[attempt.Terms] `db:"terms"`
		scoringRow
	}
	err := r.List(ctx, &rows, `SELECT t.try, COALESCE(t.handed_in_at, 0) AS handed_in_at,
			COALESCE((SELECT document FROM attempt_terms WHERE attempt_id = t.id ORDER BY position DESC LIMIT 1), '') AS terms, s.id, s.attempt_id, s.form_id, s.kind, s.final, s.raw, COALESCE(s.band, -1) AS band, s.cuts, s.credits, s.at, COALESCE(s.person_id, 0) AS person_id, COALESCE(s.cuts_id, 0) AS cuts_id
		FROM attempt t JOIN scoring s ON s.id = (SELECT MAX(id) FROM scoring WHERE attempt_id = t.id)
		WHERE t.sitting_id = ? AND t.student_id = ? ORDER BY t.try`, sitting, student)
	out := make([]Tried, len(rows))
	for i, row := range rows {
		out[i] = Tried{row.Try, row.scoring(), row.HandedIn, row.Terms.V}
	}
	return out, err
}

// Seat names a seat of a sitting.
type Seat struct {
	SittingID int64 `db:"sitting_id"`
	StudentID int64 `db:"student_id"`
}

// ScoredSeats lists, after a seat, those with a scoring.
func ScoredSeats(ctx context.Context, r sqlite.Reader, after Seat, limit int) ([]Seat, error) {
	var out []Seat
	err := r.List(ctx, &out, `SELECT DISTINCT t.sitting_id, t.student_id FROM attempt t WHERE (t.sitting_id, t.student_id) > (?, ?)
		AND EXISTS (SELECT 1 FROM scoring s WHERE s.attempt_id = t.id) ORDER BY t.sitting_id, t.student_id LIMIT ?`, after.SittingID, after.StudentID, limit)
	return out, err
}

// Result is what counts of a seat.
type Result struct {
	Seat
	AttemptID, ScoringID int64
	Final                bool
	Raw                  points.Points
	Band                 int // -1: none
	Credits              []attempt.LineCredit
	Why                  string // it is this try that counts
}

// PutResult keeps what counts of a seat now and moves the tallies of its sitting from what counted before.
func PutResult(ctx context.Context, t *sqlite.Tx, res Result) error {
	var before struct {
		Credits []byte `db:"credits"`
		Apart   bool   `db:"apart"`
	}
	err := t.Get(ctx, &before, "SELECT x.credits, t.apart FROM result x JOIN attempt t ON t.id = x.attempt_id WHERE x.sitting_id = ? AND x.student_id = ?", res.SittingID, res.StudentID)
	switch {
	case errors.Is(err, sqlite.ErrNotFound):
	case err != nil:
		return err
	case !before.Apart:
		if err := tally(ctx, t, res.SittingID, sqlite.UnpackCredits(before.Credits), -1); err != nil {
			return err
		}
	}
	if err := writeResult(ctx, t, res); err != nil {
		return err
	}
	var apart bool
	if err := t.Get(ctx, &apart, "SELECT apart FROM attempt WHERE id = ?", res.AttemptID); err != nil || apart {
		return err // it does not compare, and is in no sum
	}
	return tally(ctx, t, res.SittingID, res.Credits, 1)
}

// writeResult keeps what counts of a seat; tallies stay as they are.
func writeResult(ctx context.Context, t *sqlite.Tx, res Result) error {
	return t.Exec(ctx, `INSERT INTO result (sitting_id, student_id, attempt_id, scoring_id, final, raw, band, credits, why) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)
		ON CONFLICT (sitting_id, student_id) DO UPDATE SET attempt_id = excluded.attempt_id, scoring_id = excluded.scoring_id, final = excluded.final,
			raw = excluded.raw, band = excluded.band, credits = excluded.credits, why = excluded.why`,
		res.SittingID, res.StudentID, res.AttemptID, res.ScoringID, res.Final, int64(res.Raw), optionalBand(res.Band), sqlite.PackCredits(res.Credits), res.Why)
}

// tally adds a result's lines to the sums of its sitting, or takes them off (sign -1).
// What was not given and what waits for its reader is in no sum.
func tally(ctx context.Context, t *sqlite.Tx, sitting int64, credits []attempt.LineCredit, sign int64) error {
	for i, c := range credits {
		if c.Outcome == item.NotGiven || c.Outcome == item.Unread {
			continue
		}
		omitted := int64(0)
		if c.Outcome == item.Omitted { // what was not reached stands apart
			omitted = sign
		}
		if err := t.Exec(ctx, `INSERT INTO line_tally (sitting_id, line, n, credit, omitted) VALUES (?, ?, ?, ?, ?)
			ON CONFLICT (sitting_id, line) DO UPDATE SET n = n + excluded.n, credit = credit + excluded.credit, omitted = omitted + excluded.omitted`,
			sitting, i+1, sign, sign*int64(c.Credit), omitted); err != nil {
			return err
		}
	}
	return nil
}

// Recut scores everything that is final on a form once more with other cuts, as ByRecut, and lets results follow. place is the band
// that a raw score is in now.
func Recut(ctx context.Context, t *sqlite.Tx, form int64, by Scoring, place func(raw points.Points) (int, error)) error {
	var raws []int64
	if err := t.List(ctx, &raws, `SELECT s.raw FROM attempt a JOIN scoring s ON s.attempt_id = a.id WHERE a.form_id = ?1
		UNION SELECT x.raw FROM attempt a JOIN result x ON x.attempt_id = a.id WHERE a.form_id = ?1`, form); err != nil {
		return err
	}
	placed := make([][2]int64, len(raws))
	for i, raw := range raws {
		at, err := place(points.Points(raw))
		if err != nil {
			return err
		}
		placed[i] = [2]int64{raw, int64(at)}
	}
	// A table with its key, for each of many results looks its band up.
	if err := t.Exec(ctx, "CREATE TEMP TABLE recut AS SELECT 0 AS raw, 0 AS band WHERE FALSE"); err != nil {
		return err
	}
	for _, step := range []struct {
		query string
		args  []any
	}{
		{"CREATE UNIQUE INDEX temp.recut_by_raw ON recut (raw)", nil},
		{"INSERT INTO recut (raw, band) SELECT value ->> 0, value ->> 1 FROM json_each(?)", []any{sqlite.JSON[[][2]int64]{V: placed}}},
		{`INSERT INTO scoring (attempt_id, form_id, kind, final, raw, band, cuts, credits, at, person_id, cuts_id)
			SELECT s.attempt_id, s.form_id, ?2, 1, s.raw, c.band, ?3, s.credits, ?4, ?5, ?6
			FROM attempt a JOIN scoring s ON s.id = (SELECT MAX(id) FROM scoring WHERE attempt_id = a.id) JOIN recut c ON c.raw = s.raw
			WHERE a.form_id = ?1 AND s.final = 1`, []any{form, ByRecut, sqlite.JSON[[]int64]{V: by.Cuts}, by.At, by.PersonID, by.CutsID}},
		{`UPDATE result SET scoring_id = (SELECT MAX(id) FROM scoring s WHERE s.attempt_id = result.attempt_id),
				band = CASE WHEN final THEN (SELECT band FROM recut c WHERE c.raw = result.raw) END
			WHERE attempt_id IN (SELECT id FROM attempt WHERE form_id = ?)`, []any{form}},
		{"DROP TABLE recut", nil},
	} {
		if err := t.Exec(ctx, step.query, step.args...); err != nil {
			return err
		}
	}
	return nil
}

// ResultOfSeat gives what is kept as counting of a seat.
func ResultOfSeat(ctx context.Context, r sqlite.Reader, seat Seat) (Result, error) {
	var row struct {
		AttemptID int64  `db:"attempt_id"`
		ScoringID int64  `db:"scoring_id"`
		Final     bool   `db:"final"`
		Raw       int64  `db:"raw"`
		Band      int    `db:"band"`
		Credits   []byte `db:"credits"`
		Why       string `db:"why"`
	}
	err := r.Get(ctx, &row, "SELECT attempt_id, scoring_id, final, raw, COALESCE(band, -1) AS band, credits, why FROM result WHERE sitting_id = ? AND student_id = ?", seat.SittingID, seat.StudentID)
	return Result{seat, row.AttemptID, row.ScoringID, row.Final, points.Points(row.Raw), row.Band, sqlite.UnpackCredits(row.Credits), row.Why}, err
}

// CountResults is how many seats have one.
func CountResults(ctx context.Context, r sqlite.Reader) (n int, err error) {
	return n, r.Get(ctx, &n, "SELECT COUNT(*) FROM result")
}

// EachTally walks the tallies of all sittings.
func EachTally(ctx context.Context, r sqlite.Reader) ([]LineTally, error) {
	var out []LineTally
	err := r.List(ctx, &out, "SELECT sitting_id, line, n, credit, omitted FROM line_tally WHERE n <> 0 OR credit <> 0 OR omitted <> 0 ORDER BY sitting_id, line")
	return out, err
}

// ForgetResults empties results and tallies, to make them anew from the scorings.
func ForgetResults(ctx context.Context, t *sqlite.Tx) error {
	return errors.Join(t.Exec(ctx, "DELETE FROM result"), t.Exec(ctx, "DELETE FROM line_tally"))
}

// TakeOverScores turns the scores of a database that knew one score an attempt into scorings and results.
func TakeOverScores(ctx context.Context, t *sqlite.Tx) error {
	var rows []struct {
		AttemptID int64  `db:"attempt_id"`
		SittingID int64  `db:"sitting_id"`
		StudentID int64  `db:"student_id"`
		FormID    int64  `db:"form_id"`
		Raw       int64  `db:"raw"`
		Band      *int   `db:"band"`
		Credits   []byte `db:"credits"`
		At        int64  `db:"scored_at"`
	}
	if err := t.List(ctx, &rows, `SELECT x.attempt_id, t.sitting_id, t.student_id, t.form_id, x.raw, x.band, x.credits, x.scored_at
		FROM score x JOIN attempt t ON t.id = x.attempt_id ORDER BY x.attempt_id`); err != nil {
		return err
	}
	if err := ForgetResults(ctx, t); err != nil {
		return err
	}
	for _, row := range rows {
		s := Scoring{AttemptID: row.AttemptID, FormID: row.FormID, Kind: ByMachine, Final: true, Raw: points.Points(row.Raw), Band: -1, Credits: sqlite.UnpackCredits(row.Credits), At: row.At}
		for _, c := range s.Credits {
			s.Final = s.Final && c.Outcome != item.Unread
		}
		if s.Final && row.Band != nil {
			s.Band = *row.Band
		}
		if !s.Final {
			if err := t.Exec(ctx, "UPDATE attempt SET state = 'handed-in' WHERE id = ?", row.AttemptID); err != nil {
				return err
			}
		}
		// The table as it was then: scorings have gained columns since.
		id, err := t.Insert(ctx, "INSERT INTO scoring (attempt_id, form_id, kind, final, raw, band, cuts, credits, at) VALUES (?, ?, ?, ?, ?, ?, 'null', ?, ?)",
			s.AttemptID, s.FormID, s.Kind, s.Final, int64(s.Raw), optionalBand(s.Band), sqlite.PackCredits(s.Credits), s.At)
		if err != nil {
			return err
		}
		if err := writeResult(ctx, t, Result{Seat: Seat{row.SittingID, row.StudentID}, AttemptID: row.AttemptID, ScoringID: id, Final: s.Final, Raw: s.Raw, Band: s.Band, Credits: s.Credits, Why: "The only try."}); err != nil {
			return err
		}
		if err := tally(ctx, t, row.SittingID, s.Credits, 1); err != nil {
			return err
		}
	}
	return t.Exec(ctx, "DROP TABLE score")
}
