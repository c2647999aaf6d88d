// Package takerows keeps attempts.
package takerows

import (
	"context"
	"fmt"
	"math"
	"time"

	"pineledger/core/attempt"
	"pineledger/core/item"
	"pineledger/core/support"
	"pineledger/core/window"
	"pineledger/store/giverows"
	"pineledger/store/sqlite"
)

// StudentSitting is a sitting as one of its students finds it.
type StudentSitting struct {
	giverows.Sitting
	AttemptID  int64         `db:"attempt_id"`   // the last try; 0: not begun
	Try        int           `db:"try"`          // 0: not begun
	EndedAt    *int64        `db:"handed_in_at"` // of the last try; nil: not handed in
	ReleasedAt *int64        `db:"released_at"`  // when feedback was released; nil: not
	State      attempt.State `db:"attempt_state"`
}

const studentSittingSelect = `SELECT g.id, g.distribution_id, d.assessment_id, d.form_id, a.title, a.short_title, s.id AS section_id, s.title AS section,
	g.school_id, c.name AS school, s.grade, g.door, g.door_at, g.opens_at, g.closes_at, d.released_at, g.setup, g.code,
	g.makeup, COALESCE(rm.name, '') AS room, COALESCE(t.id, 0) AS attempt_id, COALESCE(t.try, 0) AS try, COALESCE(t.state, '') AS attempt_state, t.handed_in_at
	FROM seat JOIN sitting g ON g.id = seat.sitting_id JOIN distribution d ON d.id = g.distribution_id JOIN assessment a ON a.id = d.assessment_id
	JOIN section s ON s.id = g.section_id JOIN school c ON c.id = g.school_id
	LEFT JOIN room rm ON rm.id = g.room_id LEFT JOIN attempt t ON t.sitting_id = g.id AND t.student_id = seat.student_id
		AND t.try = (SELECT MAX(try) FROM attempt l WHERE l.sitting_id = g.id AND l.student_id = seat.student_id)`

// StudentSittings lists a student's own sittings, newest window first.
func StudentSittings(ctx context.Context, r sqlite.Reader, student int64) ([]StudentSitting, error) {
	var out []StudentSitting
	err := r.List(ctx, &out, studentSittingSelect+" WHERE seat.student_id = ? ORDER BY g.opens_at DESC, g.id DESC LIMIT 50", student)
	return out, err
}

// StudentSitting gives a student's own sitting, or ErrNotFound without a seat in it.
func StudentSittingOf(ctx context.Context, r sqlite.Reader, student, sitting int64) (StudentSitting, error) {
	var s StudentSitting
	err := r.Get(ctx, &s, studentSittingSelect+" WHERE seat.student_id = ? AND g.id = ?", student, sitting)
	return s, err
}

// Seat names a student's place in a sitting.
type Seat struct{ SittingID, StudentID int64 }

// Attempt is one student's work on a form.
type Attempt struct {
	ID           int64                      `db:"id"`
	SittingID    int64                      `db:"sitting_id"`
	StudentID    int64                      `db:"student_id"`
	FormID       int64                      `db:"form_id"`
	AssessmentID int64                      `db:"assessment_id"`
	Apart        bool                       `db:"apart"` // its result does not compare
	State        attempt.State              `db:"state"`
	StartedAt    int64                      `db:"started_at"`
	EndedAt      *int64                     `db:"handed_in_at"` // nil: it is worked on
	Setup        sqlite.JSON[attempt.Setup] `db:"setup"`        // of the sitting now
	ReleasedAt   *int64                     `db:"released_at"`  // when feedback was released; nil: not
	Try          int                        `db:"try"`
	Door         attempt.DoorState          `db:"door"`
	DoorAt       int64                      `db:"door_at"`
	DoorUntil    int64                      `db:"door_until"` // ms, when it closes by itself; 0: it does not
	Title        string                     `db:"title"`
	Student      string                     `db:"student"`
	Drawn        sqlite.JSON[[]int]         `db:"given"` // the lines that it drew, counted from 1; none for all
	Retaken      sqlite.JSON[[]int]         `db:"asked"` // the lines that a retake asks, counted from 1; none for all that it drew

	Terms attempt.Terms `db:"-"` // in force now
}

// Given are the places of the lines that the attempt was given, counted from 0; nil for all.
func (a Attempt) Given() []int { return placesOf(a.Drawn.V) }

// Asked are the places of the lines that a retake asks, the rest of those given being carried over; nil for all given.
func (a Attempt) Asked() []int { return placesOf(a.Retaken.V) }

func placesOf(lines []int) []int {
	if lines == nil {
		return nil
	}
	out := make([]int, len(lines))
	for i, line := range lines {
		out[i] = line - 1
	}
	return out
}

func linesOf(places []int) sqlite.JSON[[]int] {
	lines := make([]int, len(places))
	for i, at := range places {
		lines[i] = at + 1
	}
	return sqlite.JSON[[]int]{V: lines}
}

// SetGiven keeps which lines an attempt gets, as places counted from 0.
func SetGiven(ctx context.Context, t *sqlite.Tx, attempt int64, places []int) error {
	return t.Exec(ctx, "UPDATE attempt SET given = ? WHERE id = ?", linesOf(places), attempt)
}

// SetAsked keeps which lines a retake asks, as places counted from 0.
func SetAsked(ctx context.Context, t *sqlite.Tx, attempt int64, places []int) error {
	return t.Exec(ctx, "UPDATE attempt SET asked = ? WHERE id = ?", linesOf(places), attempt)
}

// Rules is what the door and the window allow.
func (a Attempt) Rules() attempt.Sitting {
	return a.Setup.V.Sitting(a.Door, sqlite.Time(a.DoorAt))
}

const attemptSelect = `SELECT t.id, t.sitting_id, t.student_id, t.form_id, d.assessment_id, t.apart, t.state, t.started_at, t.handed_in_at, t.try, g.setup, d.released_at, g.door, g.door_at, g.door_until,
	a.title, p.given || ' ' || p.family AS student, COALESCE(t.given, '') AS given, COALESCE(t.asked, '') AS asked
	FROM attempt t JOIN sitting g ON g.id = t.sitting_id JOIN distribution d ON d.id = g.distribution_id JOIN assessment a ON a.id = d.assessment_id
	JOIN person p ON p.id = t.student_id`

// AttemptByID gives an attempt with its terms.
func AttemptByID(ctx context.Context, r sqlite.Reader, id int64) (Attempt, error) {
	var a Attempt
	if err := r.Get(ctx, &a, attemptSelect+" WHERE t.id = ?", id); err != nil {
		return a, err
	}
	var terms sqlite.JSON[attempt.Terms]
	err := r.Get(ctx, &terms, "SELECT document FROM attempt_terms WHERE attempt_id = ? ORDER BY position DESC LIMIT 1", id)
	a.Terms = terms.V
	return a, err
}

// ClockOf makes an attempt's clock of all that has moved it, under the terms that were in force then.
func ClockOf(ctx context.Context, r sqlite.Reader, a Attempt) (window.Clock, error) {
	var rows []struct {
		At   int64  `db:"at"`
		What string `db:"what"`
		Door string `db:"door"`
	}
	// Of each sitting where its seat was, the doors of that time.
	if err := r.List(ctx, &rows, `WITH been AS (
			SELECT sitting_id, LAG(at, 1, 0) OVER (ORDER BY position) AS since, at AS until FROM attempt_move WHERE attempt_id = ?2
			UNION ALL SELECT ?1, (SELECT COALESCE(MAX(at), 0) FROM attempt_move WHERE attempt_id = ?2), ?3)
		SELECT m.at, '' AS what, m.door FROM been JOIN door_move m ON m.sitting_id = been.sitting_id AND m.at >= been.since AND m.at < been.until
		UNION ALL SELECT at, what, '' FROM attempt_event WHERE attempt_id = ?2 ORDER BY at, what`, a.SittingID, a.ID, int64(math.MaxInt64)); err != nil {
		return window.Clock{}, err
	}
	var terms []struct {
		At       int64                      `db:"at"`
		Document sqlite.JSON[attempt.Terms] `db:"document"`
	}
	if err := r.List(ctx, &terms, "SELECT at, document FROM attempt_terms WHERE attempt_id = ? ORDER BY position", a.ID); err != nil {
		return window.Clock{}, err
	}
	if len(terms) == 0 {
		return window.Clock{}, fmt.Errorf("attempt %d has no terms", a.ID)
	}
	clock, err := terms[0].Document.V.Plan().Clock()
	if err != nil {
		return clock, fmt.Errorf("clock of attempt %d: %w", a.ID, err)
	}
	terms = terms[1:]
	turn := func(until int64) error {
		for len(terms) > 0 && terms[0].At < until {
			if err := clock.Turn(sqlite.Time(terms[0].At), terms[0].Document.V.Plan()); err != nil {
				return fmt.Errorf("clock of attempt %d: %w", a.ID, err)
			}
			terms = terms[1:]
		}
		return nil
	}
	for _, row := range rows {
		if err := turn(row.At); err != nil {
			return clock, err
		}
		e := window.Event{At: sqlite.Time(row.At), What: window.What(row.What)}
		if row.Door != "" {
			e = attempt.DoorEvent(attempt.DoorState(row.Door), e.At)
		}
		if err := clock.Apply(e); err != nil {
			return clock, fmt.Errorf("clock of attempt %d: %w", a.ID, err)
		}
	}
	return clock, turn(math.MaxInt64)
}

// AttemptsAfter lists ids of attempts, whatever their state.
func AttemptsAfter(ctx context.Context, r sqlite.Reader, after int64, limit int) ([]int64, error) {
	var out []int64
	err := r.List(ctx, &out, "SELECT id FROM attempt WHERE id > ? ORDER BY id LIMIT ?", after, limit)
	return out, err
}

// WorkingAttempts lists the ids of attempts that nobody has handed in.
func WorkingAttempts(ctx context.Context, r sqlite.Reader) ([]int64, error) {
	var out []int64
	err := r.List(ctx, &out, "SELECT id FROM attempt WHERE state = 'working' ORDER BY id")
	return out, err
}

// WorkingOf lists those of a student that nobody has handed in.
func WorkingOf(ctx context.Context, r sqlite.Reader, student int64) ([]int64, error) {
	var out []int64
	err := r.List(ctx, &out, "SELECT id FROM attempt WHERE student_id = ? AND state = 'working' ORDER BY id", student)
	return out, err
}

// WorkingOn lists those of an assessment that nobody has handed in.
func WorkingOn(ctx context.Context, r sqlite.Reader, assessment int64) ([]int64, error) {
	var out []int64
	err := r.List(ctx, &out, "SELECT t.id FROM attempt t JOIN sitting g ON g.id = t.sitting_id JOIN distribution d ON d.id = g.distribution_id WHERE d.assessment_id = ? AND t.state = 'working' ORDER BY t.id", assessment)
	return out, err
}

// WorkingIn lists those of a sitting that nobody has handed in.
func WorkingIn(ctx context.Context, r sqlite.Reader, sitting int64) ([]int64, error) {
	var out []int64
	err := r.List(ctx, &out, "SELECT id FROM attempt WHERE sitting_id = ? AND state = 'working' ORDER BY id", sitting)
	return out, err
}

// Begin makes a try of a seat under terms, or gives the one there is.
func Begin(ctx context.Context, t *sqlite.Tx, sitting, student, form int64, try int, terms attempt.Terms, at time.Time) (id int64, begun bool, err error) {
	res, err := t.Run(ctx, `INSERT INTO attempt (sitting_id, student_id, try, form_id, state, started_at) VALUES (?, ?, ?, ?, 'working', ?)
		ON CONFLICT (sitting_id, student_id, try) DO NOTHING`, sitting, student, try, form, sqlite.Millis(at))
	if err != nil {
		return 0, false, err
	}
	n, err := res.RowsAffected()
	if err != nil {
		return 0, false, err
	}
	if err := t.Get(ctx, &id, "SELECT id FROM attempt WHERE sitting_id = ? AND student_id = ? AND try = ?", sitting, student, try); err != nil || n == 0 {
		return id, false, err
	}
	if err := AddTerms(ctx, t, id, terms, at); err != nil {
		return id, false, err
	}
	return id, true, AddEvent(ctx, t, id, window.Event{At: at, What: window.Begin})
}

// AddTerms keeps the terms that are in force for an attempt from now on.
func AddTerms(ctx context.Context, t *sqlite.Tx, id int64, terms attempt.Terms, at time.Time) error {
	if support.Apart(terms.Supports) {
		if err := t.Exec(ctx, "UPDATE attempt SET apart = 1 WHERE id = ?", id); err != nil {
			return err
		}
	}
	return t.Exec(ctx, `INSERT INTO attempt_terms (attempt_id, position, at, document)
		VALUES (?1, (SELECT COALESCE(MAX(position), 0) + 1 FROM attempt_terms WHERE attempt_id = ?1), ?2, ?3)`, id, sqlite.Millis(at), sqlite.JSON[attempt.Terms]{V: terms})
}

// Move puts an attempt into another sitting under other terms, after its seat. The doors of that sitting move its clock from now on; door
// is how that one is.
func Move(ctx context.Context, t *sqlite.Tx, a Attempt, to int64, door attempt.DoorState, terms attempt.Terms, at time.Time) error {
	if err := t.Exec(ctx, `INSERT INTO attempt_move (attempt_id, position, at, sitting_id)
		VALUES (?1, (SELECT COALESCE(MAX(position), 0) + 1 FROM attempt_move WHERE attempt_id = ?1), ?2, ?3)`, a.ID, sqlite.Millis(at), a.SittingID); err != nil {
		return err
	}
	if err := t.Exec(ctx, "UPDATE attempt SET sitting_id = ? WHERE id = ?", to, a.ID); err != nil {
		return err
	}
	if err := AddTerms(ctx, t, a.ID, terms, at); err != nil {
		return err
	}
	return AddEvent(ctx, t, a.ID, attempt.DoorEvent(door, at))
}

// AddEvent keeps what happened to an attempt.
func AddEvent(ctx context.Context, t *sqlite.Tx, id int64, e window.Event) error {
	return t.Exec(ctx, `INSERT INTO attempt_event (attempt_id, position, at, what)
		VALUES (?1, (SELECT COALESCE(MAX(position), 0) + 1 FROM attempt_event WHERE attempt_id = ?1), ?2, ?3)`, id, sqlite.Millis(e.At), string(e.What))
}

// Answer is one line's newest response as the student's device sent it.
type Answer struct {
	Line     int                        `db:"line"` // counted from 1
	Number   int64                      `db:"number"`
	Response sqlite.JSON[item.Response] `db:"response"`
	Marked   bool                       `db:"marked"`
	Done     bool                       `db:"done"` // it was left for good, and stays
}

// IsWorking tells whether an attempt is being worked on.
func IsWorking(ctx context.Context, r sqlite.Reader, attempt int64) (working bool, err error) {
	err = r.Get(ctx, &working, isWorking, attempt)
	return working, err
}

// StillWorking is IsWorking inside a transaction, for many attempts one after the other.
func StillWorking(ctx context.Context, t *sqlite.Tx, attempt int64) (working bool, err error) {
	err = t.Value(ctx, &working, isWorking, attempt)
	return working, err
}

const isWorking = "SELECT state = 'working' FROM attempt WHERE id = ?"

// answerUpsert keeps an answer: attempt, line, number, response, marked, saved at, done. One with a
// number no higher than the kept one changes nothing, nor does one to an item that was left for good.
const answerUpsert = `INSERT INTO answer (attempt_id, line, number, response, marked, saved_at, done) VALUES (?, ?, ?, ?, ?, ?, ?)
	ON CONFLICT (attempt_id, line) DO UPDATE SET number = excluded.number, response = excluded.response,
		marked = excluded.marked, saved_at = excluded.saved_at, done = excluded.done
	WHERE excluded.number > answer.number AND NOT answer.done`

// PutAnswer keeps one answer.
func PutAnswer(ctx context.Context, t *sqlite.Tx, attempt int64, a Answer, at int64) error {
	return t.Exec(ctx, answerUpsert, attempt, a.Line, a.Number, a.Response, a.Marked, at, a.Done)
}

// SavedAnswer is an answer with the time at which it came to disk.
type SavedAnswer struct {
	Answer
	SavedAt int64 `db:"saved_at"`
}

// Answers lists an attempt's kept answers by line.
func Answers(ctx context.Context, r sqlite.Reader, attempt int64) ([]SavedAnswer, error) {
	var out []SavedAnswer
	err := r.List(ctx, &out, "SELECT line, number, response, marked, saved_at, done FROM answer WHERE attempt_id = ? ORDER BY line", attempt)
	return out, err
}

// Rescored sets the state of an attempt after a further scoring.
func Rescored(ctx context.Context, t *sqlite.Tx, id int64, final bool) error {
	return t.Exec(ctx, "UPDATE attempt SET state = ? WHERE id = ? AND state <> 'working'", stateOf(final), id)
}

func stateOf(final bool) attempt.State {
	if final {
		return attempt.Scored
	}
	return attempt.HandedIn
}

// HandIn ends the work; ErrStale when it had ended already. What waits for a reader is not scored yet.
func HandIn(ctx context.Context, t *sqlite.Tx, id int64, by attempt.By, at time.Time, final bool) error {
	if err := t.ChangeOne(ctx, "UPDATE attempt SET state = ?, handed_in_at = ?, handed_in_by = ? WHERE id = ? AND state = 'working'", stateOf(final), sqlite.Millis(at), by, id); err != nil || by == attempt.ByClock {
		return err // the clock ends by itself
	}
	return AddEvent(ctx, t, id, window.Event{At: at, What: window.HandIn})
}
