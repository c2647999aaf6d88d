package intake

import (
	"context"
	"time"

	"pineledger/store"
	"pineledger/store/bankrows"
)

// A step holds the one writer for so many writes and so long at most: who begins an
// attempt or signs in waits for a step, and not for the whole import.
const (
	mostInStep = 100
	stepTime   = 25 * time.Millisecond
)

// inSteps writes all of some writes, each step by itself; told hears after each.
func (a *Intake) inSteps(ctx context.Context, rest []write, told func()) error {
	for len(rest) > 0 {
		if err := ctx.Err(); err != nil {
			return err
		}
		done := 0
		err := a.Store.Write(ctx, func(tx *store.Tx) error {
			for began := time.Now(); done < min(mostInStep, len(rest)) && time.Since(began) < stepTime; done++ {
				if err := rest[done](ctx, tx); err != nil {
					return err
				}
			}
			return nil
		})
		if err != nil {
			return err
		}
		rest = rest[done:]
		told()
	}
	return nil
}

// dropArrivals takes away what an import left that did not come to its end, in steps as it came.
func (a *Intake) dropArrivals(ctx context.Context) error {
	left, err := bankrows.ArrivalsLeft(ctx, a.Store.Reader)
	if err != nil {
		return err
	}
	var drops []write
	for _, id := range left.Items {
		drops = append(drops, func(ctx context.Context, tx *store.Tx) error { return bankrows.DropItem(ctx, tx, id) })
	}
	for _, id := range left.Passages {
		drops = append(drops, func(ctx context.Context, tx *store.Tx) error { return bankrows.DropPassage(ctx, tx, id) })
	}
	for _, hash := range left.Media {
		drops = append(drops, func(ctx context.Context, tx *store.Tx) error { return bankrows.DropArrivingMedia(ctx, tx, hash) })
	}
	return a.inSteps(ctx, drops, func() {})
}
