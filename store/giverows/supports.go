package giverows

import (
	"context"
	"encoding/json"

	"pineledger/core/roster"
	"pineledger/core/support"
	"pineledger/store/officerows"
	"pineledger/store/sqlite"
)

// AddedSupport is a support that was added for one sitting.
type AddedSupport struct {
	SittingID int64
	StudentID int64
	Key       string
	Value     json.RawMessage
	Reason    string
	Person    string
	At        int64 // ms
}

type addedRow struct {
	SittingID int64  `db:"sitting_id"`
	StudentID int64  `db:"student_id"`
	Key       string `db:"key"`
	Value     string `db:"value"`
	Reason    string `db:"reason"`
	Person    string `db:"person"`
	At        int64  `db:"at"`
}

func added(ctx context.Context, r sqlite.Reader, rest string, args ...any) ([]AddedSupport, error) {
	var rows []addedRow
	if err := r.List(ctx, &rows, "SELECT x.sitting_id, x.student_id, x.key, x.value, x.reason, x.person, x.at FROM sitting_support x"+rest, args...); err != nil {
		return nil, err
	}
	out := make([]AddedSupport, len(rows))
	for i, row := range rows {
		out[i] = AddedSupport{row.SittingID, row.StudentID, row.Key, json.RawMessage(row.Value), row.Reason, row.Person, row.At}
	}
	return out, nil
}

// AddedTo lists the supports that were added for a student at a sitting.
func AddedTo(ctx context.Context, r sqlite.Reader, sitting, student int64) ([]AddedSupport, error) {
	return added(ctx, r, " WHERE x.sitting_id = ? AND x.student_id = ? ORDER BY x.id", sitting, student)
}

// AddedAt lists those that were added at a sitting.
func AddedAt(ctx context.Context, r sqlite.Reader, sitting int64) ([]AddedSupport, error) {
	return added(ctx, r, " WHERE x.sitting_id = ? ORDER BY x.id", sitting)
}

// AddedIn lists those that were added at the sittings of a distribution in scope.
func AddedIn(ctx context.Context, r sqlite.Reader, scope roster.Scope, distribution int64) ([]AddedSupport, error) {
	var w sqlite.Where
	w.Add("g.distribution_id = ?", distribution)
	officerows.InScope(&w, scope)
	return added(ctx, r, " JOIN sitting g ON g.id = x.sitting_id JOIN section s ON s.id = g.section_id"+w.String()+" ORDER BY x.id", w.Args...)
}

// AddSupport adds a support for a student at a sitting.
func AddSupport(ctx context.Context, t *sqlite.Tx, a AddedSupport, by int64) error {
	return t.Exec(ctx, "INSERT INTO sitting_support (sitting_id, student_id, key, value, reason, person_id, person, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
		a.SittingID, a.StudentID, a.Key, string(a.Value), a.Reason, by, a.Person, a.At)
}

// RulingMade is what a coordinator decided of a support for an assessment.
type RulingMade struct {
	Key    string         `db:"key"`
	Ruling support.Ruling `db:"ruling"`
	Reason string         `db:"reason"`
	Person string         `db:"person"`
	At     int64          `db:"at"`
}

// Rulings lists what was decided for an assessment.
func Rulings(ctx context.Context, r sqlite.Reader, assessment int64) ([]RulingMade, error) {
	var out []RulingMade
	err := r.List(ctx, &out, "SELECT key, ruling, reason, person, at FROM support_ruling WHERE assessment_id = ? ORDER BY key", assessment)
	return out, err
}

// PutRuling keeps a decision; the one before it stays in the ledger alone.
func PutRuling(ctx context.Context, t *sqlite.Tx, assessment int64, m RulingMade, by int64) error {
	return t.Exec(ctx, `INSERT INTO support_ruling (assessment_id, key, ruling, reason, person_id, person, at) VALUES (?, ?, ?, ?, ?, ?, ?)
		ON CONFLICT (assessment_id, key) DO UPDATE SET ruling = excluded.ruling, reason = excluded.reason, person_id = excluded.person_id, person = excluded.person, at = excluded.at`,
		assessment, m.Key, m.Ruling, m.Reason, by, m.Person, m.At)
}

// DropRuling takes a decision back.
func DropRuling(ctx context.Context, t *sqlite.Tx, assessment int64, key string) error {
	return t.Exec(ctx, "DELETE FROM support_ruling WHERE assessment_id = ? AND key = ?", assessment, key)
}

// Provider is who provides a support in a section, or that its paper is made.
type Provider struct {
	SectionID int64  `db:"section_id"`
	Key       string `db:"key"`
	Provider  string `db:"provider"`
	Number    int    `db:"number"` // of people, rooms or copies
}

// Providers lists who provides what for an assessment.
func Providers(ctx context.Context, r sqlite.Reader, assessment int64) ([]Provider, error) {
	var out []Provider
	err := r.List(ctx, &out, "SELECT section_id, key, provider, number FROM support_provider WHERE assessment_id = ? ORDER BY section_id, key", assessment)
	return out, err
}

// PutProvider names who provides a support in a section; with nobody it is not provided any more.
func PutProvider(ctx context.Context, t *sqlite.Tx, assessment int64, p Provider, by roster.Viewer, at int64) error {
	if p.Provider == "" {
		return t.Exec(ctx, "DELETE FROM support_provider WHERE assessment_id = ? AND section_id = ? AND key = ?", assessment, p.SectionID, p.Key)
	}
	return t.Exec(ctx, `INSERT INTO support_provider (assessment_id, section_id, key, provider, number, person_id, person, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?)
		ON CONFLICT (assessment_id, section_id, key) DO UPDATE SET provider = excluded.provider, number = excluded.number, person_id = excluded.person_id, person = excluded.person, at = excluded.at`,
		assessment, p.SectionID, p.Key, p.Provider, p.Number, by.PersonID, by.Name, at)
}

// SeatOf is a student's place in a matrix of supports.
type SeatOf struct {
	SittingID int64  `db:"sitting_id"` // 0 before it is sent
	StudentID int64  `db:"student_id"`
	Number    string `db:"number"`
	Name      string `db:"name"`
	SectionID int64  `db:"section_id"`
	Section   string `db:"section"`
	SchoolID  int64  `db:"school_id"`
	School    string `db:"school"`
}

const withSupports = ` AND (p.id IN (SELECT student_id FROM student_support WHERE ended_at IS NULL)`

// SeatsWithSupports lists the seats of a distribution in scope whose students have supports in their profiles or were given some for
// the day, by school, section and name; and counts all seats.
func SeatsWithSupports(ctx context.Context, r sqlite.Reader, scope roster.Scope, distribution int64) (seats []SeatOf, all int, err error) {
	var w sqlite.Where
	w.Add("g.distribution_id = ?", distribution)
	officerows.InScope(&w, scope)
	const from = ` FROM seat JOIN sitting g ON g.id = seat.sitting_id JOIN section s ON s.id = g.section_id`
	if err := r.Get(ctx, &all, "SELECT COUNT(*)"+from+w.String(), w.Args...); err != nil {
		return nil, 0, err
	}
	err = r.List(ctx, &seats, `SELECT g.id AS sitting_id, p.id AS student_id, p.number, p.given || ' ' || p.family AS name, s.id AS section_id, s.title AS section, c.id AS school_id, c.name AS school`+
		from+` JOIN school c ON c.id = g.school_id JOIN person p ON p.id = seat.student_id`+w.String()+withSupports+
		` OR EXISTS (SELECT 1 FROM sitting_support y WHERE y.sitting_id = g.id AND y.student_id = p.id)) ORDER BY c.name, s.title, s.id, p.family, p.given, p.id`, w.Args...)
	return seats, all, err
}

// EnrolledWithSupports lists the students of sections that an assessment is yet to be sent to, as far as they have supports in their profiles, in
// the order of SeatsWithSupports. It begins with who has supports: they are few; the plus keeps SQLite from looking each of them up in
// every section.
func EnrolledWithSupports(ctx context.Context, r sqlite.Reader, scope roster.Scope, aim roster.Aim) (seats []SeatOf, err error) {
	w := enrolled(scope, aim, "+s.id")
	err = r.List(ctx, &seats, `SELECT 0 AS sitting_id, p.id AS student_id, p.number, p.given || ' ' || p.family AS name, s.id AS section_id, s.title AS section, c.id AS school_id, c.name AS school
		FROM (SELECT DISTINCT student_id FROM student_support WHERE ended_at IS NULL) x CROSS JOIN enrolment e ON e.person_id = x.student_id CROSS JOIN section s ON s.id = e.section_id
		CROSS JOIN person p ON p.id = e.person_id CROSS JOIN school c ON c.id = s.school_id`+w.String()+" ORDER BY c.name, s.title, s.id, p.family, p.given, p.id", w.Args...)
	return seats, err
}

// Enrolled counts the students of sections that an assessment is yet to be sent to.
func Enrolled(ctx context.Context, r sqlite.Reader, scope roster.Scope, aim roster.Aim) (n int, err error) {
	w := enrolled(scope, aim, "s.id")
	err = r.Get(ctx, &n, "SELECT COUNT(DISTINCT p.id) FROM enrolment e JOIN section s ON s.id = e.section_id JOIN person p ON p.id = e.person_id"+w.String(), w.Args...)
	return n, err
}

func enrolled(scope roster.Scope, aim roster.Aim, section string) *sqlite.Where {
	var w sqlite.Where
	w.Add(section+" IN (SELECT value FROM json_each(?)) AND e.role = 'student' AND e.active = 1 AND p.active = 1", sqlite.JsonIDs(aim.Sections))
	w.Add("p.id NOT IN (SELECT value FROM json_each(?))", sqlite.JsonIDs(aim.LeftOut))
	officerows.InScope(&w, scope)
	return &w
}

// SentLast gives the newest distribution of an assessment that was sent; ErrNotFound without one.
func SentLast(ctx context.Context, r sqlite.Reader, assessment int64) (Distribution, error) {
	var row distributionRow
	err := r.Get(ctx, &row, distributionSelect+" WHERE assessment_id = ? AND state = 'sent' ORDER BY id DESC LIMIT 1", assessment)
	return row.distribution(), err
}

// WithSupports counts the students in scope who take an assessment, or are in the sections that it is to be sent to, and have
// supports in their profiles.
func WithSupports(ctx context.Context, r sqlite.Reader, scope roster.Scope, assessment int64) (n int, err error) {
	var w sqlite.Where
	w.Add("x.ended_at IS NULL")
	officerows.InScope(&w, scope)
	err = r.Get(ctx, &n, `SELECT COUNT(DISTINCT x.student_id) FROM student_support x JOIN (
			SELECT seat.student_id AS student_id, g.section_id AS section_id FROM distribution d JOIN sitting g ON g.distribution_id = d.id JOIN seat ON seat.sitting_id = g.id
				WHERE d.assessment_id = ?1
			UNION SELECT e.person_id, y.section_id FROM distribution d JOIN distribution_section y ON y.distribution_id = d.id
				JOIN enrolment e ON e.section_id = y.section_id AND e.role = 'student' AND e.active = 1 WHERE d.assessment_id = ?1 AND d.state = 'draft'
		) who ON who.student_id = x.student_id JOIN section s ON s.id = who.section_id`+w.String(), append([]any{assessment}, w.Args...)...)
	return n, err
}
