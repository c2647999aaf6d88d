package give

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"strings"
	"time"

	"pineledger/app/desk"
	"pineledger/core/assessment"
	"pineledger/core/attempt"
	"pineledger/core/roster"
	"pineledger/core/support"
	"pineledger/core/window"
	"pineledger/store"
	"pineledger/store/bankrows"
	"pineledger/store/buildrows"
	"pineledger/store/giverows"
	"pineledger/store/officerows"
	"pineledger/store/takerows"
)

// Makeups and seats as the store keeps them.
type (
	Makeup = giverows.Makeup
	Seat   = takerows.Seat
)

// MakeupInput is a makeup as a person arranges it. Opens and Closes are in the district's zone.
type MakeupInput struct {
	Seats         []Seat
	Room          string
	Proctor       int64 // 0: who arranges it
	Opens, Closes string
}

// MakeupNote is what the ledger keeps of a makeup that was arranged or taken back.
type MakeupNote struct {
	Schema   int       `json:"schema"`
	Room     string    `json:"room"`
	Proctor  string    `json:"proctor"`
	Opens    time.Time `json:"opens"`
	Closes   time.Time `json:"closes"`
	Students []int64   `json:"students"`
}

// Bounds of a makeup.
const (
	mostMakeup   = 500
	mostRoomName = 80
)

// Makeups lists those of an assessment in scope.
func (a *Give) Makeups(ctx context.Context, v roster.Viewer, id int64) ([]Makeup, error) {
	if _, err := desk.Assessment(ctx, a.Store.Reader, v, id); err != nil {
		return nil, err
	}
	return giverows.MakeupsOf(ctx, a.Store.Reader, v.Scope(), id)
}

// ArrangeMakeup seats students who have not handed in together in a room at another time: each home section gets a sitting there, so that
// results stay in their sections. What they have begun goes along. It gives one of the sittings.
func (a *Give) ArrangeMakeup(ctx context.Context, v roster.Viewer, id int64, in MakeupInput) (int64, error) {
	m, err := a.readMakeup(ctx, v, in)
	if err != nil {
		return 0, err
	}
	err = a.Store.Write(ctx, func(tx *store.Tx) error {
		row, err := desk.Assessment(ctx, tx.Reader, v, id)
		if err != nil {
			return err
		}
		if !v.MayBuild() {
			return desk.ErrForbidden
		}
		if row.Shelved {
			return desk.Conflict("%s", assessment.ErrShelved)
		}
		if err := m.open(ctx, tx, v, id); err != nil {
			return err
		}
		for i, s := range in.Seats {
			if err := m.seat(ctx, tx, fmt.Sprintf("/seats/%d", i), s); err != nil {
				return err
			}
		}
		if len(m.fault.Fields) > 0 {
			return &m.fault
		}
		if err := m.reopen(ctx, tx); err != nil {
			return err
		}
		return m.finish(ctx, tx, v, row)
	})
	if err != nil {
		return 0, err
	}
	a.ForgetViewers() // the proctor reaches further
	a.changed(m.touched)
	return m.sittings[0], nil
}

// makeup is one that is being arranged.
type makeup struct {
	*Give
	note    MakeupNote
	proctor int64
	zone    *time.Location

	room     int64
	homes    map[int64]giverows.Sat     // of the assessment in scope, by sitting
	at       map[[2]int64]*giverows.Sat // the sitting in the room, by distribution and section
	sittings []int64                    // in the room
	touched  []int64
	fault    desk.InvalidError
}

func (a *Give) readMakeup(ctx context.Context, v roster.Viewer, in MakeupInput) (*makeup, error) {
	zone, err := a.Zone(ctx)
	if err != nil {
		return nil, err
	}
	m := &makeup{Give: a, zone: zone, proctor: cmp.Or(in.Proctor, v.PersonID), homes: map[int64]giverows.Sat{}, at: map[[2]int64]*giverows.Sat{}}
	m.note.Schema, m.note.Room = 1, strings.TrimSpace(in.Room)
	if m.note.Opens, err = desk.ParseLocal("/opens", in.Opens, zone); err != nil {
		return nil, err
	}
	if m.note.Closes, err = desk.ParseLocal("/closes", in.Closes, zone); err != nil {
		return nil, err
	}
	switch {
	case len(in.Seats) == 0:
		return nil, desk.Invalid("/seats", "Choose at least one student.")
	case len(in.Seats) > mostMakeup:
		return nil, desk.Invalid("/seats", "Choose at most %d students for one room.", mostMakeup)
	case m.note.Room == "" || len(m.note.Room) > mostRoomName:
		return nil, desk.Invalid("/room", "Say in which room it is, in at most %d characters.", mostRoomName)
	case m.note.Opens.IsZero() || !m.note.Closes.After(m.note.Opens):
		return nil, desk.Invalid("/closes", "A makeup needs a first time, and a last one after it.")
	case !m.note.Closes.After(a.Now()):
		return nil, desk.Invalid("/closes", "This time is over already.")
	}
	return m, nil
}

// open makes the room and finds from where students may come.
func (m *makeup) open(ctx context.Context, tx *store.Tx, v roster.Viewer, assessment int64) error {
	who, err := officerows.Viewer(ctx, tx.Reader, m.proctor, m.Now())
	if errors.Is(err, desk.ErrNotFound) || err == nil && !who.IsStaff() {
		return desk.Invalid("/proctor", "Choose a member of staff.")
	} else if err != nil {
		return err
	}
	m.note.Proctor = who.Name
	if m.room, err = giverows.AddRoom(ctx, tx, m.note.Room, m.proctor, v.PersonID, m.Now()); err != nil {
		return err
	}
	sats, err := giverows.SatOfAssessment(ctx, tx.Reader, v.Scope(), assessment)
	for _, s := range sats {
		m.homes[s.SittingID] = s
	}
	return err
}

// seat moves one seat into the room, or notes why it cannot.
func (m *makeup) seat(ctx context.Context, tx *store.Tx, pointer string, seat Seat) error {
	home, here := m.homes[seat.SittingID]
	if !here {
		return desk.ErrNotFound
	}
	mover, err := m.moverOf(ctx, tx.Reader, seat.SittingID, seat.StudentID)
	if err != nil {
		return err
	}
	name, err := nameOf(ctx, tx.Reader, seat.StudentID)
	if err != nil {
		return err
	}
	if mover.may != nil {
		m.fault.Add(pointer, fmt.Sprintf("%s %s.", name, mover.may))
		return nil
	}
	setup := attempt.NewSetup(home.Setup.V.Settings, home.Setup.V.Shut, m.note.Opens, m.note.Closes, m.zone)
	needs, err := m.needs(ctx, tx.Reader, mover, setup)
	if err != nil {
		return err
	}
	whole := window.Window{From: setup.Opens, To: setup.Ends}
	times := support.TimesOf(setup.Minutes(), whole, setup.Settings.Timetable(m.zone).Spans(whole), m.zone)
	if need := minutesUp(needs); need > times.Total || times.Total == 0 {
		m.fault.Add("/closes", fmt.Sprintf("%s needs %s, and this time holds %s. Make it longer, or look at the hours and the days without school.",
			name, desk.Plural(need, "minute"), desk.Plural(times.Total, "minute")))
		return nil
	}
	key := [2]int64{home.DistributionID, home.SectionID}
	if m.at[key] == nil {
		id, err := giverows.AddMakeup(ctx, tx, home, m.room, setup)
		if err != nil {
			return err
		}
		there := home
		there.SittingID, there.Setup.V = id, setup
		m.at[key], m.sittings = &there, append(m.sittings, id)
	}
	m.note.Students = append(m.note.Students, seat.StudentID)
	m.touched = append(m.touched, seat.SittingID, m.at[key].SittingID)
	return m.moveTo(ctx, tx, mover, m.at[key].SittingID, attempt.Waiting, setup)
}

// reopen lets the assessments of which there is a window again that is not over be out again.
func (m *makeup) reopen(ctx context.Context, tx *store.Tx) error {
	for _, there := range m.at {
		row, err := buildrows.AssessmentByID(ctx, tx.Reader, there.AssessmentID)
		if err != nil {
			return err
		}
		if row.State != assessment.Closed {
			continue
		}
		if err := desk.Move(&row, assessment.Send); err != nil {
			return err
		}
		if err := buildrows.SetAssessmentState(ctx, tx, row.ID, row.State); err != nil {
			return err
		}
	}
	return nil
}

// finish says what has become of it: to the proctor, to the teachers, and in the ledger.
func (m *makeup) finish(ctx context.Context, tx *store.Tx, v roster.Viewer, row buildrows.Assessment) error {
	if m.proctor != v.PersonID {
		words := fmt.Sprintf("%s: you see to a makeup, %s, %s, from %s to %s.", row.Title, m.note.Room, desk.Plural(len(m.note.Students), "student"),
			whenSaid(m.note.Opens, m.zone), whenSaid(m.note.Closes, m.zone))
		if err := bankrows.AddNotice(ctx, tx, bankrows.Notice{PersonID: m.proctor, At: store.Millis(m.Now()), Words: words, Path: fmt.Sprintf("/rooms/%d", m.sittings[0]), Until: store.Millis(m.note.Closes), Mail: m.Mail != nil}); err != nil {
			return err
		}
	}
	if err := m.tell(ctx, tx, []int64{v.PersonID, m.proctor}, m.sittings, row.Title, "a makeup in "+m.note.Room); err != nil {
		return err
	}
	return m.Record(ctx, tx, v, desk.Act{Name: "makeup.arrange", Thing: "room", ID: m.room, Title: row.Title + ", " + m.note.Room, After: m.note})
}

// minutesUp are whole minutes, rounded up.
func minutesUp(d time.Duration) int { return int((d + time.Minute - 1) / time.Minute) }

// TakeBackMakeup sends the students of a room who have not handed in back to their sections, with what they have begun. The room stays for
// those who have.
func (a *Give) TakeBackMakeup(ctx context.Context, v roster.Viewer, room int64) error {
	var touched []int64
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		in, err := giverows.InRoom(ctx, tx.Reader, v.Scope(), room)
		if err != nil {
			return err
		}
		if len(in) == 0 || !in[0].Makeup {
			return desk.ErrNotFound
		}
		if !v.MayBuild() {
			return desk.ErrForbidden
		}
		note := MakeupNote{Schema: 1, Room: in[0].Room, Proctor: in[0].Proctor, Opens: in[0].Setup.V.Opens, Closes: in[0].Setup.V.Closes, Students: []int64{}}
		for _, s := range in {
			home, err := giverows.HomeOf(ctx, tx.Reader, s.ID)
			if err != nil {
				return err
			}
			went, err := a.sendHome(ctx, tx, s.ID, home)
			if err != nil {
				return err
			}
			note.Students, touched = append(note.Students, went...), append(touched, s.ID, home.ID)
		}
		if len(note.Students) == 0 {
			return desk.Conflict("Nobody is left to go back to their section.")
		}
		if err := giverows.DropNotices(ctx, tx, in); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "makeup.back", Thing: "room", ID: room, Title: in[0].Title + ", " + note.Room, Before: note})
	})
	if err == nil {
		a.ForgetViewers()
		a.changed(touched)
	}
	return err
}

// sendHome moves the seats of a sitting that may move to that of the section, and gives whose they are.
func (a *Give) sendHome(ctx context.Context, tx *store.Tx, from int64, home giverows.Sitting) ([]int64, error) {
	students, err := giverows.SeatedAt(ctx, tx.Reader, from)
	if err != nil {
		return nil, err
	}
	var went []int64
	for _, student := range students {
		mover, err := a.moverOf(ctx, tx.Reader, from, student)
		if err != nil {
			return nil, err
		}
		if mover.may != nil {
			continue
		}
		if err := a.moveTo(ctx, tx, mover, home.ID, home.Door, home.Setup.V); err != nil {
			return nil, err
		}
		went = append(went, student)
	}
	return went, nil
}
