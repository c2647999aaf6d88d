package giverows

import (
	"context"
	"time"

	"pineledger/core/roster"
	"pineledger/core/window"
	"pineledger/store/officerows"
	"pineledger/store/sqlite"
)

// SentOf lists what was sent of an assessment, the newest first.
func SentOf(ctx context.Context, r sqlite.Reader, assessment int64) ([]Distribution, error) {
	var rows []distributionRow
	if err := r.List(ctx, &rows, distributionSelect+" WHERE assessment_id = ? AND state = 'sent' ORDER BY id DESC", assessment); err != nil {
		return nil, err
	}
	out := make([]Distribution, len(rows))
	for i, row := range rows {
		out[i] = row.distribution()
	}
	return out, nil
}

// SentByID gives a distribution that was sent.
func SentByID(ctx context.Context, r sqlite.Reader, id int64) (Distribution, error) {
	var row distributionRow
	err := r.Get(ctx, &row, distributionSelect+" WHERE id = ? AND state = 'sent'", id)
	return row.distribution(), err
}

// Prepared counts the sections in scope that an assessment is to be sent to next.
func Prepared(ctx context.Context, r sqlite.Reader, scope roster.Scope, assessment int64) (n int, err error) {
	var w sqlite.Where
	w.Add("d.assessment_id = ? AND d.state = 'draft'", assessment)
	officerows.InScope(&w, scope)
	err = r.Get(ctx, &n, "SELECT COUNT(*) FROM distribution d JOIN distribution_section y ON y.distribution_id = d.id JOIN section s ON s.id = y.section_id"+w.String(), w.Args...)
	return n, err
}

// DealtBy lists the distributions of the twin forms that were sent with one, by the letters of the forms.
func DealtBy(ctx context.Context, r sqlite.Reader, distribution int64) ([]Distribution, error) {
	var rows []distributionRow
	err := r.List(ctx, &rows, distributionSelect+" WHERE dealt_with = ? ORDER BY id", distribution)
	out := make([]Distribution, len(rows))
	for i, row := range rows {
		out[i] = row.distribution()
	}
	return out, err
}

// DropDraft forgets a distribution that was not sent, with what is said of its settings.
func DropDraft(ctx context.Context, t *sqlite.Tx, d Distribution) error {
	if err := putAim(ctx, t, d.ID, roster.Aim{}); err != nil {
		return err
	}
	if err := t.Exec(ctx, "DELETE FROM setting WHERE assessment_id = ? AND level = 'distribution' AND thing_id = ?", d.AssessmentID, d.ID); err != nil {
		return err
	}
	return t.ChangeOne(ctx, "DELETE FROM distribution WHERE id = ? AND state = 'draft'", d.ID)
}

// DraftByID gives a distribution that is being prepared.
func DraftByID(ctx context.Context, r sqlite.Reader, id int64) (Distribution, error) {
	var row distributionRow
	err := r.Get(ctx, &row, distributionSelect+" WHERE id = ? AND state = 'draft'", id)
	return row.distribution(), err
}

// SatOf lists the sittings of a distribution in scope.
func SatOf(ctx context.Context, r sqlite.Reader, scope roster.Scope, distribution int64) ([]Sat, error) {
	var w sqlite.Where
	w.Add("g.distribution_id = ?", distribution)
	officerows.InScope(&w, scope)
	var out []Sat
	err := r.List(ctx, &out, satSelect+w.String()+" ORDER BY c.name, s.title, g.id", w.Args...)
	return out, err
}

// SatOfAssessment lists the sittings in scope of all distributions of an assessment, and of twin forms that were sent with it.
func SatOfAssessment(ctx context.Context, r sqlite.Reader, scope roster.Scope, assessment int64) ([]Sat, error) {
	var w sqlite.Where
	w.Add(givenWith, assessment)
	officerows.InScope(&w, scope)
	var out []Sat
	err := r.List(ctx, &out, satSelect+w.String(), w.Args...)
	return out, err
}

// SatByID gives a sitting, wherever it is.
func SatByID(ctx context.Context, r sqlite.Reader, sitting int64) (Sat, error) {
	var out Sat
	err := r.Get(ctx, &out, satSelect+" WHERE g.id = ?", sitting)
	return out, err
}

// EditionOf is the edition that a distribution gives.
func EditionOf(ctx context.Context, r sqlite.Reader, distribution int64) (edition int, err error) {
	err = r.Get(ctx, &edition, "SELECT f.edition FROM distribution d JOIN form f ON f.id = d.form_id WHERE d.id = ?", distribution)
	return edition, err
}

// CameIn counts the seats in scope that came after a distribution was sent.
func CameIn(ctx context.Context, r sqlite.Reader, scope roster.Scope, distribution int64) (n int, err error) {
	var w sqlite.Where
	w.Add("g.distribution_id = ? AND seat.came <> ''", distribution)
	officerows.InScope(&w, scope)
	err = r.Get(ctx, &n, "SELECT COUNT(*) FROM seat JOIN sitting g ON g.id = seat.sitting_id JOIN section s ON s.id = g.section_id"+w.String(), w.Args...)
	return n, err
}

// MoveDates keeps other waves of a distribution that is out; ErrStale when it has another version by now.
func MoveDates(ctx context.Context, t *sqlite.Tx, d Distribution, waves window.Waves) error {
	whole := waves.Whole()
	return t.ChangeOne(ctx, "UPDATE distribution SET waves = ?, opens_at = ?, closes_at = ?, version = version + 1 WHERE id = ? AND version = ? AND state = 'sent'",
		sqlite.JSON[window.Waves]{V: waves}, sqlite.Millis(whole.From), sqlite.Millis(whole.To), d.ID, d.Version)
}

// Recall makes a distribution a draft again and drops its sittings, in which nobody has begun. An empty draft beside it
// gives way.
func Recall(ctx context.Context, t *sqlite.Tx, d Distribution) error {
	for _, query := range []string{
		"DELETE FROM distribution_section WHERE distribution_id = (SELECT id FROM distribution WHERE assessment_id = ?2 AND state = 'draft' AND id <> ?1)",
		"DELETE FROM distribution_left_out WHERE distribution_id = (SELECT id FROM distribution WHERE assessment_id = ?2 AND state = 'draft' AND id <> ?1)",
		"DELETE FROM distribution WHERE assessment_id = ?2 AND state = 'draft' AND id <> ?1",
	} {
		if err := t.Exec(ctx, query, d.ID, d.AssessmentID); err != nil {
			return err
		}
	}
	if err := t.Exec(ctx, "DELETE FROM notice WHERE path IN (SELECT '/rooms/' || id FROM sitting WHERE distribution_id = ?)", d.ID); err != nil {
		return err // they lead nowhere any more
	}
	for _, table := range []string{"seat", "door_move", "sitting_support"} {
		if err := t.Exec(ctx, "DELETE FROM "+table+" WHERE sitting_id IN (SELECT id FROM sitting WHERE distribution_id = ?)", d.ID); err != nil {
			return err
		}
	}
	if err := t.Exec(ctx, "DELETE FROM sitting WHERE distribution_id = ?", d.ID); err != nil {
		return err
	}
	if err := t.Exec(ctx, "DELETE FROM room WHERE NOT EXISTS (SELECT 1 FROM sitting g WHERE g.room_id = room.id)"); err != nil {
		return err
	}
	return t.ChangeOne(ctx, "UPDATE distribution SET state = 'draft', form_id = NULL, reasons = '{}', sent_at = NULL, sent_by = NULL, version = version + 1 WHERE id = ? AND version = ?",
		d.ID, d.Version)
}

// Following is a distribution that takes in who comes later, with who sent it.
type Following struct {
	Distribution
	SentBy int64
}

// FollowingAt lists the distributions that take in who comes later and are not over at a moment.
func FollowingAt(ctx context.Context, r sqlite.Reader, now time.Time) ([]Following, error) {
	var rows []struct {
		distributionRow
		SentBy int64 `db:"sent_by"`
	}
	err := r.List(ctx, &rows, `SELECT `+distributionColumns+`, COALESCE(sent_by, 0) AS sent_by
		FROM distribution WHERE state = 'sent' AND closes_at > ? AND whom ->> 'follow' = 1 ORDER BY id`, sqlite.Millis(now))
	var out []Following
	for _, row := range rows {
		out = append(out, Following{row.distribution(), row.SentBy})
	}
	return out, err
}

// SeatPlace is a seat with what became of it.
type SeatPlace struct {
	StudentID int64 `db:"student_id"`
	SittingID int64 `db:"sitting_id"`
	SectionID int64 `db:"section_id"`
	Makeup    bool  `db:"makeup"`   // in a room of makeups
	Enrolled  bool  `db:"enrolled"` // still in its section
}

// SeatsOf lists all seats of a distribution.
func SeatsOf(ctx context.Context, r sqlite.Reader, distribution int64) ([]SeatPlace, error) {
	var out []SeatPlace
	err := r.List(ctx, &out, `SELECT seat.student_id, g.id AS sitting_id, g.section_id,
			g.makeup, EXISTS (SELECT 1 FROM enrolment e WHERE e.section_id = g.section_id AND e.person_id = seat.student_id AND e.role = 'student' AND e.active = 1) AS enrolled
		FROM sitting g JOIN seat ON seat.sitting_id = g.id WHERE g.distribution_id = ?`, distribution)
	return out, err
}

// SeatedByAnother tells who has a seat in another distribution of an assessment.
func SeatedByAnother(ctx context.Context, r sqlite.Reader, assessment, distribution int64) (map[int64]bool, error) {
	var ids []int64
	err := r.List(ctx, &ids, `SELECT DISTINCT seat.student_id FROM distribution d JOIN sitting g ON g.distribution_id = d.id JOIN seat ON seat.sitting_id = g.id
		WHERE d.assessment_id = ? AND d.id <> ?`, assessment, distribution)
	out := make(map[int64]bool, len(ids))
	for _, id := range ids {
		out[id] = true
	}
	return out, err
}

// ComeBy says how a seat came after its distribution was sent.
type ComeBy string

const (
	ByRule ComeBy = "rule"
	ByHand ComeBy = "hand"
)

// AddLateSeat gives a student a seat in a sitting that was sent before.
func AddLateSeat(ctx context.Context, t *sqlite.Tx, sitting, student int64, by ComeBy, at time.Time) error {
	return t.Exec(ctx, "INSERT INTO seat (sitting_id, student_id, came, came_at) VALUES (?, ?, ?, ?)", sitting, student, by, sqlite.Millis(at))
}

// CameLate notes how a seat came that was moved into a sitting.
func CameLate(ctx context.Context, t *sqlite.Tx, sitting, student int64, by ComeBy, at time.Time) error {
	return t.Exec(ctx, "UPDATE seat SET came = ?, came_at = ? WHERE sitting_id = ? AND student_id = ?", by, sqlite.Millis(at), sitting, student)
}

// TeachersAt names a teacher of the section of each of some sittings; those without one are left out.
func TeachersAt(ctx context.Context, r sqlite.Reader, sittings []int64) (map[int64]string, error) {
	var rows []struct {
		ID   int64  `db:"id"`
		Name string `db:"name"`
	}
	err := r.List(ctx, &rows, `SELECT g.id, MIN(p.given || ' ' || p.family) AS name FROM sitting g
		JOIN enrolment e ON e.section_id = g.section_id AND e.role = 'teacher' AND e.active = 1 JOIN person p ON p.id = e.person_id
		WHERE g.id IN (SELECT value FROM json_each(?)) GROUP BY g.id`, sqlite.JsonIDs(sittings))
	out := map[int64]string{}
	for _, row := range rows {
		out[row.ID] = row.Name
	}
	return out, err
}

// Told is a teacher with the first of their sections among some sittings, and how many there are.
type Told struct {
	PersonID  int64  `db:"person_id"`
	SittingID int64  `db:"sitting_id"`
	Section   string `db:"section"`
	Sections  int    `db:"sections"`
	OpensAt   int64  `db:"opens_at"` // the first beginning and the last end of these
	ClosesAt  int64  `db:"closes_at"`
}

// TeachersTold lists the teachers of the sections of some sittings, each once.
func TeachersTold(ctx context.Context, r sqlite.Reader, sittings []int64) ([]Told, error) {
	var out []Told
	err := r.List(ctx, &out, `SELECT e.person_id, MIN(g.id) AS sitting_id, MIN(s.title) AS section, COUNT(DISTINCT g.id) AS sections,
			MIN(g.opens_at) AS opens_at, MAX(g.closes_at) AS closes_at
		FROM sitting g JOIN section s ON s.id = g.section_id JOIN enrolment e ON e.section_id = g.section_id AND e.role = 'teacher' AND e.active = 1
		WHERE g.id IN (SELECT value FROM json_each(?)) GROUP BY e.person_id ORDER BY e.person_id`, sqlite.JsonIDs(sittings))
	return out, err
}
