package officerows

import (
	"context"
	"encoding/json"

	"pineledger/core/roster"
	"pineledger/core/support"
	"pineledger/store/sqlite"
)

// ProfileEntry is a support in a student's profile, with who entered and ended it.
type ProfileEntry struct {
	ID        int64
	StudentID int64
	support.Have
	Came      string // the file that brought it; "" where it was typed
	EnteredBy string
	EnteredAt int64 // ms
	EndedBy   string
	EndedAt   int64 // ms; 0: it stands
}

type profileRow struct {
	ID          int64       `db:"id"`
	StudentID   int64       `db:"student_id"`
	Key         string      `db:"key"`
	Value       string      `db:"value"`
	Ground      string      `db:"ground"`
	Subjects    sqlite.List `db:"subjects"`
	From        string      `db:"from_day"`
	To          string      `db:"to_day"`
	Came        string      `db:"came"`
	EnteredName string      `db:"entered_name"`
	EnteredAt   int64       `db:"entered_at"`
	EndedName   string      `db:"ended_name"`
	EndedAt     *int64      `db:"ended_at"`
}

func (r profileRow) entry() ProfileEntry {
	out := ProfileEntry{ID: r.ID, StudentID: r.StudentID, Came: r.Came, EnteredBy: r.EnteredName, EnteredAt: r.EnteredAt, EndedBy: r.EndedName,
		Have: support.Have{Key: r.Key, Value: json.RawMessage(r.Value), Ground: r.Ground, Subjects: r.Subjects, From: r.From, To: r.To}}
	if r.EndedAt != nil {
		out.EndedAt = *r.EndedAt
	}
	return out
}

const profileSelect = `SELECT x.id, x.student_id, x.key, x.value, x.ground, x.subjects, x.from_day, x.to_day, x.came, x.entered_name, x.entered_at, x.ended_name, x.ended_at FROM student_support x`

// standingSelect is profileSelect for many students at once: what tells what holds, without who entered it and why.
const standingSelect = `SELECT x.id, x.student_id, x.key, x.value, x.subjects, x.from_day, x.to_day, x.entered_at FROM student_support x`

func standingEntries(ctx context.Context, r sqlite.Reader, rest string, args ...any) ([]ProfileEntry, error) {
	rows, err := r.Query(ctx, standingSelect+rest, args...)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var out []ProfileEntry
	for rows.Next() { // row by row: there are thousands
		var e ProfileEntry
		var value string
		var subjects sqlite.List
		if err := rows.Scan(&e.ID, &e.StudentID, &e.Key, &value, &subjects, &e.From, &e.To, &e.EnteredAt); err != nil {
			return nil, err
		}
		e.Value, e.Subjects = json.RawMessage(value), subjects
		out = append(out, e)
	}
	return out, rows.Err()
}

func profileEntries(ctx context.Context, r sqlite.Reader, rest string, args ...any) ([]ProfileEntry, error) {
	var rows []profileRow
	if err := r.List(ctx, &rows, profileSelect+rest, args...); err != nil {
		return nil, err
	}
	out := make([]ProfileEntry, len(rows))
	for i, row := range rows {
		out[i] = row.entry()
	}
	return out, nil
}

// ProfileOf lists what stands and stood in a student's profile, the newest first.
func ProfileOf(ctx context.Context, r sqlite.Reader, student int64) ([]ProfileEntry, error) {
	return profileEntries(ctx, r, " WHERE x.student_id = ? ORDER BY x.ended_at IS NOT NULL, x.id DESC", student)
}

// StandingOf lists what stands in a student's profile.
func StandingOf(ctx context.Context, r sqlite.Reader, student int64) ([]ProfileEntry, error) {
	return profileEntries(ctx, r, " WHERE x.student_id = ? AND x.ended_at IS NULL ORDER BY x.id", student)
}

// StandingAt lists what stands in the profiles of who has a seat in a sitting: what it is and when it holds, as the next two.
func StandingAt(ctx context.Context, r sqlite.Reader, sitting int64) ([]ProfileEntry, error) {
	return standingEntries(ctx, r, " JOIN seat ON seat.student_id = x.student_id WHERE seat.sitting_id = ? AND x.ended_at IS NULL ORDER BY x.student_id, x.id", sitting)
}

// StandingSeated lists what stands in the profiles of who has a seat in a distribution, in sections in scope.
func StandingSeated(ctx context.Context, r sqlite.Reader, scope roster.Scope, distribution int64) ([]ProfileEntry, error) {
	var w sqlite.Where
	w.Add("g.distribution_id = ? AND x.ended_at IS NULL", distribution)
	InScope(&w, scope)
	return standingEntries(ctx, r, " JOIN seat ON seat.student_id = x.student_id JOIN sitting g ON g.id = seat.sitting_id JOIN section s ON s.id = g.section_id"+
		w.String()+" ORDER BY x.student_id, x.id", w.Args...)
}

// StandingEnrolled lists what stands in the profiles of the students of sections.
func StandingEnrolled(ctx context.Context, r sqlite.Reader, sections []int64) ([]ProfileEntry, error) {
	in, args := sqlite.In("e.section_id", sections)
	return standingEntries(ctx, r, ` WHERE x.ended_at IS NULL AND x.student_id IN (SELECT e.person_id FROM enrolment e WHERE `+in+
		" AND e.role = 'student' AND e.active = 1) ORDER BY x.student_id, x.id", args...)
}

// StandingAll walks what stands in all profiles of students in scope, by student.
func StandingAll(ctx context.Context, r sqlite.Reader, scope roster.Scope, after int64, limit int) ([]ProfileEntry, error) {
	var w sqlite.Where
	w.Add("e.role = 'student' AND e.active = 1")
	InScope(&w, scope)
	args := append([]any{after}, w.Args...)
	return profileEntries(ctx, r, ` WHERE x.ended_at IS NULL AND x.student_id IN (SELECT DISTINCT y.student_id FROM student_support y WHERE y.student_id > ? AND y.ended_at IS NULL AND y.student_id IN (
		SELECT e.person_id FROM enrolment e JOIN section s ON s.id = e.section_id`+w.String()+`) ORDER BY y.student_id LIMIT ?) ORDER BY x.student_id, x.id`, append(args, limit)...)
}

// AddToProfile enters a support.
func AddToProfile(ctx context.Context, t *sqlite.Tx, student int64, h support.Have, came string, by roster.Viewer, at int64) (int64, error) {
	return t.Insert(ctx, `INSERT INTO student_support (student_id, key, value, ground, subjects, from_day, to_day, came, entered_by, entered_name, entered_at)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`, student, h.Key, string(h.Value), h.Ground, sqlite.List(h.Subjects), h.From, h.To, came, by.PersonID, by.Name, at)
}

// EndInProfile ends what stands; ErrStale where it has ended already.
func EndInProfile(ctx context.Context, t *sqlite.Tx, id int64, by roster.Viewer, at int64) error {
	return t.ChangeOne(ctx, "UPDATE student_support SET ended_by = ?, ended_name = ?, ended_at = ? WHERE id = ? AND ended_at IS NULL", by.PersonID, by.Name, at, id)
}

// ProfileEntryByID gives an entry.
func ProfileEntryByID(ctx context.Context, r sqlite.Reader, id int64) (ProfileEntry, error) {
	var row profileRow
	err := r.Get(ctx, &row, profileSelect+" WHERE x.id = ?", id)
	return row.entry(), err
}

// Pupil is a student as staff find them.
type Pupil struct {
	ID        int64  `db:"id"`
	Number    string `db:"number"`
	Name      string `db:"name"`
	Grade     string `db:"grade"`
	SectionID int64  `db:"section_id"` // one of theirs in scope
	Section   string `db:"section"`
	School    string `db:"school"`
	SchoolID  int64  `db:"school_id"`
}

// PupilInScope gives a student of a section in scope, or ErrNotFound.
func PupilInScope(ctx context.Context, r sqlite.Reader, scope roster.Scope, student int64) (Pupil, error) {
	var w sqlite.Where
	w.Add("p.id = ? AND e.role = 'student' AND e.active = 1", student)
	InScope(&w, scope)
	var p Pupil
	err := r.Get(ctx, &p, `SELECT p.id, p.number, p.given || ' ' || p.family AS name, p.grade, s.id AS section_id, s.title AS section, c.id AS school_id, c.name AS school
		FROM person p JOIN enrolment e ON e.person_id = p.id JOIN section s ON s.id = e.section_id JOIN school c ON c.id = s.school_id`+w.String()+" ORDER BY s.id LIMIT 1", w.Args...)
	return p, err
}

// PupilNamed finds an active student by roster id or number; ErrNotFound where there is none.
func PupilNamed(ctx context.Context, r sqlite.Reader, id string) (student int64, name string, err error) {
	var row struct {
		ID   int64  `db:"id"`
		Name string `db:"name"`
	}
	err = r.Get(ctx, &row, `SELECT p.id, p.given || ' ' || p.family AS name FROM person p WHERE p.active = 1 AND (p.sourced_id = ?1 OR p.number = ?1 AND p.number <> '')
		AND EXISTS (SELECT 1 FROM enrolment e WHERE e.person_id = p.id AND e.role = 'student') ORDER BY p.sourced_id = ?1 DESC LIMIT 1`, id)
	return row.ID, row.Name, err
}

// RosterNamed is a student as rosters name them.
type RosterNamed struct {
	ID        int64  `db:"id"`
	SourcedID string `db:"sourced_id"`
	Number    string `db:"number"`
	Name      string `db:"name"`
}

// RosterNames gives how rosters name students.
func RosterNames(ctx context.Context, r sqlite.Reader, students []int64) (map[int64]RosterNamed, error) {
	in, args := sqlite.In("p.id", students)
	var rows []RosterNamed
	if err := r.List(ctx, &rows, `SELECT p.id, p.sourced_id, p.number, p.given || ' ' || p.family AS name FROM person p WHERE `+in, args...); err != nil {
		return nil, err
	}
	out := map[int64]RosterNamed{}
	for _, p := range rows {
		out[p.ID] = p
	}
	return out, nil
}

// Grounds lists on what grounds the district gives supports.
func Grounds(ctx context.Context, r sqlite.Reader) ([]string, error) {
	var out []string
	err := r.List(ctx, &out, "SELECT name FROM ground ORDER BY position, name")
	return out, err
}

// Ground is a ground of the district's list, and how many students have a support on it that has not ended.
type Ground struct {
	Name     string `db:"name"`
	Students int    `db:"students"`
}

// GroundsInUse lists the grounds with how many students each concerns.
func GroundsInUse(ctx context.Context, r sqlite.Reader) ([]Ground, error) {
	var out []Ground
	err := r.List(ctx, &out, `SELECT name, (SELECT COUNT(DISTINCT x.student_id) FROM student_support x WHERE x.ground = name AND x.ended_at IS NULL) AS students
		FROM ground ORDER BY position, name`)
	return out, err
}

// PutGrounds replaces the list, in its order.
func PutGrounds(ctx context.Context, t *sqlite.Tx, names []string) error {
	if err := t.Exec(ctx, "DELETE FROM ground"); err != nil {
		return err
	}
	for i, name := range names {
		if err := t.Exec(ctx, "INSERT INTO ground (name, position) VALUES (?, ?)", name, i+1); err != nil {
			return err
		}
	}
	return nil
}

// ConstructRules lists what supports would break by the district's rules.
func ConstructRules(ctx context.Context, r sqlite.Reader) ([]support.Construct, error) {
	var rows []struct {
		Support  string `db:"support"`
		Part     string `db:"part"`
		Subject  string `db:"subject"`
		Standard string `db:"standard"`
		Why      string `db:"why"`
	}
	err := r.List(ctx, &rows, "SELECT support, part, subject, standard, why FROM construct_rule ORDER BY support, part, subject, standard")
	var out []support.Construct
	for _, row := range rows {
		out = append(out, support.Construct(row))
	}
	return out, err
}

// PutConstructRules replaces the rules of the district.
func PutConstructRules(ctx context.Context, t *sqlite.Tx, rules []support.Construct) error {
	if err := t.Exec(ctx, "DELETE FROM construct_rule"); err != nil {
		return err
	}
	for _, c := range rules {
		if err := AddConstructRule(ctx, t, c); err != nil {
			return err
		}
	}
	return nil
}

// AddConstructRule keeps a rule of the district.
func AddConstructRule(ctx context.Context, t *sqlite.Tx, c support.Construct) error {
	return t.Exec(ctx, "INSERT INTO construct_rule (support, part, subject, standard, why) VALUES (?, ?, ?, ?, ?)", c.Support, c.Part, c.Subject, c.Standard, c.Why)
}
