package take

import (
	"context"

	"pineledger/app/desk"
	"pineledger/core/attempt"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/core/window"
	"pineledger/run/events"
	"pineledger/store"
	"pineledger/store/takerows"
)

// Break begins a student's break or ends it: the clock stands still meanwhile, and nothing of the items is sent.
func (a *Take) Break(ctx context.Context, v roster.Viewer, id int64, rest bool) (TakeView, error) {
	row, err := takerows.AttemptByID(ctx, a.Store.Reader, id)
	if err != nil {
		return TakeView{}, err
	}
	if row.StudentID != v.PersonID {
		return TakeView{}, desk.ErrNotFound
	}
	err = a.Store.Write(ctx, func(tx *store.Tx) error {
		clock, err := takerows.ClockOf(ctx, tx.Reader, row)
		if err != nil {
			return err
		}
		now := a.Now()
		resting := clock.At(now).State == window.Resting
		switch {
		case resting == rest:
			return nil // it is so already
		case rest:
			if err := row.Rules().MayGoOn(clock.At(now), now); err != nil {
				return desk.Conflict("%s", desk.Sentence(err.Error()))
			}
			if clock.Rests() >= row.Terms.Settings().Number(settings.Breaks) {
				return desk.Conflict("%s", desk.Sentence(attempt.ErrNoBreak.Error()))
			}
			err = takerows.AddEvent(ctx, tx, id, window.Event{At: now, What: window.Rest})
		default:
			err = takerows.AddEvent(ctx, tx, id, window.Event{At: now, What: window.Resume})
		}
		if err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: map[bool]string{true: "attempt.rest", false: "attempt.resume"}[rest], Thing: "attempt", ID: id, Title: row.Title + ", " + row.Student})
	})
	if err != nil {
		return TakeView{}, err
	}
	a.hall.Leave(id)
	a.told.Changed(events.Thing{Kind: "student", ID: row.StudentID})
	a.roomChanged(row.SittingID)
	return a.takeView(ctx, id)
}
