// Package settings answers how an assessment is given: a catalog of what can be set, the levels at which
// it is set, and which of them is in force and why.
package settings

import (
	"encoding/json"
	"time"
)

// Level is where a value stands. Levels go from the most general to the most particular.
type Level string

const (
	District     Level = "district"
	Purpose      Level = "purpose"
	Assessment   Level = "assessment"
	Distribution Level = "distribution"
	School       Level = "school"
	Section      Level = "section"
	Student      Level = "student" // an accommodation
)

// Levels lists them but the student's.
var Levels = []Level{District, Purpose, Assessment, Distribution, School, Section}

// Lock says what a value keeps every more particular level from.
type Lock string

const (
	NoLock   Lock = ""
	LockRest Lock = "settings" // all but accommodations
	LockAlso Lock = "all"      // accommodations too
)

// Stand is what one level says of one setting.
type Stand struct {
	Level Level
	Value json.RawMessage
	Lock  Lock
	By    string    // who set it; "" for not known
	At    time.Time // when; zero for not known
}

// State of a level's value.
type State string

const (
	InForce    State = "inForce"
	Overridden State = "overridden" // by a more particular one
	Stopped    State = "stopped"    // by a lock above it
)

// Step is a stand with what became of it.
type Step struct {
	Stand
	State State
}

// Resolved is one setting as it is in force.
type Resolved struct {
	Value    json.RawMessage // nil where no level says anything
	From     Level           // "" where no level says anything
	LockedAt Level           // the most general lock; "" for none
	LockedBy string
	Lock     Lock
	Trail    []Step // the levels that have a value, the most general first
}

// Resolve tells which of the stands on one setting is in force. They come from the most general level to the most
// particular, each level at most once; an accommodation is the last, of level Student. In force is the most particular value
// that no lock stops. A lock stops every value below it, an accommodation only where it says so; the lock of a
// stopped value stops nothing.
func Resolve(stands []Stand) Resolved {
	out := Resolved{Trail: make([]Step, len(stands))}
	r := noRuling
	for i := range stands {
		out.Trail[i] = Step{stands[i], Overridden}
		if !r.lets(i, &stands[i]) {
			out.Trail[i].State = Stopped
		}
	}
	if r.in >= 0 {
		out.Trail[r.in].State = InForce
		out.Value, out.From = stands[r.in].Value, stands[r.in].Level
	}
	if r.locked >= 0 {
		s := stands[r.locked]
		out.Lock, out.LockedAt, out.LockedBy = s.Lock, s.Level, s.By
	}
	return out
}

// ruling is the rule as it goes from the most general stand to the most particular.
type ruling struct {
	lock       Lock
	in, locked int // places of the value in force and of the lock; -1: none
}

var noRuling = ruling{in: -1, locked: -1}

// lets takes in the next stand, and tells whether no lock stops it.
func (r *ruling) lets(i int, s *Stand) bool {
	if r.lock == LockAlso || r.lock == LockRest && s.Level != Student {
		return false
	}
	r.in = i
	if s.Lock != NoLock && r.lock == NoLock {
		r.lock, r.locked = s.Lock, i
	}
	return true
}
