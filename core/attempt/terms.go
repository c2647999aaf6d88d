package attempt

import (
	"time"

	"pineledger/core/window"
)

// TermsSchema is the version of Terms that this package writes.
const TermsSchema = 1

// Terms are what is in force for one attempt. They are kept with it when it begins
// and again at each change, so that it can be told later what held when.
type Terms struct {
	Schema  int       `json:"schema"`
	From    time.Time `json:"from"`              // the window
	To      time.Time `json:"to"`                // exclusive
	Minutes int       `json:"minutes,omitempty"` // 0: no limit
	Factor  int       `json:"factor,omitempty"`  // extra-time factor in hundredths; 0: none
	Extra   int       `json:"extra,omitempty"`   // minutes
	Extends bool      `json:"extends,omitempty"` // the window ends later by what Factor and Extra add
	Tries   int       `json:"tries"`             // that a seat has; 1 at least
	Keep    Keep      `json:"keep"`              // which of them counts
}

// Clock is a clock under these terms, the door shut and nobody begun.
func (t Terms) Clock() (window.Clock, error) {
	return window.New(window.Window{From: t.From, To: t.To}, window.Allowance{Minutes: t.Minutes, Factor: t.Factor, Extra: t.Extra, Extends: t.Extends})
}

// Limited tells whether an attempt has a time limit of its own.
func (t Terms) Limited() bool { return t.Minutes > 0 }

// DoorEvent is what a door's new state is to the clocks behind it.
func DoorEvent(to DoorState, at time.Time) window.Event {
	what := window.DoorCloses
	switch to {
	case Open:
		what = window.DoorOpens
	case Held:
		what = window.DoorPauses
	}
	return window.Event{At: at, What: what}
}
