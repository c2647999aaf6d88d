package app

import (
	"context"
	"slices"

	"pineledger/core/bank"
	"pineledger/core/roster"
	"pineledger/store"
)

// Tray gives what a person has picked, in that order.
func (a *App) Tray(ctx context.Context, v roster.Viewer) ([]FoundItem, error) {
	if !v.MayBuild() {
		return nil, ErrForbidden
	}
	ids, err := a.store.Tray(ctx, v.PersonID)
	if err != nil || len(ids) == 0 {
		return nil, err
	}
	scope, err := a.itemScope(ctx, a.store.Reader, v)
	if err != nil {
		return nil, err
	}
	items, _, err := a.store.Items(ctx, store.ItemQuery{Scope: scope, Only: ids, Limit: len(ids)})
	if err != nil {
		return nil, err
	}
	slices.SortFunc(items, func(x, y store.Item) int { return slices.Index(ids, x.ID) - slices.Index(ids, y.ID) })
	return a.found(ctx, v, "", items)
}

// mostTray bounds a tray.
const mostTray = 200

// PickItems puts items into the tray; those that are in it already stay where they are.
func (a *App) PickItems(ctx context.Context, v roster.Viewer, items []int64) ([]FoundItem, error) {
	if !v.MayBuild() {
		return nil, ErrForbidden
	}
	err := a.store.Write(ctx, func(tx *store.Tx) error {
		tray, err := tx.Tray(ctx, v.PersonID)
		if err != nil {
			return err
		}
		if len(tray)+len(items) > mostTray {
			return invalid("/items", "The tray holds %d items at most; place or put back some first.", mostTray)
		}
		for i, id := range items {
			if _, _, err := a.itemFor(ctx, tx.Reader, v, id, bank.Place); err != nil {
				return err
			}
			if err := tx.PutInTray(ctx, v.PersonID, id, store.Millis(a.now())+int64(i)); err != nil {
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
func (a *App) PutBack(ctx context.Context, v roster.Viewer, items []int64) ([]FoundItem, error) {
	if !v.MayBuild() {
		return nil, ErrForbidden
	}
	err := a.store.Write(ctx, func(tx *store.Tx) error { return tx.TakeFromTray(ctx, v.PersonID, items) })
	if err != nil {
		return nil, err
	}
	return a.Tray(ctx, v)
}
