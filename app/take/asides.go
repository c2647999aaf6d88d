package take

import (
	"cmp"
	"context"
	"slices"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/giverows"
	"pineledger/store/takerows"
)

// Tools that keep something beside an answer.
const (
	Highlights = "highlights" // of a line
	Strikes    = "strikes"    // of a line
	Notes      = "notes"      // of the scratch pad
	Drawing    = "drawing"    // on it
	Screen     = "screen"     // how the student has it
)

// mostAside bounds what a tool keeps, in bytes.
var mostAside = map[string]int{Highlights: 20_000, Strikes: 4_000, Notes: 20_000, Drawing: 120_000, Screen: 2_000}

// ofAll are the tools that keep one thing for the whole attempt.
var ofAll = []string{Notes, Drawing, Screen}

// Aside is what a tool keeps.
type Aside = takerows.Aside

// KeepAsides keeps what a student has beside the answers and returns when it is on disk. It is never scored.
func (a *Take) KeepAsides(ctx context.Context, v roster.Viewer, id int64, asides []Aside) error {
	live, err := a.live.get(ctx, a, id)
	if err != nil {
		return err
	}
	if live.row.StudentID != v.PersonID {
		return desk.ErrNotFound
	}
	for _, one := range asides {
		most, known := mostAside[one.Tool]
		switch {
		case !known || slices.Contains(ofAll, one.Tool) != (one.Line == 0):
			return desk.Invalid("/asides", "There is no such tool for line %d.", one.Line)
		case one.Line > 0 && !live.gives(one.Line):
			return desk.Invalid("/asides", "There is no line %d.", one.Line)
		case len(one.Value) > most:
			return desk.Invalid("/asides", "There is no more room here. Take something away first.")
		}
	}
	now := a.Now()
	clock, err := a.clock(ctx, live.row)
	if err != nil {
		return err
	}
	if err := live.row.Rules().TakesAnswers(clock.At(now), now); err != nil {
		return desk.Conflict("%s", desk.Sentence(err.Error()))
	}
	return a.Store.WriteTogether(ctx, func(tx *store.Tx) error {
		for _, one := range asides {
			if err := takerows.PutAside(ctx, tx, id, one, store.Millis(now)); err != nil {
				return err
			}
		}
		return nil
	})
}

// Pad is a student's scratch pad as staff look at it.
type Pad struct {
	Student string
	Notes   string
	Drawing string // as the pad keeps it; "" for none
}

// PadOf shows staff in whose scope a sitting is the scratch pad of one of its students. The look is in the ledger.
func (a *Take) PadOf(ctx context.Context, v roster.Viewer, sitting, student int64) (Pad, error) {
	var out Pad
	if !v.IsStaff() {
		return out, desk.ErrForbidden
	}
	s, err := giverows.SittingInScope(ctx, a.Store.Reader, v.Scope(), sitting)
	if err != nil {
		return out, err
	}
	seat, err := takerows.StudentSittingOf(ctx, a.Store.Reader, student, sitting)
	if err != nil || seat.AttemptID == 0 {
		return out, cmp.Or(err, desk.ErrNotFound)
	}
	row, err := takerows.AttemptByID(ctx, a.Store.Reader, seat.AttemptID)
	if err != nil {
		return out, err
	}
	asides, err := takerows.Asides(ctx, a.Store.Reader, seat.AttemptID)
	if err != nil {
		return out, err
	}
	out.Student = row.Student
	for _, one := range asides {
		switch one.Tool {
		case Notes:
			out.Notes = one.Value
		case Drawing:
			out.Drawing = one.Value
		}
	}
	return out, a.Store.Write(ctx, func(tx *store.Tx) error {
		return a.Record(ctx, tx, v, desk.Act{Name: "attempt.pad", Thing: "attempt", ID: row.ID, Title: s.Title + ", " + row.Student})
	})
}
