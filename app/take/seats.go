package take

import (
	"context"
	"slices"

	"pineledger/app/desk"
	"pineledger/core/attempt"
	"pineledger/core/roster"
	"pineledger/run/events"
	"pineledger/store"
	"pineledger/store/giverows"
)

// SeatNote is what the ledger keeps of a seat that was added after a distribution was sent.
type SeatNote struct {
	Student int64  `json:"student"`
	Name    string `json:"name"`
}

// Seat gives a seat to a student who came to the section of a sitting after it was sent. Who has a
// seat in another sitting of the same distribution, or was left out of it, gets none.
func (a *Take) Seat(ctx context.Context, v roster.Viewer, sitting, student int64) (Room, error) {
	if !v.IsStaff() {
		return Room{}, desk.ErrForbidden
	}
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		in, err := inRoomOf(ctx, tx.Reader, v.Scope(), sitting)
		if err != nil {
			return err
		}
		s := in[0]
		for _, twin := range in { // the form that fewer have
			if twin.SectionID == s.SectionID && twin.Seats < s.Seats {
				s = twin
			}
		}
		if !a.Now().Before(s.Rules().Closes) {
			return desk.Conflict("%s", desk.Sentence(attempt.ErrWindowOver.Error()))
		}
		waiting, err := giverows.UnseatedIn(ctx, tx.Reader, s.ID)
		if err != nil {
			return err
		}
		at := slices.IndexFunc(waiting, func(u giverows.Unseated) bool { return u.StudentID == student })
		if at < 0 {
			return desk.ErrNotFound
		}
		if err := giverows.AddLateSeat(ctx, tx, s.ID, student, giverows.ByHand, a.Now()); err != nil {
			return err
		}
		note := SeatNote{student, waiting[at].Given + " " + waiting[at].Family}
		return a.Record(ctx, tx, v, desk.Act{Name: "sitting.seat", Thing: "sitting", ID: s.ID, Title: nameOf(s), After: note})
	})
	if err != nil {
		return Room{}, err
	}
	a.told.Changed(events.Thing{Kind: "student", ID: student})
	a.roomChanged(sitting)
	return a.Room(ctx, v, sitting)
}
