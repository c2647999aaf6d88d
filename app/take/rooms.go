// Package take is the room of sittings: doors, students at work, and what an adult
// records of a child.
package take

import (
	"sync/atomic"

	"pineledger/app/desk"
	"pineledger/app/supports"
	"pineledger/run/events"
	"pineledger/run/hall"
)

// Take runs sittings and keeps answers.
type Take struct {
	*desk.Desk
	supports *supports.Supports
	live     *liveAttempts
	hall     *hall.Hall
	told     *events.Hub // who watches a sitting
	met      *devices
	codes    *guesses
	awake    atomic.Bool // the hall knows all who work
}

// New opens the room.
func New(d *desk.Desk, s *supports.Supports) *Take {
	return &Take{Desk: d, supports: s, live: newLiveAttempts(), hall: hall.New(), told: events.New(), met: newDevices(), codes: newGuesses()}
}

// roomChanged tells staff who watch a sitting that its room looks otherwise.
func (a *Take) roomChanged(sitting int64) { a.told.Changed(events.Thing{Kind: "room", ID: sitting}) }
