package bank

import (
	"context"
	"slices"

	"pineledger/app/desk"
	"pineledger/core/bank"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/bankrows"
)

// Tray gives what a person has picked, in that order.
func (a *Bank) Tray(ctx context.Context, v roster.Viewer) ([]FoundItem, error) {
	if !v.MayBuild() {
		return nil, desk.ErrForbidden
	}
	ids, err := bankrows.Tray(ctx, a.Store.Reader, v.PersonID)
	if err != nil || len(ids) == 0 {
		return nil, err
	}
	scope, err := a.ItemScope(ctx, a.Store.Reader, v)
	if err != nil {
		return nil, err
	}
	items, _, err := bankrows.Items(ctx, a.Store.Reader, bankrows.ItemQuery{Scope: scope, Only: ids, Limit: len(ids)})
	if err != nil {
		return nil, err
	}
	slices.SortFunc(items, func(x, y bankrows.Item) int { return slices.Index(ids, x.ID) - slices.Index(ids, y.ID) })
	return a.Found(ctx, v, "", items)
}

// mostTray bounds a tray.
const mostTray = 200

// PickItems puts items into the tray; those that are in it already stay where they are.
func (a *Bank) PickItems(ctx context.Context, v roster.Viewer, items []int64) ([]FoundItem, error) {
	if !v.MayBuild() {
		return nil, desk.ErrForbidden
	}
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		tray, err := bankrows.Tray(ctx, tx.Reader, v.PersonID)
		if err != nil {
			return err
		}
		if len(tray)+len(items) > mostTray {
			return desk.Invalid("/items", "The tray holds %d items at most; place or remove some first.", mostTray)
		}
		for i, id := range items {
			if _, _, err := a.itemFor(ctx, tx.Reader, v, id, bank.Place); err != nil {
				return err
			}
			if err := bankrows.PutInTray(ctx, tx, v.PersonID, id, store.Millis(a.Now())+int64(i)); err != nil {
				return err
			}
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	return a.Tray(ctx, v)
}

// PutBack takes items out of the tray.
func (a *Bank) PutBack(ctx context.Context, v roster.Viewer, items []int64) ([]FoundItem, error) {
	if !v.MayBuild() {
		return nil, desk.ErrForbidden
	}
	err := a.Store.Write(ctx, func(tx *store.Tx) error { return bankrows.TakeFromTray(ctx, tx, v.PersonID, items) })
	if err != nil {
		return nil, err
	}
	return a.Tray(ctx, v)
}
