package giverows

import (
	"context"
	"encoding/json"
	"time"

	"pineledger/core/roster"
	"pineledger/store/officerows"
	"pineledger/store/sqlite"
)

// WindowPart is the share of a grade in one window of a distribution.
type WindowPart struct {
	DistributionID int64  `db:"distribution_id"`
	AssessmentID   int64  `db:"assessment_id"`
	Title          string `db:"title"`
	ShortTitle     string `db:"short_title"`
	Subject        string `db:"subject"`
	Purpose        string `db:"purpose"`
	State          string `db:"state"` // sent or draft
	Grade          string `db:"grade"`
	OpensAt        int64  `db:"opens_at"`
	ClosesAt       int64  `db:"closes_at"`
	SchoolID       int64  `db:"school_id"`  // one of its schools
	SectionID      int64  `db:"section_id"` // one of its sections
	Sections       int    `db:"sections"`
	Students       int    `db:"students"`
}

// WindowFilter narrows windows; zero values do not.
type WindowFilter struct {
	From, To time.Time
	SchoolID int64
	Grade    string
	Subject  string
	Student  int64 // what this one takes
}

func (f WindowFilter) narrow(w *sqlite.Where, scope roster.Scope) {
	officerows.InScope(w, scope)
	if f.SchoolID > 0 {
		w.Add("s.school_id = ?", f.SchoolID)
	}
	if f.Grade != "" {
		w.Add("s.grade = ?", f.Grade)
	}
	if f.Subject != "" {
		w.Add("a.subject = ?", f.Subject)
	}
}

const windowColumns = `SELECT d.id AS distribution_id, d.assessment_id, a.title, a.short_title, a.subject, a.purpose, d.state, s.grade, MIN(s.school_id) AS school_id, MIN(s.id) AS section_id,
	COUNT(*) AS sections, `

// Windows lists the windows in scope of what is out and of drafts with dates, by grade; the earliest first.
func Windows(ctx context.Context, r sqlite.Reader, scope roster.Scope, f WindowFilter) ([]WindowPart, error) {
	var w sqlite.Where
	w.Add("d.state = 'sent' AND g.opens_at < ? AND g.closes_at > ?", sqlite.Millis(f.To), sqlite.Millis(f.From))
	f.narrow(&w, scope)
	if f.Student > 0 {
		w.Add("EXISTS (SELECT 1 FROM seat x WHERE x.sitting_id = g.id AND x.student_id = ?)", f.Student)
	}
	var out []WindowPart
	if err := r.List(ctx, &out, windowColumns+`g.opens_at, g.closes_at, SUM((SELECT COUNT(*) FROM seat WHERE seat.sitting_id = g.id)) AS students
		FROM sitting g JOIN distribution d ON d.id = g.distribution_id JOIN assessment a ON a.id = d.assessment_id JOIN section s ON s.id = g.section_id`+
		w.String()+" GROUP BY d.id, s.grade, g.opens_at, g.closes_at ORDER BY g.opens_at, d.id, s.grade", w.Args...); err != nil {
		return nil, err
	}
	var drafts sqlite.Where
	drafts.Add("d.state = 'draft' AND d.opens_at IS NOT NULL AND d.closes_at IS NOT NULL AND a.shelved_at IS NULL AND a.deleted_at IS NULL AND d.opens_at < ? AND d.closes_at > ?", sqlite.Millis(f.To), sqlite.Millis(f.From))
	f.narrow(&drafts, scope)
	if f.Student > 0 {
		drafts.Add(`EXISTS (SELECT 1 FROM enrolment e WHERE e.section_id = s.id AND e.person_id = ? AND e.role = 'student' AND e.active = 1)
			AND NOT EXISTS (SELECT 1 FROM distribution_left_out o WHERE o.distribution_id = d.id AND o.student_id = ?)`, f.Student, f.Student)
	}
	var more []WindowPart
	err := r.List(ctx, &more, windowColumns+`d.opens_at, d.closes_at,
			SUM((SELECT COUNT(*) FROM enrolment e WHERE e.section_id = s.id AND e.role = 'student' AND e.active = 1)) AS students
		FROM distribution d JOIN distribution_section y ON y.distribution_id = d.id JOIN assessment a ON a.id = d.assessment_id JOIN section s ON s.id = y.section_id`+
		drafts.String()+" GROUP BY d.id, s.grade ORDER BY d.opens_at, d.id, s.grade", drafts.Args...)
	return append(out, more...), err
}

// GradeSizes counts the students in scope of each grade.
func GradeSizes(ctx context.Context, r sqlite.Reader, scope roster.Scope, school int64) (map[string]int, error) {
	var w sqlite.Where
	w.Add("s.active = 1 AND e.role = 'student' AND e.active = 1")
	officerows.InScope(&w, scope)
	if school > 0 {
		w.Add("s.school_id = ?", school)
	}
	var rows []struct {
		Grade string `db:"grade"`
		N     int    `db:"n"`
	}
	err := r.List(ctx, &rows, "SELECT s.grade, COUNT(DISTINCT e.person_id) AS n FROM enrolment e JOIN section s ON s.id = e.section_id"+w.String()+" GROUP BY s.grade", w.Args...)
	out := map[string]int{}
	for _, row := range rows {
		out[row.Grade] = row.N
	}
	return out, err
}

// Term is a stretch of the school year by the roster.
type Term struct {
	Title  string `db:"title"`
	Begins string `db:"begins"` // its first and its last day
	Ends   string `db:"ends"`
}

// Terms lists those of the school year around a day, the year itself first.
func Terms(ctx context.Context, r sqlite.Reader, day string) ([]Term, error) {
	var out []Term
	err := r.List(ctx, &out, `SELECT DISTINCT t.title, t.begins, t.ends FROM term y JOIN term t ON t.begins >= y.begins AND t.ends <= y.ends AND t.ends > t.begins
		WHERE y.kind = 'schoolYear' AND y.begins <= ?1 AND y.ends >= ?1 ORDER BY t.begins, t.ends DESC, t.title`, day)
	return out, err
}

// whoTakes lists who takes a distribution, in one grade: its seats, or for a draft who is in its sections and not left out.
func whoTakes(distribution, grade string) string {
	return `SELECT seat.student_id FROM sitting g JOIN seat ON seat.sitting_id = g.id JOIN section s ON s.id = g.section_id
			WHERE g.distribution_id = ` + distribution + ` AND s.grade = ` + grade + `
		UNION SELECT e.person_id FROM distribution d JOIN distribution_section y ON y.distribution_id = d.id JOIN section s ON s.id = y.section_id
			JOIN enrolment e ON e.section_id = s.id AND e.role = 'student' AND e.active = 1
			WHERE d.id = ` + distribution + ` AND d.state = 'draft' AND s.grade = ` + grade + `
				AND NOT EXISTS (SELECT 1 FROM distribution_left_out o WHERE o.distribution_id = d.id AND o.student_id = e.person_id)`
}

var inBoth = "SELECT COUNT(*) FROM (" + whoTakes("?1", "?2") + ") x WHERE x.student_id IN (" + whoTakes("?3", "?2") + ")"

// InBoth counts the students of a grade who take both of two distributions.
func InBoth(ctx context.Context, r sqlite.Reader, one, other int64, grade string) (n int, err error) {
	err = r.Get(ctx, &n, inBoth, one, grade, other)
	return n, err
}

// DayName is what a day without school is called; school 0 is the district.
type DayName struct {
	SchoolID int64  `db:"school_id"`
	Day      string `db:"day"`
	Name     string `db:"name"`
}

// DayNames lists what days are called by the district and a school.
func DayNames(ctx context.Context, r sqlite.Reader, school int64) ([]DayName, error) {
	var out []DayName
	err := r.List(ctx, &out, "SELECT school_id, day, name FROM day_name WHERE school_id IN (0, ?) ORDER BY day, school_id", school)
	return out, err
}

// PutDayNames keeps what days of a school or the district are called. Those that are no longer among the days lose their name; one that is
// given none keeps what it had.
func PutDayNames(ctx context.Context, t *sqlite.Tx, school int64, days []string, names map[string]string) error {
	list, err := json.Marshal(days)
	if err != nil {
		return err
	}
	if err := t.Exec(ctx, "DELETE FROM day_name WHERE school_id = ? AND day NOT IN (SELECT value FROM json_each(?))", school, string(list)); err != nil {
		return err
	}
	for day, name := range names {
		if err := t.Exec(ctx, "INSERT INTO day_name (school_id, day, name) VALUES (?, ?, ?) ON CONFLICT (school_id, day) DO UPDATE SET name = excluded.name", school, day, name); err != nil {
			return err
		}
	}
	return nil
}

// Feed is a calendar that is read by its address.
type Feed struct {
	PersonID int64  `db:"person_id"`
	SchoolID int64  `db:"school_id"`
	Grade    string `db:"grade"`
	Subject  string `db:"subject"`
}

// PutFeed gives a person's calendar an address, instead of the one before; only its digest is kept.
func PutFeed(ctx context.Context, t *sqlite.Tx, digest string, f Feed, at time.Time) error {
	if err := t.Exec(ctx, "DELETE FROM calendar_feed WHERE person_id = ? AND school_id = ? AND grade = ? AND subject = ?", f.PersonID, f.SchoolID, f.Grade, f.Subject); err != nil {
		return err
	}
	return t.Exec(ctx, "INSERT INTO calendar_feed (digest, person_id, school_id, grade, subject, made_at) VALUES (?, ?, ?, ?, ?, ?)",
		digest, f.PersonID, f.SchoolID, f.Grade, f.Subject, sqlite.Millis(at))
}

// FeedAt finds a calendar by the digest of its address; ErrNotFound without one.
func FeedAt(ctx context.Context, r sqlite.Reader, digest string) (Feed, error) {
	var f Feed
	err := r.Get(ctx, &f, "SELECT person_id, school_id, grade, subject FROM calendar_feed WHERE digest = ?", digest)
	return f, err
}
