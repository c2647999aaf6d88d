// Package readrows keeps scores and their tallies.
package readrows

import (
	"context"

	"pineledger/core/attempt"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store/officerows"
	"pineledger/store/sqlite"
	"pineledger/store/takerows"
)

// ResultListed is a distribution as the list of results shows it, counted in scope.
type ResultListed struct {
	DistributionID int64       `db:"distribution_id"`
	AssessmentID   int64       `db:"assessment_id"`
	FormID         int64       `db:"form_id"`
	Title          string      `db:"title"`
	Subject        string      `db:"subject"`
	Grades         sqlite.List `db:"grades"`
	OpensAt        int64       `db:"opens_at"`
	ClosesAt       int64       `db:"closes_at"`
	KeysOpen       bool        `db:"keys_open"` // to teachers, though the window is not over
	Apart          bool        `db:"apart"`     // it is in no summary
	Sections       int         `db:"sections"`
	Seats          int         `db:"seats"`
	Begun          int         `db:"begun"`
	Scored         int         `db:"scored"`  // seats with a final result
	Waiting        int         `db:"waiting"` // for a reader
}

const resultSelect = `SELECT d.id AS distribution_id, d.assessment_id, d.form_id, a.title, a.subject, a.grades, d.opens_at, d.closes_at, d.keys_open, d.in_reports = 0 AS apart,
	COUNT(DISTINCT g.section_id) AS sections, COUNT(*) AS seats, COUNT(t.id) AS begun, COALESCE(SUM(x.final), 0) AS scored, COALESCE(SUM(NOT x.final), 0) AS waiting
	FROM distribution d JOIN assessment a ON a.id = d.assessment_id JOIN sitting g ON g.distribution_id = d.id JOIN section s ON s.id = g.section_id
	JOIN seat ON seat.sitting_id = g.id LEFT JOIN attempt t ON t.sitting_id = g.id AND t.student_id = seat.student_id AND t.try = 1
	LEFT JOIN result x ON x.sitting_id = g.id AND x.student_id = seat.student_id`

// Results lists distributions that reach into the scope, newest window first.
func Results(ctx context.Context, r sqlite.Reader, scope roster.Scope, limit int) ([]ResultListed, error) {
	var w sqlite.Where
	officerows.InScope(&w, scope)
	var out []ResultListed
	err := r.List(ctx, &out, resultSelect+w.String()+" GROUP BY d.id ORDER BY d.opens_at DESC, d.id DESC LIMIT ?", append(w.Args, limit)...)
	return out, err
}

// ResultByID gives one distribution counted in scope; ErrNotFound when none of it lies there.
func ResultByID(ctx context.Context, r sqlite.Reader, scope roster.Scope, distribution int64) (ResultListed, error) {
	var w sqlite.Where
	w.Add("d.id = ?", distribution)
	officerows.InScope(&w, scope)
	var out ResultListed
	err := r.Get(ctx, &out, resultSelect+w.String()+" GROUP BY d.id", w.Args...)
	return out, err
}

// BandCount counts the results of a sitting in one band, or those that wait for a reader.
type BandCount struct {
	Final     bool   `db:"final"`
	SittingID int64  `db:"sitting_id"`
	Band      *int64 `db:"band"`
	N         int    `db:"n"`
	Raw       int64  `db:"raw"` // sum, hundredths
}

// NotComparable counts the results of a distribution in scope that do not compare; they are in no summary.
func NotComparable(ctx context.Context, r sqlite.Reader, scope roster.Scope, distribution int64) (n int, err error) {
	var w sqlite.Where
	w.Add("g.distribution_id = ? AND t.apart = 1", distribution)
	officerows.InScope(&w, scope)
	err = r.Get(ctx, &n, "SELECT COUNT(*) FROM sitting g JOIN section s ON s.id = g.section_id JOIN result x ON x.sitting_id = g.id JOIN attempt t ON t.id = x.attempt_id"+w.String(), w.Args...)
	return n, err
}

// BandCounts counts a distribution's scores in scope, but for those that do not compare.
func BandCounts(ctx context.Context, r sqlite.Reader, scope roster.Scope, distribution int64) ([]BandCount, error) {
	var w sqlite.Where
	w.Add("g.distribution_id = ?", distribution)
	officerows.InScope(&w, scope)
	var out []BandCount
	err := r.List(ctx, &out, `SELECT x.sitting_id, x.final, x.band, COUNT(*) AS n, SUM(x.raw) AS raw
		FROM sitting g JOIN section s ON s.id = g.section_id JOIN result x ON x.sitting_id = g.id
		JOIN attempt t ON t.id = x.attempt_id AND t.apart = 0`+w.String()+" GROUP BY x.sitting_id, x.final, x.band", w.Args...)
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
func LineTallies(ctx context.Context, r sqlite.Reader, scope roster.Scope, distribution int64) ([]LineTally, error) {
	var w sqlite.Where
	w.Add("g.distribution_id = ?", distribution)
	officerows.InScope(&w, scope)
	var out []LineTally
	err := r.List(ctx, &out, `SELECT y.sitting_id, y.line, y.n, y.credit, y.omitted
		FROM sitting g JOIN section s ON s.id = g.section_id JOIN line_tally y ON y.sitting_id = g.id`+w.String()+" ORDER BY y.sitting_id, y.line", w.Args...)
	return out, err
}

// MatrixRow is what counts of one student.
type MatrixRow struct {
	AttemptID int64
	Student   string // as lists name them
	Family    string
	Given     string
	Number    string
	SchoolID  int64
	School    string
	SectionID int64
	Section   string
	Final     bool          // no line waits for its reader
	Raw       points.Points // of the lines that are scored
	Band      int           // -1: no bands, or not final
	Credits   []attempt.LineCredit
	Why       string // it is this try that counts
	Apart     bool   // it does not compare, and is in no summary
}

// MatrixFilter narrows the matrix; zero values do not.
type MatrixFilter struct {
	SchoolID, SectionID int64
	Band                *int
	Words               string // in the student's name or number
}

// Matrix lists what counts of a distribution's students in scope by name.
func Matrix(ctx context.Context, r sqlite.Reader, scope roster.Scope, distribution int64, f MatrixFilter) ([]MatrixRow, error) {
	var w sqlite.Where
	w.Add("g.distribution_id = ?", distribution)
	officerows.InScope(&w, scope)
	f.narrow(&w)
	if f.Band != nil {
		w.Add("x.band = ?", *f.Band) // what waits for a reader has none
	}
	rows, err := r.Query(ctx, `SELECT x.attempt_id, p.family || ', ' || p.given, p.family, p.given, p.number, g.school_id, c.name, s.id, s.title, x.final, x.raw, COALESCE(x.band, -1), x.credits, x.why, t.apart
		FROM sitting g JOIN section s ON s.id = g.section_id JOIN school c ON c.id = g.school_id
		JOIN result x ON x.sitting_id = g.id JOIN attempt t ON t.id = x.attempt_id JOIN person p ON p.id = x.student_id`+
		w.String()+" ORDER BY p.family, p.given, p.id", w.Args...)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var out []MatrixRow
	for rows.Next() {
		var row MatrixRow
		var packed []byte
		if err := rows.Scan(&row.AttemptID, &row.Student, &row.Family, &row.Given, &row.Number, &row.SchoolID, &row.School, &row.SectionID, &row.Section, &row.Final, &row.Raw, &row.Band, &packed, &row.Why, &row.Apart); err != nil {
			return nil, err
		}
		row.Credits = sqlite.UnpackCredits(packed)
		out = append(out, row)
	}
	return out, rows.Err()
}

// EachResult walks what counts of a distribution's students in scope, line by line, but for what does not compare.
func EachResult(ctx context.Context, r sqlite.Reader, scope roster.Scope, distribution int64, see func([]attempt.LineCredit)) error {
	var w sqlite.Where
	w.Add("g.distribution_id = ?", distribution)
	officerows.InScope(&w, scope)
	rows, err := r.Query(ctx, "SELECT x.credits FROM sitting g JOIN section s ON s.id = g.section_id JOIN result x ON x.sitting_id = g.id JOIN attempt t ON t.id = x.attempt_id AND t.apart = 0"+w.String(), w.Args...)
	if err != nil {
		return err
	}
	defer rows.Close()
	for rows.Next() {
		var packed []byte
		if err := rows.Scan(&packed); err != nil {
			return err
		}
		see(sqlite.UnpackCredits(packed))
	}
	return rows.Err()
}

// Absentee is a student of a distribution of whom nothing counts yet.
type Absentee struct {
	Family  string `db:"family"`
	Given   string `db:"given"`
	Number  string `db:"number"`
	School  string `db:"school"`
	Section string `db:"section"`
	Begun   bool   `db:"begun"` // and has not handed in
}

// Absentees lists, by name, the students in scope whom a distribution is for and who have no result.
func Absentees(ctx context.Context, r sqlite.Reader, scope roster.Scope, distribution int64, f MatrixFilter) ([]Absentee, error) {
	if f.Band != nil {
		return nil, nil // who has no result has no band
	}
	var w sqlite.Where
	w.Add("g.distribution_id = ? AND g.makeup = 0", distribution) // a result of a makeup is one of the section
	w.Add("NOT EXISTS (SELECT 1 FROM sitting h JOIN result x ON x.sitting_id = h.id WHERE h.distribution_id = g.distribution_id AND h.section_id = g.section_id AND x.student_id = p.id)")
	w.Add(`NOT EXISTS (SELECT 1 FROM distribution d JOIN distribution o ON COALESCE(o.dealt_with, o.id) = COALESCE(d.dealt_with, d.id) AND o.id <> d.id
		JOIN sitting h ON h.distribution_id = o.id JOIN seat y ON y.sitting_id = h.id WHERE d.id = g.distribution_id AND y.student_id = p.id)`) // who has a twin form
	w.Add("NOT EXISTS (SELECT 1 FROM distribution_left_out o WHERE o.distribution_id = g.distribution_id AND o.student_id = p.id)")
	officerows.InScope(&w, scope)
	f.narrow(&w)
	var out []Absentee
	err := r.List(ctx, &out, `SELECT p.family, p.given, p.number, c.name AS school, s.title AS section,
			EXISTS (SELECT 1 FROM sitting h JOIN attempt a ON a.sitting_id = h.id WHERE h.distribution_id = g.distribution_id AND h.section_id = g.section_id AND a.student_id = p.id) AS begun
		FROM sitting g JOIN section s ON s.id = g.section_id JOIN school c ON c.id = g.school_id
		JOIN enrolment e ON e.section_id = s.id AND e.role = 'student' AND e.active = 1 JOIN person p ON p.id = e.person_id AND p.active = 1`+
		w.String()+" ORDER BY p.family, p.given, p.id", w.Args...)
	return out, err
}

// narrow adds what the filter says of schools, sections and names.
func (f MatrixFilter) narrow(w *sqlite.Where) {
	if f.SchoolID > 0 {
		w.Add("g.school_id = ?", f.SchoolID)
	}
	if f.SectionID > 0 {
		w.Add("g.section_id = ?", f.SectionID)
	}
	if f.Words != "" {
		like := "%" + sqlite.EscapeLike(f.Words) + "%"
		w.Add(`(p.given || ' ' || p.family LIKE ? ESCAPE '\' OR p.number LIKE ? ESCAPE '\')`, like, like)
	}
}

// ScoreInScope gives a scored attempt with where it was sat; ErrNotFound outside the scope.
func ScoreInScope(ctx context.Context, r sqlite.Reader, scope roster.Scope, attempt int64) (MatrixRow, takerows.Attempt, error) {
	var w sqlite.Where
	w.Add("x.attempt_id = ?", attempt)
	officerows.InScope(&w, scope)
	var row MatrixRow
	var packed []byte
	rows, err := r.Query(ctx, `SELECT x.attempt_id, p.given || ' ' || p.family, p.family, p.given, p.number, g.school_id, c.name, s.id, s.title, x.final, x.raw, COALESCE(x.band, -1), x.credits, x.why
		FROM result x JOIN sitting g ON g.id = x.sitting_id JOIN section s ON s.id = g.section_id
		JOIN school c ON c.id = g.school_id JOIN person p ON p.id = x.student_id`+w.String(), w.Args...)
	if err != nil {
		return row, takerows.Attempt{}, err
	}
	defer rows.Close()
	if !rows.Next() {
		if err := rows.Err(); err != nil {
			return row, takerows.Attempt{}, err
		}
		return row, takerows.Attempt{}, sqlite.ErrNotFound
	}
	if err := rows.Scan(&row.AttemptID, &row.Student, &row.Family, &row.Given, &row.Number, &row.SchoolID, &row.School, &row.SectionID, &row.Section, &row.Final, &row.Raw, &row.Band, &packed, &row.Why); err != nil {
		return row, takerows.Attempt{}, err
	}
	row.Credits = sqlite.UnpackCredits(packed)
	a, err := takerows.AttemptByID(ctx, r, attempt)
	return row, a, err
}
