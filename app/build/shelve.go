package build

import (
	"context"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/buildrows"
)

// Shelve puts an assessment away, out of the lists, or brings it back in the state that it had.
func (a *Build) Shelve(ctx context.Context, v roster.Viewer, id int64, version int, away bool) (Sheet, error) {
	name := "assessment.unshelve"
	if away {
		name = "assessment.shelve"
	}
	return a.change(ctx, v, id, version, name, func(tx *store.Tx, row *buildrows.Assessment) (any, any, error) {
		if away {
			if err := row.State.Shelvable(row.Edition); err != nil {
				return nil, nil, desk.Conflict("%s", err)
			}
		}
		return nil, nil, buildrows.Shelve(ctx, tx, id, store.Millis(a.Now()), away)
	})
}

// Delete takes a draft that was never sealed out of every list for good; what it held is free again.
func (a *Build) Delete(ctx context.Context, v roster.Viewer, id int64, version int) error {
	return a.Store.Write(ctx, func(tx *store.Tx) error {
		row, err := desk.Assessment(ctx, tx.Reader, v, id)
		if err != nil {
			return err
		}
		switch {
		case !v.MayChange(row.Owned()):
			return desk.ErrForbidden
		case row.Version != version:
			return desk.StaleBy(row.ChangedBy)
		}
		if err := row.State.Deletable(row.Edition); err != nil {
			return desk.Conflict("%s", err)
		}
		lines, err := buildrows.Lines(ctx, tx.Reader, id)
		if err != nil {
			return err
		}
		if err := buildrows.Delete(ctx, tx, id, store.Millis(a.Now())); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "assessment.delete", Thing: "assessment", ID: id, Title: row.Title, Before: noteOfLines(lineRows(lines), row.Layout.V)})
	})
}
