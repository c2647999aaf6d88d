package store

import (
	"context"
	"encoding/json"
	"fmt"
	"time"

	"pineledger/core/attempt"
)

// StudentSitting is a sitting as one of its students finds it.
type StudentSitting struct {
	Sitting
	AttemptID int64  `db:"attempt_id"` // 0: not begun
	State     string `db:"attempt_state"`
}

const studentSittingSelect = `SELECT g.id, g.distribution_id, d.assessment_id, d.form_id, a.title, a.short_title, s.id AS section_id, s.title AS section,
	g.school_id, c.name AS school, s.grade, g.door, g.door_at, d.opens_at, d.closes_at, d.minutes,
	COALESCE(t.id, 0) AS attempt_id, COALESCE(t.state, '') AS attempt_state
	FROM seat JOIN sitting g ON g.id = seat.sitting_id JOIN distribution d ON d.id = g.distribution_id JOIN assessment a ON a.id = d.assessment_id
	JOIN section s ON s.id = g.section_id JOIN school c ON c.id = g.school_id
	LEFT JOIN attempt t ON t.sitting_id = g.id AND t.student_id = seat.student_id`

// StudentSittings lists a student's own sittings, newest window first.
func (r Reader) StudentSittings(ctx context.Context, student int64) ([]StudentSitting, error) {
	var out []StudentSitting
	err := r.list(ctx, &out, studentSittingSelect+" WHERE seat.student_id = ? ORDER BY d.opens_at DESC, g.id DESC LIMIT 50", student)
	return out, err
}

// StudentSitting gives a student's own sitting, or ErrNotFound without a seat in it.
func (r Reader) StudentSitting(ctx context.Context, student, sitting int64) (StudentSitting, error) {
	var s StudentSitting
	err := r.get(ctx, &s, studentSittingSelect+" WHERE seat.student_id = ? AND g.id = ?", student, sitting)
	return s, err
}

// Attempt is one student's work on a form.
type Attempt struct {
	ID        int64             `db:"id"`
	SittingID int64             `db:"sitting_id"`
	StudentID int64             `db:"student_id"`
	FormID    int64             `db:"form_id"`
	State     attempt.State     `db:"state"`
	StartedAt int64             `db:"started_at"`
	OpensAt   int64             `db:"opens_at"`
	ClosesAt  int64             `db:"closes_at"`
	Minutes   int               `db:"minutes"`
	Door      attempt.DoorState `db:"door"`
	DoorAt    int64             `db:"door_at"`
	Title     string            `db:"title"`
	Student   string            `db:"student"`
	GivenList string            `db:"given"` // JSON list of lines counted from 1; "" for all
}

// Given are the places of the lines that the attempt was given, counted from 0; nil for all.
func (a Attempt) Given() ([]int, error) {
	if a.GivenList == "" {
		return nil, nil
	}
	out := []int{}
	if err := json.Unmarshal([]byte(a.GivenList), &out); err != nil {
		return nil, fmt.Errorf("lines given to attempt %d: %w", a.ID, err)
	}
	for i := range out {
		out[i]--
	}
	return out, nil
}

// SetGiven keeps which lines an attempt gets, as places counted from 0.
func (t *Tx) SetGiven(ctx context.Context, attempt int64, places []int) error {
	lines := make([]int, len(places))
	for i, at := range places {
		lines[i] = at + 1
	}
	list, err := json.Marshal(lines)
	if err != nil {
		return err
	}
	return t.exec(ctx, "UPDATE attempt SET given = ? WHERE id = ?", string(list), attempt)
}

// Clock is what the attempt's end depends on.
func (a Attempt) Clock() attempt.Clock {
	return attempt.Clock{Started: Time(a.StartedAt), Limit: time.Duration(a.Minutes) * time.Minute, Closes: Time(a.ClosesAt)}
}

// Rules is what the door and the window allow.
func (a Attempt) Rules() attempt.Sitting {
	return attempt.Sitting{Door: a.Door, DoorAt: Time(a.DoorAt), Opens: Time(a.OpensAt), Closes: Time(a.ClosesAt)}
}

const attemptSelect = `SELECT t.id, t.sitting_id, t.student_id, t.form_id, t.state, t.started_at, d.opens_at, d.closes_at, d.minutes, g.door, g.door_at,
	a.title, p.given || ' ' || p.family AS student, COALESCE(t.given, '') AS given
	FROM attempt t JOIN sitting g ON g.id = t.sitting_id JOIN distribution d ON d.id = g.distribution_id JOIN assessment a ON a.id = d.assessment_id
	JOIN person p ON p.id = t.student_id`

// AttemptByID gives an attempt.
func (r Reader) AttemptByID(ctx context.Context, id int64) (Attempt, error) {
	var a Attempt
	err := r.get(ctx, &a, attemptSelect+" WHERE t.id = ?", id)
	return a, err
}

// WorkingAttempts lists attempts that nobody has handed in.
func (r Reader) WorkingAttempts(ctx context.Context) ([]Attempt, error) {
	var out []Attempt
	err := r.list(ctx, &out, attemptSelect+" WHERE t.state = 'working'")
	return out, err
}

// Begin makes a student's attempt, or gives the one there is.
func (t *Tx) Begin(ctx context.Context, sitting, student, form int64, at time.Time) (id int64, begun bool, err error) {
	res, err := t.run(ctx, `INSERT INTO attempt (sitting_id, student_id, form_id, state, started_at) VALUES (?, ?, ?, 'working', ?)
		ON CONFLICT (sitting_id, student_id) DO NOTHING`, sitting, student, form, Millis(at))
	if err != nil {
		return 0, false, err
	}
	n, err := res.RowsAffected()
	if err != nil {
		return 0, false, err
	}
	err = t.get(ctx, &id, "SELECT id FROM attempt WHERE sitting_id = ? AND student_id = ?", sitting, student)
	return id, n == 1, err
}

// SavedAnswer is an answer with the time at which it came to disk.
type SavedAnswer struct {
	Answer
	SavedAt int64 `db:"saved_at"`
}

// Answers lists an attempt's kept answers by line.
func (r Reader) Answers(ctx context.Context, attempt int64) ([]SavedAnswer, error) {
	var out []SavedAnswer
	err := r.list(ctx, &out, "SELECT line, number, response, marked, saved_at FROM answer WHERE attempt_id = ? ORDER BY line", attempt)
	return out, err
}

// HandIn ends the work; ErrStale when it had ended already.
func (t *Tx) HandIn(ctx context.Context, id int64, by attempt.By, at time.Time) error {
	return t.changeOne(ctx, "UPDATE attempt SET state = 'scored', handed_in_at = ?, handed_in_by = ? WHERE id = ? AND state = 'working'", Millis(at), by, id)
}
