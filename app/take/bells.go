package take

import (
	"context"
	"errors"
	"strings"
	"time"

	"pineledger/app/desk"
	"pineledger/core/attempt"
	"pineledger/core/roster"
	"pineledger/core/window"
	"pineledger/run/events"
	"pineledger/store"
	"pineledger/store/giverows"
	"pineledger/store/officerows"
)

// Bells are the periods of a school's week.
type Bells struct {
	Text      string // as window.ReadBells reads it
	MayChange bool
}

// Bells gives the bell times of a school in scope.
func (a *Take) Bells(ctx context.Context, v roster.Viewer, school int64) (Bells, error) {
	if !v.IsStaff() {
		return Bells{}, desk.ErrForbidden
	}
	if _, err := officerows.SchoolInScope(ctx, a.Store.Reader, v.Scope(), school); err != nil {
		return Bells{}, err
	}
	bells, err := giverows.BellsOf(ctx, a.Store.Reader, school)
	return Bells{bells.String(), a.mayRing(v, school)}, err
}

func (a *Take) mayRing(v roster.Viewer, school int64) bool {
	return v.MayBuild() && v.Scope().Reaches(school, 0)
}

// PutBells replaces the bell times of a school by what is typed or pasted; was is the text as it was looked at. A door that is open keeps
// the end that it was opened with.
func (a *Take) PutBells(ctx context.Context, v roster.Viewer, school int64, text, was string) (Bells, error) {
	name, err := officerows.SchoolInScope(ctx, a.Store.Reader, v.Scope(), school)
	if err != nil {
		return Bells{}, err
	}
	if !a.mayRing(v, school) {
		return Bells{}, desk.ErrForbidden
	}
	bells, err := window.ReadBells(text)
	var fault *window.LineFault
	if errors.As(err, &fault) {
		return Bells{}, desk.Invalid("/text", "%s", fault)
	}
	err = a.Store.Write(ctx, func(tx *store.Tx) error {
		before, err := giverows.BellsOf(ctx, tx.Reader, school)
		if err != nil {
			return err
		}
		if before.String() != was {
			return desk.ErrStale
		}
		if err := giverows.PutBells(ctx, tx, school, bells); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "school.bells", Thing: "school", ID: school, Title: name, Before: lines(before), After: lines(bells)})
	})
	return Bells{bells.String(), true}, err
}

func lines(b window.Bells) []string {
	return strings.Split(strings.TrimSuffix(b.String(), "\n"), "\n")
}

// untilTheBell sets when a door that opens closes by itself: at the end of the section's own period, or
// of the one that is on, where the school has bell times.
func (a *Take) untilTheBell(ctx context.Context, tx *store.Tx, s giverows.Sitting, now time.Time) error {
	bells, err := giverows.BellsOf(ctx, tx.Reader, s.SchoolID)
	if err != nil || len(bells) == 0 {
		return err
	}
	zone, err := a.Zone(ctx)
	if err != nil {
		return err
	}
	var own []string
	if !s.Makeup { // which sits whenever it was arranged
		own = strings.Split(s.Periods, ",")
	}
	if _, ends, on := bells.For(now, zone, own); on {
		return giverows.CloseByItself(ctx, tx, s.ID, ends)
	}
	return nil
}

// closeAtTheBell closes the doors whose period is over, each by itself: people forget.
func (a *Take) closeAtTheBell(ctx context.Context) error {
	over, err := giverows.DoorsOver(ctx, a.Store.Reader, a.Now())
	if err != nil {
		return err
	}
	for _, id := range over {
		if err := a.closeOver(ctx, id); err != nil && ctx.Err() == nil {
			// One that cannot be closed is told, tried again at the next tick, and stops no other.
			a.Log.Error("a door whose period is over cannot be closed", "sitting", id, "error", err)
		}
	}
	return ctx.Err()
}

func (a *Take) closeOver(ctx context.Context, id int64) error {
	var now time.Time
	closed := false
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		s, err := giverows.SittingInScope(ctx, tx.Reader, roster.Scope{District: true}, id)
		if err != nil {
			return err
		}
		now = a.Now()
		if s.DoorUntil == 0 || store.Time(s.DoorUntil).After(now) {
			return nil // somebody gave it more time meanwhile
		}
		if s.Rules().MoveDoor(attempt.Closed, now) != nil {
			return giverows.CloseByItself(ctx, tx, id, time.Time{})
		}
		closed = true
		return a.turnDoor(ctx, tx, roster.Viewer{}, s, attempt.Closed, now)
	})
	if err == nil && closed {
		a.doorMoved(id, attempt.Closed, now)
	}
	return err
}

// BellNote is what the ledger keeps of when a door closes by itself.
type BellNote struct {
	Schema         int        `json:"schema"`
	ClosesByItself *time.Time `json:"closesByItself,omitempty"` // left out: not before somebody closes it
}

func noteUntil(at time.Time) BellNote {
	if at.IsZero() {
		return BellNote{Schema: 1}
	}
	return BellNote{1, &at}
}

// moreTime is how much longer a door stays open at one asking.
const moreTime = 10 * time.Minute

// KeepOpen lets a door that closes by itself close ten minutes later, or not before somebody closes it.
func (a *Take) KeepOpen(ctx context.Context, v roster.Viewer, id int64, untilClosed bool) (Room, error) {
	if !v.IsStaff() {
		return Room{}, desk.ErrForbidden
	}
	var in []Sitting
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		var err error
		if in, err = behindDoor(ctx, tx.Reader, v.Scope(), id); err != nil {
			return err
		}
		if in[0].DoorUntil == 0 {
			return desk.Conflict("The door does not close by itself.")
		}
		before := store.Time(in[0].DoorUntil)
		var until time.Time
		if !untilClosed {
			until = before.Add(moreTime)
		}
		for _, s := range in {
			if err := giverows.CloseByItself(ctx, tx, s.ID, until); err != nil {
				return err
			}
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "door.longer", Thing: "sitting", ID: id, Title: nameOf(in[0]), Before: BellNote{1, &before}, After: noteUntil(until)})
	})
	if err != nil {
		return Room{}, err
	}
	for _, s := range in {
		a.told.Changed(events.Thing{Kind: "sitting", ID: s.ID})
	}
	return a.Room(ctx, v, id)
}
