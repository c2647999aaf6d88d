package store

import (
	"context"
	"database/sql"
	"encoding/binary"

	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/core/roster"
)

// LineCredit is what a student earned on one line.
type LineCredit struct {
	Credit  points.Points
	Outcome item.Outcome
}

// The credits of a score are kept in five bytes a line: a letter for the outcome
// and the credit in hundredths, big-endian.
const creditBytes = 5

var outcomeLetters = map[item.Outcome]byte{item.Right: 'r', item.Part: 'p', item.Wrong: 'w', item.Omitted: 'o', item.NotReached: 'n', item.Unread: 'u', item.NotGiven: 'g'}

var outcomesByLetter = func() map[byte]item.Outcome {
	out := map[byte]item.Outcome{}
	for outcome, letter := range outcomeLetters {
		out[letter] = outcome
	}
	return out
}()

func packCredits(credits []LineCredit) []byte {
	out := make([]byte, 0, creditBytes*len(credits))
	for _, c := range credits {
		out = append(out, outcomeLetters[c.Outcome])
		out = binary.BigEndian.AppendUint32(out, uint32(c.Credit))
	}
	return out
}

func unpackCredits(packed []byte) []LineCredit {
	out := make([]LineCredit, 0, len(packed)/creditBytes)
	for at := 0; at+creditBytes <= len(packed); at += creditBytes {
		out = append(out, LineCredit{points.Points(binary.BigEndian.Uint32(packed[at+1:])), outcomesByLetter[packed[at]]})
	}
	return out
}

// Score is a scored attempt. Band is -1 where the form has no bands.
type Score struct {
	AttemptID, SittingID int64
	Raw                  points.Points
	Band                 int
	Credits              []LineCredit
	At                   int64
}

// AddScore keeps a score and adds it to its sitting's tallies.
func (t *Tx) AddScore(ctx context.Context, s Score) error {
	var band any
	if s.Band >= 0 {
		band = s.Band
	}
	if err := t.exec(ctx, "INSERT INTO score (attempt_id, sitting_id, raw, band, credits, scored_at) VALUES (?, ?, ?, ?, ?, ?)",
		s.AttemptID, s.SittingID, int64(s.Raw), band, packCredits(s.Credits), s.At); err != nil {
		return err
	}
	for i, c := range s.Credits {
		if c.Outcome == item.NotGiven {
			continue
		}
		omitted := c.Outcome == item.Omitted // what was not reached stands apart
		if err := t.exec(ctx, `INSERT INTO line_tally (sitting_id, line, n, credit, omitted) VALUES (?, ?, 1, ?, ?)
			ON CONFLICT (sitting_id, line) DO UPDATE SET n = n + 1, credit = credit + excluded.credit, omitted = omitted + excluded.omitted`,
			s.SittingID, i+1, int64(c.Credit), omitted); err != nil {
			return err
		}
	}
	return nil
}

// ResultListed is a distribution as the list of results shows it, counted in scope.
type ResultListed struct {
	DistributionID int64  `db:"distribution_id"`
	AssessmentID   int64  `db:"assessment_id"`
	FormID         int64  `db:"form_id"`
	Title          string `db:"title"`
	Subject        string `db:"subject"`
	Grades         string `db:"grades"`
	OpensAt        int64  `db:"opens_at"`
	ClosesAt       int64  `db:"closes_at"`
	Sections       int    `db:"sections"`
	Seats          int    `db:"seats"`
	Begun          int    `db:"begun"`
	Scored         int    `db:"scored"`
}

const resultSelect = `SELECT d.id AS distribution_id, d.assessment_id, d.form_id, a.title, a.subject, a.grades, d.opens_at, d.closes_at,
	COUNT(DISTINCT g.id) AS sections, COUNT(*) AS seats, COUNT(t.id) AS begun, COUNT(x.attempt_id) AS scored
	FROM distribution d JOIN assessment a ON a.id = d.assessment_id JOIN sitting g ON g.distribution_id = d.id JOIN section s ON s.id = g.section_id
	JOIN seat ON seat.sitting_id = g.id LEFT JOIN attempt t ON t.sitting_id = g.id AND t.student_id = seat.student_id
	LEFT JOIN score x ON x.attempt_id = t.id`

// Results lists distributions that reach into the scope, newest window first.
func (r Reader) Results(ctx context.Context, scope roster.Scope, limit int) ([]ResultListed, error) {
	var w where
	inScope(&w, scope)
	var out []ResultListed
	err := r.list(ctx, &out, resultSelect+w.String()+" GROUP BY d.id ORDER BY d.opens_at DESC, d.id DESC LIMIT ?", append(w.args, limit)...)
	return out, err
}

// Result gives one distribution counted in scope; ErrNotFound when none of it lies there.
func (r Reader) Result(ctx context.Context, scope roster.Scope, distribution int64) (ResultListed, error) {
	var w where
	w.add("d.id = ?", distribution)
	inScope(&w, scope)
	var out ResultListed
	err := r.get(ctx, &out, resultSelect+w.String()+" GROUP BY d.id", w.args...)
	return out, err
}

// BandCount counts the scores of a sitting in one band.
type BandCount struct {
	SittingID int64         `db:"sitting_id"`
	Band      sql.NullInt64 `db:"band"`
	N         int           `db:"n"`
	Raw       int64         `db:"raw"` // sum, hundredths
}

// BandCounts counts a distribution's scores in scope.
func (r Reader) BandCounts(ctx context.Context, scope roster.Scope, distribution int64) ([]BandCount, error) {
	var w where
	w.add("g.distribution_id = ?", distribution)
	inScope(&w, scope)
	var out []BandCount
	err := r.list(ctx, &out, `SELECT x.sitting_id, x.band, COUNT(*) AS n, SUM(x.raw) AS raw
		FROM sitting g JOIN section s ON s.id = g.section_id JOIN score x ON x.sitting_id = g.id`+w.String()+" GROUP BY x.sitting_id, x.band", w.args...)
	return out, err
}

// LineTally sums a sitting's credit on one line.
type LineTally struct {
	SittingID int64 `db:"sitting_id"`
	Line      int   `db:"line"`
	N         int   `db:"n"`
	Credit    int64 `db:"credit"`
	Omitted   int   `db:"omitted"`
}

// LineTallies gives the tallies of a distribution's sittings in scope.
func (r Reader) LineTallies(ctx context.Context, scope roster.Scope, distribution int64) ([]LineTally, error) {
	var w where
	w.add("g.distribution_id = ?", distribution)
	inScope(&w, scope)
	var out []LineTally
	err := r.list(ctx, &out, `SELECT y.sitting_id, y.line, y.n, y.credit, y.omitted
		FROM sitting g JOIN section s ON s.id = g.section_id JOIN line_tally y ON y.sitting_id = g.id`+w.String()+" ORDER BY y.sitting_id, y.line", w.args...)
	return out, err
}

// MatrixRow is one student's scored attempt.
type MatrixRow struct {
	AttemptID int64
	Student   string
	Number    string
	SchoolID  int64
	School    string
	SectionID int64
	Section   string
	Raw       points.Points
	Band      int // -1: no bands
	Credits   []LineCredit
}

// MatrixFilter narrows the matrix; zero values do not.
type MatrixFilter struct {
	SchoolID, SectionID int64
	Band                *int
	Words               string // in the student's name or number
}

// Matrix lists a distribution's scored attempts in scope by name.
func (r Reader) Matrix(ctx context.Context, scope roster.Scope, distribution int64, f MatrixFilter) ([]MatrixRow, error) {
	var w where
	w.add("g.distribution_id = ?", distribution)
	inScope(&w, scope)
	if f.SchoolID > 0 {
		w.add("g.school_id = ?", f.SchoolID)
	}
	if f.SectionID > 0 {
		w.add("g.section_id = ?", f.SectionID)
	}
	if f.Band != nil {
		w.add("x.band = ?", *f.Band)
	}
	if f.Words != "" {
		like := "%" + escapeLike(f.Words) + "%"
		w.add(`(p.given || ' ' || p.family LIKE ? ESCAPE '\' OR p.number LIKE ? ESCAPE '\')`, like, like)
	}
	rows, err := r.q.QueryxContext(ctx, `SELECT x.attempt_id, p.family || ', ' || p.given, p.number, g.school_id, c.name, s.id, s.title, x.raw, COALESCE(x.band, -1), x.credits
		FROM sitting g JOIN section s ON s.id = g.section_id JOIN school c ON c.id = g.school_id
		JOIN score x ON x.sitting_id = g.id JOIN attempt t ON t.id = x.attempt_id JOIN person p ON p.id = t.student_id`+
		w.String()+" ORDER BY p.family, p.given, p.id", w.args...)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var out []MatrixRow
	for rows.Next() {
		var row MatrixRow
		var packed []byte
		if err := rows.Scan(&row.AttemptID, &row.Student, &row.Number, &row.SchoolID, &row.School, &row.SectionID, &row.Section, &row.Raw, &row.Band, &packed); err != nil {
			return nil, err
		}
		row.Credits = unpackCredits(packed)
		out = append(out, row)
	}
	return out, rows.Err()
}

// ScoreInScope gives a scored attempt with where it was sat; ErrNotFound outside the scope.
func (r Reader) ScoreInScope(ctx context.Context, scope roster.Scope, attempt int64) (MatrixRow, Attempt, error) {
	var w where
	w.add("x.attempt_id = ?", attempt)
	inScope(&w, scope)
	var row MatrixRow
	var packed []byte
	rows, err := r.q.QueryxContext(ctx, `SELECT x.attempt_id, p.given || ' ' || p.family, p.number, g.school_id, c.name, s.id, s.title, x.raw, COALESCE(x.band, -1), x.credits
		FROM score x JOIN attempt t ON t.id = x.attempt_id JOIN sitting g ON g.id = x.sitting_id JOIN section s ON s.id = g.section_id
		JOIN school c ON c.id = g.school_id JOIN person p ON p.id = t.student_id`+w.String(), w.args...)
	if err != nil {
		return row, Attempt{}, err
	}
	defer rows.Close()
	if !rows.Next() {
		if err := rows.Err(); err != nil {
			return row, Attempt{}, err
		}
		return row, Attempt{}, ErrNotFound
	}
	if err := rows.Scan(&row.AttemptID, &row.Student, &row.Number, &row.SchoolID, &row.School, &row.SectionID, &row.Section, &row.Raw, &row.Band, &packed); err != nil {
		return row, Attempt{}, err
	}
	row.Credits = unpackCredits(packed)
	a, err := r.AttemptByID(ctx, attempt)
	return row, a, err
}
