package app

import (
	"context"
	"fmt"

	"pineledger/core/attempt"
	"pineledger/core/roster"
	"pineledger/store"
)

// Sittings lists those in scope whose window is not over.
func (a *App) Sittings(ctx context.Context, v roster.Viewer) ([]store.Sitting, error) {
	if !v.IsStaff() {
		return nil, ErrForbidden
	}
	return a.store.Sittings(ctx, v.Scope(), store.SittingFilter{OpenAfter: a.now(), Limit: 500})
}

// Room is a sitting with its students.
type Room struct {
	Sitting store.Sitting
	Lines   int
	// Recorded is how many of the lines an adult records.
	Recorded int
	Seats    []store.RoomSeat
}

// Room gives one sitting in scope.
func (a *App) Room(ctx context.Context, v roster.Viewer, id int64) (Room, error) {
	if !v.IsStaff() {
		return Room{}, ErrForbidden
	}
	s, err := a.store.SittingInScope(ctx, v.Scope(), id)
	if err != nil {
		return Room{}, err
	}
	f, err := a.formByID(ctx, s.FormID)
	if err != nil {
		return Room{}, err
	}
	seats, err := a.store.Room(ctx, id)
	return Room{Sitting: s, Lines: len(f.Each(f.Placed())), Recorded: len(recordedLines(f.Lines, f.Given(0))), Seats: seats}, err
}

// MoveDoor opens, pauses or closes one sitting. Closing stops work and loses
// none; opening again goes on.
func (a *App) MoveDoor(ctx context.Context, v roster.Viewer, id int64, to attempt.DoorState) (Room, error) {
	if !v.IsStaff() {
		return Room{}, ErrForbidden
	}
	err := a.store.Write(ctx, func(tx *store.Tx) error {
		s, err := tx.SittingInScope(ctx, v.Scope(), id)
		if err != nil {
			return err
		}
		if s.Door == to {
			return nil
		}
		now := a.now()
		if err := s.Rules().MoveDoor(to, now); err != nil {
			return conflict("%s", sentence(err.Error()))
		}
		if err := tx.MoveDoor(ctx, id, to, now); err != nil {
			return err
		}
		return a.record(ctx, tx, v, act{name: "door." + string(to), thing: "sitting", id: id,
			title: fmt.Sprintf("%s, %s, %s", s.Title, s.School, s.Section), before: map[string]any{"door": s.Door}, after: map[string]any{"door": to}})
	})
	if err != nil {
		return Room{}, err
	}
	a.live.forgetSitting(id)
	return a.Room(ctx, v, id)
}
