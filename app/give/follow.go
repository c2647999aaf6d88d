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
	in, err := a.arrivals(ctx, tx, d, row, whom)
	if err != nil || len(in.note.Students) == 0 {
		return nil, err
	}
	return in.touched, a.Record(ctx, tx, roster.Viewer{}, desk.Act{Name: "distribution.takeIn", Thing: "distribution", ID: d.ID, Title: row.Title, After: in.note, NoActor: true})
}

type arrived struct {
	note    TakeInNote
	touched []int64
}

// arrivals gives seats to who has none yet.
func (a *Give) arrivals(ctx context.Context, tx *store.Tx, d giverows.Following, row buildrows.Assessment, whom *resolved) (arrived, error) {
	in := arrived{note: TakeInNote{Schema: 1}}
	seats, err := giverows.SeatsOf(ctx, tx.Reader, d.ID)
	if err != nil {
		return in, err
	}
	elsewhere, err := giverows.SeatedByAnother(ctx, tx.Reader, d.AssessmentID, d.ID)
	if err != nil {
		return in, err
	}
	has := map[int64]giverows.SeatPlace{}
	for _, s := range seats {
		has[s.StudentID] = s
	}
	sats, err := giverows.SatOf(ctx, tx.Reader, roster.Scope{District: true}, d.ID)
	if err != nil {
		return in, err
	}
	sitting, over := map[int64]int64{}, map[int64]bool{}
	for _, s := range sats {
		if s.Makeup {
			continue
		}
		sitting[s.SectionID] = s.SittingID
		over[s.SectionID] = !a.Now().Before(s.Setup.V.Ends)
	}
	for _, s := range whom.sections {
		if over[s.ID] {
			continue
		}
		for _, student := range whom.seating.Students[s.ID] {
			seat, seated := has[student]
			if elsewhere[student] || seated && (seat.SectionID == s.ID || seat.Enrolled || seat.Makeup) {
				continue
			}
			var moves mover
			if seated {
				if moves, err = a.moverOf(ctx, tx.Reader, seat.SittingID, student); err != nil {
					return in, err
				}
				if moves.may != nil {
					continue
				}
			}
			if sitting[s.ID] == 0 {
				if sitting[s.ID], err = a.addLate(ctx, tx, d.Distribution, row, s); err != nil {
					return in, err
				}
				if sitting[s.ID] == 0 {
					break // in no wave, or its wave is over
				}
				in.note.Sections++
			}
			if seated {
				to, err := giverows.SittingInScope(ctx, tx.Reader, roster.Scope{District: true}, sitting[s.ID])
				if err != nil {
					return in, err
				}
				if err := a.moveTo(ctx, tx, moves, to.ID, to.Door, to.Setup.V); err != nil {
					return in, err
				}
				if err := giverows.CameLate(ctx, tx, to.ID, student, giverows.ByRule, a.Now()); err != nil {
					return in, err
				}
				in.touched, in.note.Moved = append(in.touched, seat.SittingID), in.note.Moved+1
			} else {
				if err := giverows.AddLateSeat(ctx, tx, sitting[s.ID], student, giverows.ByRule, a.Now()); err != nil {
					return in, err
				}
				in.note.Seats++
			}
			in.touched, in.note.Students = append(in.touched, sitting[s.ID]), append(in.note.Students, student)
		}
	}
	return in, nil
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
