package take

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"time"

	"pineledger/app/desk"
	"pineledger/core/attempt"
	"pineledger/core/form"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/core/support"
	"pineledger/run/events"
	"pineledger/store"
	"pineledger/store/giverows"
)

// Sittings lists those in scope whose window is not over.
func (a *Take) Sittings(ctx context.Context, v roster.Viewer) ([]giverows.Sitting, error) {
	if !v.IsStaff() {
		return nil, desk.ErrForbidden
	}
	list, err := giverows.Sittings(ctx, a.Store.Reader, v.Scope(), giverows.SittingFilter{OpenAfter: a.Now(), Proctored: true, Limit: 500})
	return giverows.ByRoom(list), err
}

// Room is a sitting with its students, and those of the sittings that share its room.
type Room struct {
	Sitting giverows.Sitting
	Lines   int
	// Recorded is how many of the lines an adult records.
	Recorded int
	Seats    []RoomSeat
	Unseated []giverows.Unseated // who came to the section since it was sent
	Makeups  []giverows.Makeup   // to which students of the section went

	CodeAsked     bool // students type an access code
	Notes         bool // on paper are allowed
	Managed       bool // it opens on managed devices only
	Pad           bool // students have a scratch pad
	Late          bool // the window is over, and late work waits for staff to hand it in
	MaySubstitute bool // the viewer may let somebody else see to it for a day
	MayEnd        bool // a makeup: its students may be sent back to their sections
}

// Room gives one sitting in scope, with those in scope that share its room.
func (a *Take) Room(ctx context.Context, v roster.Viewer, id int64) (Room, error) {
	if !v.IsStaff() {
		return Room{}, desk.ErrForbidden
	}
	in, err := inRoomOf(ctx, a.Store.Reader, v.Scope(), id)
	if err != nil {
		return Room{}, err
	}
	out := Room{Sitting: giverows.ByRoom(in)[0]}
	for _, s := range in {
		f, err := a.FormByID(ctx, s.FormID)
		if err != nil {
			return Room{}, err
		}
		out.Lines, out.Recorded = max(out.Lines, f.Count()), max(out.Recorded, len(recordedLines(f.Lines, f.Given(0))))
		seats, err := a.seatsOf(ctx, s, f)
		if err != nil {
			return Room{}, err
		}
		out.Seats = append(out.Seats, seats...)
	}
	slices.SortStableFunc(out.Seats, func(a, b RoomSeat) int {
		return cmp.Or(cmp.Compare(a.Family, b.Family), cmp.Compare(a.Given, b.Given), cmp.Compare(a.StudentID, b.StudentID))
	})
	s := in[0]
	values := s.Setup.V.Settings
	out.CodeAsked, out.Notes, out.Managed = values.Flag(settings.AccessCode), values.Flag(settings.NotesOnPaper), values.Flag(settings.ManagedOnly)
	out.Pad = values.Flag(settings.ScratchPad)
	out.MaySubstitute = maySubstitute(v, s) && a.Now().Before(s.Setup.V.Ends)
	out.Late = !a.Now().Before(s.Setup.V.Ends) && !values.HandsInByItself()
	if s.Makeup {
		out.MayEnd = v.MayBuild() && out.Sitting.Done < out.Sitting.Seats
		return out, nil
	}
	if out.Makeups, err = giverows.MakeupsFor(ctx, a.Store.Reader, s); err != nil {
		return Room{}, err
	}
	if a.Now().Before(s.Rules().Closes) {
		out.Unseated, err = giverows.UnseatedIn(ctx, a.Store.Reader, id)
	}
	return out, err
}

// RoomSeat is a student's place in the room, with what supports they have and when their own time ends.
type RoomSeat struct {
	giverows.RoomSeat
	SittingID int64
	Section   string
	Letter    string // of the twin form; "" where there is one form
	Lines     int
	Supports  []support.Given
	EndsAt    time.Time // if nothing happens any more; zero while they do not work
}

func (a *Take) seatsOf(ctx context.Context, s giverows.Sitting, f form.Form) ([]RoomSeat, error) {
	rows, err := giverows.Room(ctx, a.Store.Reader, s.ID)
	if err != nil {
		return nil, err
	}
	given, err := a.supports.InRoom(ctx, a.Store.Reader, s, f)
	if err != nil {
		return nil, err
	}
	out := make([]RoomSeat, len(rows))
	for i, row := range rows {
		out[i] = RoomSeat{RoomSeat: row, SittingID: s.ID, Section: s.Section, Letter: s.Letter, Lines: f.Count(), Supports: given[row.StudentID]}
		if row.State != attempt.Working {
			continue
		}
		work, err := a.live.get(ctx, a, row.AttemptID) // remembered: a room is looked at again at every answer
		if err != nil {
			return nil, err
		}
		out[i].Supports = work.row.Terms.Supports // what one began with is theirs until they hand in
		clock, err := a.clock(ctx, work.row)
		if err != nil {
			return nil, err
		}
		out[i].EndsAt = clock.At(a.Now()).EndsAt
	}
	return out, nil
}

// MoveDoor opens, pauses or closes one sitting, with those that share its room. Closing stops work and loses
// none; opening again goes on.
func (a *Take) MoveDoor(ctx context.Context, v roster.Viewer, id int64, to attempt.DoorState) (Room, error) {
	if !v.IsStaff() {
		return Room{}, desk.ErrForbidden
	}
	var now time.Time
	var moved []int64
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		in, err := behindDoor(ctx, tx.Reader, v.Scope(), id)
		if err != nil {
			return err
		}
		now = a.Now() // inside the transaction, so that events stand in the order of time
		moved, err = a.turnDoors(ctx, tx, v, in, to, now)
		return err
	})
	if err != nil {
		return Room{}, err
	}
	for _, id := range moved {
		a.doorMoved(id, to, now)
	}
	return a.Room(ctx, v, id)
}

// turnDoors moves the doors of sittings that share a room, and gives those that were not so yet. Where an access code is asked, the first
// opening makes one for all.
func (a *Take) turnDoors(ctx context.Context, tx *store.Tx, v roster.Viewer, in []Sitting, to attempt.DoorState, now time.Time) ([]int64, error) {
	var moved []int64
	code := cmp.Or(in[0].Code, newCode())
	for _, s := range in {
		if s.Door == to {
			continue
		}
		if err := s.Rules().MoveDoor(to, now); err != nil {
			return nil, desk.Conflict("%s", desk.Sentence(err.Error()))
		}
		if to == attempt.Open && s.Code == "" && s.Setup.V.Settings.Flag(settings.AccessCode) {
			if err := giverows.SetCode(ctx, tx, s.ID, code); err != nil {
				return nil, err
			}
		}
		if err := a.turnDoor(ctx, tx, v, s, to, now); err != nil {
			return nil, err
		}
		moved = append(moved, s.ID)
	}
	return moved, nil
}

// turnDoor keeps that a door moves.
func (a *Take) turnDoor(ctx context.Context, tx *store.Tx, v roster.Viewer, s Sitting, to attempt.DoorState, now time.Time) error {
	if err := giverows.MoveDoor(ctx, tx, s.ID, to, now); err != nil {
		return err
	}
	if to == attempt.Open {
		if err := a.untilTheBell(ctx, tx, s, now); err != nil {
			return err
		}
	}
	return a.Record(ctx, tx, v, desk.Act{Name: "door." + string(to), Thing: "sitting", ID: s.ID, NoActor: v.PersonID == 0,
		Title: nameOf(s), Before: map[string]any{"door": s.Door}, After: map[string]any{"door": to}})
}

// nameOf names a sitting in the ledger.
func nameOf(s giverows.Sitting) string {
	return fmt.Sprintf("%s, %s, %s", s.Title, s.School, s.Called())
}

// doorMoved tells who works behind a door, and who watches it.
func (a *Take) doorMoved(id int64, to attempt.DoorState, at time.Time) {
	a.live.forgetSitting(id)
	a.hall.Door(id, attempt.DoorEvent(to, at))
	a.told.Changed(events.Thing{Kind: "sitting", ID: id})
}

// TermsChanged is told at which sittings something else is in force: who works there goes by it from now on.
func (a *Take) TermsChanged(sittings []int64) {
	for _, id := range sittings {
		a.live.forgetSitting(id)
		a.hall.LeaveSitting(id)
		a.told.Changed(events.Thing{Kind: "sitting", ID: id})
	}
	a.awake.Store(false) // the next tick takes them into the hall again
}

// Watch tells staff in whose scope it is that the door of a sitting has moved or its room looks otherwise, and a
// student with a seat that the door has moved or their own work was handed in. End it with stop.
func (a *Take) Watch(ctx context.Context, v roster.Viewer, id int64) (changed <-chan struct{}, stop func(), err error) {
	watched := []events.Thing{{Kind: "sitting", ID: id}}
	if v.IsStaff() {
		var in []Sitting
		in, err = inRoomOf(ctx, a.Store.Reader, v.Scope(), id)
		watched = watched[:0]
		for _, s := range in {
			watched = append(watched, events.Thing{Kind: "sitting", ID: s.ID}, events.Thing{Kind: "room", ID: s.ID})
		}
	} else {
		_, err = a.mine(ctx, v, id)
		watched = append(watched, events.Thing{Kind: "student", ID: v.PersonID})
	}
	if err != nil {
		return nil, nil, err
	}
	changed, stop = a.told.Watch(watched...)
	return changed, stop, nil
}

// mostDoors bounds how many doors move at once.
const mostDoors = 5000

// MoveDoors moves the doors of several sittings, all or none, and tells how many were not so yet. One that cannot move that way,
// as a waiting door that would be closed, is left as it is.
func (a *Take) MoveDoors(ctx context.Context, v roster.Viewer, ids []int64, to attempt.DoorState) (moved int, err error) {
	if !v.IsStaff() {
		return 0, desk.ErrForbidden
	}
	if len(ids) > mostDoors {
		return 0, desk.Invalid("/sittings", "Move at most %d doors at once.", mostDoors)
	}
	var now time.Time
	var went []int64
	err = a.Store.Write(ctx, func(tx *store.Tx) error {
		now = a.Now()
		for _, id := range ids {
			in, err := behindDoor(ctx, tx.Reader, v.Scope(), id)
			if err != nil {
				return err
			}
			if in[0].Rules().MoveDoor(to, now) != nil {
				continue
			}
			moved, err := a.turnDoors(ctx, tx, v, in, to, now)
			if err != nil {
				return err
			}
			went = append(went, moved...)
		}
		return nil
	})
	if err != nil {
		return 0, err
	}
	for _, id := range went {
		a.doorMoved(id, to, now)
	}
	return len(went), nil
}
