// Package giverows keeps distributions and their sittings.
package giverows

import (
	"context"
	"time"

	"pineledger/core/attempt"
	"pineledger/core/roster"
	"pineledger/core/window"
	"pineledger/store/officerows"
	"pineledger/store/sqlite"
)

// Distribution is a sealed assessment's way to its sections; a draft until sent.
type Distribution struct {
	ID           int64
	AssessmentID int64
	FormID       int64 // 0 until sent
	Whom         roster.Whom
	Waves        window.Waves
	Opens        time.Time         // the first beginning of a wave
	Closes       time.Time         // the last end of one
	State        string            // draft, sent
	Reasons      map[string]string // of the cautions that were accepted, by their code
	Sent         time.Time
	Released     time.Time // when feedback was released to students; zero: not
	Version      int
	Deal         roster.Deal // how its twin forms go over the seats
	DealtWith    int64       // the distribution of the form with which it was sent; 0: by itself
}

// givenWith narrows distributions d to those of an assessment, and of twin forms that were sent with it.
const givenWith = `d.id IN (SELECT e.id FROM distribution e JOIN distribution f ON COALESCE(e.dealt_with, e.id) = COALESCE(f.dealt_with, f.id) WHERE f.assessment_id = ?)`

type distributionRow struct {
	ID           int64                          `db:"id"`
	AssessmentID int64                          `db:"assessment_id"`
	FormID       int64                          `db:"form_id"`
	Whom         sqlite.JSON[roster.Whom]       `db:"whom"`
	Waves        sqlite.JSON[window.Waves]      `db:"waves"`
	OpensAt      *int64                         `db:"opens_at"`
	ClosesAt     *int64                         `db:"closes_at"`
	State        string                         `db:"state"`
	Reasons      sqlite.JSON[map[string]string] `db:"reasons"`
	SentAt       *int64                         `db:"sent_at"`
	ReleasedAt   *int64                         `db:"released_at"`
	Version      int                            `db:"version"`
	Deal         roster.Deal                    `db:"deal"`
	DealtWith    int64                          `db:"dealt_with"`
}

func (r distributionRow) distribution() Distribution {
	return Distribution{ID: r.ID, AssessmentID: r.AssessmentID, FormID: r.FormID, Whom: r.Whom.V, Waves: r.Waves.V, Opens: sqlite.OptionalTime(r.OpensAt), Closes: sqlite.OptionalTime(r.ClosesAt),
		State: r.State, Reasons: r.Reasons.V, Sent: sqlite.OptionalTime(r.SentAt), Released: sqlite.OptionalTime(r.ReleasedAt), Version: r.Version, Deal: r.Deal, DealtWith: r.DealtWith}
}

const distributionColumns = `id, assessment_id, COALESCE(form_id, 0) AS form_id, whom, waves, opens_at, closes_at, state, reasons, sent_at, released_at, version, deal, COALESCE(dealt_with, 0) AS dealt_with`

const distributionSelect = "SELECT " + distributionColumns + " FROM distribution"

// DraftDistribution gives the one distribution of an assessment that has not been sent.
func DraftDistribution(ctx context.Context, r sqlite.Reader, assessment int64) (Distribution, error) {
	var row distributionRow
	err := r.Get(ctx, &row, distributionSelect+" WHERE assessment_id = ? AND state = 'draft'", assessment)
	return row.distribution(), err
}

// AimOf gives whom a distribution goes to.
func AimOf(ctx context.Context, r sqlite.Reader, distribution int64) (roster.Aim, error) {
	t := roster.Aim{Sections: []int64{}, LeftOut: []int64{}}
	if err := r.List(ctx, &t.Sections, "SELECT section_id FROM distribution_section WHERE distribution_id = ? ORDER BY section_id", distribution); err != nil {
		return t, err
	}
	err := r.List(ctx, &t.LeftOut, "SELECT student_id FROM distribution_left_out WHERE distribution_id = ? ORDER BY student_id", distribution)
	return t, err
}

// Unpermitted lists the titles of an assessment's passages of which nobody has noted a permission.
func Unpermitted(ctx context.Context, r sqlite.Reader, assessment int64) ([]string, error) {
	var out []string
	err := r.List(ctx, &out, `SELECT DISTINCT p.title FROM line l JOIN item_version v ON v.id = l.item_version_id JOIN passage p ON p.id = v.passage_id
		WHERE l.assessment_id = ? AND p.permission = '' ORDER BY p.title`, assessment)
	return out, err
}

// PutDistribution writes a draft (ID 0: a new one) with whom it goes to and what that comes to; ErrStale
// when it has another version by now or was sent.
func PutDistribution(ctx context.Context, t *sqlite.Tx, d Distribution, aim roster.Aim) (int64, error) {
	id := d.ID
	var err error
	whom, waves, whole := sqlite.JSON[roster.Whom]{V: d.Whom}, sqlite.JSON[window.Waves]{V: d.Waves}, d.Waves.Whole()
	opens, closes := sqlite.OptionalMillis(whole.From), sqlite.OptionalMillis(whole.To)
	if id == 0 {
		id, err = t.Insert(ctx, `INSERT INTO distribution (assessment_id, whom, waves, opens_at, closes_at, deal, dealt_with, state, reasons, version)
			VALUES (?, ?, ?, ?, ?, ?, ?, 'draft', '{}', 1)`, d.AssessmentID, whom, waves, opens, closes, d.Deal, sqlite.OptionalID(d.DealtWith))
	} else {
		err = t.ChangeOne(ctx, `UPDATE distribution SET whom = ?, waves = ?, opens_at = ?, closes_at = ?, deal = ?, version = version + 1
			WHERE id = ? AND version = ? AND state = 'draft'`, whom, waves, opens, closes, d.Deal, id, d.Version)
	}
	if err != nil {
		return 0, err
	}
	return id, putAim(ctx, t, id, aim)
}

// putAim keeps what the entries of a distribution come to.
func putAim(ctx context.Context, t *sqlite.Tx, id int64, aim roster.Aim) error {
	for _, query := range []string{"DELETE FROM distribution_section WHERE distribution_id = ?", "DELETE FROM distribution_left_out WHERE distribution_id = ?"} {
		if err := t.Exec(ctx, query, id); err != nil {
			return err
		}
	}
	for _, s := range aim.Sections {
		if err := t.Exec(ctx, "INSERT INTO distribution_section (distribution_id, section_id) VALUES (?, ?)", id, s); err != nil {
			return err
		}
	}
	for _, s := range aim.LeftOut {
		if err := t.Exec(ctx, "INSERT INTO distribution_left_out (distribution_id, student_id) VALUES (?, ?)", id, s); err != nil {
			return err
		}
	}
	return nil
}

// MarkSent fixes what goes out; ErrStale when the draft changed or was sent meanwhile.
func MarkSent(ctx context.Context, t *sqlite.Tx, d Distribution, by int64) error {
	return t.ChangeOne(ctx, `UPDATE distribution SET form_id = ?, state = 'sent', reasons = ?, sent_at = ?, sent_by = ?, version = version + 1
		WHERE id = ? AND version = ? AND state = 'draft'`, d.FormID, sqlite.JSON[map[string]string]{V: d.Reasons}, sqlite.Millis(d.Sent), by, d.ID, d.Version)
}

// AddSitting makes a section's sitting with its seats.
func AddSitting(ctx context.Context, t *sqlite.Tx, distribution, section, school int64, setup attempt.Setup, students []int64) (int64, error) {
	id, err := t.Insert(ctx, "INSERT INTO sitting (distribution_id, section_id, school_id, door) VALUES (?, ?, ?, 'waiting')", distribution, section, school)
	if err != nil {
		return 0, err
	}
	if err := SetSetup(ctx, t, id, setup); err != nil {
		return 0, err
	}
	for _, s := range students {
		if err := t.Exec(ctx, "INSERT INTO seat (sitting_id, student_id) VALUES (?, ?)", id, s); err != nil {
			return 0, err
		}
	}
	return id, nil
}

// Clashes counts, for each other distribution whose window overlaps, how many of
// the students have a seat in it.
func Clashes(ctx context.Context, r sqlite.Reader, aim roster.Aim, opens, closes time.Time, except int64) ([]roster.Clash, error) {
	var rows []struct {
		Title    string `db:"title"`
		Students int    `db:"students"`
		Minutes  int    `db:"minutes"`
	}
	err := r.List(ctx, &rows, `SELECT a.title, COUNT(DISTINCT e.person_id) AS students, MAX(COALESCE(g.setup ->> '$.settings.minutes', 0)) AS minutes
		FROM enrolment e JOIN seat ON seat.student_id = e.person_id JOIN sitting g ON g.id = seat.sitting_id
		JOIN distribution d ON d.id = g.distribution_id JOIN assessment a ON a.id = d.assessment_id
		WHERE e.section_id IN (SELECT value FROM json_each(?)) AND e.person_id NOT IN (SELECT value FROM json_each(?))
			AND e.role = 'student' AND e.active = 1 AND g.opens_at < ? AND g.closes_at > ? AND d.id <> ?
		GROUP BY d.id ORDER BY a.title`, sqlite.JsonIDs(aim.Sections), sqlite.JsonIDs(aim.LeftOut), sqlite.Millis(closes), sqlite.Millis(opens), except)
	var out []roster.Clash
	for _, row := range rows {
		out = append(out, roster.Clash{Title: row.Title, Students: row.Students, Minutes: row.Minutes})
	}
	return out, err
}

// SeenItem is an item with how many students have met it.
type SeenItem struct {
	ItemID   int64 `db:"item_id"`
	Students int   `db:"students"`
}

// SeenBy tells of which items of an assessment's lines some students were given in another assessment of a school year, each with how
// many of them: where several forms held an item, of the form that most of them had.
func SeenBy(ctx context.Context, r sqlite.Reader, assessment int64, year string, aim roster.Aim) ([]SeenItem, error) {
	var out []SeenItem
	// Students are counted once a form, not once a line: the lines of a form were given together.
	err := r.List(ctx, &out, `WITH held AS MATERIALIZED (
			SELECT l.item_id, l.position, f.id AS form_id FROM line l JOIN form_line fl ON fl.item_id = l.item_id JOIN form f ON f.id = fl.form_id
				JOIN assessment a ON a.id = f.assessment_id WHERE l.assessment_id = ?1 AND f.assessment_id <> ?1 AND a.year = ?2),
		who AS MATERIALIZED (
			SELECT DISTINCT e.person_id FROM enrolment e WHERE e.section_id IN (SELECT value FROM json_each(?3)) AND e.role = 'student' AND e.active = 1
				AND e.person_id NOT IN (SELECT value FROM json_each(?4))),
		met AS MATERIALIZED (
			SELECT f.form_id, (SELECT COUNT(DISTINCT t.student_id) FROM attempt t WHERE t.form_id = f.form_id AND t.student_id IN (SELECT person_id FROM who)) AS n
			FROM (SELECT DISTINCT form_id FROM held) f)
		SELECT held.item_id, MAX(met.n) AS students FROM held JOIN met ON met.form_id = held.form_id WHERE met.n > 0
		GROUP BY held.item_id ORDER BY MIN(held.position)`, assessment, year, sqlite.JsonIDs(aim.Sections), sqlite.JsonIDs(aim.LeftOut))
	return out, err
}

// HeldElsewhere lists the items of an assessment's lines that are on hold for something else at a moment.
func HeldElsewhere(ctx context.Context, r sqlite.Reader, assessment int64, now time.Time) ([]int64, error) {
	var out []int64
	err := r.List(ctx, &out, `SELECT l.item_id FROM line l JOIN hold h ON h.item_id = l.item_id AND h.ended_at IS NULL
		WHERE l.assessment_id = ?1 AND COALESCE(h.assessment_id, 0) <> ?1 AND (h.until = 0 OR h.until > ?2) ORDER BY l.position`, assessment, sqlite.Millis(now))
	return out, err
}

// SeatedElsewhere lists who is enrolled in these sections and was given an edition of an assessment,
// or a later one, in another section.
func SeatedElsewhere(ctx context.Context, r sqlite.Reader, assessment int64, edition int, sections []int64) ([]int64, error) {
	var out []int64
	err := r.List(ctx, &out, `SELECT DISTINCT e.person_id FROM enrolment e JOIN seat ON seat.student_id = e.person_id JOIN sitting g ON g.id = seat.sitting_id
		JOIN distribution d ON d.id = g.distribution_id JOIN form f ON f.id = d.form_id
		WHERE e.section_id IN (SELECT value FROM json_each(?1)) AND e.role = 'student' AND e.active = 1 AND d.assessment_id = ?2 AND f.edition >= ?3
			AND g.section_id NOT IN (SELECT value FROM json_each(?1))`, sqlite.JsonIDs(sections), assessment, edition)
	return out, err
}

// Unseated is somebody who came to a sitting's section after it was sent.
type Unseated struct {
	StudentID int64  `db:"student_id"`
	Number    string `db:"number"`
	Given     string `db:"given"`
	Family    string `db:"family"`
}

// UnseatedIn lists the students of a sitting's section who have no seat anywhere in its distribution, or in that of a twin form that was
// sent with it, and were not left out of it.
func UnseatedIn(ctx context.Context, r sqlite.Reader, sitting int64) ([]Unseated, error) {
	var out []Unseated
	err := r.List(ctx, &out, `SELECT p.id AS student_id, p.number, p.given, p.family FROM sitting g JOIN distribution d ON d.id = g.distribution_id
		JOIN enrolment e ON e.section_id = g.section_id AND e.role = 'student' AND e.active = 1 JOIN person p ON p.id = e.person_id
		WHERE g.id = ?
			AND NOT EXISTS (SELECT 1 FROM seat x JOIN sitting h ON h.id = x.sitting_id JOIN distribution o ON o.id = h.distribution_id
				WHERE x.student_id = p.id AND COALESCE(o.dealt_with, o.id) = COALESCE(d.dealt_with, d.id))
			AND NOT EXISTS (SELECT 1 FROM distribution_left_out o WHERE o.distribution_id = g.distribution_id AND o.student_id = p.id)
		ORDER BY p.family, p.given, p.id`, sitting)
	return out, err
}

// Had is a section that was given an edition of an assessment.
type Had struct {
	SectionID int64 `db:"section_id"`
	Edition   int   `db:"edition"`
}

// GivenTo lists which of some sections were given an assessment, and in which edition.
func GivenTo(ctx context.Context, r sqlite.Reader, assessment int64, sections []int64) ([]Had, error) {
	condition, args := sqlite.In("g.section_id", sections)
	var out []Had
	err := r.List(ctx, &out, `SELECT DISTINCT g.section_id, f.edition FROM sitting g JOIN distribution d ON d.id = g.distribution_id JOIN form f ON f.id = d.form_id
		WHERE d.assessment_id = ? AND `+condition+" ORDER BY g.section_id, f.edition", append([]any{assessment}, args...)...)
	return out, err
}

// Sitting is a section's share of a distribution, with how far its students are.
type Sitting struct {
	ID             int64                      `db:"id"`
	DistributionID int64                      `db:"distribution_id"`
	AssessmentID   int64                      `db:"assessment_id"`
	FormID         int64                      `db:"form_id"`
	Title          string                     `db:"title"`
	ShortTitle     string                     `db:"short_title"`
	Letter         string                     `db:"letter"` // of a twin form; "" where there is one form
	SectionID      int64                      `db:"section_id"`
	Section        string                     `db:"section"`
	SchoolID       int64                      `db:"school_id"`
	School         string                     `db:"school"`
	Grade          string                     `db:"grade"`
	Door           attempt.DoorState          `db:"door"`
	DoorAt         int64                      `db:"door_at"`
	DoorUntil      int64                      `db:"door_until"` // ms, when it closes by itself; 0: it does not
	OpensAt        int64                      `db:"opens_at"`
	ClosesAt       int64                      `db:"closes_at"`
	Setup          sqlite.JSON[attempt.Setup] `db:"setup"`   // what is in force
	RoomID         int64                      `db:"room_id"` // that it shares with other sittings; 0: a room of its own
	Makeup         bool                       `db:"makeup"`
	Periods        string                     `db:"periods"` // in which its section meets, by the roster; commas between
	Room           string                     `db:"room"`    // what the shared one is called
	Proctor        string                     `db:"proctor"` // who sees to it
	Code           string                     `db:"code"`    // that students type at the door; "" where none was made
	Seats          int                        `db:"seats"`
	Begun          int                        `db:"begun"`
	Done           int                        `db:"done"`
}

// Rules is what the door and the window allow.
func (s Sitting) Rules() attempt.Sitting {
	return s.Setup.V.Sitting(s.Door, sqlite.Time(s.DoorAt))
}

// Called is what lists call it: its section, or for a makeup the room.
func (s Sitting) Called() string {
	if s.Makeup {
		return "Makeup, " + s.Room
	}
	return s.Section
}

const sittingSelect = `SELECT g.id, g.distribution_id, d.assessment_id, d.form_id, a.title, a.short_title, a.form_letter AS letter, s.id AS section_id, s.title AS section,
	g.school_id, c.name AS school, s.grade, g.door, g.door_at, g.door_until, g.opens_at, g.closes_at, g.setup, g.code,
	COALESCE(g.room_id, 0) AS room_id, g.makeup, s.periods, COALESCE(rm.name, '') AS room, COALESCE(rp.given || ' ' || rp.family, '') AS proctor,
	(SELECT COUNT(*) FROM seat WHERE seat.sitting_id = g.id) AS seats,
	(SELECT COUNT(*) FROM attempt t WHERE t.sitting_id = g.id AND t.try = 1) AS begun,
	(SELECT COUNT(DISTINCT t.student_id) FROM attempt t WHERE t.sitting_id = g.id AND t.state <> 'working') AS done
	FROM sitting g JOIN distribution d ON d.id = g.distribution_id JOIN assessment a ON a.id = d.assessment_id
	JOIN section s ON s.id = g.section_id JOIN school c ON c.id = g.school_id
	LEFT JOIN room rm ON rm.id = g.room_id LEFT JOIN person rp ON rp.id = rm.proctor_id`

// SittingFilter narrows sittings; zero values do not.
type SittingFilter struct {
	AssessmentID   int64 // of it, and of twin forms that were sent with it
	DistributionID int64
	OpenAfter      time.Time // windows that end after this
	Proctored      bool      // also those of rooms that the viewer sees to
	Limit          int
}

// Sittings lists sittings in scope by window, school and section. A makeup that was taken back has no seats and is left out.
func Sittings(ctx context.Context, r sqlite.Reader, scope roster.Scope, f SittingFilter) ([]Sitting, error) {
	var w sqlite.Where
	w.Add("(g.makeup = 0 OR EXISTS (SELECT 1 FROM seat x WHERE x.sitting_id = g.id))")
	if f.Proctored {
		atSittings(&w, scope)
	} else {
		officerows.InScope(&w, scope)
	}
	if f.AssessmentID > 0 {
		w.Add(givenWith, f.AssessmentID)
	}
	if f.DistributionID > 0 {
		w.Add("d.id = ?", f.DistributionID)
	}
	if !f.OpenAfter.IsZero() {
		w.Add("d.state = 'sent' AND g.ends_at > ?", sqlite.Millis(f.OpenAfter))
	}
	var out []Sitting
	err := r.List(ctx, &out, sittingSelect+w.String()+" ORDER BY g.closes_at, d.id, c.name, s.title LIMIT ?", append(w.Args, f.Limit)...)
	return out, err
}

// SittingInScope gives a sitting, or ErrNotFound when it lies outside the scope, and in no room that the viewer sees to.
func SittingInScope(ctx context.Context, r sqlite.Reader, scope roster.Scope, id int64) (Sitting, error) {
	var w sqlite.Where
	w.Add("g.id = ?", id)
	atSittings(&w, scope)
	var s Sitting
	err := r.Get(ctx, &s, sittingSelect+w.String(), w.Args...)
	return s, err
}

// MoveDoor sets a sitting's door, which then closes by itself no more, and keeps that it moved.
func MoveDoor(ctx context.Context, t *sqlite.Tx, sitting int64, door attempt.DoorState, at time.Time) error {
	if err := t.Exec(ctx, `INSERT INTO door_move (sitting_id, position, at, door)
		VALUES (?1, (SELECT COALESCE(MAX(position), 0) + 1 FROM door_move WHERE sitting_id = ?1), ?2, ?3)`, sitting, sqlite.Millis(at), door); err != nil {
		return err
	}
	return t.Exec(ctx, "UPDATE sitting SET door = ?, door_at = ?, door_until = 0 WHERE id = ?", door, sqlite.Millis(at), sitting)
}

// RoomSeat is one student's place in the room view.
type RoomSeat struct {
	StudentID int64         `db:"student_id"`
	Number    string        `db:"number"`
	Given     string        `db:"given"`
	Family    string        `db:"family"`
	AttemptID int64         `db:"attempt_id"`
	State     attempt.State `db:"state"` // "" where none has begun
	Answered  int           `db:"answered"`
	SavedAt   *int64        `db:"saved_at"`
	HandedIn  *int64        `db:"handed_in_at"`
	Late      int           `db:"late"`     // answers that came after it and wait for staff
	LeftOut   int           `db:"left_out"` // such that staff left out, and may still count
}

// Room lists a sitting's seats by name.
func Room(ctx context.Context, r sqlite.Reader, sitting int64) ([]RoomSeat, error) {
	var out []RoomSeat
	err := r.List(ctx, &out, `SELECT p.id AS student_id, p.number, p.given, p.family, COALESCE(t.id, 0) AS attempt_id, COALESCE(t.state, '') AS state, t.handed_in_at,
			(SELECT COUNT(*) FROM answer w WHERE w.attempt_id = t.id AND w.response <> '{}') AS answered,
			(SELECT MAX(w.saved_at) FROM answer w WHERE w.attempt_id = t.id) AS saved_at,
			(SELECT COUNT(*) FROM late_answer l WHERE l.attempt_id = t.id AND l.decided_at IS NULL) AS late,
			(SELECT COUNT(*) FROM late_answer l WHERE l.attempt_id = t.id AND l.decided_at IS NOT NULL AND l.scoring_id IS NULL) AS left_out
		FROM seat JOIN person p ON p.id = seat.student_id LEFT JOIN attempt t ON t.sitting_id = seat.sitting_id AND t.student_id = p.id
			AND t.try = (SELECT MAX(try) FROM attempt l WHERE l.sitting_id = seat.sitting_id AND l.student_id = p.id)
		WHERE seat.sitting_id = ? ORDER BY p.family, p.given, p.id`, sitting)
	return out, err
}

// OpenKeys sets whether teachers read the keys of a distribution before its window is over.
func OpenKeys(ctx context.Context, t *sqlite.Tx, distribution int64, open bool) error {
	return t.Exec(ctx, "UPDATE distribution SET keys_open = ? WHERE id = ?", open, distribution)
}

// YetToSit lists the items of what sections in scope have yet to sit and whose keys are not open.
func YetToSit(ctx context.Context, r sqlite.Reader, scope roster.Scope, now time.Time) ([]int64, error) {
	var w sqlite.Where
	w.Add("d.state = 'sent' AND g.ends_at > ? AND d.keys_open = 0", sqlite.Millis(now))
	officerows.InScope(&w, scope)
	var out []int64
	err := r.List(ctx, &out, `SELECT DISTINCT l.item_id FROM distribution d JOIN sitting g ON g.distribution_id = d.id JOIN section s ON s.id = g.section_id
		JOIN line l ON l.assessment_id = d.assessment_id`+w.String(), w.Args...)
	return out, err
}
