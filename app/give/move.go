package give

import (
	"context"
	"time"

	"pineledger/core/attempt"
	"pineledger/store"
	"pineledger/store/giverows"
	"pineledger/store/officerows"
	"pineledger/store/takerows"
)

// mover is a student whose seat is to move to another sitting, with what they have begun.
type mover struct {
	seat    takerows.StudentSitting
	student int64
	work    *takerows.Attempt // nil: not begun
	may     error             // why the seat stays where it is; goes on from the student's name
	left    time.Duration     // of the time limit of what they have begun
}

// moverOf finds what goes along with a seat.
func (a *Give) moverOf(ctx context.Context, r store.Reader, sitting, student int64) (mover, error) {
	s, err := takerows.StudentSittingOf(ctx, r, student, sitting)
	out := mover{seat: s, student: student}
	if err != nil || s.AttemptID == 0 {
		return out, err
	}
	work, err := takerows.AttemptByID(ctx, r, s.AttemptID)
	if err != nil {
		return out, err
	}
	clock, err := takerows.ClockOf(ctx, r, work)
	if err != nil {
		return out, err
	}
	now := clock.At(a.Now())
	out.work, out.left, out.may = &work, now.Left, attempt.MayMove(s.State, now)
	if s.Try > 1 {
		out.may = attempt.ErrHasHandedIn // once; the result of that try stays where it was sat
	}
	return out, nil
}

// needs is how long the student still works under a setup; 0 without a limit.
func (a *Give) needs(ctx context.Context, r store.Reader, m mover, setup attempt.Setup) (time.Duration, error) {
	if m.work != nil {
		return m.left, nil
	}
	f, err := a.FormByID(ctx, m.seat.FormID)
	if err != nil {
		return 0, err
	}
	given, err := a.supports.InForce(ctx, r, m.seat.ID, m.seat.AssessmentID, f, m.student)
	return attempt.NewTerms(setup, given).Allowed(), err
}

// moveTo puts the seat, and what was begun, into another sitting with a door and a setup.
func (a *Give) moveTo(ctx context.Context, tx *store.Tx, m mover, to int64, door attempt.DoorState, setup attempt.Setup) error {
	if err := giverows.MoveSeat(ctx, tx, m.seat.ID, to, m.student); err != nil || m.work == nil {
		return err
	}
	return takerows.Move(ctx, tx, *m.work, to, door, m.work.Terms.Under(setup), a.Now())
}

// nameOf is how rosters name a student.
func nameOf(ctx context.Context, r store.Reader, student int64) (string, error) {
	names, err := officerows.RosterNames(ctx, r, []int64{student})
	return names[student].Name, err
}
