// Package window holds the rules of when work may go on: the window of a sitting,
// its door, and the clock of one attempt.
package window

import (
	"errors"
	"fmt"
	"time"
)

// Window is when a sitting may be worked on. To is exclusive.
type Window struct {
	From time.Time `json:"from"`
	To   time.Time `json:"to"`
}

// Within tells whether a moment is in one of some windows.
func Within(windows []Window, at time.Time) bool {
	for _, w := range windows {
		if !at.Before(w.From) && at.Before(w.To) {
			return true
		}
	}
	return false
}

// Allowance is how much working time an attempt has.
type Allowance struct {
	Minutes int // 0: no limit, and nothing else here counts
	// Factor is the extra-time factor in hundredths, 100 to 400; 0 means 100.
	Factor int
	Extra  int // minutes added after the factor
	// Extends lets the window end later by the time that Factor and Extra add.
	Extends bool
}

// Bounds of an allowance.
const (
	LeastFactor = 100
	MostFactor  = 400
	MostMinutes = 10_000_000
)

// Errors of an allowance or a window that cannot be.
var (
	ErrMinutes = errors.New("is not above 0 and at most 10,000,000")
	ErrFactor  = errors.New("is not 1 to 4")
	ErrExtra   = errors.New("is not 0 to 10,000,000")
	ErrWindow  = errors.New("is not after the window's beginning")
)

// Check tells what is wrong with an allowance; nil means nothing.
func (a Allowance) Check() error {
	switch {
	case a.Minutes < 0 || a.Minutes > MostMinutes:
		return ErrMinutes
	case a.Minutes == 0:
		return nil
	case a.Factor != 0 && (a.Factor < LeastFactor || a.Factor > MostFactor):
		return ErrFactor
	case a.Extra < 0 || a.Extra > MostMinutes:
		return ErrExtra
	}
	return nil
}

// Limited tells whether there is a time limit at all.
func (a Allowance) Limited() bool { return a.Minutes > 0 }

// Time is minutes × factor + extra minutes, in whole seconds rounded up; 0 without a limit.
func (a Allowance) Time() time.Duration {
	if !a.Limited() {
		return 0
	}
	factor := a.Factor
	if factor == 0 {
		factor = LeastFactor
	}
	hundredths := a.Minutes * 60 * factor
	return time.Duration((hundredths+99)/100+a.Extra*60) * time.Second
}

// End is when the window ends for who has this allowance.
func (a Allowance) End(w Window) time.Time {
	if !a.Limited() || !a.Extends {
		return w.To
	}
	return w.To.Add(a.Time() - time.Duration(a.Minutes)*time.Minute)
}

// What happens to an attempt or to its door.
type What string

const (
	DoorOpens  What = "open"
	DoorPauses What = "pause"
	DoorCloses What = "close"
	Begin      What = "begin"
	Rest       What = "rest" // a pause that was granted
	Resume     What = "resume"
	HandIn     What = "handIn"
)

// Whats lists all there is.
var Whats = []What{DoorOpens, DoorPauses, DoorCloses, Begin, Rest, Resume, HandIn}

// Event is one of them at a moment.
type Event struct {
	At   time.Time
	What What
}

// OrderError tells that an event cannot follow those before it.
type OrderError struct {
	Event  Event
	Reason string
}

func (e *OrderError) Error() string { return fmt.Sprintf("%s: %s", e.Event.What, e.Reason) }
