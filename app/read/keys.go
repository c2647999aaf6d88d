package read

import (
	"context"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/giverows"
	"pineledger/store/readrows"
)

// OpenKeys lets teachers read stems and keys of what their classes have yet to sit, or
// closes them again. Who sends it decides.
func (a *Read) OpenKeys(ctx context.Context, v roster.Viewer, distribution int64, open bool) error {
	return a.Store.Write(ctx, func(tx *store.Tx) error {
		row, err := readrows.ResultByID(ctx, tx.Reader, v.Scope(), distribution)
		if err != nil {
			return err
		}
		on, err := desk.Assessment(ctx, tx.Reader, v, row.AssessmentID)
		if err != nil {
			return err
		}
		if !v.MaySend(on.Owned()) {
			return desk.ErrForbidden
		}
		if row.KeysOpen == open {
			return nil
		}
		name := "keys.close"
		if open {
			name = "keys.open"
		}
		if err := giverows.OpenKeys(ctx, tx, distribution, open); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: name, Thing: "distribution", ID: distribution, Title: row.Title})
	})
}
