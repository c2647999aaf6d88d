package take

import (
	"context"
	"time"

	"pineledger/app/desk"
	"pineledger/core/assessment"
	"pineledger/core/attempt"
	"pineledger/core/roster"
	"pineledger/core/window"
	"pineledger/store"
	"pineledger/store/buildrows"
	"pineledger/store/takerows"
)

// Tick does what the passing of time asks for: it hands in every attempt whose
// time is over, and closes doors whose period and assessments whose windows are all over. The server
// calls it every few seconds.
func (a *Take) Tick(ctx context.Context) error {
	if err := a.wake(ctx); err != nil {
		return err
	}
	for _, id := range a.hall.Due(a.Now().Add(-attempt.Grace)) {
		if err := a.handInDue(ctx, id); err != nil && ctx.Err() == nil {
			// One that cannot be handed in is told, tried again, and stops no other.
			a.Log.Error("an attempt whose time is over cannot be handed in", "attempt", id, "error", err)
			a.hall.PutOff(id, a.Now().Add(putOff))
		}
	}
	if err := a.closeAtTheBell(ctx); err != nil {
		return err
	}
	finished, err := buildrows.FinishedAssessments(ctx, a.Store.Reader, a.Now())
	if err != nil || len(finished) == 0 {
		return err
	}
	return a.Store.Write(ctx, func(tx *store.Tx) error {
		for _, row := range finished {
			if err := desk.Move(&row, assessment.End); err != nil {
				return err
			}
			if err := buildrows.SetAssessmentState(ctx, tx, row.ID, row.State); err != nil {
				return err
			}
			if err := a.Record(ctx, tx, roster.Viewer{}, desk.Act{Name: "assessment.close", Thing: "assessment", ID: row.ID, Title: row.Title, NoActor: true}); err != nil {
				return err
			}
		}
		return nil
	})
}

// refusedFor is how long late work that is refused waits until it is looked at again: its window may be longer by then.
const refusedFor = 10 * time.Minute

// putOff is how long an attempt that could not be handed in waits for the next try.
const putOff = time.Minute

// wake takes the attempts into the hall that were being worked on when the program stopped.
func (a *Take) wake(ctx context.Context) error {
	if a.awake.Load() {
		return nil
	}
	working, err := takerows.WorkingAttempts(ctx, a.Store.Reader)
	if err != nil {
		return err
	}
	for _, id := range working {
		row, err := takerows.AttemptByID(ctx, a.Store.Reader, id)
		if err == nil && row.State == attempt.Working {
			_, err = a.clock(ctx, row)
		}
		if err != nil && ctx.Err() == nil {
			a.Log.Error("the clock of an attempt cannot be read", "attempt", id, "error", err)
		}
	}
	a.awake.Store(ctx.Err() == nil)
	return ctx.Err()
}

func (a *Take) handInDue(ctx context.Context, id int64) error {
	row, err := takerows.AttemptByID(ctx, a.Store.Reader, id)
	if err != nil {
		return err
	}
	if row.State != attempt.Working {
		a.hall.Leave(id)
		return nil
	}
	clock, err := a.clock(ctx, row)
	if err != nil {
		return err
	}
	reading := clock.At(a.Now())
	if reading.Because == window.ByWindow && !row.Terms.Settings().HandsInByItself() {
		a.hall.PutOff(id, a.Now().Add(refusedFor)) // staff may hand it in
		return nil
	}
	return a.handIn(ctx, roster.Viewer{}, row, attempt.ByClock, reading.EndsAt)
}

// clock gives an attempt's clock, from the hall or else from all that moved it.
func (a *Take) clock(ctx context.Context, row takerows.Attempt) (window.Clock, error) {
	if c, here := a.hall.Clock(row.ID); here {
		return c, nil
	}
	epoch := a.hall.Epoch()
	c, err := takerows.ClockOf(ctx, a.Store.Reader, row)
	if err == nil && row.State == attempt.Working {
		a.hall.Enter(row.ID, row.SittingID, c, a.Now(), epoch)
	}
	return c, err
}
