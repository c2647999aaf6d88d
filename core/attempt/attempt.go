// Package attempt holds the rules of one student's work on one form: its states,
// the terms it is worked under, and which of several tries counts.
package attempt

import (
	"errors"
	"time"

	"pineledger/core/window"
)

// State of an attempt. A student who has no attempt has not begun.
type State string

const (
	Working  State = "working"
	Paused   State = "paused"
	HandedIn State = "handed-in"
	Scored   State = "scored"
)

// By says who handed an attempt in.
type By string

const (
	ByStudent By = "student"
	ByClock   By = "clock"
	ByStaff   By = "staff"
)

// DoorState is the state of a sitting.
type DoorState string

const (
	Waiting DoorState = "waiting" // nobody has opened it yet
	Open    DoorState = "open"
	Held    DoorState = "paused"
	Closed  DoorState = "closed"
)

// Reasons why a student may not work now. Each is a sentence for the screen.
var (
	ErrDoorNotOpen   = errors.New("your teacher has not opened the door yet")
	ErrDoorPaused    = errors.New("your teacher has paused this sitting; your answers are kept")
	ErrDoorClosed    = errors.New("your teacher has closed the door; your answers are kept")
	ErrWindowNotOpen = errors.New("the window has not begun yet")
	ErrWindowOver    = errors.New("the window is over")
	ErrOutsideHours  = errors.New("it is not the time of day for this; your answers are kept")
	ErrResting       = errors.New("you are taking a break; your time stands still")
	ErrNoBreak       = errors.New("you have had all your breaks")
	ErrNotManaged    = errors.New("this opens only on a device of the district")
	ErrTimeOver      = errors.New("the time is over; your answers have been handed in")
	ErrHandedIn      = errors.New("this attempt is already handed in")
	ErrDoorMove      = errors.New("the door cannot move that way")
)

// Stop names why a student cannot work now, so that a screen can say it in the student's language.
type Stop string

var stops = map[error]Stop{
	ErrDoorNotOpen: "door not open", ErrDoorPaused: "door paused", ErrDoorClosed: "door closed", ErrWindowNotOpen: "window not open",
	ErrWindowOver: "window over", ErrOutsideHours: "outside hours", ErrResting: "resting", ErrNotManaged: "not managed", ErrTimeOver: "time over", ErrHandedIn: "handed in",
}

// StopOf is the stop that an error of MayWork or MayGoOn means; "" for others.
func StopOf(err error) Stop { return stops[err] }

// Sitting is what the door and the window allow.
type Sitting struct {
	Door          DoorState
	DoorAt        time.Time       // when the door last moved
	Opens, Closes time.Time       // when work is taken; Closes is exclusive
	Spans         []window.Window // the hours of the days; none: always
}

// MayWork tells whether work can go on at a moment; nil means yes.
func (s Sitting) MayWork(now time.Time) error {
	switch {
	case now.Before(s.Opens):
		return ErrWindowNotOpen
	case !now.Before(s.Closes):
		return ErrWindowOver
	case s.Spans != nil && !window.Within(s.Spans, now):
		return ErrOutsideHours
	}
	switch s.Door {
	case Open:
		return nil
	case Held:
		return ErrDoorPaused
	case Closed:
		return ErrDoorClosed
	default:
		return ErrDoorNotOpen
	}
}

// MoveDoor gives the door's new state. A waiting or closed door opens (again)
// only inside the window; nothing goes back to waiting.
func (s Sitting) MoveDoor(to DoorState, now time.Time) error {
	switch to {
	case Open:
		if now.Before(s.Opens) {
			return ErrWindowNotOpen
		}
		if !now.Before(s.Closes) {
			return ErrWindowOver
		}
		return nil
	case Held:
		if s.Door == Open {
			return nil
		}
	case Closed:
		if s.Door == Open || s.Door == Held {
			return nil
		}
	}
	return ErrDoorMove
}

// Grace is how late an answer may arrive that was given in time: the network's
// delay and the browser's last save, not extra working time.
const Grace = 15 * time.Second

// MayGoOn tells whether the student of an attempt may work at a moment that its clock shows.
func (s Sitting) MayGoOn(r window.Reading, now time.Time) error {
	switch r.State {
	case window.Over:
		if r.Because == window.ByLimit {
			return ErrTimeOver
		}
		return ErrWindowOver
	case window.HandedIn:
		return ErrHandedIn
	case window.Resting:
		return ErrResting
	case window.Working:
		return nil
	}
	return s.MayWork(now)
}

// TakesAnswers is MayGoOn for an answer on its way: for the length of Grace after
// the time was over, the hours of the day ended, or the door was paused or closed, what was given before still arrives.
func (s Sitting) TakesAnswers(r window.Reading, now time.Time) error {
	err := s.MayGoOn(r, now)
	switch {
	case r.State == window.Over && now.Before(r.EndsAt.Add(Grace)):
		return nil
	case errors.Is(err, ErrOutsideHours) && window.Within(s.Spans, now.Add(-Grace)):
		return nil
	case (errors.Is(err, ErrDoorPaused) || errors.Is(err, ErrDoorClosed)) && now.Before(s.DoorAt.Add(Grace)):
		return nil
	}
	return err
}

// LastReached is the place of the last line that has an answer, -1 for none;
// blank lines after it were not reached, blank lines before it were omitted.
func LastReached(answered []bool) int {
	for i := len(answered) - 1; i >= 0; i-- {
		if answered[i] {
			return i
		}
	}
	return -1
}
