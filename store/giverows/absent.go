package giverows

import (
	"context"

	"pineledger/core/attempt"
	"pineledger/core/roster"
	"pineledger/store/officerows"
	"pineledger/store/sqlite"
)

// Absent is a student who has not handed an assessment in.
type Absent struct {
	StudentID int64             `db:"student_id"`
	Number    string            `db:"number"`
	Given     string            `db:"given"`
	Family    string            `db:"family"`
	SittingID int64             `db:"sitting_id"`
	Section   string            `db:"section"`
	School    string            `db:"school"`
	Door      attempt.DoorState `db:"door"`
	Begun     bool              `db:"begun"`
	Answered  int               `db:"answered"`
	SavedAt   *int64            `db:"saved_at"` // ms, of the last answer
	ClosesAt  int64             `db:"closes_at"`
}

// AbsentFilter narrows the list; zero values do not.
type AbsentFilter struct {
	SchoolID int64
	Begun    *bool // only who has begun, or only who has not
	Met      bool  // only where the door was opened
	From     int   // the first row, from 0
	Limit    int
}

// AbsentFrom lists the students in scope who have not handed in what the sittings of an assessment, and of twin forms sent with it, ask, by school, section and name, and counts all
// that the filter leaves. A retake that is not finished is none: the student has handed in once.
func AbsentFrom(ctx context.Context, r sqlite.Reader, scope roster.Scope, assessment int64, f AbsentFilter) (list []Absent, found int, err error) {
	var w sqlite.Where
	w.Add(givenWith+" AND d.state = 'sent' AND (t.id IS NULL OR t.state = 'working')", assessment)
	officerows.InScope(&w, scope)
	if f.SchoolID > 0 {
		w.Add("g.school_id = ?", f.SchoolID)
	}
	if f.Begun != nil {
		w.Add("(t.id IS NOT NULL) = ?", *f.Begun)
	}
	if f.Met {
		w.Add("g.door <> ?", attempt.Waiting)
	}
	from := ` FROM seat JOIN sitting g ON g.id = seat.sitting_id JOIN distribution d ON d.id = g.distribution_id JOIN section s ON s.id = g.section_id
		JOIN school c ON c.id = g.school_id JOIN person p ON p.id = seat.student_id LEFT JOIN attempt t ON t.sitting_id = g.id AND t.student_id = p.id AND t.try = 1` + w.String()
	if err := r.Get(ctx, &found, "SELECT COUNT(*)"+from, w.Args...); err != nil {
		return nil, 0, err
	}
	err = r.List(ctx, &list, `SELECT p.id AS student_id, p.number, p.given, p.family, g.id AS sitting_id, s.title AS section, c.name AS school, g.door, g.closes_at, t.id IS NOT NULL AS begun,
			(SELECT COUNT(*) FROM answer a WHERE a.attempt_id = t.id AND a.response <> '{}') AS answered, (SELECT MAX(a.saved_at) FROM answer a WHERE a.attempt_id = t.id) AS saved_at`+
		from+" ORDER BY c.name, s.title, p.family, p.given, p.id LIMIT ? OFFSET ?", append(w.Args, f.Limit, f.From)...)
	return list, found, err
}
