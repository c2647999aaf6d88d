package app

import (
	"context"

	"pineledger/core/roster"
	"pineledger/store"
)

// Passages lists the passages of a viewer's banks whose title or text holds words.
func (a *App) Passages(ctx context.Context, v roster.Viewer, words string) ([]store.Passage, error) {
	if !v.MayReadKeys() {
		return nil, ErrForbidden
	}
	open, err := banksFor(ctx, a.store.Reader, v)
	if err != nil {
		return nil, err
	}
	return a.store.PassagesNamed(ctx, open.ids(), words)
}

// passageFor gives a passage of a bank open to a viewer; another does not exist.
func (a *App) passageFor(ctx context.Context, r store.Reader, v roster.Viewer, id int64) (store.Passage, error) {
	list, err := r.Passages(ctx, []int64{id})
	if err != nil {
		return store.Passage{}, err
	}
	if len(list) == 0 {
		return store.Passage{}, ErrNotFound
	}
	open, err := banksFor(ctx, r, v)
	if _, seen := open.by[list[0].BankID]; err == nil && !seen {
		err = ErrNotFound
	}
	return list[0], err
}
