package give

import (
	"context"
	"errors"
	"fmt"

	"pineledger/app/desk"
	"pineledger/core/attempt"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/store"
	"pineledger/store/buildrows"
	"pineledger/store/giverows"
	"pineledger/store/officerows"
)

// TakeInNote is what the ledger keeps of those who came in by a rule.
type TakeInNote struct {
	Schema   int     `json:"schema"`
	Seats    int     `json:"seats"`    // new ones
	Moved    int     `json:"moved"`    // of students who changed sections, with what they had begun
	Sections int     `json:"sections"` // new ones
	Students []int64 `json:"students"`
}

// TakeIn looks at every distribution that takes in who comes later, after rosters have changed: new sections get their sitting, new
// students their seat, and who changed sections is seated in the new one, their work with them. Who is at work at that moment, has handed
// in or is in a makeup stays. Each is its own transaction.
func (a *Give) TakeIn(ctx context.Context) error {
	open, err := giverows.FollowingAt(ctx, a.Store.Reader, a.Now())
	if err != nil {
		return err
	}
	var failed []error
	for _, d := range open {
		if d.DealtWith > 0 {
			continue // the form with which it was sent takes in for all
		}
		var touched []int64
		if err := a.Store.Write(ctx, func(tx *store.Tx) error {
			touched, err = a.takeIn(ctx, tx, d)
			return err
		}); err != nil {
			failed = append(failed, fmt.Errorf("distribution %d: %w", d.ID, err)) // it stops no other
			continue
		}
		a.changed(touched)
	}
	return errors.Join(failed...)
}

func (a *Give) takeIn(ctx context.Context, tx *store.Tx, d giverows.Following) ([]int64, error) {
	sender, err := officerows.Viewer(ctx, tx.Reader, d.SentBy, a.Now()) // as far as who sent it reaches
	if err != nil {
		return nil, err
	}
	row, err := buildrows.AssessmentByID(ctx, tx.Reader, d.AssessmentID)
	if err != nil {
		return nil, err
	}
	whom, err := a.resolve(ctx, tx.Reader, sender, row, d.Whom)
	if err != nil {
		return nil, err
	}
	in, err := a.arriving(ctx, tx, d.Distribution, row)
	if err != nil {
		return nil, err
	}
	for _, section := range whom.sections {
		if err := in.seatAll(ctx, tx, section, whom.seating.Students[section.ID]); err != nil {
			return nil, err
		}
	}
	if len(in.note.Students) == 0 {
		return nil, nil
	}
	return in.touched, a.Record(ctx, tx, roster.Viewer{}, desk.Act{Name: "distribution.takeIn", Thing: "distribution", ID: d.ID, Title: row.Title, After: in.note, NoActor: true})
}

// arriving is a distribution, or several of twin forms, that takes in who has no seat yet.
type arriving struct {
	*Give
	forms     []dealt                  // its own first
	sats      []map[int64]giverows.Sat // by form, by section; no makeups
	seats     []int                    // by form
	has       map[int64]placed
	elsewhere map[int64]bool // who has a seat in another distribution of it
	note      TakeInNote
	touched   []int64
}

// placed is a seat with the form that it has.
type placed struct {
	giverows.SeatPlace
	form int
}

func (a *Give) arriving(ctx context.Context, tx *store.Tx, d giverows.Distribution, row buildrows.Assessment) (*arriving, error) {
	in := &arriving{Give: a, has: map[int64]placed{}, note: TakeInNote{Schema: 1}}
	all, err := dealtWith(ctx, tx.Reader, d)
	if err != nil {
		return nil, err
	}
	for form, one := range all {
		if form > 0 {
			if row, err = buildrows.AssessmentByID(ctx, tx.Reader, one.AssessmentID); err != nil {
				return nil, err
			}
		}
		in.forms = append(in.forms, dealt{row, one})
		seats, err := giverows.SeatsOf(ctx, tx.Reader, one.ID)
		if err != nil {
			return nil, err
		}
		for _, s := range seats {
			in.has[s.StudentID] = placed{s, form}
		}
		in.seats = append(in.seats, len(seats))
		sats, err := giverows.SatOf(ctx, tx.Reader, roster.Scope{District: true}, one.ID)
		if err != nil {
			return nil, err
		}
		by := map[int64]giverows.Sat{}
		for _, s := range sats {
			if !s.Makeup {
				by[s.SectionID] = s
			}
		}
		in.sats = append(in.sats, by)
	}
	in.elsewhere, err = giverows.SeatedByAnother(ctx, tx.Reader, d.AssessmentID, d.ID)
	return in, err
}

// formFor is the form that the next new seat of a section gets.
func (in *arriving) formFor(section int64) int {
	here := make([]int, len(in.forms))
	for form, by := range in.sats {
		sat, there := by[section]
		if there && in.forms[0].distribution.Deal == roster.BySection {
			return form
		}
		here[form] = sat.Seats
	}
	if in.forms[0].distribution.Deal == roster.OneForm {
		return 0
	}
	return roster.Fewest(here, in.seats)
}

// sittingFor finds the sitting of a form in a section, or makes it; none where the section's window is over, or it is in no wave.
func (in *arriving) sittingFor(ctx context.Context, tx *store.Tx, form int, s officerows.Section) (giverows.Sat, error) {
	if sat, there := in.sats[form][s.ID]; there {
		return sat, nil
	}
	f := in.forms[form]
	id, err := in.addLate(ctx, tx, f.distribution, f.row, s)
	if err != nil || id == 0 {
		return giverows.Sat{}, err
	}
	first := true
	for _, by := range in.sats {
		beside, there := by[s.ID]
		if !there {
			continue
		}
		first = false
		if f.distribution.Deal == roster.BySeat && beside.RoomID > 0 {
			if err := giverows.ShareRoom(ctx, tx, id, beside.RoomID); err != nil {
				return giverows.Sat{}, err
			}
		}
	}
	if first {
		in.note.Sections++
		if f.distribution.Deal == roster.BySeat {
			room, err := giverows.AddRoom(ctx, tx, "", 0, 0, in.Now())
			if err != nil {
				return giverows.Sat{}, err
			}
			if err := giverows.ShareRoom(ctx, tx, id, room); err != nil {
				return giverows.Sat{}, err
			}
		}
	}
	in.sats[form][s.ID], err = giverows.SatByID(ctx, tx.Reader, id)
	return in.sats[form][s.ID], err
}

// over tells whether the window of a section is over that has a sitting.
func (in *arriving) over(section int64) bool {
	for _, by := range in.sats {
		if sat, there := by[section]; there {
			return !in.Now().Before(sat.Setup.V.Ends)
		}
	}
	return false
}

// seatAll seats the students of a section who have no seat, and moves those who have come from another section.
func (in *arriving) seatAll(ctx context.Context, tx *store.Tx, s officerows.Section, students []int64) error {
	if in.over(s.ID) {
		return nil
	}
	for _, student := range students {
		seat, seated := in.has[student]
		if in.elsewhere[student] || seated && (seat.SectionID == s.ID || seat.Enrolled || seat.Makeup) {
			continue
		}
		form := seat.form
		var moves mover
		if !seated {
			form = in.formFor(s.ID)
		} else {
			var err error
			if moves, err = in.moverOf(ctx, tx.Reader, seat.SittingID, student); err != nil {
				return err
			}
			if moves.may != nil {
				continue
			}
		}
		to, err := in.sittingFor(ctx, tx, form, s)
		if err != nil || to.SittingID == 0 {
			return err
		}
		if seated {
			err = in.moveLate(ctx, tx, moves, to.SittingID)
			in.touched, in.note.Moved = append(in.touched, seat.SittingID), in.note.Moved+1
		} else {
			err = giverows.AddLateSeat(ctx, tx, to.SittingID, student, giverows.ByRule, in.Now())
			in.note.Seats, in.seats[form] = in.note.Seats+1, in.seats[form]+1
		}
		if err != nil {
			return err
		}
		to.Seats++
		in.sats[form][s.ID] = to
		in.touched, in.note.Students = append(in.touched, to.SittingID), append(in.note.Students, student)
	}
	return nil
}

// moveLate puts a seat into another section's sitting, with the work.
func (a *Give) moveLate(ctx context.Context, tx *store.Tx, m mover, sitting int64) error {
	to, err := giverows.SittingInScope(ctx, tx.Reader, roster.Scope{District: true}, sitting)
	if err != nil {
		return err
	}
	if err := a.moveTo(ctx, tx, m, to.ID, to.Door, to.Setup.V); err != nil {
		return err
	}
	return giverows.CameLate(ctx, tx, to.ID, m.student, giverows.ByRule, a.Now())
}

// addLate makes a sitting for a section that has come to what was sent; 0 where its window is over or it is in no wave.
func (a *Give) addLate(ctx context.Context, tx *store.Tx, d giverows.Distribution, row buildrows.Assessment, s officerows.Section) (int64, error) {
	when := d.Waves.WindowOf(s.SchoolID, s.ID)
	if !when.To.After(a.Now()) {
		return 0, nil
	}
	book, err := giverows.BookOf(ctx, tx.Reader, []int64{row.ID})
	if err != nil {
		return 0, err
	}
	zone, err := a.Zone(ctx)
	if err != nil {
		return 0, err
	}
	place := settings.Place{Purpose: row.Purpose, Assessment: row.ID, Distribution: d.ID, School: s.SchoolID, Section: s.ID}
	return giverows.AddSitting(ctx, tx, d.ID, s.ID, s.SchoolID, attempt.NewSetup(book.Values(place), book.Shut(place), when.From, when.To, zone), nil)
}
