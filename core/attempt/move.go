package attempt

import (
	"errors"

	"pineledger/core/window"
)

// Reasons why a seat stays where it is. Each goes on from a student's name.
var (
	ErrHasHandedIn = errors.New("has handed in")
	ErrAtWork      = errors.New("is at work; close the door first")
	ErrClockOver   = errors.New("has no time left; hand in for them")
)

// MayMove tells whether the seat of a student may move to another sitting, their work with it; nil means yes. state is that of their
// last try, "" where none is begun; r is its clock now.
func MayMove(state State, r window.Reading) error {
	switch {
	case state == "":
		return nil
	case state != Working:
		return ErrHasHandedIn
	case r.State == window.Working || r.State == window.Resting:
		return ErrAtWork
	case r.State == window.Over || r.State == window.HandedIn:
		return ErrClockOver
	}
	return nil
}
